/** Sources weighed against each other in a picture that is traced: light adds, so that nothing is traced anew. */
import type { Film } from './film.ts';

/** Pixels to either side over which a cleaned picture is weighed: noise of single pixels must not come back. */
const ABOUT = 2;
const LEAST = 1e-6;

/**
 * A developed picture with each group's light times its gains.
 * @param picture r g b a a pixel, linear
 * @param gains three a group
 */
export function balanced(film: Film, picture: Float32Array, gains: readonly number[]): Float32Array {
  const { shares, groups } = film;
  const values = film.width * film.height * 3;
  // plane by plane, as they lie in memory
  const before = new Float32Array(values);
  const after = new Float32Array(values);
  for (let g = 0; g < groups; g++) {
    const [red, green, blue] = gains.slice(g * 3, g * 3 + 3);
    const plane = shares.subarray(g * values, (g + 1) * values);
    for (let i = 0; i < values; i += 3) {
      before[i] += plane[i];
      before[i + 1] += plane[i + 1];
      before[i + 2] += plane[i + 2];
      after[i] += plane[i] * red;
      after[i + 1] += plane[i + 1] * green;
      after[i + 2] += plane[i + 2] * blue;
    }
  }
  // light that was spread over pixels counts with the sources that are there, or with all alike
  const mean = [0, 1, 2].map((c) => {
    let sum = 0;
    for (let g = 0; g < groups; g++) sum += gains[g * 3 + c];
    return sum / groups;
  });
  const out = picture.slice();
  for (let i = 0, at = 0; i < values; i += 3, at += 4)
    for (let c = 0; c < 3; c++) out[at + c] *= before[i + c] > 0 ? after[i + c] / before[i + c] : mean[c];
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
