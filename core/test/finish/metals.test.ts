import { describe, expect, it } from 'vitest';
import { plainSurface } from '../../src/document/index.ts';
import { conductor, dielectric, f0OfIor, f82Tint } from '../../src/finish/fresnel.ts';
import { metalReflectance } from '../../src/finish/metals.ts';
import { readyFinish, READY_FINISHES } from '../../src/finish/readyFinishes.ts';
import { reflectanceAt } from '../../src/finish/reflectance.ts';
import { luminance } from '../../src/maths/colour.ts';

describe('Fresnel', () => {
  it('is ((n−1)/(n+1))² facing, 1 grazing, and symmetric across the interface', () => {
    for (const n of [1.1, 1.33, 1.5, 2.4]) {
      expect(dielectric(1, n)).toBeCloseTo(f0OfIor(n), 12);
      expect(dielectric(1e-9, n)).toBeCloseTo(1, 6);
      const c = 0.7;
      const inside = Math.sqrt(1 - (1 - c * c) / (n * n));
      expect(dielectric(inside, 1 / n)).toBeCloseTo(dielectric(c, n), 12);
    }
  });

  it('loses p-polarised light at Brewster’s angle: half of the s reflectance is left', () => {
    const n = 1.5;
    const c = Math.cos(Math.atan(n));
    const t = Math.sqrt(1 - (1 - c * c) / (n * n));
    expect(dielectric(c, n)).toBeCloseTo(0.5 * ((c - n * t) / (c + n * t)) ** 2, 12);
  });

  it('reflects all beyond the critical angle', () => {
    expect(dielectric(Math.cos(Math.asin(1 / 1.5) + 0.01), 1 / 1.5)).toBe(1);
    expect(dielectric(Math.cos(Math.asin(1 / 1.5) - 0.01), 1 / 1.5)).toBeLessThan(1);
  });

  it('of a conductor without absorption is that of a dielectric', () => {
    for (const c of [0.1, 0.4, 0.9]) expect(conductor(c, 1.5, 0)).toBeCloseTo(dielectric(c, 1.5), 12);
    expect(conductor(1, 0.2, 3.4)).toBeCloseTo(((0.2 - 1) ** 2 + 3.4 ** 2) / ((0.2 + 1) ** 2 + 3.4 ** 2), 12);
  });

  it('by F82-tint meets its facing colour and its tint at 82°', () => {
    const at82 = 1 / 7;
    expect(f82Tint(1, 0.6, 0.8)).toBeCloseTo(0.6, 12);
    expect(f82Tint(at82, 0.6, 0.8) / f82Tint(at82, 0.6, 1)).toBeCloseTo(0.8, 9);
  });
});

describe('measured metals', () => {
  it('have the colours published for them at normal incidence, within 0.07', () => {
    // sources of the index and projections to three channels differ by this much among themselves;
    // linear Rec.709 from measured n and k, as commonly tabulated (e.g. Akenine-Möller et al., Real-Time Rendering, 4th ed., table 9.2)
    const published = {
      gold: [1.0, 0.782, 0.344],
      silver: [0.972, 0.96, 0.915],
      copper: [0.955, 0.638, 0.538],
      aluminium: [0.912, 0.914, 0.92],
    } as const;
    for (const [metal, rgb] of Object.entries(published)) {
      const got = metalReflectance(metal as keyof typeof published, 1);
      rgb.forEach((v, c) => expect(Math.abs(got[c] - v), `${metal} ${c}`).toBeLessThan(0.07));
    }
  });

  it('go white towards grazing', () => {
    for (const v of metalReflectance('gold', 1e-4)) expect(v).toBeGreaterThan(0.98);
  });
});

describe('reflectance of finishes', () => {
  it('never exceeds one, and the coat adds its own', () => {
    for (const finish of READY_FINISHES) {
      for (let i = 0; i <= 90; i += 5) {
        for (const v of reflectanceAt(finish.surface, Math.cos((i * Math.PI) / 180))) {
          expect(v, finish.name).toBeGreaterThanOrEqual(0);
          expect(v, finish.name).toBeLessThanOrEqual(1 + 1e-9);
        }
      }
    }
    const bare = plainSurface({ specular_weight: 0 });
    const coated = plainSurface({ specular_weight: 0, coat_weight: 1, coat_ior: 1.6 });
    expect(luminance(...reflectanceAt(bare, 1))).toBe(0);
    expect(reflectanceAt(coated, 1)[0]).toBeCloseTo(f0OfIor(1.6), 9);
  });

  it('hands out copies of ready finishes', () => {
    const one = readyFinish('leaf-gold');
    one.surface.specular_roughness = 0.9;
    expect(readyFinish('leaf-gold').surface.specular_roughness).not.toBe(0.9);
  });
});
