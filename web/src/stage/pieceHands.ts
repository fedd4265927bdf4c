/** Placing pieces by hand: the chosen one is dragged over what it stands on, or in its own plane, and turned. */
import type { Piece } from '@wemlox/core/document';
import { placePiece } from '../actions/stage.ts';
import type { Draft } from '../engine/draft.ts';
import type { Picked } from '../engine/pick.ts';
import { useChoice } from '../state/choice.ts';
import { shotOf, useStudio } from '../state/studio.ts';
import { onPlane } from './projection.ts';
import { stands } from '@wemlox/core/stage/pieces';

const RADIANS_PER_PIXEL = 0.006;
/** Kinds that end somewhere; the others fill the picture, in which the camera is turned. */
const HELD: ReadonlySet<Piece['kind']> = new Set(['model', 'table', 'grid', 'plate']);

/** A piece held in the picture, and the plane it is dragged in. */
export interface HeldPiece {
  id: string;
  plane: { origin: readonly number[]; normal: readonly number[] };
}

/** The chosen piece where it is pressed. */
export function holdPiece(hit: Picked | null): HeldPiece | null {
  if (!hit?.piece || hit.piece !== useChoice.getState().piece) return null;
  const piece = useStudio.getState().seen.pieces.find((p) => p.id === hit.piece);
  if (!piece || !HELD.has(piece.kind) || piece.stands === 'frame') return null;
  return { id: piece.id, plane: { origin: hit.point, normal: stands(piece.kind) ? [0, 1, 0] : [0, 0, 1] } };
}

/** @param from where the pointer was, and where it is; pixels of the stage @param turns about the upright axis */
export function dragPiece(
  { id, plane }: HeldPiece,
  { frame }: Draft,
  from: readonly [number, number],
  to: readonly [number, number],
  turns: boolean,
): void {
  if (turns) {
    placePiece(id, 'Turn', (p) => ({ turn: p.turn + (to[0] - from[0]) * RADIANS_PER_PIXEL }));
    return;
  }
  const { camera } = shotOf(useStudio.getState().seen);
  const [a, b] = [from, to].map(([x, y]) => onPlane(camera, frame, plane, x, y));
  if (a && b) placePiece(id, 'Move', (p) => ({ move: p.move.map((v, i) => v + b[i] - a[i]) }));
}
