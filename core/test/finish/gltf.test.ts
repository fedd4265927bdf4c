import { describe, expect, it } from 'vitest';
import { newFeed, plainSurface } from '../../src/document/index.ts';
import { finishOptics, opticsOf } from '../../src/finish/optics.ts';
import { dispersing, gltfAnisotropy, gltfMaterial, openPbrAnisotropy } from '../../src/finish/gltf.ts';
import { metalReflectance } from '../../src/finish/metals.ts';

describe('anisotropy', () => {
  it('goes to glTF with the same widths along and across, and comes back', () => {
    for (let r = 0.05; r <= 0.7; r += 0.05)
      for (let a = 0; a < 0.95; a += 0.1) {
        // OpenPBR 1.1: the widths themselves
        const squash = 1 - a;
        const along = r * r * Math.sqrt(2 / (1 + squash * squash));
        const { roughness, strength } = gltfAnisotropy(r, a);
        const across = roughness ** 2;
        expect(across).toBeCloseTo(along * squash, 12);
        expect(across + (1 - across) * strength ** 2).toBeCloseTo(along, 12);
        const back = openPbrAnisotropy(roughness, strength);
        expect(back.roughness).toBeCloseTo(r, 10);
        expect(back.anisotropy).toBeCloseTo(a, 10);
      }
  });
});

describe('a finish as a glTF material', () => {
  it('takes every dispersion up: 20 over the Abbe number, by the scale where that is beyond the registry', () => {
    for (const dispersion of [0.01, 0.1, 0.219, 0.22, 1, 2]) {
      const { transmission_dispersion_scale: scale, transmission_dispersion_abbe_number: abbe } = dispersing(
        20 / dispersion,
      );
      expect((20 * scale) / abbe).toBeCloseTo(dispersion, 9);
      expect(abbe).toBeLessThanOrEqual(91);
      expect(scale).toBeLessThanOrEqual(1);
    }
    expect(dispersing(0).transmission_dispersion_scale).toBe(0);
  });

  it('gives as much light as its fed and gas-filled surfaces do', () => {
    const surface = plainSurface({ emission_luminance: 4, emission_color: [1, 0.4, 0.1] });
    const feed = newFeed('f', 'emission_luminance', 0);
    feed.stops = feed.stops.map((s) => ({ ...s, value: 6 }));
    const fed = finishOptics({ surface, feeds: [feed], coats: [] });
    const gas = opticsOf(plainSurface({ emission_gas: 'neon', emission_luminance: 4 }));
    for (const optics of [fed, gas, opticsOf(surface)]) {
      const { color, strength } = gltfMaterial(optics).emission;
      color.forEach((v, c) => expect(v * strength).toBeCloseTo(optics.glow.nits[c], 9));
    }
    expect(fed.glow.nits[0]).toBeCloseTo(6, 9);
  });

  it('has the colour of its metal, facing the viewer', () => {
    for (const metal of ['gold', 'chromium', 'iron', 'copper'] as const) {
      const { baseColor, metallic } = gltfMaterial(
        opticsOf(plainSurface({ base_metal: metal, base_metalness: 1 })),
      );
      expect(metallic).toBe(1);
      expect(baseColor).toEqual(metalReflectance(metal, 1));
    }
  });

  it('tints glass by depth where it has depth, at the surface where it has none', () => {
    const glass = { transmission_weight: 1, transmission_color: [0.2, 0.6, 0.9] };
    expect(gltfMaterial(opticsOf(plainSurface({ ...glass, transmission_depth: 0.03 })))).toMatchObject({
      baseColor: [1, 1, 1],
      volume: { distance: 0.03, color: [0.2, 0.6, 0.9] },
    });
    expect(gltfMaterial(opticsOf(plainSurface(glass)))).toMatchObject({
      baseColor: [0.2, 0.6, 0.9],
      volume: { distance: Infinity },
    });
    expect(gltfMaterial(opticsOf(plainSurface({ ...glass, geometry_thin_walled: true }))).volume).toBeNull();
  });
});
