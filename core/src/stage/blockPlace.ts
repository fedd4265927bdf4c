/** Where blocks stand: from a block's own space, its zero plane in x and y, into the world. */
import type { Place } from '../document/index.ts';
import { turnOf } from './pieces.ts';

type Vec = [number, number, number];

/** Rows of the transform of a block; its columns are the ways along its line, up from it and out of its plane. */
export function blockTransform(place: Place): number[] {
  return turnOf(place).flatMap((row, i) => [...row, place.position[i]]);
}

/** A point carried by a transform of three rows. @param at where the transform begins */
export const carried = (m: ArrayLike<number>, [x, y, z]: readonly number[], at = 0): Vec =>
  [at, at + 4, at + 8].map((r) => m[r] * x + m[r + 1] * y + m[r + 2] * z + m[r + 3]) as Vec;

/** Way of one of a block's axes in the world, of length one. */
export const axisOf = (place: Place, axis: 0 | 1 | 2): Vec => turnOf(place).map((row) => row[axis]) as Vec;

/**
 * Corners in the world of a block's box.
 * @param bounds of its ink about its centre, metres
 * @param reach least and greatest z from its zero plane, metres
 */
export function blockCorners(
  place: Place,
  [x0, y0, x1, y1]: readonly [number, number, number, number],
  reach: readonly [number, number],
): Vec[] {
  const m = blockTransform(place);
  return [x0, x1].flatMap((x) => [y0, y1].flatMap((y) => reach.map((z) => carried(m, [x, y, z]))));
}

/** Height of the lowest corner of a block's box. */
export const lowestCorner = (...box: Parameters<typeof blockCorners>): number =>
  Math.min(...blockCorners(...box).map((corner) => corner[1]));
