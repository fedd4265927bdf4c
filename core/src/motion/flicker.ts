/** Flicker of lamps: a share of their full light at a time, 0 … 1, drawn by lot from a seed. */
import type { FlickerKind } from '../document/index.ts';
import { lot } from '../maths/lot.ts';
import { sin } from '../maths/reproducible.ts';

/** A place of a lattice that goes round after so many; 0 never does. */
const round = (i: number, places: number) => (places > 0 ? ((i % places) + places) % places : i);

const drawn = (i: number, places: number, seed: number, kind: number) => lot(round(i, places), kind, seed);

/** Smooth noise, −1 … 1: one number at each place of a lattice. @param places after which it goes round; 0 never */
export function smoothNoise(x: number, places: number, seed: number, kind = 0): number {
  const i = Math.floor(x);
  const t = x - i;
  const s = t * t * (3 - 2 * t);
  const [a, b] = [drawn(i, places, seed, kind), drawn(i + 1, places, seed, kind)];
  return 2 * (a + (b - a) * s) - 1;
}

/** Bursts of a faulty tube: how long each lasts as a share of its place, and how often it goes out and on within. */
const FAULTY = { often: 0.45, longest: 0.7, flashes: 6 };

function tube(x: number, places: number, seed: number): number {
  const i = Math.floor(x);
  const t = x - i;
  if (drawn(i, places, seed, 1) > FAULTY.often) return 1;
  const lasts = FAULTY.longest * (0.3 + 0.7 * drawn(i, places, seed, 2));
  if (t >= lasts) return 1;
  const flash = Math.floor((t / lasts) * FAULTY.flashes);
  return drawn(i * FAULTY.flashes + flash, places * FAULTY.flashes, seed, 3) < 0.55 ? 0 : 0.85;
}

/** What each kind does; x in rounds since the beginning, `places` of them until it goes round. */
const KINDS: Readonly<Record<FlickerKind, (x: number, places: number, seed: number) => number>> = {
  tube,
  candle: (x, places, seed) =>
    0.72 + 0.2 * smoothNoise(x, places, seed, 4) + 0.08 * smoothNoise(3 * x, 3 * places, seed, 5),
  // light follows the power, twice each wave
  hum: (x) => {
    const wave = sin(Math.PI * x);
    return wave * wave;
  },
  relay: (x) => (x - Math.floor(x) < 0.5 ? 1 : 0),
};

/**
 * How much of its light a lamp gives.
 * @param x rounds since the beginning @param places rounds until it begins again; 0 never
 */
export const flickered = (kind: FlickerKind, x: number, places: number, seed: number): number =>
  Math.min(1, Math.max(0, KINDS[kind](x, places, seed)));
