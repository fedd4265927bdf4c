/** Sums of samples per pixel. Tiles and sample ranges merge by addition. */

/** Floats a pixel: sums of r, g, b, alpha and of squared luminance. */
export const FILM_CHANNELS = 5;

export interface Film {
  width: number;
  height: number;
  /** FILM_CHANNELS floats a pixel, rows from the top. */
  sums: Float32Array;
}

export function createFilm(width: number, height: number, shared = false): Film {
  const bytes = width * height * FILM_CHANNELS * 4;
  return {
    width,
    height,
    sums: new Float32Array(shared ? new SharedArrayBuffer(bytes) : new ArrayBuffer(bytes)),
  };
}

/** Mean colour and alpha after `samples`: r g b a for each pixel, linear, alpha-associated. */
export function developed(film: Film, samples: number): Float32Array {
  const out = new Float32Array(film.width * film.height * 4);
  const scale = 1 / Math.max(1, samples);
  for (let i = 0, j = 0; j < out.length; i += FILM_CHANNELS, j += 4) {
    out[j] = film.sums[i] * scale;
    out[j + 1] = film.sums[i + 1] * scale;
    out[j + 2] = film.sums[i + 2] * scale;
    out[j + 3] = film.sums[i + 3] * scale;
  }
  return out;
}

/** Relative standard error of the mean luminance, averaged over the pixels that see something. */
export function noiseOf(film: Film, samples: number): number {
  if (samples < 2) return Infinity;
  let sum = 0;
  let count = 0;
  for (let i = 0; i < film.sums.length; i += FILM_CHANNELS) {
    const mean = (0.2126 * film.sums[i] + 0.7152 * film.sums[i + 1] + 0.0722 * film.sums[i + 2]) / samples;
    if (mean <= 0) continue;
    const variance = Math.max(0, film.sums[i + 4] / samples - mean * mean) / (samples - 1);
    sum += Math.sqrt(variance) / (mean + 0.01);
    count++;
  }
  return count > 0 ? sum / count : 0;
}
