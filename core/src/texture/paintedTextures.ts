/** Pictures of Wemlox's own, computed: each tiles without a seam. */
import { encodeSrgb } from '../maths/colour.ts';
import { lot } from '../maths/lot.ts';
import { sin } from '../maths/reproducible.ts';
import { PictureError } from '../picture/heads.ts';
import { paintPattern } from './patterns.ts';
import type { PaintedTexture, Pixels } from './texture.ts';

const SIDE = 1024;

/** A lot for a place of a grid that repeats after `period` places. */
const tiledLot = (x: number, y: number, period: number, seed: number) =>
  lot(((x % period) + period) % period, ((y % period) + period) % period, seed);

const ease = (t: number) => t * t * (3 - 2 * t);
const mix = (a: number, b: number, t: number) => a + (b - a) * t;
const ramp = (a: number, b: number, v: number) => ease(Math.min(1, Math.max(0, (v - a) / (b - a))));

/** Lots of grids that were asked for, row by row, the first place of each again at its end. */
const grids = new Map<number, Float32Array>();

function gridOf(count: number, seed: number): Float32Array {
  const key = seed * 4096 + count;
  let grid = grids.get(key);
  if (!grid) {
    const side = count + 1;
    grid = Float32Array.from({ length: side * side }, (_, i) =>
      tiledLot(i % side, Math.floor(i / side), count, seed),
    );
    grids.set(key, grid);
  }
  return grid;
}

/** Value noise over the unit square that meets itself at the edges, 0 … 1. @param count of its lumps along a side */
function lumps(u: number, v: number, count: number, seed: number): number {
  const x = u * count;
  const y = v * count;
  const i = Math.floor(x);
  const j = Math.floor(y);
  const a = ease(x - i);
  const b = ease(y - j);
  const grid = gridOf(count, seed);
  const at = j * (count + 1) + i;
  return mix(mix(grid[at], grid[at + 1], a), mix(grid[at + count + 1], grid[at + count + 2], a), b);
}

/** Octaves of it, about ½. */
function cloud(u: number, v: number, count: number, seed: number, octaves = 5): number {
  let sum = 0;
  let height = 1;
  let total = 0;
  let size = count;
  for (let o = 0; o < octaves; o++) {
    sum += lumps(u, v, size, seed + o) * height;
    total += height;
    height *= 0.55;
    size *= 2;
  }
  return sum / total;
}

type Shade = (u: number, v: number) => readonly number[];

const mixed = (a: readonly number[], b: readonly number[], t: number) => a.map((x, c) => mix(x, b[c], t));

/** Ship's paint in two layers, worn through to rust along a waterline's worth of scars. */
const hullPaint: Shade = (u, v) => {
  const wear = cloud(u, v, 4, 11) + 0.25 * (cloud(u, v, 24, 12, 3) - 0.5);
  const primer = ramp(0.62, 0.64, wear);
  const rust = ramp(0.66, 0.72, wear);
  const fade = 0.8 + 0.4 * cloud(u, v, 2, 13, 3);
  const paint = [0.016, 0.13, 0.17].map((c) => c * fade);
  const under = [0.42, 0.4, 0.34];
  const grain = 0.5 + cloud(u, v, 48, 14, 3);
  const scratched = lumps(u, v, 6, 15) > 0.8 && Math.abs(sin((u + 2 * v) * 40 * Math.PI)) < 0.05 ? 0.6 : 0;
  return mixed(
    mixed(mixed(paint, under, scratched), under, primer),
    [0.28 * grain, 0.085 * grain, 0.02 * grain],
    rust,
  );
};

