/** What an artist does with models beside the type. */
import { newId } from '@wemlox/core/document';
import * as edits from '@wemlox/core/edits';
import type { AssetLine, ModelLine } from '@wemlox/wire';
import { engine } from '../engine/engine.ts';
import { choose } from '../state/choice.ts';
import { attempt, notify } from '../state/notices.ts';
import { sceneShown } from '../state/shown.ts';
import { perform, useStudio } from '../state/studio.ts';

/** Room between the word and a model beside it, in widths of the model. */
const ROOM = 0.25;
/** Shares of the word's height that a model may have of its own; others are made as high as it. */
const PLAUSIBLE = [0.2, 3];

export const modelFacts = ({ facts }: AssetLine): ModelLine | null =>
  facts && 'triangles' in facts ? facts : null;

/** A model's file as it is kept: .obj files become .glb. @returns null when it cannot be read */
export async function glbOf(files: readonly File[]): Promise<File | null> {
  const obj = files.find((f) => /\.obj$/i.test(f.name));
  if (!obj) return files[0] ?? null;
  return attempt(`${obj.name} was not taken`, async () => {
    const named = await Promise.all(
      files.map(async (f) => ({ name: f.name, bytes: new Uint8Array(await f.arrayBuffer()) })),
    );
    const { bytes, leftOut } = await engine()!.ask({ ask: 'objModel', files: named });
    if (leftOut.length > 0) notify('done', `${obj.name}: not read ${leftOut.join(', ')}`);
    return new File([bytes], obj.name.replace(/\.obj$/i, '.glb'));
  });
}

/** Stands a model to the right of the word, on its foot, at a size that is of use. */
export async function addModel(asset: AssetLine): Promise<void> {
  const facts = modelFacts(asset);
  if (!facts) return;
  const { typeBox: box } = await sceneShown();
  const height = box.max[1] - box.min[1];
  const [width, own] = facts.sides;
  const [low, high] = PLAUSIBLE.map((share) => share * height);
  const largest = Math.max(...facts.sides);
  const size = largest >= low && own <= high ? 1 : height / Math.max(own, largest / 3, 1e-9);
  const id = newId();
  // beside those that are there already
  const others = useStudio.getState().project.pieces.filter((p) => p.kind === 'model').length;
  const aside = (box.max[0] - box.min[0]) / 2 + width * size * (0.5 + ROOM + others * (1 + ROOM));
  const place = { id, at: box.min[1], size, move: [aside, 0, 0] };
  if (perform((p) => edits.addModel(p, { id: asset.hash, name: asset.name }, place))) choose({ piece: id });
}
