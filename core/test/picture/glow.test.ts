import * as fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { glowing } from '../../src/picture/glow.ts';

const dot = (width: number, height: number, x: number, y: number, light = 100) => {
  const data = new Float32Array(width * height * 4);
  data.fill(0);
  for (let i = 3; i < data.length; i += 4) data[i] = 1;
  data.fill(light, (y * width + x) * 4, (y * width + x) * 4 + 3);
  return { width, height, data };
};
const sumOf = (data: Float32Array, c: number) => data.reduce((s, v, i) => s + (i % 4 === c ? v : 0), 0);

describe('glow', () => {
  it('adds no light and loses none, wherever it is and however wide', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 60 }),
        fc.integer({ min: 1, max: 40 }),
        fc.nat(),
        fc.double({ min: 0.01, max: 1, noNaN: true }),
        fc.double({ min: 0.001, max: 0.3, noNaN: true }),
        (width, height, place, glow, glow_size) => {
          const picture = dot(width, height, place % width, (place >> 8) % height);
          const out = glowing(picture, { glow, glow_size }).data;
          for (let c = 0; c < 3; c++) expect(sumOf(out, c) / sumOf(picture.data, c)).toBeCloseTo(1, 4);
          for (let i = 3; i < out.length; i += 4) expect(out[i]).toBe(1);
          expect(out.every((v) => v >= -1e-5)).toBe(true);
        },
      ),
      { numRuns: 60 },
    );
  });

  it('leaves pictures as they are at nought, and even ones at any amount', () => {
    const picture = dot(9, 7, 4, 3);
    expect(glowing(picture, { glow: 0, glow_size: 0.1 })).toBe(picture);
    const even = { width: 20, height: 10, data: new Float32Array(800).fill(0.7) };
    glowing(even, { glow: 0.5, glow_size: 0.2 }).data.forEach((v) => expect(v).toBeCloseTo(0.7, 5));
  });

  it('spreads evenly all around, less with distance, and further the larger it is', () => {
    const at = (glow_size: number, x: number, y: number) =>
      glowing(dot(61, 61, 30, 30), { glow: 0.3, glow_size }).data[(y * 61 + x) * 4];
    expect(at(0.05, 40, 30)).toBeCloseTo(at(0.05, 20, 30), 6);
    expect(at(0.05, 30, 40)).toBeCloseTo(at(0.05, 40, 30), 6);
    expect(at(0.05, 34, 30)).toBeGreaterThan(at(0.05, 40, 30));
    expect(at(0.05, 58, 30)).toBeLessThan(at(0.15, 58, 30));
  });
});
