/** Keeping proofs, removing them, and going back to them. */
import { RENDERER } from '@wemlox/core/document';
import { goBackTo } from '@wemlox/core/edits';
import { engine } from '../engine/engine.ts';
import { SEED } from '../engine/stagePicture.ts';
import { api } from '../state/api.ts';
import type { ProofLine } from '@wemlox/wire';
import { choose, useChoice } from '../state/choice.ts';
import { attempt, notify } from '../state/notices.ts';
import { addProof, useProofs } from '../state/proofs.ts';
import { goToFrame, lookOf, perform, shotOf, useStudio } from '../state/studio.ts';
import { stop } from '../state/time.ts';
import { isOfDocument } from './balance.ts';
import { encodedPicture } from './files.ts';

/** Keeps the traced picture with the exact state that made it. */
export async function keepProof(): Promise<ProofLine | null> {
  if (!isOfDocument('A proof')) return null;
  const { id, project, frame } = useStudio.getState();
  const look = lookOf(project, useChoice.getState().lookId);
  const now = engine();
  const encoded = await encodedPicture('The proof was not kept', 'png', 'film');
  if (!now || !encoded) return null;
  const meanwhile = useStudio.getState();
  if (meanwhile.project !== project || meanwhile.frame !== frame) return keepProof();
  return attempt('The proof was not kept', async () => {
    const count = useProofs.getState().list.filter((p) => p.look === look.id).length;
    const name = `${look.name} ${count + 1}`;
    const picture = await api.upload('proof', name, encoded.files.png);
    const film = await api.upload('film', name, encoded.files.film);
    const proof = await api.keep(id, {
      name,
      look: look.id,
      shot: shotOf(project).id,
      picture: picture.hash,
      film: film.hash,
      ...now.pictureSize,
      samples: encoded.samples,
      seed: SEED,
      frame,
      renderer: RENDERER,
      document: project,
    });
    addProof(proof);
    notify('done', `Kept ${name} at ${encoded.samples} samples`);
    return proof;
  });
}

/** Deletes a proof; the notice brings it back. */
export async function removeProof(proof: ProofLine): Promise<void> {
  const { id } = useStudio.getState();
  const removed = await attempt('The proof was not removed', async () => {
    await api.removeProof(id, proof.id);
    return true;
  });
  if (!removed) return;
  useProofs.setState((s) => ({ list: s.list.filter((p) => p.id !== proof.id) }));
  if (useChoice.getState().proof === proof.id) choose({ proof: null, comparing: 'off' });
  notify('done', `Removed ${proof.name}`, {
    label: 'Bring back',
    run: () =>
      void attempt('The proof was not brought back', async () => {
        await api.restoreProof(id, proof.id);
        useProofs.setState({ list: await api.proofs(id) });
      }),
  });
}

/** Goes back to the state of a proof, as an edit like any other. */
export async function backToProof(proof: ProofLine): Promise<void> {
  const { id } = useStudio.getState();
  const kept = await attempt('The state could not be read', () => api.proofDocument(id, proof.id));
  if (!kept) return;
  perform((p) => goBackTo(p, proof.name, kept));
  choose({ lookId: proof.look, shot: proof.shot, comparing: 'off' });
  stop();
  goToFrame(proof.frame ?? 0);
}
