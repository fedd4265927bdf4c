/** Sources weighed against each other in a picture that is traced: light adds, so that nothing is traced anew. */
import type { Film } from './film.ts';

/** Pixels to either side over which a cleaned picture is weighed: noise of single pixels must not come back. */
const ABOUT = 2;
const LEAST = 1e-6;

/**
 * A developed picture with each group's light times its gains. What is changed is added to all there is, or what is left
 * is added up, whichever takes fewer groups: moving one fader of many costs one.
 * @param picture r g b a a pixel, linear
 * @param gains three a group
 */
export function balanced(film: Film, picture: Float32Array, gains: readonly number[]): Float32Array {
  const { shares, groups, sums, channels } = film;
  const values = film.width * film.height * 3;
  const of = (g: number) => gains.slice(g * 3, g * 3 + 3);
  const all = Array.from({ length: groups }, (_, g) => g);
  const changed = all.filter((g) => of(g).some((v) => v !== 1));
  const left = all.filter((g) => of(g).some((v) => v !== 0));
  const adds = changed.length <= left.length;
  // light times its gains, or what they add to it; plane by plane, as they lie in memory
  const sum = new Float32Array(values);
  for (const g of adds ? changed : left) {
    const [red, green, blue] = of(g).map((v) => (adds ? v - 1 : v));
    const plane = shares.subarray(g * values, (g + 1) * values);
    for (let i = 0; i < values; i += 3) {
      sum[i] += plane[i] * red;
      sum[i + 1] += plane[i + 1] * green;
      sum[i + 2] += plane[i + 2] * blue;
    }
  }
  // light that was spread over pixels counts with the sources that are there, or with all alike
  const mean = [0, 1, 2].map((c) => all.reduce((s, g) => s + gains[g * 3 + c], 0) / groups);
  const out = picture.slice();
  const base = adds ? 1 : 0;
  for (let i = 0, at = 0, from = 0; i < values; i += 3, at += 4, from += channels)
    for (let c = 0; c < 3; c++) {
      const before = sums[from + c];
      out[at + c] *= before > 0 ? Math.max(0, base + sum[i + c] / before) : mean[c];
    }
  return out;
}

/** Means of r g b over some pixels about each. */
function blurred(picture: Float32Array, width: number, height: number): Float32Array {
  const along = (from: Float32Array, count: number, step: number, lines: number, line: number) => {
    const to = new Float32Array(from.length);
    for (let l = 0; l < lines; l++)
      for (let c = 0; c < 3; c++) {
        const at = (i: number) => l * line + i * step + c;
        let sum = 0;
        for (let i = -ABOUT; i < count; i++) {
          if (i + ABOUT < count) sum += from[at(i + ABOUT)];
          if (i - ABOUT - 1 >= 0) sum -= from[at(i - ABOUT - 1)];
          if (i >= 0) to[at(i)] = sum / (Math.min(count - 1, i + ABOUT) - Math.max(0, i - ABOUT) + 1);
        }
      }
    return to;
  };
  return along(along(picture, width, 4, height, width * 4), height, width * 4, width, 4);
}

/**
 * A cleaned picture weighed as the traced one is: by how much the traced one changes about each pixel.
 * @param traced as it was cleaned from, and `weighed` with its gains
 */
export function cleanlyBalanced(
  cleaned: Float32Array,
  traced: Float32Array,
  weighed: Float32Array,
  width: number,
  height: number,
): Float32Array {
  const [before, after] = [blurred(traced, width, height), blurred(weighed, width, height)];
  const out = cleaned.slice();
  for (let p = 0; p < width * height; p++)
    for (let c = 0; c < 3; c++) {
      const i = p * 4 + c;
      // sums that are taken up and given back leave some dust
      out[i] *= before[i] > LEAST ? Math.max(0, after[i]) / before[i] : 1;
    }
  return out;
}
