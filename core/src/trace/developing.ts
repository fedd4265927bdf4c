/** What a film shows after some samples: the picture, its layers, and each source's share of it. */
import { luminance } from '../maths/colour.ts';
import { showCaught } from './catching.ts';
import { AT, groupNames, LAYERS_AT, samplesAt, type Film } from './film.ts';

/** Radius over which light set aside is spread, pixels: the least, and the greatest for the brightest. */
const SPREAD = 6;
const WIDEST = 96;
/** What it may add to the pixels about it at most, of their mean. */
const MOST_ADDED = 0.5;
/**
 * Samples set aside around a pixel that tell a bright detail from a chance hit: so many at least, and one of so many that
 * were taken, as a long render finds the same chance more than once.
 */
const DETAIL = 4;
const DETAIL_ONE_IN = 32;

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
  if (film.catchAt > 0) showCaught(film, samples, out);
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
  const isDetail = events >= Math.max(DETAIL, samples / DETAIL_ONE_IN);
  const radius = isDetail ? 0 : Math.round(Math.min(WIDEST, Math.max(SPREAD, fit)));
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

/** All that is kept of a film beside its picture: layers, and each group's share where they are apart. */
export function filmLayers(film: Film, picture: Float32Array, names: readonly string[]) {
  const layers = developedLayers(film);
  if (film.groups === 0) return layers;
  const all = developedShares(film, picture);
  const each = film.width * film.height * 3;
  const shares = groupNames(film, names).map((name, g) => ({
    name,
    data: all.subarray(g * each, (g + 1) * each),
  }));
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
    const at = p * film.channels + LAYERS_AT;
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
