import { describe, expect, it } from 'vitest';
import { crossings, openEdges, thinnest, volume } from '../../src/solid/soundness.ts';
import { kernelOver } from '../trace/kernelFixture.ts';

type Point = [number, number, number];

/** An outward-wound box. */
function box([x0, y0, z0]: Point, [x1, y1, z1]: Point): number[] {
  const c = (i: number): Point => [i & 1 ? x1 : x0, i & 2 ? y1 : y0, i & 4 ? z1 : z0];
  const sides = [
    [0, 2, 3, 1],
    [4, 5, 7, 6],
    [0, 1, 5, 4],
    [2, 6, 7, 3],
    [0, 4, 6, 2],
    [1, 3, 7, 5],
  ];
  return sides.flatMap(([a, b, d, e]) => [a, b, d, a, d, e].flatMap(c));
}
const solid = (...boxes: number[][]) => Float32Array.from(boxes.flat());
const crossed = (p: Float32Array) => crossings(p, kernelOver(p));

describe('what is wrong with a solid is found', () => {
  const whole = solid(box([0, 0, 0], [40, 30, 20]));

  it('nothing in a box', () => {
    expect(openEdges(whole)).toBe(0);
    expect(crossed(whole)).toBe(0);
    expect(volume(whole)).toBeCloseTo(24000, 3);
    expect(thinnest(whole)).toBeCloseTo((20 * 30) / Math.hypot(20, 30), 4);
  });

  it('a missing face leaves its edges open, a doubled or turned one too', () => {
    expect(openEdges(whole.subarray(9))).toBe(3);
    expect(openEdges(Float32Array.from([...whole, ...whole.subarray(0, 9)]))).toBe(3);
    const turned = whole.slice();
    turned.set(whole.subarray(3, 6), 0);
    turned.set(whole.subarray(0, 3), 3);
    expect(openEdges(turned)).toBe(3);
  });

  it('an inside-out solid has a volume below zero', () => {
    const inside = whole.slice();
    for (let t = 0; t < inside.length; t += 9) {
      inside.set(whole.subarray(t + 3, t + 6), t);
      inside.set(whole.subarray(t, t + 3), t + 3);
    }
    expect(openEdges(inside)).toBe(0);
    expect(volume(inside)).toBeCloseTo(-24000, 3);
  });

  it('solids that run into each other cross, those that touch or lie apart do not', () => {
    expect(crossed(solid(box([0, 0, 0], [40, 30, 20]), box([11, 7, 5], [60, 12, 14])))).toBeGreaterThan(0);
    expect(crossed(solid(box([0, 0, 0], [40, 30, 20]), box([40, 7, 5], [60, 12, 14])))).toBe(0);
    expect(crossed(solid(box([0, 0, 0], [40, 30, 20]), box([41, 7, 5], [60, 12, 14])))).toBe(0);
    // one within the other touches nothing
    expect(crossed(solid(box([0, 0, 0], [40, 30, 20]), box([11, 7, 5], [20, 12, 14])))).toBe(0);
  });

  it('an intrusion is found down to hundredths, and rounding is none', () => {
    const into = (by: number) =>
      crossed(solid(box([0, 0, 0], [40, 30, 20]), box([40 - by, 7, 5], [60, 12, 14])));
    expect(into(0.02)).toBeGreaterThan(0);
    expect(into(0.0005)).toBe(0);
  });

  it('a triangle without area is the thinnest', () => {
    expect(thinnest(Float32Array.from([0, 0, 0, 4, 0, 0, 9, 0, 0]))).toBe(0);
    expect(thinnest(Float32Array.from([1, 1, 1, 1, 1, 1, 1, 1, 1]))).toBe(0);
    expect(thinnest(Float32Array.from([0, 0, 0, 8, 0, 0, 4, 0.5, 0]))).toBeCloseTo(0.5, 6);
  });
});
