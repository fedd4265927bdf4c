/** Gases by their lines, and what is seen and cast of a glow. */
import { describe, expect, it } from 'vitest';
import { GASES, plainSurface, type Gas } from '../../src/document/index.ts';
import { gasColour, gasXyz } from '../../src/finish/gases.ts';
import { opticsOf } from '../../src/finish/optics.ts';
import { luminance } from '../../src/maths/colour.ts';

const REAL = GASES.filter((g): g is Exclude<Gas, 'none'> => g !== 'none');
const xy = (gas: Exclude<Gas, 'none'>) => {
  const [x, y, z] = gasXyz(gas);
  return [x / (x + y + z), y / (x + y + z)];
};

describe('a gas', () => {
  it('has the chromaticity of its lines: neon red-orange, mercury blue, helium peach, argon violet', () => {
    // CIE 1931 x, y: neon's lies on the spectral locus between 600 nm (0.627, 0.373) and 615 nm (0.680, 0.320)
    const [nx, ny] = xy('neon');
    expect(nx).toBeGreaterThan(0.627);
    expect(nx).toBeLessThan(0.68);
    expect(nx + ny).toBeGreaterThan(0.99);
    const [mx, my] = xy('mercury');
    expect(mx).toBeLessThan(0.24);
    expect(my).toBeLessThan(0.2);
    const [hx, hy] = xy('helium');
    expect(hx).toBeGreaterThan(0.38);
    expect(hy).toBeLessThan(0.4);
    const [ax, ay] = xy('argon');
    expect(ay).toBeLessThan(0.3);
    expect(ax).toBeGreaterThan(mx);
  });

  it.each(REAL)('%s has a colour of luminance 1 within Rec. 709, alone and mixed with any other', (gas) => {
    for (const other of GASES)
      for (const share of [0, 0.3, 1]) {
        const colour = gasColour(gas, other, share);
        expect(luminance(...colour)).toBeCloseTo(1, 6);
        expect(Math.min(...colour)).toBeGreaterThanOrEqual(0);
      }
    const alike = (a: number[], b: number[]) => a.forEach((v, i) => expect(v).toBeCloseTo(b[i], 9));
    alike(gasColour(gas, gas, 0.5), gasColour(gas, 'none', 0));
    alike(gasColour(gas, 'neon', 1), gasColour('neon', 'none', 0));
  });

  it('glows with the stated nits, in proportion to its current, through its glass and its powder', () => {
    const lit = (more: object) =>
      opticsOf(plainSurface({ emission_gas: 'neon', emission_luminance: 100, ...more })).glow;
    expect(luminance(...lit({}).nits)).toBeCloseTo(100, 4);
    expect(luminance(...lit({ emission_current: 60 }).nits)).toBeCloseTo(200, 4);
    expect(lit({ emission_color: [0.5, 1, 1] }).nits[0]).toBeCloseTo(lit({}).nits[0] / 2, 4);
    const powdered = lit({ emission_powder: 1, emission_powder_color: [0.2, 0.6, 0.3] });
    expect(luminance(...powdered.nits)).toBeCloseTo(100, 4);
    expect(powdered.colour[1]).toBe(1);
    expect(powdered.colour[0]).toBeCloseTo(1 / 3, 5);
    expect(Math.max(...lit({}).colour)).toBe(1);
    expect(opticsOf(plainSurface({ emission_gas: 'neon' })).glow.nits).toEqual([0, 0, 0]);
  });
});
