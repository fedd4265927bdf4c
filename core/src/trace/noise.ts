/** How good a film is: its noise, what its limits lose, and how much was traced for it. */
import { luminance } from '../maths/colour.ts';
import { AT, samplesAt, type Film } from './film.ts';
import { WAVE_SIDE } from './kernelLayout.ts';

/** Samples that were traced, of the mean pixel. */
export function meanSamples(film: Film, samples: number): number {
  let sum = 0;
  for (const s of film.stopped) sum += s || samples;
  return sum / film.stopped.length;
}

/** Relative standard error of the mean luminance of one pixel; null where nothing is seen. */
function noiseAt(film: Film, pixel: number, samples: number): number | null {
  const at = pixel * film.channels;
  const { sums } = film;
  const mean = luminance(sums[at], sums[at + 1], sums[at + 2]) / samples;
  if (mean <= 0) return null;
  const variance = Math.max(0, sums[at + AT.lum2] / samples - mean * mean) / (samples - 1);
  return Math.sqrt(variance) / (mean + 0.01);
}

/** Relative standard error of the mean luminance, averaged over the pixels that see something. */
export function noiseOf(film: Film, samples: number): number {
  if (samples < 2) return Infinity;
  let sum = 0;
  let count = 0;
  for (let p = 0; p < film.width * film.height; p++) {
    const noise = noiseAt(film, p, samplesAt(film, p, samples));
    if (noise === null) continue;
    sum += noise;
    count++;
  }
  return count > 0 ? sum / count : 0;
}

/** The same of the square of pixels whose first is (x, y), as it stands after `samples`. */
export function squareNoise(film: Film, x: number, y: number, samples: number): number {
  let sum = 0;
  let count = 0;
  for (let v = y; v < Math.min(film.height, y + WAVE_SIDE); v++)
    for (let u = x; u < Math.min(film.width, x + WAVE_SIDE); u++) {
      const noise = noiseAt(film, v * film.width + u, samples);
      if (noise === null) continue;
      sum += noise;
      count++;
    }
  return count > 0 ? sum / count : 0;
}

/** Share of the light that limits on bounces may lose without a word. */
const WORTH_TELLING = 0.01;

/** Share of all light that the limits on bounces lose, from the paths that were followed past them. */
export function lossOf(film: Film): number {
  let kept = 0;
  let lost = 0;
  for (let i = 0; i < film.sums.length; i += film.channels) {
    kept += luminance(film.sums[i], film.sums[i + 1], film.sums[i + 2]);
    lost += film.sums[i + AT.lost];
  }
  return lost > 0 ? lost / (kept + lost) : 0;
}

/** The same where it is worth a word, else 0. */
export function lossToTell(film: Film): number {
  const loss = lossOf(film);
  return loss > WORTH_TELLING ? loss : 0;
}
