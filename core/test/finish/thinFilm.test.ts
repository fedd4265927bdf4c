/** Thin films against what interference must give. */
import { describe, expect, it } from 'vitest';
import { plainSurface } from '../../src/document/index.ts';
import { conductor, dielectric } from '../../src/finish/fresnel.ts';
import { filmedReflectance, metalReflectance } from '../../src/finish/metals.ts';
import { opticsOf } from '../../src/finish/optics.ts';
import { filmReflectance } from '../../src/finish/thinFilm.ts';

const exact = (phase: number): [number, number] => [Math.cos(phase), Math.sin(phase)];

describe('a thin film', () => {
  it('of no thickness, or of the index of air, is not there', () => {
    for (const cosine of [0.05, 0.3, 0.7, 1]) {
      const bare = conductor(cosine, 2.74, 3.81);
      expect(filmReflectance(cosine, 1.9, 0, 550, 2.74, 3.81, exact)).toBeCloseTo(bare, 10);
      expect(filmReflectance(cosine, 1, 310, 550, 2.74, 3.81, exact)).toBeCloseTo(bare, 10);
    }
  });

  it('reflects all that grazes it, whatever it is made of', () => {
    for (const film of [1, 1.33, 3])
      expect(filmReflectance(0, film, 300, 550, 0.9, 2, exact)).toBeCloseTo(1, 4);
  });

  it('a quarter wave thick, of the root of the index below, reflects nothing facing', () => {
    const film = Math.sqrt(2.25);
    expect(filmReflectance(1, film, 550 / (4 * film), 550, 2.25, 0, exact)).toBeCloseTo(0, 12);
    // and half a wave thick it is not there
    expect(filmReflectance(1, film, 550 / (2 * film), 550, 2.25, 0, exact)).toBeCloseTo(
      dielectric(1, 2.25),
      12,
    );
  });

  it('repeats with every half wave, counted along its own slant', () => {
    const cosine = 0.4;
    const film = 1.6;
    const slant = Math.sqrt(1 - (1 - cosine * cosine) / (film * film));
    const more = 600 / (2 * film * slant);
    const once = filmReflectance(cosine, film, 120, 600, 0.2, 3.4, exact);
    expect(filmReflectance(cosine, film, 120 + 3 * more, 600, 0.2, 3.4, exact)).toBeCloseTo(once, 10);
  });

  it('sums all reflections between its faces', () => {
    // the series of Airy's formula itself, facing, on a dielectric: r12 + t12 t21 r23 e^(2iβ) Σ (r21 r23 e^(2iβ))^m
    const [n2, n3, d, nm] = [1.7, 1.3, 200, 500];
    const r12 = (1 - n2) / (1 + n2);
    const r23 = (n2 - n3) / (n2 + n3);
    let [re, im] = [r12, 0];
    for (let m = 0; m < 60; m++) {
      const size = (1 - r12 * r12) * r23 * (-r12 * r23) ** m;
      const phase = ((4 * Math.PI * n2 * d) / nm) * (m + 1);
      re += size * Math.cos(phase);
      im += size * Math.sin(phase);
    }
    expect(filmReflectance(1, n2, d, nm, n3, 0, exact)).toBeCloseTo(re * re + im * im, 12);
  });

  it('of oxide on titanium goes through straw, violet and blue as it grows', () => {
    const [straw, violet, blue] = [0.02, 0.035, 0.05].map((thickness) =>
      filmedReflectance('titanium', { ior: 2.4, thickness }, 1),
    );
    expect(straw[0]).toBeGreaterThan(straw[2] * 1.4);
    expect(violet[0]).toBeGreaterThan(violet[1] * 0.98);
    expect(blue[2]).toBeGreaterThan(blue[0] * 1.5);
    for (const colour of [straw, violet, blue])
      for (const v of colour) {
        expect(v).toBeGreaterThanOrEqual(0);
        expect(v).toBeLessThanOrEqual(1);
      }
    expect(filmedReflectance('titanium', { ior: 2.4, thickness: 0 }, 0.6)[1]).toBeCloseTo(
      metalReflectance('titanium', 0.6)[1],
      10,
    );
  });
});

describe('tint', () => {
  const silver = { base_metalness: 1, base_metal: 'silver' as const };
  const facing = (more: object) => opticsOf(plainSurface({ ...silver, ...more })).metalFacing;

  it('turns silver to gold: red over green over blue, and as bright at the edge', () => {
    const [r, g, b] = facing({ tint_warmth: 1 });
    expect(r).toBeGreaterThan(g);
    expect(g).toBeGreaterThan(b * 1.4);
    const plain = opticsOf(plainSurface(silver));
    const warm = opticsOf(plainSurface({ ...silver, tint_warmth: 1 }));
    expect(warm.roughness).toBe(plain.roughness);
    for (const v of warm.metalOver) expect(v).toBeLessThanOrEqual(1);
  });

  it('takes all colour out at no strength, and does nothing when it is left alone', () => {
    const [r, g, b] = facing({ base_metal: 'gold', tint_strength: 0 });
    expect(Math.max(r, g, b) - Math.min(r, g, b)).toBeLessThan(0.01);
    expect(facing({ tint_hue: 0 })).toEqual(facing({}));
  });
});
