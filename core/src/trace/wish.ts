/**
 * Wishes: where a picture shall be brighter, darker, warmer or cooler, and the strengths and colours of its sources that
 * come nearest. Light adds, so that every picture of the same sources is a sum of their shares.
 */
import { luminance } from '../maths/colour.ts';
import { log, pow } from '../maths/reproducible.ts';
import type { Film } from './film.ts';

export type WishKind = 'brighter' | 'darker' | 'warmer' | 'cooler';

/** A stroke of the brush: places 0 … 1 from the picture's left and top, and the brush's radius in heights of it. */
export interface Stroke {
  kind: WishKind;
  places: readonly (readonly [x: number, y: number])[];
  radius: number;
}

/** What was wished for by a stroke, and what is had, stops or stops of red over blue. */
export interface Granted {
  asked: number;
  got: number;
}

export interface Wished {
  /** Three a group: how much stronger each channel of a source is to be. */
  gains: number[];
  /** Of each stroke. */
  granted: Granted[];
}

/** Cells across that the picture is looked at in. */
const ACROSS = 96;
/** Stops that a stroke asks for, and stops of red over blue. */
const STOPS = 1;
const WARMTH = 0.6;
/** What is not painted shall stay: so much all of it weighs beside all that is painted. */
const KEPT = 0.3;
/** How much sources would rather stay as they are, beside what they give. */
const INERTIA = 1e-3;
/** Light below this share of the picture's mean is dark: it counts as that. */
const DARK = 0.03;
const ROUNDS = 4000;
const DONE = 1e-9;

/** Light of each group in cells of the picture, r g b, per sample. */
interface Cells {
  across: number;
  down: number;
  groups: number;
  light: Float64Array;
}

function cellsOf({ width, height, shares, groups }: Film, samples: number): Cells {
  const across = Math.min(width, ACROSS);
  const down = Math.max(1, Math.round((across * height) / width));
  const light = new Float64Array(groups * across * down * 3);
  const counts = new Float64Array(across * down);
  const cell = new Int32Array(width * height);
  for (let p = 0; p < cell.length; p++) {
    const column = Math.floor((((p % width) + 0.5) / width) * across);
    cell[p] = Math.floor(((Math.floor(p / width) + 0.5) / height) * down) * across + column;
    counts[cell[p]]++;
  }
  const plane = width * height * 3;
  for (let g = 0; g < groups; g++) {
    const to = g * across * down * 3;
    for (let p = 0, i = g * plane; p < cell.length; p++, i += 3)
      for (let c = 0; c < 3; c++) light[to + cell[p] * 3 + c] += shares[i + c] / (samples * counts[cell[p]]);
  }
  return { across, down, groups, light };
}

/** Cover 0 … 1 of each cell by a stroke. */
function coverOf({ places, radius }: Stroke, { across, down }: Cells): Float64Array {
  const out = new Float64Array(across * down);
  const near = Math.max(radius, 0.5 / down);
  for (let i = 0; i < out.length; i++) {
    // in heights of the picture
    const x = (((i % across) + 0.5) / across) * (across / down);
    const y = (Math.floor(i / across) + 0.5) / down;
    let least = Infinity;
    for (let k = 0; k < places.length; k++) {
      const [ax, ay] = [places[k][0] * (across / down), places[k][1]];
      const [bx, by] = k > 0 ? [places[k - 1][0] * (across / down), places[k - 1][1]] : [ax, ay];
      const [dx, dy] = [bx - ax, by - ay];
      const long = dx * dx + dy * dy;
      const t = long > 0 ? Math.min(1, Math.max(0, ((x - ax) * dx + (y - ay) * dy) / long)) : 0;
      least = Math.min(least, Math.hypot(x - ax - t * dx, y - ay - t * dy));
    }
    out[i] = least <= near ? 1 : Math.max(0, 2 - least / near);
  }
  return out;
}

/**
 * Non-negative gains that bring sums of columns nearest to a target, by descending along one after the other (Franc,
 * Hlaváč & Navara, "Sequential Coordinate-Wise Algorithm for the Non-negative Least Squares Problem", CAIP 2005).
 * @param columns light of each source at each place @param target, `weights` a place
 * @param start gains that sources would rather keep @param inertia how much rather
 */
export function nearestGains(
  columns: readonly Float64Array[],
  target: Float64Array,
  weights: Float64Array,
  start: readonly number[],
  inertia = INERTIA,
): number[] {
  const n = columns.length;
  const normal = columns.map(() => new Float64Array(n));
  const right = new Float64Array(n);
  for (let j = 0; j < n; j++) {
    for (let k = j; k < n; k++) {
      let sum = 0;
      for (let i = 0; i < target.length; i++) sum += columns[j][i] * columns[k][i] * weights[i];
      normal[j][k] = normal[k][j] = sum;
    }
    for (let i = 0; i < target.length; i++) right[j] += columns[j][i] * target[i] * weights[i];
  }
  const largest = Math.max(...normal.map((row, j) => row[j]), 1e-30);
  for (let j = 0; j < n; j++) {
    const stay = inertia * normal[j][j] + 1e-9 * largest;
    normal[j][j] += stay;
    right[j] += stay * start[j];
  }
  const gains = [...start];
  for (let round = 0; round < ROUNDS; round++) {
    let moved = 0;
    for (let j = 0; j < n; j++) {
      let slope = right[j];
      for (let k = 0; k < n; k++) slope -= normal[j][k] * gains[k];
      const next = Math.max(0, gains[j] + slope / normal[j][j]);
      moved = Math.max(moved, Math.abs(next - gains[j]));
      gains[j] = next;
    }
    if (moved < DONE) break;
  }
  return gains;
}

