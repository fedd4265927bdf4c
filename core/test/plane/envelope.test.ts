import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { allowed, lowered, valueAt, zeros, type Piece, type Stretch } from '../../src/plane/envelope.ts';

const number = fc.integer({ min: -5000, max: 5000 }).map((v) => v / 1000);
const place = fc.integer({ min: 0, max: 3000 }).map((v) => v / 1000);
const pieces = fc.array(fc.tuple(number, number, number, place, place), {
  minLength: 1,
  maxLength: 12,
});

describe.each(['quadratic', 'circular'] as const)('a %s envelope', (basis) => {
  it('is the least of its pieces wherever one lies', () => {
    fc.assert(
      fc.property(pieces, (raw) => {
        const all = raw.map(([a, b, c, p, q], site): Piece => ({
          site,
          a,
          b,
          c,
          from: Math.min(p, q),
          to: Math.max(p, q),
        }));
        let envelope: Stretch[] = [{ from: 0, to: 3, piece: null }];
        for (const piece of all) envelope = lowered(basis, envelope, piece);
        // stretches follow each other without gaps
        expect(envelope[0].from).toBe(0);
        expect(envelope.at(-1)!.to).toBe(3);
        envelope.slice(1).forEach((e, i) => expect(e.from).toBe(envelope[i].to));
        for (const { from, to, piece } of envelope) {
          if (to - from < 1e-6) continue;
          const p = from + (to - from) * 0.37;
          const here = all.filter((q) => q.from <= p && p <= q.to).map((q) => valueAt(basis, q, p));
          if (here.length === 0) expect(piece).toBeNull();
          else expect(valueAt(basis, piece!, p)).toBeCloseTo(Math.min(...here), 7);
        }
      }),
      { numRuns: 300, seed: 3 },
    );
  });

  it('finds zeros where the function is zero, and no sign change without one', () => {
    fc.assert(
      fc.property(number, number, number, (a, b, c) => {
        const f = { a, b, c };
        const found = zeros(basis, f, 0, 3);
        for (const p of found) expect(Math.abs(valueAt(basis, f, p))).toBeLessThan(1e-6);
        const cuts = [0, ...found, 3];
        for (let i = 0; i + 1 < cuts.length; i++) {
          const [p, q] = [cuts[i], cuts[i + 1]];
          const signs = [0.25, 0.5, 0.75].map((t) => Math.sign(valueAt(basis, f, p + (q - p) * t)));
          if (q - p > 1e-5 && !signs.includes(0)) expect(new Set(signs).size).toBe(1);
        }
      }),
      { numRuns: 300, seed: 4 },
    );
  });
});

describe('conditions', () => {
  it('leave the parts where all hold, widened by the slack', () => {
    // p ≥ 1, and (p − 2)² ≥ 0.25
    const left = allowed(
      'quadratic',
      [
        { a: -1, b: 1, c: 0 },
        { a: 3.75, b: -4, c: 1 },
      ],
      0,
      4,
      0.01,
    );
    expect(left).toHaveLength(2);
    expect(left[0][0]).toBeCloseTo(0.99, 9);
    expect(left[0][1]).toBeCloseTo(1.51, 9);
    expect(left[1][0]).toBeCloseTo(2.49, 9);
    expect(left[1][1]).toBe(4);
    expect(allowed('quadratic', [{ a: -1, b: 0, c: 0 }], 0, 4, 0.01)).toEqual([]);
  });
});
