/** Numbers that look drawn by lot, alike in every engine: for places of grids and of texts. */

/** A number of its own for a place, 0 … 1, another for another seed (after lowbias32 of Wellons, 2018). */
export function lot(x: number, y: number, seed: number): number {
  let h =
    Math.imul(seed ^ 0x9e3779b9, 0x85ebca6b) ^ Math.imul(x + 1, 0xc2b2ae35) ^ Math.imul(y + 1, 0x27d4eb2f);
  h = Math.imul(h ^ (h >>> 15), 0x7feb352d);
  h = Math.imul(h ^ (h >>> 13), 0x846ca68b);
  return ((h ^ (h >>> 16)) >>> 0) / 2 ** 32;
}
