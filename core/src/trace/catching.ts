/**
 * Surfaces that leave only shadow and reflection, for laying a picture over another: differential rendering after
 * Debevec ("Rendering Synthetic Objects into Real Scenes", SIGGRAPH 1998), with what it takes kept as opacity.
 *
 * Where a pixel shows such a surface, A is what is seen of it, B what would be seen were nothing else there, and P what
 * lies behind. The most of B that A still has in every channel, r = min(A / B), is what shows of P; what A has beyond
 * that lies over it. So over any P that is to B as one paint to another, the shadow is right, and over B it is exact.
 */
import { CAUGHT, samplesAt, type Film } from './film.ts';

/** Whether a path met such a surface first. @param from where a wave left the path */
export const isCaught = (left: Float32Array, from: number) => left[from + 13] > 0;

/** Adds what is seen of such a surface. */
export function addCaught({ sums, channels, catchAt }: Film, pixel: number, r: number, g: number, b: number) {
  const at = pixel * channels + catchAt + CAUGHT.light;
  sums[at] += r;
  sums[at + 1] += g;
  sums[at + 2] += b;
  sums[pixel * channels + catchAt + CAUGHT.count]++;
}

/** Adds what is seen of it where nothing else is there. */
export function addAlone({ sums, channels, catchAt }: Film, left: Float32Array, from: number, pixel: number) {
  if (!isCaught(left, from)) return;
  const at = pixel * channels + catchAt + CAUGHT.alone;
  for (let c = 0; c < 3; c++) sums[at + c] += left[from + c];
  sums[pixel * channels + catchAt + CAUGHT.aloneCount]++;
}

/** Adds what lies behind it. */
export function addBehind(
  { sums, channels, catchAt }: Film,
  left: Float32Array,
  from: number,
  pixel: number,
) {
  const at = pixel * channels + catchAt + CAUGHT.behind;
  for (let c = 0; c < 4; c++) sums[at + c] += left[from + c];
}

/** Pixels that show nothing but such a surface: 1 for those, 0 for all others. */
export function whollyCaught(film: Film, samples: number): Uint8Array {
  const { sums, channels, catchAt, width, height } = film;
  const out = new Uint8Array(width * height);
  for (let p = 0; p < out.length; p++)
    out[p] = sums[p * channels + catchAt + CAUGHT.count] >= samplesAt(film, p, samples) ? 1 : 0;
  return out;
}

/**
 * Puts what lies behind such surfaces in their place, dimmed by the shadow on them, and over it what they reflect.
 * @param out the developed picture, r g b a, alpha-associated
 */
export function showCaught(film: Film, samples: number, out: Float32Array): void {
  const { sums, channels, catchAt, width, height } = film;
  for (let p = 0; p < width * height; p++) {
    const at = p * channels + catchAt;
    const count = sums[at + CAUGHT.count];
    if (count === 0) continue;
    const per = 1 / Math.max(1, samplesAt(film, p, samples));
    const covered = count * per;
    const alone = sums[at + CAUGHT.aloneCount];
    let left = 1;
    if (alone > 0)
      for (let c = 0; c < 3; c++) {
        const before = (sums[at + CAUGHT.alone + c] / alone) * count;
        if (before > 0) left = Math.min(left, sums[at + CAUGHT.light + c] / before);
      }
    for (let c = 0; c < 3; c++) {
      const before = alone > 0 ? (sums[at + CAUGHT.alone + c] / alone) * covered : 0;
      out[p * 4 + c] += left * (sums[at + CAUGHT.behind + c] * per - before);
    }
    out[p * 4 + 3] += covered * (1 - left) - covered + left * sums[at + CAUGHT.behind + 3] * per;
  }
}
