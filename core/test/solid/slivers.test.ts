import { describe, expect, it } from 'vitest';
import { inPlace, assemble, Sheet } from '../../src/solid/sheet.ts';
import { LEAST_HEIGHT, withoutSlivers } from '../../src/solid/slivers.ts';
import { openEdges, thinnest, volume } from '../../src/solid/soundness.ts';

type Point = [number, number, number];

function sheetOf(triangles: [Point, Point, Point][], normal: (p: Point) => Point = () => [0, 0, 1]): Sheet {
  const sheet = new Sheet();
  for (const corners of triangles)
    for (const p of corners) sheet.corner(...p, ...normal(p), 1, 0, 0, p[0], p[1]);
  return sheet;
}

const A: Point = [0, 0, 0];
const B: Point = [8, 0, 0];
const C: Point = [0, 6, 0];
const TOP: Point = [0, 0, 5];
/** On the side from A to B. */
const MIDDLE: Point = [2, 0, 0];
const ON = (x: number): Point => [x, 0, 0];

/** A tetrahedron whose wall over A and B meets the floor at points the floor does not have: slivers fill the gap. */
function withCaps(points: Point[], flat: [Point, Point, Point][]) {
  const floor: [Point, Point, Point][] = [[A, C, B]];
  const chain = [A, ...points, B];
  const wall = chain.slice(1).map((p, i): [Point, Point, Point] => [chain[i], p, TOP]);
  const rest: [Point, Point, Point][] = [
    [B, C, TOP],
    [C, A, TOP],
  ];
  // normals of the floor turn along x, so that what is split can be told apart
  const turning = (p: Point): Point => (p[0] === 0 ? [0, 0, -1] : [1, 0, 0]);
  return assemble(
    ['front', 'side'],
    [inPlace(sheetOf(floor, turning)), inPlace(sheetOf([...wall, ...flat, ...rest]))],
  );
}

describe('slivers', () => {
  it('are split into what lies across their longest side, which takes over its shading', () => {
    const solid = withCaps([MIDDLE], [[A, B, MIDDLE]]);
    expect(openEdges(solid.positions)).toBe(0);
    expect(thinnest(solid.positions)).toBe(0);
    const mended = withoutSlivers(solid);
    expect(openEdges(mended.positions)).toBe(0);
    expect(thinnest(mended.positions)).toBeGreaterThan(1);
    expect(volume(mended.positions)).toBeCloseTo((8 * 6 * 5) / 6, 4);
    // the floor has one triangle more, the wall one less
    expect([...solid.zoneStarts]).toEqual([0, 1, 6]);
    expect([...mended.zoneStarts]).toEqual([0, 2, 6]);
    const at = [0, 1, 2, 3, 4, 5].filter((i) => mended.positions[i * 3] === 2);
    expect(at).toHaveLength(2);
    for (const i of at) {
      // a quarter of the way from one normal to the other, as a unit vector
      const l = Math.hypot(0.25, 0.75);
      expect(mended.normals[i * 3]).toBeCloseTo(0.25 / l, 5);
      expect(mended.normals[i * 3 + 2]).toBeCloseTo(-0.75 / l, 5);
      expect([...mended.uv.subarray(i * 4, i * 4 + 4)]).toEqual([2, 0, 2, 0]);
    }
  });

  it('that lean on each other go one after the other', () => {
    const points = [1, 3, 4, 7].map(ON);
    // a fan of flat triangles over the same side
    const flat = points.map((p, i): [Point, Point, Point] => [i === 0 ? A : points[i - 1], B, p]);
    const solid = withCaps(points, flat);
    expect(openEdges(solid.positions)).toBe(0);
    const mended = withoutSlivers(solid);
    expect(openEdges(mended.positions)).toBe(0);
    expect(thinnest(mended.positions)).toBeGreaterThan(LEAST_HEIGHT);
    expect([...mended.zoneStarts]).toEqual([0, 5, 12]);
  });

  it('folded onto a side with two corners in one place are dropped', () => {
    const solid = withCaps([], [[A, B, B]]);
    const mended = withoutSlivers(solid);
    expect(openEdges(mended.positions)).toBe(0);
    expect(mended.positions.length).toBe(solid.positions.length - 9);
  });

  it('are the only thing that is touched', () => {
    const solid = withCaps([], []);
    expect(withoutSlivers(solid)).toBe(solid);
  });
});
