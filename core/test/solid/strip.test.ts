import { beforeAll, describe, expect, it } from 'vitest';
import { loadRegions } from '../../src/plane/region.ts';
import { openEdges, volume } from '../../src/solid/soundness.ts';
import { buildStrip, spaced, type StripShape } from '../../src/solid/strip.ts';

beforeAll(() => loadRegions());

const square = [Float64Array.from([0, 0, 200, 0, 200, 200, 0, 200])];
const shape: StripShape = {
  by: 'spacing',
  count: 7,
  spacing: 20,
  inset: 30,
  width: 16,
  size: 8,
  middle: 50,
  colours: 3,
};

describe('a strip of light points', () => {
  it('spaces them evenly along the outline, round its corners too', () => {
    for (const [by, count] of [
      ['spacing', 40],
      ['count', 7],
    ] as const) {
      const places = spaced(square[0], { ...shape, by });
      expect(places).toHaveLength(count);
      // length along the square's border from its first corner
      const along = places.map(({ x, y }) =>
        y === 0 ? x : x === 200 ? 200 + y : y === 200 ? 600 - x : 800 - y,
      );
      along.forEach((s, i) => expect(s).toBeCloseTo((800 * i) / count, 6));
    }
  });

  it('runs on the outline moved inward, closed, its points sharing the colours in turn', () => {
    const solid = buildStrip(square, shape);
    expect(solid.zones).toEqual(['strip', 'points', 'points', 'points']);
    expect(openEdges(solid.positions)).toBe(0);
    expect(volume(solid.positions)).toBeGreaterThan(0);
    // a square of 140, round it 560: 28 points, shared 10, 9, 9
    const each = [1, 2, 3].map((k) => solid.zoneStarts[k + 1] - solid.zoneStarts[k]);
    expect(each.map((n) => n / (each[1] / 9))).toEqual([10, 9, 9]);
    expect(solid.box!.slice(2, 3)).toEqual([42]);
    expect(solid.box![5]).toBe(58);
    expect(solid.box![0]).toBeGreaterThan(30 - 9);
  });
});
