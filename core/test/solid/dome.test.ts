import { beforeAll, describe, expect, it } from 'vitest';
import { SOLID_ZONES } from '../../src/document/index.ts';
import { buildDome } from '../../src/solid/dome.ts';
import type { Contour } from '../../src/plane/flatten.ts';
import { loadRegions, merged } from '../../src/plane/region.ts';
import { SHIPPED_FONTS } from '../../src/type/shippedFonts.ts';
import { crossings, openEdges, volume } from '../../src/solid/soundness.ts';
import { kernelOver } from '../trace/kernelFixture.ts';
import { openShipped } from '../type/fixture.ts';

beforeAll(() => loadRegions());

const contour = (...xy: number[]): Contour => Float64Array.from(xy);
const ellipse = (a: number, b: number, n = 180): Contour =>
  Float64Array.from(
    Array.from({ length: n }, (_, i) => [
      a * Math.cos((2 * Math.PI * i) / n),
      b * Math.sin((2 * Math.PI * i) / n),
    ]).flat(),
  );
const round = { form: 'rounded' as const, depth: 0, pressure: 1 };

describe('round letters', () => {
  it('are half round across a straight stroke', () => {
    const { box, positions } = buildDome([contour(0, 0, 1000, 0, 1000, 60, 0, 60)], round);
    expect(box![5] / 30).toBeCloseTo(1, 1);
    // height over the middle of the stroke, all along it
    for (let i = 0; i < positions.length; i += 3) {
      const [x, y, z] = positions.subarray(i, i + 3);
      if (x < 200 || x > 800 || z < 0) continue;
      const exact = Math.sqrt(Math.max(0, 30 ** 2 - (y - 30) ** 2));
      expect(Math.abs(z - exact)).toBeLessThan(0.8);
    }
  });

  it('are the torsion function of an ellipse: half an ellipsoid', () => {
    const [a, b] = [120, 70];
    // u = (1 − x²/a² − y²/b²) a²b² / (2 (a² + b²)), so √(2u) is an ellipsoid of this height
    const top = (a * b) / Math.hypot(a, b);
    const solid = buildDome([ellipse(a, b)], round);
    expect(solid.box![5] / top).toBeCloseTo(1, 1);
    expect(volume(solid.positions) / ((4 / 3) * Math.PI * a * b * top)).toBeGreaterThan(0.97);
    expect(volume(solid.positions) / ((4 / 3) * Math.PI * a * b * top)).toBeLessThan(1.01);
  });
});

describe('puffed letters', () => {
  it('hold the volume of the torsion constant of a square, 0.1406 a⁴ / 4', () => {
    const side = 200;
    const square = [contour(0, 0, side, 0, side, side, 0, side)];
    const puffed = buildDome(square, { form: 'puffed', depth: 0, pressure: 1 });
    // Timoshenko and Goodier § 109: J = 0.1406 a⁴ = 4 ∫ u, and u at the middle is 0.0737 a²
    const fattest = Math.sqrt(2 * 0.0737) * side;
    const integral = (0.1406 * side ** 4) / 4;
    const expected = (2 * (2 * integral)) / fattest;
    expect(volume(puffed.positions) / expected).toBeGreaterThan(0.97);
    expect(volume(puffed.positions) / expected).toBeLessThan(1.03);
    expect(puffed.box![5] / fattest).toBeCloseTo(1, 1);
  });

  it('rise with their pressure in proportion', () => {
    const region = [ellipse(100, 60)];
    const tops = [0.5, 1, 2].map(
      (pressure) => buildDome(region, { form: 'puffed', depth: 0, pressure }).box![5],
    );
    expect(tops[1] / tops[0]).toBeCloseTo(2, 6);
    expect(tops[2] / tops[1]).toBeCloseTo(2, 6);
  });
});

describe('of every shipped face', () => {
  it.each(SHIPPED_FONTS.map((f, i) => [f.id, 'S8'[i % 2]] as const))(
    '%s: both forms are closed, outward and cross nothing',
    async (id, character) => {
      const font = await openShipped(id);
      const region = merged(font.outline(font.shape(character)[0].glyph));
      for (const form of ['rounded', 'puffed'] as const) {
        const solid = buildDome(region, { form, depth: 12, pressure: 0.8 });
        expect(openEdges(solid.positions), form).toBe(0);
        expect(volume(solid.positions)).toBeGreaterThan(0);
        expect(crossings(solid.positions, kernelOver(solid.positions)), form).toBe(0);
        expect(solid.zones).toEqual(SOLID_ZONES);
        let farthest = 0;
        for (let i = 0; i < solid.normals.length; i += 3)
          farthest = Math.max(
            farthest,
            Math.abs(Math.hypot(solid.normals[i], solid.normals[i + 1], solid.normals[i + 2]) - 1),
          );
        expect(farthest).toBeLessThan(1e-3);
      }
    },
  );
});
