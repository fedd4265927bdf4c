/** What an artist does with what stands around the type, and with the camera. */
import { newId, type Camera, type PieceKind, type Project } from '@wemlox/core/document';
import * as edits from '@wemlox/core/edits';
import { fitted, frontView } from '@wemlox/core/stage/camera';
import { choose } from '../state/choice.ts';
import { useShown } from '../state/shown.ts';
import { perform, shotOf } from '../state/studio.ts';
import { typeSize } from './type.ts';

/** Distance behind the type at which a wall stands, metres. */
const WALL_BEHIND = 0.02;

/** Puts a piece on the stage, fitted to the type. */
export function addPiece(kind: PieceKind): void {
  const box = useShown.getState().scene?.typeBox;
  const behind = kind === 'backdrop' ? typeSize() : WALL_BEHIND;
  const at = kind === 'floor' ? (box?.min[1] ?? 0) : (box?.min[2] ?? 0) - behind;
  const piece = newId();
  if (perform((p) => edits.addPiece(p, kind, at, { piece, finish: newId() }))) choose({ piece });
}

export function removePiece(id: string): void {
  perform((p) => edits.removePiece(p, id));
  choose({ piece: null });
}

/** Height of the floor, or 0 without one. */
export const floorOf = (project: Project) => project.pieces.find((p) => p.kind === 'floor' && p.on)?.at ?? 0;

/** Where the wall stands, or null without one. */
export const wallOf = (project: Project): number | null =>
  project.pieces.find((p) => p.kind === 'wall' && p.on)?.at ?? null;

/** Moves the shot's camera. @param join as one step with what follows closely */
export const moveCamera = (label: string, move: (camera: Camera) => Camera, join = false) =>
  perform((p) => {
    const shot = shotOf(p);
    return edits.moveCamera(p, shot.id, label, move(shot.camera), join);
  });

export function fitFrame(front: boolean): void {
  const box = useShown.getState().scene?.typeBox;
  if (!box) return;
  perform((p) => {
    const shot = shotOf(p);
    const camera = front ? frontView(shot, box) : fitted(shot, box, 1.12);
    return edits.moveCamera(p, shot.id, front ? 'Front view' : 'Fit the word to the frame', camera);
  });
}
