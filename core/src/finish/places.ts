/** What a fed finish comes to at a place, as numbers of its plain surfaces mixed by the shares the tracer would meet. */
import { valueAt, type Recipe } from './recipe.ts';

/** Most corners of a cell of a grid that a place lies in. */
const MOST_CORNERS = 64;
const corners = new Int32Array(MOST_CORNERS);
const shares = new Float64Array(MOST_CORNERS);

/**
 * Mixes a place's numbers.
 * @param axes where on each axis the place lies, 0 … 1
 * @param surfaces numbers of each coat's plain surfaces (surfacesOf) one after the other, from the top coat down
 * @param count numbers of a surface
 * @param to where they are left, from `at` on
 */
export function mixAt(
  { coats }: Recipe,
  axes: ArrayLike<number>,
  surfaces: readonly Float32Array[],
  count: number,
  to: Float32Array,
  at: number,
): void {
  to.fill(0, at, at + count);
  let left = 1;
  for (let i = 0; i < coats.length; i++) {
    const { cover, grid } = coats[i];
    const share = left * (typeof cover === 'number' ? cover : valueAt(cover, axes[cover.axis])[0]);
    left -= share;
    if (!(share > 0)) continue;
    let known = 1;
    corners[0] = 0;
    shares[0] = share;
    let stride = 1;
    for (const { axis, at: places } of grid) {
      const u = axes[axis];
      let low = places.length - 1;
      while (low > 0 && places[low] > u) low--;
      const width = low + 1 < places.length ? places[low + 1] - places[low] : 0;
      const up = width > 0 ? Math.min(1, Math.max(0, (u - places[low]) / width)) : 0;
      const before = known;
      for (let n = 0; n < before; n++) {
        if (up > 0) {
          corners[known] = corners[n] + (low + 1) * stride;
          shares[known++] = shares[n] * up;
        }
        corners[n] += low * stride;
        shares[n] *= 1 - up;
      }
      stride *= places.length;
    }
    const numbers = surfaces[i];
    for (let n = 0; n < known; n++)
      for (let k = 0; k < count; k++) to[at + k] += shares[n] * numbers[corners[n] * count + k];
  }
}
