import { describe, expect, it } from 'vitest';
import type { Surface } from '../../src/document/index.ts';
import { box, flatSurround, meanOf, sceneOf, spotView, traced } from './sceneFixture.ts';

const BLOCK = box([-1, -1, -1], [1, 1, 1]);

/** Mean radiance of one spot of a box of two metres, all channels, in a white surround. */
function seen(surface: Partial<Surface>) {
  const scene = sceneOf([{ triangles: BLOCK, surface }], {
    surround: { picture: flatSurround(1), gain: 1, turn: 0, seen: true },
    bounces: 64,
  });
  const picture = traced(scene, { ...spotView([0.13, 0.21, 4], [0, 0, -1]), bounces: 64 }, 600);
  return [0, 1, 2].map((c) => meanOf(picture, c));
}

describe('what lies beneath a surface', () => {
  const wax = {
    subsurface_weight: 1,
    specular_weight: 0,
    subsurface_radius: 0.02,
    subsurface_radius_scale: [1, 0.5, 0.25],
  };

  it('gives back its colour where it is thick, whatever the way of light', () => {
    const colour = [0.8, 0.5, 0.2];
    const got = seen({ ...wax, subsurface_color: colour });
    // the fit of the single-scattering albedo is good to some hundredths (Chiang et al. 2016, fig. 3)
    colour.forEach((v, c) => expect(Math.abs(got[c] - v), `channel ${c}: ${got[c]}`).toBeLessThan(0.035));
    const ahead = seen({
      ...wax,
      subsurface_color: colour,
      subsurface_radius_scale: [1, 1, 1],
    });
    colour.forEach((v, c) => expect(Math.abs(ahead[c] - v)).toBeLessThan(0.035));
  });

  it('carries light on within: beside a lit strip it glows, farther in the colour that goes farther', () => {
    const strip = (x: number) => {
      const scene = sceneOf(
        [
          { triangles: BLOCK, surface: { ...wax, subsurface_color: [0.9, 0.9, 0.9] } },
          { triangles: box([-0.005, -1, 1.004], [0.005, 1, 1.006]), surface: { emission_luminance: 400 } },
        ],
        { bounces: 64 },
      );
      const picture = traced(scene, { ...spotView([x, 0, 4], [0, 0, -1]), bounces: 64 }, 600);
      return [0, 1, 2].map((c) => meanOf(picture, c));
    };
    const [near, far] = [strip(0.03), strip(0.08)];
    for (const c of [0, 1, 2]) expect(near[c]).toBeGreaterThan(far[c] * 1.5);
    expect(far[0]).toBeGreaterThan(far[2] * 2);
    expect(far[0]).toBeGreaterThan(0);
  });
});

describe('cloudy glass', () => {
  it('loses nothing in a white furnace when it takes none', () => {
    for (const ahead of [0, 0.7, -0.5]) {
      const got = seen({
        transmission_weight: 1,
        transmission_depth: 0.4,
        transmission_scatter: [1, 1, 1],
        transmission_scatter_anisotropy: ahead,
      });
      for (const v of got) expect(Math.abs(v - 1), `ahead ${ahead}: ${v}`).toBeLessThan(0.02);
    }
  });

  it('dims what stands behind it by what it scatters', () => {
    // index one: rays go straight, and only those that never scatter see the lit end
    const through = (scatter: number) => {
      const data = Float32Array.from({ length: 64 * 32 * 3 }, (_, i) => {
        const [x, y] = [Math.floor(i / 3) % 64, Math.floor(i / 192)];
        return x < 64 && y > 13 && y < 18 ? 1 : 0;
      });
      const scene = sceneOf(
        [
          {
            triangles: BLOCK,
            surface: {
              transmission_weight: 1,
              specular_ior: 1,
              transmission_depth: 1,
              transmission_scatter: [scatter, scatter, scatter],
              transmission_color: [0.5, 0.5, 0.5],
            },
          },
        ],
        { surround: { picture: { width: 64, height: 32, data }, gain: 1, turn: 0, seen: true }, bounces: 64 },
      );
      return meanOf(traced(scene, { ...spotView([0.13, 0.21, 4], [0, 0, -1]), bounces: 64 }, 800), 0);
    };
    // absorbed over two metres of half a metre⁻¹ · ln 2; what scatters and comes back is little
    expect(through(0)).toBeCloseTo(0.25, 2);
    const [little, more] = [through(0.2), through(1)];
    expect(little).toBeGreaterThan(0.25 * Math.exp(-0.4) - 0.01);
    expect(little).toBeLessThan(0.25);
    expect(more).toBeGreaterThan(0.25 * Math.exp(-2) - 0.01);
    expect(more).toBeLessThan(little);
  });
});
