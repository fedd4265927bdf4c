import * as fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { acos, asin, atan, atan2, cos, exp, log, pow, sin, tan } from '../../src/maths/reproducible.ts';

/** Greatest error that is allowed, relative to the value and at least to 1. */
const EXACT = 4e-15;
const close = (ours: number, theirs: number) =>
  expect(Math.abs(ours - theirs)).toBeLessThanOrEqual(EXACT * Math.max(1, Math.abs(theirs)));
const number = (min: number, max: number) => fc.double({ min, max, noNaN: true });

describe('functions that give the same bits on every machine', () => {
  it('agree with the machine’s own to a few units in the last place', () => {
    fc.assert(
      fc.property(
        number(-40, 40),
        number(-1, 1),
        number(1e-6, 1e6),
        number(-5, 5),
        (x, unit, positive, power) => {
          close(sin(x), Math.sin(x));
          close(cos(x), Math.cos(x));
          close(atan(x), Math.atan(x));
          close(asin(unit), Math.asin(unit));
          close(acos(unit), Math.acos(unit));
          close(exp(power), Math.exp(power));
          close(log(positive), Math.log(positive));
          close(pow(positive, power / 10), positive ** (power / 10));
        },
      ),
      { numRuns: 2000 },
    );
  });

  it('keep the identities that rendering leans on', () => {
    fc.assert(
      fc.property(number(-30, 30), number(-10, 10), number(-10, 10), (x, y, z) => {
        expect(sin(-x) + sin(x)).toBe(0);
        expect(cos(-x)).toBe(cos(x));
        expect(sin(x) ** 2 + cos(x) ** 2).toBeCloseTo(1, 13);
        if (Math.abs(cos(x)) > 0.1) close(tan(x), Math.tan(x));
        // a whole turn apart is the same direction
        const apart = (atan2(y, z) - Math.atan2(y, z)) / (2 * Math.PI);
        if (y !== 0 || z !== 0) close(apart, Math.round(apart));
      }),
    );
  });

  it('have exact values where those are known', () => {
    expect([sin(0), cos(0), atan(0), asin(0), exp(0), log(1)]).toEqual([0, 1, 0, 0, 1, 0]);
    expect(pow(0, 2)).toBe(0);
    expect(pow(0, 0)).toBe(1);
    expect(pow(5, 0)).toBe(1);
    for (const [y, x] of [
      [0, 1],
      [1, 0],
      [0, -1],
      [-1, 0],
    ])
      close(atan2(y, x), Math.atan2(y, x));
  });
});
