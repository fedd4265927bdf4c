/**
 * Sums of samples per pixel. Tiles and sample ranges merge by addition.
 *
 *   state   | sums: CHANNELS a pixel, with layers LAYERS more | stopped: one a square | shares: r g b a pixel, by group |
 *
 * Squares of WAVE_SIDE pixels stop on their own where a film has a target for its noise.
 */
import { luminance } from '../maths/colour.ts';
import { WAVE_SIDE } from './kernelLayout.ts';

/** Floats a pixel: sums of r g b alpha, of squared luminance, of luminance past the limits, and what was set aside. */
export const AT = { lum2: 4, lost: 5, aside: 6, events: 9 } as const;
const CHANNELS = 10;
/** With layers, also sums over first hits of: albedo r g b, world normal x y z, depth, and their count. */
const LAYERS = 8;

export interface Film {
  width: number;
  height: number;
  /** Floats a pixel. */
  channels: number;
  /** All there is to know, to keep and to go on with. */
  state: Float32Array;
  /** Rows from the top; a part of the state like the next two. */
  sums: Float32Array;
  /** Samples at which each square was good enough; 0 goes on. Row by row. */
  stopped: Float32Array;
  /** Sums of each group's r g b, one picture after the other; empty when they are not kept apart. */
  shares: Float32Array;
  /** Share groups kept apart. */
  groups: number;
  /** Noise at which squares stop; 0: never. */
  target: number;
}

export interface FilmOptions {
  /** Over memory that threads share. */
  shared?: boolean;
  /** Also gather albedo, normal and depth of what is seen first. */
  layers?: boolean;
  /** Share groups to keep apart, 12 bytes a pixel each. */
  groups?: number;
  /** Noise (noiseOf) at which squares of pixels stop; 0: never. */
  target?: number;
}

const squaresAcross = (width: number) => Math.ceil(width / WAVE_SIDE);

export function createFilm(width: number, height: number, options: FilmOptions = {}): Film {
  const { shared = false, layers = false, groups = 0, target = 0 } = options;
  const channels = layers ? CHANNELS + LAYERS : CHANNELS;
  const pixels = width * height;
  const squares = squaresAcross(width) * squaresAcross(height);
  const bytes = (pixels * (channels + 3 * groups) + squares) * 4;
  const state = new Float32Array(shared ? new SharedArrayBuffer(bytes) : new ArrayBuffer(bytes));
  const sums = state.subarray(0, pixels * channels);
  const stopped = state.subarray(sums.length, sums.length + squares);
  const shares = state.subarray(sums.length + squares);
  return { width, height, channels, state, sums, stopped, shares, groups, target };
}

/** The square a pixel is in. */
export const squareOf = (film: Film, x: number, y: number) =>
  Math.floor(y / WAVE_SIDE) * squaresAcross(film.width) + Math.floor(x / WAVE_SIDE);

/** Samples a pixel has of the `samples` the film was traced for. */
const samplesAt = (film: Film, pixel: number, samples: number) =>
  film.stopped[squareOf(film, pixel % film.width, Math.floor(pixel / film.width))] || samples;

/** Whether every square is good enough. */
export const isFinished = (film: Film) => film.target > 0 && film.stopped.every((s) => s > 0);

/** Samples that were traced, of the mean pixel. */
export function meanSamples(film: Film, samples: number): number {
  let sum = 0;
  for (const s of film.stopped) sum += s || samples;
  return sum / film.stopped.length;
}

/** Radius over which light set aside is spread, pixels: the least, and the greatest for the brightest. */
const SPREAD = 6;
const WIDEST = 48;
/** What it may add to the pixels about it at most, of their mean. */
const MOST_ADDED = 0.5;
/** Samples set aside around a pixel that tell a bright detail from a chance hit. */
const DETAIL = 4;

/** Mean colour and alpha after `samples`: r g b a for each pixel, linear, alpha-associated. */
export function developed(film: Film, samples: number): Float32Array {
  const { width, height, channels, sums } = film;
  const out = new Float32Array(width * height * 4);
  for (let p = 0, i = 0, j = 0; j < out.length; p++, i += channels, j += 4) {
    const scale = 1 / Math.max(1, samplesAt(film, p, samples));
    for (let c = 0; c < 4; c++) out[j + c] = sums[i + c] * scale;
  }
  for (let p = 0; p < width * height; p++)
    if (sums[p * channels + AT.events] > 0) giveBack(film, p, Math.max(1, samplesAt(film, p, samples)), out);
  return out;
}

