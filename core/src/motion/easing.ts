/** The way from one key to the next. */
import type { Key } from '../document/index.ts';

/** A way's cubic Bézier curve, as keys have it. */
export type Way = Pick<Key, 'ease' | 'x1' | 'y1' | 'x2' | 'y2'>;

/** Halvings by which the place on the curve is found: to the last bit of a double. */
const HALVINGS = 60;

/** One coordinate of the curve from 0 over a and b to 1. */
const bezier = (a: number, b: number, s: number) => {
  const r = 1 - s;
  return 3 * r * r * s * a + 3 * r * s * s * b + s * s * s;
};

/** Share of the way that is gone at a share of the time, 0 … 1; handles may carry it beyond either end. */
export function easedShare({ ease, x1, y1, x2, y2 }: Way, u: number): number {
  if (ease === 'hold') return u < 1 ? 0 : 1;
  if (ease === 'linear' || u <= 0 || u >= 1) return Math.min(1, Math.max(0, u));
  let [low, high] = [0, 1];
  // x never falls, for its handles lie within 0 … 1
  for (let i = 0; i < HALVINGS; i++) {
    const middle = (low + high) / 2;
    if (bezier(x1, x2, middle) < u) low = middle;
    else high = middle;
  }
  return bezier(y1, y2, (low + high) / 2);
}

const way = (x1: number, y1: number, x2: number, y2: number): Way => ({ ease: 'eased', x1, y1, x2, y2 });

/** Ways that lie ready. */
export const READY_WAYS: readonly { id: string; name: string; way: Way }[] = [
  { id: 'even', name: 'Even', way: { ...way(0, 0, 1, 1), ease: 'linear' } },
  { id: 'held', name: 'Held', way: { ...way(0, 0, 1, 1), ease: 'hold' } },
  { id: 'gentle', name: 'Gentle', way: way(0.4, 0, 0.6, 1) },
  { id: 'soft', name: 'Very gentle', way: way(0.75, 0, 0.25, 1) },
  { id: 'off', name: 'Sets off gently', way: way(0.5, 0, 1, 1) },
  { id: 'slow-off', name: 'Sets off slowly', way: way(0.8, 0, 1, 0.9) },
  { id: 'lands', name: 'Lands gently', way: way(0, 0, 0.5, 1) },
  { id: 'slow-lands', name: 'Lands slowly', way: way(0, 0.1, 0.2, 1) },
  { id: 'draws-back', name: 'Draws back first', way: way(0.4, -0.4, 0.7, 1) },
  { id: 'beyond', name: 'Goes beyond', way: way(0.3, 0, 0.6, 1.4) },
  { id: 'both', name: 'Draws back, goes beyond', way: way(0.5, -0.5, 0.5, 1.5) },
  { id: 'rope', name: 'As on a rope', way: way(0.1, 0.8, 0.9, 0.2) },
];
