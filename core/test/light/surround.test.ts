import * as fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { blurredSurround } from '../../src/light/blurred.ts';
import { PAINTED_SURROUNDS, paintSurround } from '../../src/light/paintedSurrounds.ts';
import {
  directionAt,
  positionOf,
  reduced,
  surroundFacts,
  type SurroundPicture,
} from '../../src/light/surround.ts';

const picture = (width: number, height: number, at: (x: number, y: number) => number): SurroundPicture => {
  const data = new Float32Array(width * height * 3);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) data.fill(at(x, y), (y * width + x) * 3, (y * width + x) * 3 + 3);
  return { width, height, data };
};

describe('directions and places of a surround', () => {
  it('answer each other', () => {
    const inside = (min: number, max: number) => fc.double({ min, max, noNaN: true });
    fc.assert(
      fc.property(inside(0.001, 0.999), inside(0.001, 0.999), (u, v) => {
        const d = directionAt(u, v);
        expect(Math.hypot(...d)).toBeCloseTo(1, 9);
        const [pu, pv] = positionOf(...d);
        expect(pu).toBeCloseTo(u, 6);
        expect(pv).toBeCloseTo(v, 6);
      }),
    );
  });

  it('have the top row above and the middle along +x', () => {
    expect(directionAt(0.5, 0.5)).toEqual([1, 0, 0].map((v) => expect.closeTo(v, 9)));
    expect(directionAt(0.75, 0.5)).toEqual([0, 0, 1].map((v) => expect.closeTo(v, 9)));
    expect(directionAt(0.2, 0)[1]).toBeCloseTo(1, 9);
    expect(directionAt(0.2, 1)[1]).toBeCloseTo(-1, 9);
  });
});

describe('what is told of a surround', () => {
  it('is the mean over the sphere, not over the picture', () => {
    expect(surroundFacts(picture(64, 32, () => 3)).mean).toBeCloseTo(3, 6);
    // the upper half alone is half the sphere; a band about the horizon is more of it than of the picture
    expect(surroundFacts(picture(64, 32, (_, y) => (y < 16 ? 2 : 0))).mean).toBeCloseTo(1, 6);
    // between 30° below and above: sin 30° of the sphere, a third of the picture
    expect(surroundFacts(picture(96, 48, (_, y) => (y >= 16 && y < 32 ? 1 : 0))).mean).toBeCloseTo(0.5, 3);
  });

  it('finds where it is brightest, and how many stops that is above the darkest', () => {
    const facts = surroundFacts(picture(64, 32, (x, y) => (x === 48 && y === 8 ? 256 : 1)));
    expect(facts.peak).toBeCloseTo(256, 3);
    expect(facts.stops).toBeCloseTo(8, 6);
    expect(facts.peakDirection).toEqual(directionAt(48.5 / 64, 8.5 / 32));
    expect(surroundFacts(picture(8, 4, () => 0)).stops).toBe(0);
  });

  it('reduced keeps its light and its proportions, and stops where it cannot be halved', () => {
    const full = picture(128, 64, (x, y) => 1 + x + 3 * y);
    const small = reduced(full, 20);
    expect([small.width, small.height]).toEqual([16, 8]);
    const sum = (p: SurroundPicture) => p.data.reduce((a, v) => a + v, 0) / p.data.length;
    expect(sum(small)).toBeCloseTo(sum(full), 3);
    expect(reduced(full, 128)).toEqual(full);
    expect(
      reduced(
        picture(30, 15, () => 1),
        8,
      ).width,
    ).toBe(30);
  });
});

describe('painted surrounds', () => {
  it.each(PAINTED_SURROUNDS.map((s) => s.id))('%s lights from all sides, the same at every size', (id) => {
    const [small, large] = [paintSurround(id, 64), paintSurround(id, 256)];
    expect([large.width, large.height]).toEqual([256, 128]);
    expect(large.data.every((v) => v >= 0 && Number.isFinite(v))).toBe(true);
    const [a, b] = [surroundFacts(small), surroundFacts(large)];
    expect(b.mean).toBeGreaterThan(0);
    expect(Math.abs(a.mean / b.mean - 1)).toBeLessThan(0.25);
    expect(b.stops).toBeGreaterThan(0.5);
    expect(paintSurround(id, 64).data).toEqual(small.data);
  });

  it('that nobody painted are refused', () => {
    expect(() => paintSurround('nowhere')).toThrow(/no painted surround nowhere/);
  });
});

describe('blurred surrounds', () => {
  it('keep their light, spread alike at the horizon and at the poles, and over the seam', () => {
    const spotAt = (x: number, y: number) => {
      const picture = { width: 64, height: 32, data: new Float32Array(64 * 32 * 3) };
      const area = Math.sin(((y + 0.5) / 32) * Math.PI);
      picture.data.fill(1 / area, (y * 64 + x) * 3, (y * 64 + x) * 3 + 3);
      return picture;
    };
    const light = ({ width, height, data }: SurroundPicture) => {
      let sum = 0;
      for (let y = 0; y < height; y++)
        for (let x = 0; x < width; x++)
          sum += data[(y * width + x) * 3] * Math.sin(((y + 0.5) / height) * Math.PI);
      return sum / (width * height);
    };
    for (const [x, y] of [
      [10, 16],
      [0, 12],
      [40, 2],
    ]) {
      const sharp = spotAt(x, y);
      const soft = blurredSurround(sharp, 0.3);
      expect(light(soft) / light(sharp)).toBeGreaterThan(0.97);
      expect(light(soft) / light(sharp)).toBeLessThan(1.03);
      // a bell: at its middle 1 / (2πσ²) of the light, an e-half of it at σ
      const solid = ((2 * Math.PI) / 64) * (Math.PI / 32);
      const peak = Math.max(...soft.data);
      expect(peak / (solid / (2 * Math.PI * 0.09))).toBeGreaterThan(0.9);
      expect(peak / (solid / (2 * Math.PI * 0.09))).toBeLessThan(1.1);
    }
  });
});