/** Eight deck planks side by side, their ends moved about, with seams of pitch. */
const deckPlanks: Shade = (u, v) => {
  const row = Math.floor(v * 8);
  const [across, along] = [v * 8 - row, u + tiledLot(row, 0, 8, 21)];
  const piece = Math.floor(along * 2);
  const own = tiledLot(piece % 2, row, 8, 22);
  const bend = 0.08 * (cloud(u, v, 3, 23, 2) - 0.5);
  const rings = cloud((along + own) % 1, (((across * 0.4 + bend + own) % 1) + 1) % 1, 1, 24 + row, 1);
  const line = Math.abs(((rings * 14 + across * 5 + own * 9 + bend * 30) % 1) - 0.5) * 2;
  const fine = lumps(u, v, 256, 25) * 0.5 + lumps((u * 2) % 1, v, 512, 26) * 0.5;
  const light = 0.75 + 0.5 * own;
  const wood = mixed([0.36, 0.2, 0.095], [0.2, 0.1, 0.042], ramp(0.15, 0.95, line)).map(
    (c) => c * light * (0.85 + 0.3 * fine),
  );
  const end = Math.abs(along * 2 - Math.round(along * 2)) / 2;
  const seam = Math.min(Math.min(across, 1 - across) / 8, end);
  return mixed([0.012, 0.01, 0.009], wood, ramp(0.0022, 0.0042, seam));
};

/** Canvas of flat threads, over one and under one, in two tones. */
const canvas: Shade = (u, v) => {
  const threads = 32;
  const [x, y] = [u * threads, v * threads];
  const [i, j] = [Math.floor(x), Math.floor(y)];
  const over = (i + j) % 2 === 0;
  const across = over ? y - j : x - i;
  const along = over ? x - i : y - j;
  const round = Math.sqrt(Math.max(0, 1 - (2 * across - 1) ** 2));
  const crest = 0.55 + 0.45 * sin(along * Math.PI);
  const fibre = 0.8 + 0.4 * lumps(over ? u : v, over ? v : u, 512, over ? 31 : 32);
  const tone = over ? [0.62, 0.55, 0.42] : [0.2, 0.3, 0.36];
  const light = (0.15 + 0.85 * round) * crest * fibre;
  return tone.map((c) => Math.min(1, c * light));
};

/** Ten by ten squares with a corner marked, to judge size, turn and seams by. */
const measure: Shade = (u, v) => {
  const [x, y] = [u * 10, v * 10];
  const [i, j] = [Math.floor(x), Math.floor(y)];
  const near = Math.min(x - i, 1 - x + i, y - j, 1 - y + j);
  if (near < 0.04) return [0.02, 0.02, 0.02];
  if (i === 0 && j === 0) return [0.75, 0.08, 0.03];
  if (i === 9 && j === 0) return [0.03, 0.2, 0.6];
  return (i + j) % 2 === 0 ? [0.7, 0.7, 0.66] : [0.34, 0.36, 0.34];
};

const PAINTED: readonly (PaintedTexture & { shade: Shade })[] = [
  { id: 'hull-paint', name: 'Hull paint', shade: hullPaint },
  { id: 'deck-planks', name: 'Deck planks', shade: deckPlanks },
  { id: 'canvas', name: 'Canvas', shade: canvas },
  { id: 'measure', name: 'Measuring squares', shade: measure },
];

export const PAINTED_TEXTURES: readonly PaintedTexture[] = PAINTED;

/** Paints one of them, or of the patterns of lights. @throws PictureError when there is none of that name */
export function paintTexture(id: string): Pixels {
  const pattern = paintPattern(id);
  if (pattern) return pattern;
  const painted = PAINTED.find((p) => p.id === id);
  if (!painted) throw new PictureError(`no picture ${id} ships with this version`);
  const data = new Uint8Array(SIDE * SIDE * 4);
  for (let y = 0; y < SIDE; y++)
    for (let x = 0; x < SIDE; x++) {
      const at = (y * SIDE + x) * 4;
      painted
        .shade((x + 0.5) / SIDE, 1 - (y + 0.5) / SIDE)
        .forEach((v, c) => (data[at + c] = Math.round(encodeSrgb(Math.min(1, Math.max(0, v))) * 255)));
      data[at + 3] = 255;
    }
  return { width: SIDE, height: SIDE, data };
}
