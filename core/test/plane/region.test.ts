import * as fc from 'fast-check';
import { beforeAll, describe, expect, it } from 'vitest';
import type { Contour } from '../../src/plane/flatten.ts';
import {
  areaOf,
  boundsOf,
  grown,
  joined,
  loadRegions,
  merged,
  outlined,
  shared,
  signedArea,
  without,
} from '../../src/plane/region.ts';
import { triangulate } from '../../src/plane/triangulate.ts';

beforeAll(() => loadRegions());

const box = (x0: number, y0: number, x1: number, y1: number): Contour[] => [
  Float64Array.from([x0, y0, x1, y0, x1, y1, x0, y1]),
];
const turned = (c: Contour): Contour =>
  Float64Array.from(
    Array.from({ length: c.length / 2 }, (_, i) => [
      ...c.subarray(c.length - 2 - i * 2, c.length - i * 2),
    ]).flat(),
  );
const aBox = fc
  .tuple(
    fc.integer({ min: -300, max: 300 }),
    fc.integer({ min: -300, max: 300 }),
    fc.integer({ min: 1, max: 300 }),
    fc.integer({ min: 1, max: 300 }),
  )
  .map(([x, y, w, h]) => box(x, y, x + w, y + h));

describe('regions', () => {
  it('of boxes obey inclusion and exclusion', () => {
    fc.assert(
      fc.property(aBox, aBox, (a, b) => {
        const both = areaOf(shared(a, b));
        expect(areaOf(joined(a, b))).toBeCloseTo(areaOf(a) + areaOf(b) - both, 3);
        expect(areaOf(without(a, b))).toBeCloseTo(areaOf(a) - both, 3);
        expect(areaOf(shared(b, a))).toBeCloseTo(both, 3);
        const [ax0, ay0, ax1, ay1] = boundsOf(a);
        const [bx0, by0, bx1, by1] = boundsOf(b);
        const overlap =
          Math.max(0, Math.min(ax1, bx1) - Math.max(ax0, bx0)) *
          Math.max(0, Math.min(ay1, by1) - Math.max(ay0, by0));
        expect(both).toBeCloseTo(overlap, 3);
      }),
    );
  });

  it('widen by their perimeter and corners, sharp or round', () => {
    const square = box(0, 0, 100, 60);
    expect(areaOf(grown(square, 10))).toBeCloseTo(120 * 80, 3);
    expect(areaOf(grown(square, 10, 'round')) / (6000 + 320 * 10 + Math.PI * 100)).toBeCloseTo(1, 3);
    expect(areaOf(grown(square, -10))).toBeCloseTo(80 * 40, 3);
    expect(grown(square, -31)).toEqual([]);
    expect(grown([], 5)).toEqual([]);
  });

  it('merged wind outward round ink and inward round holes, whatever way they were drawn', () => {
    const ring = [...box(0, 0, 100, 100), turned(box(30, 30, 70, 70)[0])];
    for (const drawn of [ring, ring.map(turned)]) {
      const region = merged(drawn, 'evenodd');
      expect(region).toHaveLength(2);
      expect(areaOf(region)).toBeCloseTo(10_000 - 1600, 6);
      expect(Math.max(...region.map(signedArea))).toBeCloseTo(10_000, 6);
    }
    // what is drawn twice the same way is ink by one rule and a hole by the other
    const nested = [...box(0, 0, 100, 100), ...box(30, 30, 70, 70)];
    expect(areaOf(merged(nested))).toBeCloseTo(10_000, 6);
    expect(areaOf(merged(nested, 'evenodd'))).toBeCloseTo(8400, 6);
  });

  it('that a pen covers have its caps and joins', () => {
    const line = Float64Array.from([0, 0, 100, 0]);
    const area = (cap: 'butt' | 'round' | 'square') =>
      areaOf(outlined([line], [], 10, cap, 'miter', 4, 0.01));
    expect(area('butt')).toBeCloseTo(1000, 3);
    expect(area('square')).toBeCloseTo(1100, 3);
    expect(area('round')).toBeCloseTo(1000 + Math.PI * 25, 0);
    const loop = box(0, 0, 100, 100);
    expect(areaOf(outlined([], loop, 10, 'butt', 'miter', 4, 0.01))).toBeCloseTo(110 ** 2 - 90 ** 2, 3);
  });

  it('triangulated cover their area once, all triangles counter-clockwise', () => {
    fc.assert(
      fc.property(fc.array(aBox, { minLength: 1, maxLength: 6 }), (boxes) => {
        const region = boxes.reduce((all, b) => joined(all, b));
        const points = region.flatMap((c) =>
          Array.from({ length: c.length / 2 }, (_, i) => [c[2 * i], c[2 * i + 1]]),
        );
        const triangles = triangulate(region);
        let sum = 0;
        for (let t = 0; t < triangles.length; t += 3) {
          const [a, b, c] = [0, 1, 2].map((k) => points[triangles[t + k]]);
          const twice = (b[0] - a[0]) * (c[1] - a[1]) - (c[0] - a[0]) * (b[1] - a[1]);
          expect(twice).toBeGreaterThanOrEqual(0);
          sum += twice / 2;
        }
        expect(sum).toBeCloseTo(areaOf(region), 2);
      }),
      { numRuns: 60 },
    );
  });
});
