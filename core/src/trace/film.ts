/** Sums of samples per pixel. Tiles and sample ranges merge by addition. */

/** Floats a pixel: sums of r, g, b, alpha and of squared luminance. */
const BEAUTY = 5;
/** With layers, also sums over first hits of: albedo r g b, world normal x y z, depth, and their count. */
const LAYERS = 8;

export interface Film {
  width: number;
  height: number;
  /** Floats a pixel. */
  channels: number;
  /** Rows from the top. */
  sums: Float32Array;
}

/** @param layers also gather albedo, normal and depth of what is seen first */
export function createFilm(width: number, height: number, shared = false, layers = false): Film {
  const channels = layers ? BEAUTY + LAYERS : BEAUTY;
  const bytes = width * height * channels * 4;
  return {
    width,
    height,
    channels,
    sums: new Float32Array(shared ? new SharedArrayBuffer(bytes) : new ArrayBuffer(bytes)),
  };
}

/** Mean colour and alpha after `samples`: r g b a for each pixel, linear, alpha-associated. */
export function developed(film: Film, samples: number): Float32Array {
  const out = new Float32Array(film.width * film.height * 4);
  const scale = 1 / Math.max(1, samples);
  for (let i = 0, j = 0; j < out.length; i += film.channels, j += 4) {
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
  for (let i = 0; i < film.sums.length; i += film.channels) {
    const mean = (0.2126 * film.sums[i] + 0.7152 * film.sums[i + 1] + 0.0722 * film.sums[i + 2]) / samples;
    if (mean <= 0) continue;
    const variance = Math.max(0, film.sums[i + 4] / samples - mean * mean) / (samples - 1);
    sum += Math.sqrt(variance) / (mean + 0.01);
    count++;
  }
  return count > 0 ? sum / count : 0;
}

/** Whether the film gathers layers. */
export const hasLayers = (film: Film) => film.channels > BEAUTY;

export interface FilmLayers {
  /** Reflectance of what is seen first, r g b. */
  albedo: Float32Array;
  /** World-space unit normal, x y z; zero where nothing is seen. */
  normal: Float32Array;
  /** Distance along the camera's axis, metres; infinite where nothing is seen. */
  depth: Float32Array;
}

/** The layers of a film made with them: means over the samples that met a surface. */
export function developedLayers(film: Film): FilmLayers {
  const pixels = film.width * film.height;
  const out: FilmLayers = {
    albedo: new Float32Array(pixels * 3),
    normal: new Float32Array(pixels * 3),
    depth: new Float32Array(pixels).fill(Infinity),
  };
  for (let p = 0; p < pixels; p++) {
    const at = p * film.channels + BEAUTY;
    const count = film.sums[at + 7];
    if (count === 0) continue;
    const [x, y, z] = film.sums.subarray(at + 3, at + 6);
    const length = Math.hypot(x, y, z) || 1;
    for (let c = 0; c < 3; c++) out.albedo[p * 3 + c] = film.sums[at + c] / count;
    out.normal.set([x / length, y / length, z / length], p * 3);
    out.depth[p] = film.sums[at + 6] / count;
  }
  return out;
}
