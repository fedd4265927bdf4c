import { describe, expect, it } from 'vitest';
import type { Vec } from '../../src/light/placing.ts';
import { dielectric } from '../../src/finish/fresnel.ts';
import { flatSurround, meanOf, quad, sceneOf, spotView, traced } from './sceneFixture.ts';

const down: Vec = [0, -1, 0];
const clear = {
  base_color: [1, 1, 1],
  transmission_weight: 1,
  specular_roughness: 0,
  specular_ior: 1.5,
  geometry_thin_walled: true,
};
const sheetAt = (y: number, surface: object = clear) => ({
  triangles: quad([-5, y, 5], [10, 0, 0], [0, 0, -10]),
  surface,
});
const floor = {
  triangles: quad([-5, 0, 5], [10, 0, 0], [0, 0, -10]),
  surface: { base_color: [0.5, 0.5, 0.5], specular_weight: 0, specular_roughness: 1 },
};

describe('a sheet of thin glass', () => {
  it('loses nothing in a white furnace, tilted, tinted white, or half opaque', () => {
    for (const surface of [
      clear,
      { ...clear, transmission_weight: 0.4 },
      { ...clear, specular_roughness: 0.4 },
    ]) {
      for (const way of [down, [0.6, -0.8, 0] as Vec]) {
        const scene = sceneOf([sheetAt(0, surface), sheetAt(-1, surface)], {
          surround: { picture: flatSurround(1), gain: 1, turn: 0, seen: true },
        });
        const view = { ...spotView([-way[0] * 3, -way[1] * 3, 0], way), bounces: 64 };
        expect(meanOf(traced(scene, view, 1024), 1)).toBeGreaterThan(0.985);
        expect(meanOf(traced(scene, view, 1024), 1)).toBeLessThan(1.015);
      }
    }
  });

  it('lets the share of a light through that its face does not reflect', () => {
    const lamp = {
      kind: 'spot' as const,
      name: 'far',
      placed: {
        position: [0, 100, 0] as Vec,
        forward: down,
        right: [1, 0, 0] as Vec,
        up: [0, 0, -1] as Vec,
        colour: [10_000, 10_000, 10_000] as Vec,
      },
      cosOuter: Math.cos(0.2),
      cosInner: Math.cos(0.1),
      shadow: true,
    };
    const under = (pieces: Parameters<typeof sceneOf>[0]) =>
      meanOf(traced(sceneOf([floor, ...pieces], { lights: [lamp] }), spotView([0, 0.4, 0], down), 64), 1);
    const bare = under([]);
    const through = 1 - dielectric(1, 1.5);
    expect(under([sheetAt(0.5)]) / bare).toBeCloseTo(through, 2);
    expect(under([sheetAt(0.5), sheetAt(0.7)]) / bare).toBeCloseTo(through ** 2, 2);
    const green = { ...clear, transmission_color: [0.2, 0.6, 0.2] };
    expect(under([sheetAt(0.5, green)]) / bare).toBeCloseTo(through * 0.6, 2);
    // a wall of glass with a thickness stops light that is sought straight
    expect(under([sheetAt(0.5, { ...clear, geometry_thin_walled: false })])).toBeLessThan(bare * 0.01);
  });

  it('shows what lies behind it, at its place, and leaves the alpha of what it covers', () => {
    const glowing = {
      triangles: quad([-5, 0, 5], [10, 0, 0], [0, 0, -10]),
      surface: { base_color: [0, 0, 0], specular_weight: 0, emission_luminance: 3 },
    };
    const view = spotView([0, 3, 0], down);
    const through = 1 - dielectric(1, 1.5);
    expect(meanOf(traced(sceneOf([glowing, sheetAt(1)]), view, 4096), 1) / 3).toBeCloseTo(through, 2);
    const alone = sceneOf([sheetAt(1)], {
      surround: { picture: flatSurround(1), gain: 1, turn: 0, seen: false },
    });
    expect(meanOf(traced(alone, view, 4096), 3)).toBeCloseTo(1 - through, 2);
  });
});
