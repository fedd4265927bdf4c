/** Where pieces are taken in hand to be sized. */
import type { Piece } from '../document/index.ts';
import type { Box } from './camera.ts';
import { footOf, largest, NEAR_REACH, pieceTransform } from './pieces.ts';

type Vec = [number, number, number];

export interface SizeHandle {
  parameter: 'width' | 'height' | 'depth' | 'size';
  /** What of the piece stays where it is, and what is dragged, metres; as far apart as the size is large. */
  from: Vec;
  to: Vec;
  /** The size as it is now. */
  now: number;
}

/** Kinds that always end somewhere; the others do where they have a size. */
export const ENDING: ReadonlySet<Piece['kind']> = new Set(['table', 'niche', 'grid', 'plate']);
/** Which sizes pieces are taken by. */
const SIZES: Readonly<Record<Piece['kind'], readonly SizeHandle['parameter'][]>> = {
  floor: ['width', 'depth'],
  wall: ['width', 'height'],
  backdrop: ['width', 'height'],
  table: ['width', 'depth'],
  niche: ['width', 'height', 'depth'],
  grid: ['width', 'height'],
  plate: ['width'],
  model: ['size'],
};

/** Handles of a piece that stands free; none of what reaches further than is seen. @param type bounds of the type */
export function sizeHandles(piece: Piece, type: Box): SizeHandle[] {
  if (piece.stands === 'frame' && piece.kind === 'plate') return [];
  const into = pieceTransform(piece, type);
  const world = (p: Vec): Vec =>
    [0, 4, 8].map((r) => into[r] * p[0] + into[r + 1] * p[1] + into[r + 2] * p[2] + into[r + 3]) as Vec;
  const foot = footOf(piece, type);
  const lengthOf = (parameter: 'width' | 'height' | 'depth') =>
    piece[parameter] || (ENDING.has(piece.kind) ? NEAR_REACH * largest(type) : 0);
  const way = (parameter: SizeHandle['parameter'], now: number): Vec => {
    switch (parameter) {
      case 'width':
        return [now / 2, 0, 0];
      case 'height':
        return [0, now, 0];
      case 'depth':
        // a niche is as deep as it comes forward; the others lie about their middle
        return [0, 0, piece.kind === 'niche' ? now : now / 2];
      case 'size':
        return [0, type.max[1] - type.min[1], 0];
    }
  };
  return SIZES[piece.kind].flatMap((parameter) => {
    const now = parameter === 'size' ? piece.size : lengthOf(parameter);
    if (now === 0) return [];
    const by = way(parameter, now);
    return [{ parameter, from: world(foot), to: world(foot.map((v, k) => v + by[k]) as Vec), now }];
  });
}