/**
 * Gives back what was set aside at a pixel: where it was, when enough of it shows that something bright is there;
 * otherwise as a faint glow over what is seen about it, the wider the brighter, so that no light is lost.
 */
function giveBack(film: Film, pixel: number, samples: number, out: Float32Array): void {
  const { width, height, channels, sums } = film;
  const [x, y] = [pixel % width, Math.floor(pixel / width)];
  const at = pixel * channels + AT.aside;
  const light = [0, 1, 2].map((c) => sums[at + c] / samples);
  let events = 0;
  let seen = 0;
  let count = 0;
  around(width, height, x, y, SPREAD, (q, d2) => {
    if (d2 <= 2) events += sums[q * channels + AT.events];
    const p = q * channels;
    seen += luminance(sums[p], sums[p + 1], sums[p + 2]) / samples;
    count++;
  });
  const bright = luminance(light[0], light[1], light[2]);
  // the middle of (1 − d² / r²)² gets 3 / (π r²) of it
  const fit = Math.sqrt((3 * bright) / (Math.PI * MOST_ADDED * Math.max(seen / count, bright * 1e-6)));
  const radius = events >= DETAIL ? 0 : Math.round(Math.min(WIDEST, Math.max(SPREAD, fit)));
  const weight = (q: number, d2: number) => (out[q * 4 + 3] > 0 ? (1 - d2 / (radius * radius + 1)) ** 2 : 0);
  let sum = 0;
  around(width, height, x, y, radius, (q, d2) => (sum += weight(q, d2)));
  if (sum === 0) {
    for (let c = 0; c < 3; c++) out[pixel * 4 + c] += light[c];
    return;
  }
  around(width, height, x, y, radius, (q, d2) => {
    const share = weight(q, d2) / sum;
    for (let c = 0; c < 3; c++) out[q * 4 + c] += light[c] * share;
  });
}

/** Calls back for each pixel within a radius of (x, y), with its squared distance. */
function around(
  width: number,
  height: number,
  x: number,
  y: number,
  radius: number,
  each: (pixel: number, d2: number) => void,
): void {
  for (let v = Math.max(0, y - radius); v <= Math.min(height - 1, y + radius); v++)
    for (let u = Math.max(0, x - radius); u <= Math.min(width - 1, x + radius); u++) {
      const d2 = (u - x) ** 2 + (v - y) ** 2;
      if (d2 <= radius * radius) each(v * width + u, d2);
    }
}

/**
 * Each group's share of the developed picture: r g b of one picture after the other. They sum to it: light that was
 * spread over pixels counts with the groups that are there.
 * @param picture the developed film
 */
export function developedShares(film: Film, picture: Float32Array): Float32Array {
  const pixels = film.width * film.height;
  const out = new Float32Array(film.shares.length);
  for (let i = 0; i < pixels * 3; i++) {
    let sum = 0;
    for (let g = 0; g < film.groups; g++) sum += film.shares[g * pixels * 3 + i];
    const whole = picture[Math.floor(i / 3) * 4 + (i % 3)];
    for (let g = 0; g < film.groups; g++) {
      const at = g * pixels * 3 + i;
      out[at] = sum > 0 ? (film.shares[at] / sum) * whole : whole / film.groups;
    }
  }
  return out;
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

/** Share groups a film keeps apart at most; the last one has the light of all others. */
export const MOST_GROUPS = 32;

/** The groups' names that a film keeps apart. */
export const groupsKept = (names: readonly string[]): string[] =>
  names.length <= MOST_GROUPS ? [...names] : [...names.slice(0, MOST_GROUPS - 1), 'All others'];

/** Where a pixel's layers begin. */
export const LAYERS_AT = CHANNELS;

/** Whether the film gathers layers. */
export const hasLayers = (film: Film) => film.channels > CHANNELS;

/** All that is kept of a film beside its picture: layers, and each group's share where they are apart. */
export function filmLayers(film: Film, picture: Float32Array, names: readonly string[]) {
  const layers = developedLayers(film);
  if (film.groups === 0) return layers;
  const all = developedShares(film, picture);
  const each = film.width * film.height * 3;
  const shares = groupsKept(names).map((name, g) => ({ name, data: all.subarray(g * each, (g + 1) * each) }));
  return { ...layers, shares };
}

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
    const at = p * film.channels + CHANNELS;
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
