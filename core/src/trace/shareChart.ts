/** What lights what: each source's share of each face, and where faces look, from a film as it stands. */
import { NO_BYTE } from '../scene/renderScene.ts';
import { LEVELS, levelOf } from '../light/findings.ts';
import { SIGHT_ACROSS, SIGHT_DOWN } from '../light/sights.ts';
import { positionOf } from '../light/surround.ts';
import { luminance } from '../maths/colour.ts';
import { exp, sin } from '../maths/reproducible.ts';
import type { Eye } from './eye.ts';
import type { FaceMask } from './faceMask.ts';
import { LAYERS_AT, type Film } from './film.ts';

export interface ShareChart {
  groups: number;
  /** Places of the mask that show each row. */
  places: number[];
  /** Mean linear r g b of each row's places by source: three floats a group, group after group, row after row. */
  light: Float32Array;
  /** Of each row, its places by level of what is seen there (light/findings.ts). */
  levels: Uint32Array[];
}

/** Calls back for each place of a mask that shows something, with its pixel. */
function each({ stride, across, rows }: FaceMask, width: number, call: (row: number, pixel: number) => void) {
  for (let i = 0; i < rows.length; i++) {
    if (rows[i] === NO_BYTE) continue;
    call(rows[i], Math.floor(i / across) * stride * width + (i % across) * stride);
  }
}

/** Each source's light on each row. @param count rows @param samples the film was traced for */
export function shareChart(film: Film, mask: FaceMask, count: number, samples: number): ShareChart {
  const { groups, shares, width, height } = film;
  const plane = width * height * 3;
  const places = new Array<number>(count).fill(0);
  const light = new Float32Array(count * groups * 3);
  const levels = places.map(() => new Uint32Array(LEVELS));
  const { sums, channels } = film;
  each(mask, width, (row, pixel) => {
    places[row]++;
    const at = pixel * channels;
    levels[row][levelOf(luminance(sums[at], sums[at + 1], sums[at + 2]) / samples)]++;
    for (let g = 0; g < groups; g++)
      for (let c = 0; c < 3; c++) light[(row * groups + g) * 3 + c] += shares[g * plane + pixel * 3 + c];
  });
  for (let row = 0; row < count; row++)
    for (let k = row * groups * 3; k < (row + 1) * groups * 3; k++)
      light[k] /= Math.max(1, places[row] * samples);
  return { groups, places, light, levels };
}

const CELL = Math.PI / SIGHT_DOWN;
/** Reach of a lobe's spread, in its own widths. */
const REACH = 2.5;

/**
 * Where the camera looks by way of each row's faces: densities over all directions of the world, unwrapped as pictures
 * of surrounds are, the most of each row being one. Mirrored about the normals that were traced, relief and bevels with them; roughness widens them.
 * @param widths of each row's lobe, radians
 * @returns null for films without layers
 */
export function sightlines(
  film: Film,
  mask: FaceMask,
  eye: Eye,
  widths: readonly number[],
): Float32Array[] | null {
  if (!film.layers) return null;
  const { sums, channels, width, height } = film;
  const maps = widths.map(() => new Float32Array(SIGHT_ACROSS * SIGHT_DOWN));
  each(mask, width, (row, pixel) => {
    const at = pixel * channels + LAYERS_AT;
    const n = [sums[at + 3], sums[at + 4], sums[at + 5]];
    const length = Math.hypot(n[0], n[1], n[2]);
    if (!(length > 0)) return;
    const sx = (((pixel % width) + 0.5) * 2) / width - 1;
    const sy = 1 - ((Math.floor(pixel / width) + 0.5) * 2) / height;
    const d = [0, 1, 2].map((k) => eye.forward[k] + eye.right[k] * sx + eye.up[k] * sy);
    const far = Math.hypot(d[0], d[1], d[2]);
    const facing = (d[0] * n[0] + d[1] * n[1] + d[2] * n[2]) / (far * length);
    if (facing >= 0) return;
    const [x, y, z] = d.map((v, k) => v / far - (2 * facing * n[k]) / length);
    const [u, v] = positionOf(x, Math.min(1, Math.max(-1, y)), z);
    const column = Math.min(SIGHT_ACROSS - 1, Math.floor(u * SIGHT_ACROSS));
    maps[row][Math.min(SIGHT_DOWN - 1, Math.floor(v * SIGHT_DOWN)) * SIGHT_ACROSS + column]++;
  });
  return maps.map((map, row) => normalised(spread(map, Math.max(CELL, widths[row]))));
}

/** Spreads a map of directions by a bell of so many radians: down its columns, and along rows the wider the higher up. */
function spread(map: Float32Array, width: number): Float32Array {
  const down = new Float32Array(map.length);
  const out = new Float32Array(map.length);
  const bell = (d: number, w: number) => exp(-(d * d) / (2 * w * w));
  const reach = Math.min(SIGHT_DOWN, Math.ceil((REACH * width) / CELL));
  for (let y = 0; y < SIGHT_DOWN; y++)
    for (let k = Math.max(0, y - reach); k <= Math.min(SIGHT_DOWN - 1, y + reach); k++) {
      const weight = bell((k - y) * CELL, width);
      for (let x = 0; x < SIGHT_ACROSS; x++) down[k * SIGHT_ACROSS + x] += map[y * SIGHT_ACROSS + x] * weight;
    }
  for (let y = 0; y < SIGHT_DOWN; y++) {
    const along = width / Math.max(0.05, sin(((y + 0.5) / SIGHT_DOWN) * Math.PI));
    const wide = Math.min(SIGHT_ACROSS / 2, Math.ceil((REACH * along) / CELL));
    for (let x = 0; x < SIGHT_ACROSS; x++) {
      const value = down[y * SIGHT_ACROSS + x];
      if (value === 0) continue;
      for (let k = -wide; k <= wide; k++)
        out[y * SIGHT_ACROSS + ((x + k + SIGHT_ACROSS) % SIGHT_ACROSS)] += value * bell(k * CELL, along);
    }
  }
  return out;
}

function normalised(map: Float32Array): Float32Array {
  const most = map.reduce((a, b) => Math.max(a, b), 0);
  return most > 0 ? map.map((v) => v / most) : map;
}
