/**
 * Shares of light that rough interfaces return by single scattering, over angle × roughness × index or anisotropy.
 * Made once by tools/energy.ts and shipped as numbers: a finish takes its rows from here and samples nothing.
 */
import { cos } from '../maths/reproducible.ts';
import { ENERGY } from './energyTables.ts';

/** Angles of a row; entry i stands for the cosine (i / (ANGLES − 1))². */
export const ANGLES = 32;
/** Roughness r = √α, evenly from 0 to 1. */
export const ROUGHNESSES = 40;
/** (index − 1) / (index + 1), evenly from 0 to MOST_RATIO (an index of 3). */
export const INDICES = 16;
export const MOST_RATIO = 0.5;
/** Anisotropy as OpenPBR has it, evenly from 0 to 1. */
export const ANISOTROPIES = 6;
/** Smoothest GGX width: below it a lobe is narrower than a pixel sees, and single precision suffers. */
export const SMOOTHEST = 1e-3;

const ROW = ANGLES;
const SHEET = ROUGHNESSES * ROW;
/** Where each table begins: a mirror's by anisotropy; then by index a dielectric's reflection, and all it returns and lets through from outside and from inside. */
const STARTS = {
  mirror: 0,
  reflected: ANISOTROPIES * SHEET,
  outside: (ANISOTROPIES + INDICES) * SHEET,
  inside: (ANISOTROPIES + 2 * INDICES) * SHEET,
} as const;
export const ENERGY_ENTRIES = (ANISOTROPIES + 3 * INDICES) * SHEET;

const GRAIN = 65535;
let table: Float32Array | null = null;

function opened(): Float32Array {
  if (table) return table;
  const text = atob(ENERGY);
  table = new Float32Array(text.length / 2);
  for (let i = 0; i < table.length; i++)
    table[i] = (text.charCodeAt(2 * i) + 256 * text.charCodeAt(2 * i + 1)) / GRAIN;
  return table;
}

/** Writes a row, interpolated between four. */
function rowAt(start: number, layer: number, layers: number, roughness: number, out: Float32Array): void {
  const t = opened();
  const l = Math.min(layers - 1, Math.max(0, layer));
  const r = Math.min(1, Math.max(0, roughness)) * (ROUGHNESSES - 1);
  const l0 = Math.min(layers - 2, Math.floor(l));
  const r0 = Math.min(ROUGHNESSES - 2, Math.floor(r));
  const [tl, tr] = [l - l0, r - r0];
  const a = start + l0 * SHEET + r0 * ROW;
  for (let i = 0; i < ROW; i++) {
    const low = t[a + i] * (1 - tr) + t[a + ROW + i] * tr;
    const high = t[a + SHEET + i] * (1 - tr) + t[a + SHEET + ROW + i] * tr;
    out[i] = low * (1 - tl) + high * tl;
  }
}

export type Row = Float32Array;

/** Share a perfect mirror of a roughness √α and anisotropy returns, per angle, averaged over the turn. */
export function mirrorRow(roughness: number, anisotropy: number): Row {
  const out = new Float32Array(ANGLES);
  rowAt(STARTS.mirror, anisotropy * (ANISOTROPIES - 1), ANISOTROPIES, roughness, out);
  return out;
}

/** What of a dielectric's light a row is about. */
export type Returned = 'reflected' | 'outside' | 'inside';

/**
 * Share a dielectric of a roughness and index returns, per angle: reflected alone, or reflected and let through,
 * from outside or from inside.
 */
export function dielectricRow(what: Returned, roughness: number, index: number): Row {
  const out = new Float32Array(ANGLES);
  const ratio = (index - 1) / (index + 1);
  rowAt(STARTS[what], (ratio / MOST_RATIO) * (INDICES - 1), INDICES, roughness, out);
  return out;
}

/** Turns over which a brushed row is averaged, within a quarter. */
const TURNS = 8;

/**
 * Share a brushed dielectric reflects, per angle, averaged over the turn: seen from a turn its slopes are those of a
 * roughness between its two widths, αφ² = αx² cos² φ + αy² sin² φ (Heitz 2014, §5.3).
 */
export function brushedRow(roughness: number, anisotropy: number, index: number): Row {
  if (anisotropy === 0) return dielectricRow('reflected', roughness, index);
  const [x, y] = widths(roughness, anisotropy);
  const out = new Float32Array(ANGLES);
  for (let k = 0; k < TURNS; k++) {
    const along = cos((((k + 0.5) / TURNS) * Math.PI) / 2) ** 2;
    const alpha = Math.sqrt(x * x * along + y * y * (1 - along));
    const row = dielectricRow('reflected', Math.min(1, Math.sqrt(alpha)), index);
    for (let i = 0; i < ANGLES; i++) out[i] += row[i] / TURNS;
  }
  return out;
}

/** Cosine an entry of a row stands for. */
export const cosineOf = (i: number) => (i / (ANGLES - 1)) ** 2;

/** A row at a cosine, as the tracer reads it: linear in the root of the cosine. */
export function rowValue(row: ArrayLike<number>, cosine: number): number {
  const x = Math.sqrt(Math.min(1, Math.max(0, cosine))) * (ANGLES - 1);
  const i = Math.min(ANGLES - 2, Math.floor(x));
  return row[i] + (row[i + 1] - row[i]) * (x - i);
}

/**
 * Weights with which a row's entries make 2 ∫ row(μ) μ dμ, the mean over the hemisphere: with μ = s², the hats over s
 * integrate to 4 ∫ hat(s) s³ ds, which is the second difference of s⁵ / 5.
 */
const WEIGHTS = Float64Array.from({ length: ANGLES }, (_, i) => {
  const n = ANGLES - 1;
  const fifth = (k: number) => (k / n) ** 5 / 5;
  const slope = (k: number) => (k / n) ** 4;
  if (i === 0) return n * fifth(1);
  if (i === n) return slope(n) - n * (fifth(n) - fifth(n - 1));
  return n * (fifth(i + 1) - 2 * fifth(i) + fifth(i - 1));
});

/** 2 ∫ row(μ) μ dμ. */
export function meanOfRow(row: ArrayLike<number>, at = 0, step = 1): number {
  let sum = 0;
  for (let i = 0; i < ANGLES; i++) sum += WEIGHTS[i] * row[at + i * step];
  return sum;
}

/** GGX widths of an OpenPBR roughness and anisotropy (OpenPBR §3.4: αx² + αy² = 2α²). */
export function widths(roughness: number, anisotropy: number): [number, number] {
  const alpha = roughness * roughness;
  const squash = 1 - anisotropy;
  const x = Math.max(SMOOTHEST, alpha * Math.sqrt(2 / (1 + squash * squash)));
  return [x, Math.max(SMOOTHEST, x * squash)];
}