/** Grants wishes as far as the sources of a film can. @param tinted of each group, whether its colour may change */
export function granted(
  film: Film,
  samples: number,
  strokes: readonly Stroke[],
  tinted: readonly boolean[],
): Wished {
  const cells = cellsOf(film, samples);
  const { groups, light } = cells;
  const places = cells.across * cells.down;
  const now = new Float64Array(places * 3);
  for (let g = 0; g < groups; g++) for (let i = 0; i < places * 3; i++) now[i] += light[g * places * 3 + i];
  const mean = now.reduce((a, b) => a + b, 0) / now.length;
  const covers = strokes.map((s) => coverOf(s, cells));
  const target = now.slice();
  const painted = new Float64Array(places);
  strokes.forEach(({ kind }, s) => {
    for (let p = 0; p < places; p++) {
      const cover = covers[s][p];
      if (cover === 0) continue;
      painted[p] = Math.max(painted[p], cover);
      const stops = kind === 'brighter' ? STOPS : kind === 'darker' ? -STOPS : 0;
      const warm = kind === 'warmer' ? WARMTH : kind === 'cooler' ? -WARMTH : 0;
      // what is black cannot be made brighter by a factor
      const least = DARK * mean;
      for (let c = 0; c < 3; c++) {
        const i = p * 3 + c;
        const from = stops > 0 ? Math.max(target[i], least) : target[i];
        target[i] = from * pow(2, cover * (stops + (c === 0 ? warm / 2 : c === 2 ? -warm / 2 : 0)));
      }
    }
  });
  const all = painted.reduce((a, b) => a + b, 0);
  const rest = painted.reduce((a, b) => a + (1 - b), 0);
  const weights = new Float64Array(places * 3);
  for (let p = 0; p < places; p++) {
    const own = painted[p] + (1 - painted[p]) * (rest > 0 ? (KEPT * all) / rest : 0);
    // errors count as they are seen: by their share of what is there
    const bright = luminance(now[p * 3], now[p * 3 + 1], now[p * 3 + 2]);
    weights.fill(own / (bright + DARK * mean + 1e-12) ** 2, p * 3, p * 3 + 3);
  }
  const column = (g: number) => light.subarray(g * places * 3, (g + 1) * places * 3);
  const columns = Array.from({ length: groups }, (_, g) => column(g));
  const even = columns.map(() => 1);
  const strengths = nearestGains(columns, target, weights, even);
  const gains = strengths.flatMap((g) => [g, g, g]);
  if (strokes.some((s) => s.kind === 'warmer' || s.kind === 'cooler'))
    for (let c = 0; c < 3; c++) {
      const of = (from: Float64Array) => Float64Array.from({ length: places }, (_, p) => from[p * 3 + c]);
      const left = of(target);
      columns.forEach((values, g) => {
        if (!tinted[g]) for (let p = 0; p < places; p++) left[p] -= values[p * 3 + c] * strengths[g];
      });
      const free = columns.map((_, g) => g).filter((g) => tinted[g]);
      const start = free.map((g) => strengths[g]);
      const solved = nearestGains(
        free.map((g) => of(columns[g])),
        left,
        of(weights),
        start,
      );
      free.forEach((g, k) => (gains[g * 3 + c] = solved[k]));
    }
  return { gains, granted: strokes.map((stroke, s) => had(stroke, covers[s], now, columns, gains)) };
}

/** What a stroke has of what it asked. */
function had(
  { kind }: Stroke,
  cover: Float64Array,
  now: Float64Array,
  columns: readonly Float64Array[],
  gains: readonly number[],
): Granted {
  const before = [0, 0, 0];
  const after = [0, 0, 0];
  for (let p = 0; p < cover.length; p++)
    for (let c = 0; c < 3; c++) {
      before[c] += cover[p] * now[p * 3 + c];
      for (let g = 0; g < columns.length; g++)
        after[c] += cover[p] * columns[g][p * 3 + c] * gains[g * 3 + c];
    }
  const stops = (a: number, b: number) => log(Math.max(a, 1e-12) / Math.max(b, 1e-12)) / Math.LN2;
  if (kind === 'warmer' || kind === 'cooler')
    return {
      asked: kind === 'warmer' ? WARMTH : -WARMTH,
      got: stops(after[0], after[2]) - stops(before[0], before[2]),
    };
  return {
    asked: kind === 'brighter' ? STOPS : -STOPS,
    got: stops(luminance(after[0], after[1], after[2]), luminance(before[0], before[1], before[2])),
  };
}
