/**
 * Lower envelopes of functions a + b·f(p) + c·g(p) over one parameter, with f, g = p, p² or cos p, sin p: what
 * bounds a Voronoi cell, seen from its site.
 */
import { acos, atan2, cos, sin } from '../maths/reproducible.ts';

/** The functions of an envelope share a basis. */
export type Basis = 'quadratic' | 'circular';

export interface Piece {
  site: number;
  a: number;
  b: number;
  c: number;
  from: number;
  to: number;
}

/** A stretch of the envelope; `piece` null where nothing bounds the cell. */
export interface Stretch {
  from: number;
  to: number;
  piece: Piece | null;
}

export type Coefficients = Pick<Piece, 'a' | 'b' | 'c'>;

export const valueAt = (basis: Basis, { a, b, c }: Coefficients, p: number): number =>
  basis === 'quadratic' ? a + p * (b + p * c) : a + b * cos(p) + c * sin(p);

/** Scratch of the circular zeros: each of the two, and a turn to either side. */
const TURNS = [0, 2 * Math.PI, -2 * Math.PI];
const NONE: number[] = [];

/** Zeros within (from, to), in order. */
export function zeros(basis: Basis, { a, b, c }: Coefficients, from: number, to: number): number[] {
  if (basis === 'quadratic') {
    if (c === 0) {
      const p = -a / b;
      return p > from && p < to ? [p] : NONE;
    }
    const d = b * b - 4 * a * c;
    if (d < 0) return NONE;
    // the stable form, which does not subtract alike numbers
    const q = -0.5 * (b + (b < 0 ? -1 : 1) * Math.sqrt(d));
    return within(q / c, q === 0 ? NaN : a / q, from, to);
  }
  const radius = Math.hypot(b, c);
  if (!(radius > 0) || Math.abs(a) > radius) return NONE;
  const middle = atan2(c, b);
  const half = acos(-a / radius);
  const found: number[] = [];
  for (const turn of TURNS) found.push(...within(middle - half + turn, middle + half + turn, from, to));
  return found.sort((p, q) => p - q);
}

function within(p: number, q: number, from: number, to: number): number[] {
  const hasP = p > from && p < to;
  const hasQ = q > from && q < to;
  if (hasP && hasQ) return p < q ? [p, q] : [q, p];
  return hasP ? [p] : hasQ ? [q] : NONE;
}

/** Parts of [from, to] where every condition is at least zero, each widened by `slack`. */
export function allowed(
  basis: Basis,
  conditions: Coefficients[],
  from: number,
  to: number,
  slack: number,
): [number, number][] {
  if (basis === 'quadratic' && conditions.every((c) => c.c === 0)) {
    // straight conditions leave one interval
    let low = from;
    let high = to;
    for (const { a, b } of conditions) {
      if (b > 0) low = Math.max(low, -a / b);
      else if (b < 0) high = Math.min(high, -a / b);
      else if (a < 0) return [];
    }
    return low < high ? [[Math.max(from, low - slack), Math.min(to, high + slack)]] : [];
  }
  const cuts = [from, to];
  for (const c of conditions) cuts.push(...zeros(basis, c, from, to));
  if (cuts.length > 2) cuts.sort((p, q) => p - q);
  const out: [number, number][] = [];
  for (let i = 0; i + 1 < cuts.length; i++) {
    const middle = (cuts[i] + cuts[i + 1]) / 2;
    if (!conditions.every((c) => valueAt(basis, c, middle) >= 0)) continue;
    const last = out.at(-1);
    if (last && last[1] >= cuts[i]) last[1] = cuts[i + 1];
    else out.push([cuts[i], cuts[i + 1]]);
  }
  return out.map(([p, q]) => [Math.max(from, p - slack), Math.min(to, q + slack)]);
}

/** The envelope with one more piece under it. */
export function lowered(basis: Basis, envelope: Stretch[], piece: Piece): Stretch[] {
  const out: Stretch[] = [];
  const add = (from: number, to: number, of: Piece | null) => {
    if (to <= from) return;
    const last = out.at(-1);
    if (last && last.piece === of && last.to === from) last.to = to;
    else out.push({ from, to, piece: of });
  };
  for (const { from, to, piece: old } of envelope) {
    const p = Math.max(from, piece.from);
    const q = Math.min(to, piece.to);
    if (p >= q) {
      add(from, to, old);
      continue;
    }
    add(from, p, old);
    if (old === null) {
      add(p, q, piece);
    } else {
      const difference = { a: piece.a - old.a, b: piece.b - old.b, c: piece.c - old.c };
      const cuts = [p, ...zeros(basis, difference, p, q), q];
      for (let i = 0; i + 1 < cuts.length; i++) {
        const lower = valueAt(basis, difference, (cuts[i] + cuts[i + 1]) / 2) < 0;
        add(cuts[i], cuts[i + 1], lower ? piece : old);
      }
    }
    add(q, to, old);
  }
  return out;
}
