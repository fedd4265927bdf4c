import * as fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { CurveNode } from '../../src/document/index.ts';
import {
  courseOf,
  coursesAlong,
  coursesRound,
  evened,
  lengthOf,
  measured,
  placeAt,
  radiusAt,
  resampled,
} from '../../src/plane/curve.ts';
import { flattened, flattenedOpen } from '../../src/plane/flatten.ts';
import { Nearby } from '../../src/plane/nearby.ts';

/** Handles that make a quarter circle of radius 1 of a cubic piece (the usual 4/3 (√2 − 1)). */
const QUARTER = (4 / 3) * (Math.SQRT2 - 1);
const node = (x: number, y: number, inX = 0, inY = 0, outX = -inX, outY = -inY): CurveNode => ({
  x,
  y,
  inX,
  inY,
  outX,
  outY,
});
const circle = (r: number) => {
  const k = QUARTER * r;
  return [node(r, 0, 0, -k), node(0, r, k, 0), node(-r, 0, 0, k), node(0, -r, -k, 0)];
};
const arc = (r: number, from: number, to: number, n: number) => {
  const at = Array.from({ length: n + 1 }, (_, i) => from + ((to - from) * i) / n);
  return measured(
    at.map((a) => r * Math.cos(a)),
    at.map((a) => r * Math.sin(a)),
    false,
  );
};
const points = fc.array(fc.tuple(fc.integer({ min: -500, max: 500 }), fc.integer({ min: -500, max: 500 })), {
  minLength: 2,
  maxLength: 20,
});

describe('curves', () => {
  it('through nodes have the length of what they draw', () => {
    const course = courseOf(circle(100), true, 0.001);
    expect(lengthOf(course) / (2 * Math.PI * 100)).toBeCloseTo(1, 3);
    for (let i = 0; i < course.x.length; i++)
      expect(Math.abs(Math.hypot(course.x[i], course.y[i]) - 100)).toBeLessThan(0.03);
    expect(lengthOf(courseOf([node(0, 0), node(3, 4)], false, 0.01))).toBeCloseTo(5, 12);
    expect(lengthOf(courseOf([node(7, 7)], false, 0.01))).toBe(0);
    expect(courseOf([], true, 0.01).x).toEqual([]);
  });

  it('err from the curve by no more than their flatness', () => {
    for (const flatness of [5, 0.5, 0.05]) {
      const coarse = courseOf(circle(100), true, flatness);
      for (let i = 0; i + 1 < coarse.x.length; i++) {
        const [mx, my] = [(coarse.x[i] + coarse.x[i + 1]) / 2, (coarse.y[i] + coarse.y[i + 1]) / 2];
        const off = 100 - Math.hypot(mx, my);
        expect(off).toBeLessThan(flatness * 1.01 + 0.03);
      }
    }
  });

  it('keep their ends and nearly their length at even steps', () => {
    fc.assert(
      fc.property(points, fc.double({ min: 0.5, max: 40, noNaN: true }), (p, step) => {
        const course = measured(
          p.map((q) => q[0]),
          p.map((q) => q[1]),
          false,
        );
        fc.pre(lengthOf(course) > 0);
        const even = resampled(course, step);
        expect(lengthOf(even)).toBeLessThanOrEqual(lengthOf(course) + 1e-9);
        expect([even.x[0], even.y[0]]).toEqual([course.x[0], course.y[0]]);
        expect(even.x.at(-1)).toBeCloseTo(course.x.at(-1)!, 6);
        expect(even.y.at(-1)).toBeCloseTo(course.y.at(-1)!, 6);
        for (let i = 1; i < even.length.length; i++)
          expect(even.length[i] - even.length[i - 1]).toBeLessThanOrEqual(step + 1e-9);
      }),
    );
  });

  it('evened out keep straight lines, ends and closed rings where they are', () => {
    const line = resampled(measured([0, 900], [0, 300], false), 10);
    const even = evened(line, 60);
    even.x.forEach((x, i) => {
      expect(x).toBeCloseTo(line.x[i], 9);
      expect(even.y[i]).toBeCloseTo(line.y[i], 9);
    });
    const ring = resampled(courseOf(circle(200), true, 0.01), 5);
    const round = evened(ring, 20);
    // a circle shrinks by exp(−σ²/2r²) under a Gaussian of σ
    const shrunk = 200 * Math.exp(-(20 ** 2) / (2 * 200 ** 2));
    for (let i = 0; i < round.x.length; i++)
      expect(Math.abs(Math.hypot(round.x[i], round.y[i]) - shrunk)).toBeLessThan(0.3);
    expect(evened(line, 0)).toBe(line);
  });

  it('have the radius of the circle they follow, and none where they are straight', () => {
    const bow = arc(70, 0, 2, 200);
    expect(radiusAt(bow, 100, 8)).toBeCloseTo(70, 1);
    expect(radiusAt(bow, 0, 8)).toBe(Infinity);
    expect(radiusAt(measured([0, 1, 2, 3], [0, 1, 2, 3], false), 1, 1)).toBe(Infinity);
    const ring = resampled(courseOf(circle(50), true, 0.001), 1);
    expect(Math.abs(radiusAt(ring, 0, 6) / 50 - 1)).toBeLessThan(0.02);
  });

  it('are walked by their length, straight on beyond their ends', () => {
    const corner = measured([0, 10, 10], [0, 0, 10], false);
    expect(placeAt(corner, 4)).toEqual({ x: 4, y: 0, angle: 0 });
    expect(placeAt(corner, 15)).toEqual({ x: 10, y: 5, angle: Math.PI / 2 });
    expect(placeAt(corner, 25)).toEqual({ x: 10, y: 15, angle: Math.PI / 2 });
    expect(placeAt(corner, -3)).toEqual({ x: -3, y: 0, angle: 0 });
    expect(placeAt(measured([2], [3], false), 5)).toEqual({ x: 7, y: 3, angle: 0 });
  });

  it('along and round a list of points differ by the way back', () => {
    const list = [Float64Array.from([0, 0, 30, 0, 30, 40])];
    expect(lengthOf(coursesAlong(list)[0])).toBe(70);
    expect(lengthOf(coursesRound(list)[0])).toBe(120);
    expect(coursesRound(list)[0].closed).toBe(true);
  });
});

