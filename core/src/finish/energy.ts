/**
 * Shares of light that rough interfaces return by single scattering, over angle × roughness × index or anisotropy.
 * Made once by tools/energy.ts and shipped as numbers: a finish takes its rows from here and samples nothing.
 */
import { cos, exp, log } from '../maths/reproducible.ts';
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
/** Where each table begins: a mirror's by anisotropy; then by index a dielectric's reflection, and all it returns and lets through from outside and from inside; a mirror's seen along its x, and across. */
const STARTS = {
  mirror: 0,
  reflected: ANISOTROPIES * SHEET,
  outside: (ANISOTROPIES + INDICES) * SHEET,
  inside: (ANISOTROPIES + 2 * INDICES) * SHEET,
  along: (ANISOTROPIES + 3 * INDICES) * SHEET,
  across: (2 * ANISOTROPIES + 3 * INDICES) * SHEET,
} as const;
export const ENERGY_ENTRIES = (3 * ANISOTROPIES + 3 * INDICES) * SHEET;

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

/** What differs by no more along and across is told from nothing but the table's grain. */
const ALIKE = 1e-3;

/**
 * Share a perfect mirror returns, per angle, seen along its x and across, and how it goes from one to the other: seen
 * from a turn φ off its x it returns across + (along − across) · c / (c + slack · (1 − c)), c = cos² φ. The slack is the
 * one that makes the mean over the turn that of mirrorRow.
 */
export function turnedRows(roughness: number, anisotropy: number): { along: Row; across: Row; slack: Row } {
  const [along, across] = [new Float32Array(ANGLES), new Float32Array(ANGLES)];
  const layer = anisotropy * (ANISOTROPIES - 1);
  rowAt(STARTS.along, layer, ANISOTROPIES, roughness, along);
  rowAt(STARTS.across, layer, ANISOTROPIES, roughness, across);
  const slack = mirrorRow(roughness, anisotropy).map((mean, i) => {
    const difference = along[i] - across[i];
    if (Math.abs(difference) < ALIKE) return 1;
    // the mean of c / (c + s (1 − c)) over the turn is 1 / (1 + √s)
    const share = Math.min(0.9, Math.max(0.1, (mean - across[i]) / difference));
    return (1 / share - 1) ** 2;
  });
  return { along, across, slack };
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

/** Of light lost once, what leaves at each further meeting: by the share that one returns in the mean, and at an angle over it. */
const RETURNED = [0.164, 1.2391, -0.4185, 0.57] as const;
/** Where it is met: the cosine seen facing, and the power of the viewing cosine it falls with, both by roughness. */
const MET = [0.2408, 0.4437, -0.1652, 0.7381, -0.9525, 0.4015] as const;

/**
 * What becomes of light that one meeting with a rough mirror loses, per angle: the share `returned` of it that leaves at
 * each further meeting, and the cosine at which its facets are met in the mean: facets that reflect f there return
 * f² · returned / (1 − f · (1 − returned)) of what one meeting loses. Of the form of Kulla & Conty (2017), who take for
 * the first what one meeting returns on the whole, and for the second the mean of all cosines: up to 7 % of all light too
 * little near roughness 1. Fitted to walks over a Smith surface (Heitz et al. 2016) by `tools/energyFit.ts`: roughness
 * .2 to 1, anisotropy 0 and .8, six angles, facets that reflect .2 to .95; within 1.1 % of all that comes back.
 */
export function furtherMeetings(roughness: number, anisotropy: number): { returned: Row; cosine: Row } {
  const row = mirrorRow(roughness, anisotropy);
  const mean = meanOfRow(row);
  const [m0, m1, m2, slope] = RETURNED;
  const [c0, c1, c2, p0, p1, p2] = MET;
  const facing = c0 + roughness * (c1 + roughness * c2);
  const power = Math.max(0, p0 + roughness * (p1 + roughness * p2));
  const atMean = m0 + mean * (m1 + mean * m2);
  return {
    returned: row.map((share) => Math.min(1, Math.max(0.05, atMean + slope * (share - mean)))),
    cosine: row.map((_, i) => facing * exp(power * log(Math.max(1e-3, cosineOf(i))))),
  };
}
/** How much wider the lobe of further meetings is at roughness 1. */
const WIDER = 1.15;
/** Smoother mirrors lose less than a thousandth. */
const LEAST_WIDENED = 0.1;
/** Narrow sides up to which all of it is a lobe, and from which on nothing is. */
const STILL_NARROW = 0.5;
const WIDEST = 0.8;

/**
 * Widths of the lobe in which light leaves that met a rough mirror more than once, and how much of that light is in it;
 * the rest has the shape of a cosine. Chosen by the places where walks over it leave: the lobe is that of the first
 * meeting, wider by WIDER / r, and nothing of it is left where even its narrow side is wide.
 */
export function widened(roughness: number, anisotropy: number): { x: number; y: number; share: number } {
  const [x, y] = widths(roughness, anisotropy);
  const wider = WIDER / Math.max(roughness, LEAST_WIDENED);
  const narrow = Math.min(1, y * wider);
  const share = Math.min(1, Math.max(0, (WIDEST - narrow) / (WIDEST - STILL_NARROW)));
  return { x: Math.min(1, x * wider), y: narrow, share };
}
/** Roughness and anisotropy of GGX widths, the inverse of `widths`. */
export function roughnessOf(x: number, y: number): { roughness: number; anisotropy: number } {
  return { roughness: Math.sqrt(Math.sqrt((x * x + y * y) / 2)), anisotropy: 1 - y / x };
}

/** GGX widths of an OpenPBR roughness and anisotropy (OpenPBR §3.4: αx² + αy² = 2α²). */
export function widths(roughness: number, anisotropy: number): [number, number] {
  const alpha = roughness * roughness;
  const squash = 1 - anisotropy;
  const x = Math.max(SMOOTHEST, alpha * Math.sqrt(2 / (1 + squash * squash)));
  return [x, Math.max(SMOOTHEST, x * squash)];
}
