/** What becomes of a wave's samples in a film: added, or set aside; and whether a square needs more of them. */
import { luminance } from '../maths/colour.ts';
import { addCaught, isCaught } from './catching.ts';
import { AT, LAYERS_AT, type Film } from './film.ts';
import { squareNoise } from './noise.ts';

/** Samples after which squares of pixels may stop, at each doubling. */
const LEAST_SAMPLES = 16;
/** Times the mean about it that a sample may give a pixel before the rest is set aside. */
const OUTLIER = 20;

/** Whether a square has reached the film's target; asked at each doubling only, so that runs of any lengths agree. */
export function isGoodEnough(film: Film, x: number, y: number, samples: number): boolean {
  if (!(film.target > 0) || samples < LEAST_SAMPLES || (samples & (samples - 1)) !== 0) return false;
  return squareNoise(film, x, y, samples) <= film.target;
}

/**
 * Adds sample `s` of a pixel. What stands far out of the mean about it so far is set aside, to be given back when the
 * film is developed: where it was if more of it follows, else spread.
 * @param left what a wave left, FILM_WORDS a path; the pixel's at `from`
 * @param x0 the wave's square of pixels, to x1, y1
 */
export function addSample(
  film: Film,
  left: Float32Array,
  from: number,
  x: number,
  y: number,
  s: number,
  x0: number,
  y0: number,
  x1: number,
  y1: number,
): void {
  const { sums, channels, width } = film;
  const at = (y * width + x) * channels;
  let r = left[from];
  let g = left[from + 1];
  let b = left[from + 2];
  let l = luminance(r, g, b);
  // cheap first: most samples are near their own pixel's mean
  if (l * (s + 1) > (OUTLIER * (luminance(sums[at], sums[at + 1], sums[at + 2]) + l)) / 9) {
    let sum = l;
    let count = 0;
    for (let v = Math.max(y0, y - 1); v <= Math.min(y1 - 1, y + 1); v++)
      for (let u = Math.max(x0, x - 1); u <= Math.min(x1 - 1, x + 1); u++) {
        const near = (v * width + u) * channels;
        sum += luminance(sums[near], sums[near + 1], sums[near + 2]);
        count++;
      }
    const most = (OUTLIER * sum) / (count * (s + 1));
    if (l > most) {
      const kept = most / l;
      sums[at + AT.aside] += r * (1 - kept);
      sums[at + AT.aside + 1] += g * (1 - kept);
      sums[at + AT.aside + 2] += b * (1 - kept);
      sums[at + AT.events]++;
      r *= kept;
      g *= kept;
      b *= kept;
      l = most;
    }
  }
  sums[at] += r;
  sums[at + 1] += g;
  sums[at + 2] += b;
  sums[at + 3] += left[from + 3];
  sums[at + AT.lum2] += l * l;
  sums[at + AT.lost] += left[from + 12];
  if (film.catchAt > 0 && isCaught(left, from)) addCaught(film, y * width + x, r, g, b);
  if (film.layers) for (let c = 0; c < 8; c++) sums[at + LAYERS_AT + c] += left[from + 4 + c];
}