describe('flattened paths', () => {
  const path = (...commands: [string, ...number[]][]) =>
    commands.map(([type, ...values]) => ({ type, values }));

  it('follow quadratic and cubic curves within their flatness', () => {
    // y = x² from −1 to 1 as a quadratic piece
    const [parabola] = flattenedOpen(path(['M', -1, 1], ['Q', 0, -1, 1, 1]), 1, 1e-4).open;
    for (let i = 0; i < parabola.length; i += 2)
      expect(parabola[i + 1]).toBeCloseTo(parabola[i] * parabola[i], 9);
    for (let i = 0; i + 3 < parabola.length; i += 2) {
      const [x, y] = [(parabola[i] + parabola[i + 2]) / 2, (parabola[i + 1] + parabola[i + 3]) / 2];
      expect(y - x * x).toBeLessThan(1.01e-4);
    }
    const k = QUARTER;
    const [quarter] = flattenedOpen(path(['M', 1, 0], ['C', 1, k, k, 1, 0, 1]), 1, 1e-5).open;
    for (let i = 0; i < quarter.length; i += 2)
      expect(Math.abs(Math.hypot(quarter[i], quarter[i + 1]) - 1)).toBeLessThan(3e-4);
  });

  it('scale, close and part where the path does, and never repeat a point', () => {
    const square = path(['M', 0, 0], ['L', 2, 0], ['L', 2, 0], ['L', 2, 2], ['L', 0, 2], ['L', 0, 0], ['Z']);
    expect(flattened(square, 10, 0.1)).toEqual([Float64Array.from([0, 0, 20, 0, 20, 20, 0, 20])]);
    const both = flattenedOpen([...square, ...path(['M', 5, 5], ['L', 6, 5])], 1, 0.1);
    expect(both.closed).toHaveLength(1);
    expect(both.open).toEqual([Float64Array.from([5, 5, 6, 5])]);
    expect(flattened(path(['M', 1, 1]), 1, 0.1)).toEqual([]);
  });
});

describe('points nearby', () => {
  it('are those that a look at every point finds', () => {
    fc.assert(
      fc.property(points, points, fc.integer({ min: 1, max: 300 }), (a, b, reach) => {
        const courses = [a, b].map((p) =>
          measured(
            p.map((q) => q[0]),
            p.map((q) => q[1]),
            false,
          ),
        );
        const nearby = new Nearby(reach, courses);
        const [x, y] = a[0];
        const all = courses.flatMap((c, course) =>
          c.x.flatMap((px, point) => (Math.hypot(px - x, c.y[point] - y) < reach ? [{ course, point }] : [])),
        );
        const order = (list: { course: number; point: number }[]) =>
          [...list].sort((p, q) => p.course - q.course || p.point - q.point);
        expect(order(nearby.near(x, y))).toEqual(order(all));
        // a course put in place of another leaves nothing of it behind
        nearby.put(0, measured([9000], [9000], false));
        expect(nearby.near(x, y).every((p) => p.course === 1)).toBe(true);
        expect(nearby.near(9000, 9000)).toEqual([{ course: 0, point: 0 }]);
      }),
    );
  });
});
