/** Glass that parts colours, against Snell's law at each wavelength. */
import { describe, expect, it } from 'vitest';
import { newFeed, type Surface } from '../../src/document/index.ts';
import { colourMatching, xyzToRec709 } from '../../src/maths/colour.ts';
import type { Vec } from '../../src/light/placing.ts';
import { box, flatSurround, meanOf, quad, sceneOf, spotView, traced } from './sceneFixture.ts';

const GLASS: Partial<Surface> = {
  transmission_weight: 1,
  specular_roughness: 0,
  specular_ior: 1.6,
  transmission_dispersion_scale: 1,
  transmission_dispersion_abbe_number: 20,
};
const TILT = 0.5;

/** What each channel has of an even spectrum at a wavelength in micrometres; parts of it below zero. */
const hueAt = (wavelength: number) => xyzToRec709(...colourMatching(wavelength * 1000));
/** Index at a wavelength in micrometres, from the Abbe number's own definition. */
function indexAt(wavelength: number, { nd, abbe }: { nd: number; abbe: number }): number {
  const [f, d, c] = [0.48613, 0.58756, 0.65627].map((l) => 1 / (l * l));
  const b = (nd - 1) / (abbe * (f - c));
  return nd + b * (1 / (wavelength * wavelength) - d);
}

/** Share of light that crosses an interface (Fresnel), from inside an index at a sine within. */
function crosses(n: number, cosIn: number): number {
  const sin2 = n * n * (1 - cosIn * cosIn);
  const cosOut = Math.sqrt(1 - sin2);
  const s = ((n * cosIn - cosOut) / (n * cosIn + cosOut)) ** 2;
  const p = ((cosIn - n * cosOut) / (cosIn + n * cosOut)) ** 2;
  return 1 - (s + p) / 2;
}

/** A wedge seen from above: a level face, and one tilted below it; far below a wall that brightens along y. */
function wedge(surface: Partial<Surface>, feeds = true) {
  const top = quad([-1, -1, 1], [2, 0, 0], [0, 2, 0]);
  const down: Vec = [0, Math.cos(TILT) * 2, Math.sin(TILT) * 2];
  const below = quad([-1, -Math.cos(TILT), 0.5 - Math.sin(TILT)], down, [2, 0, 0]);
  const wall = quad([-4, -4, -1], [8, 0, 0], [0, 8, 0]);
  const ramp = { ...newFeed('a', 'emission_luminance', 0), source: 'up' as const };
  // many stops: between two a place takes one of them by chance
  ramp.stops = Array.from({ length: 24 }, (_, i) => ({ at: i / 23, value: (i / 23) * 8, colour: [1, 1, 1] }));
  const scene = sceneOf([
    { triangles: [...top, ...below], surface },
    {
      triangles: wall,
      surface: { base_color: [0, 0, 0], specular_weight: 0, emission_luminance: 1 },
      feeds: feeds ? [ramp] : [],
    },
  ]);
  scene.parts.group[1] = scene.groups.push('Wall') - 1;
  const picture = traced(scene, { ...spotView([0, 0, 2], [0, 0, -1]), bounces: 3 }, 8192);
  return [0, 1, 2].map((c) => meanOf(picture, c));
}

describe('glass that parts colours', () => {
  it('bends each wavelength by Snell’s law, by its Abbe number', () => {
    const seen = wedge(GLASS);
    const sums = [0, 0, 0];
    const whole = [0, 0, 0];
    const steps = 400;
    for (let k = 0; k < steps; k++) {
      const wavelength = 0.38 + (0.37 * (k + 0.5)) / steps;
      const n = indexAt(wavelength, { nd: 1.6, abbe: 20 });
      const out = Math.asin(n * Math.sin(TILT));
      const y = -1.5 * Math.tan(out - TILT);
      const value = ((y + 4) / 8) * 8 * crosses(n, 1) * crosses(n, Math.cos(TILT));
      hueAt(wavelength).forEach((hue, c) => {
        sums[c] += hue * value;
        whole[c] += hue;
      });
    }
    const expected = sums.map((sum, c) => sum / whole[c]);
    const ratios = expected.map((v, c) => seen[c] / v);
    expect(Math.abs(seen[0] - seen[2])).toBeGreaterThan(0.05);
    ratios.forEach((ratio) => expect(Math.abs(ratio - 1)).toBeLessThan(0.01));
    // the fringe is as wide as the spectrum makes it
    for (const [a, b] of [
      [0, 1],
      [1, 2],
      [0, 2],
    ])
      expect(
        Math.abs((seen[a] - seen[b]) / (expected[a] - expected[b]) - 1),
        `${a}, ${b}: ${seen} for ${expected}`,
      ).toBeLessThan(0.2);
  });

  it('leaves white light white where nothing tells the wavelengths apart, and parts nothing at scale 0', () => {
    const flat = wedge(GLASS, false);
    for (const v of flat) expect(Math.abs(v / flat[1] - 1)).toBeLessThan(0.02);
    const whole = wedge({ ...GLASS, transmission_dispersion_scale: 0 });
    expect(Math.max(...whole) - Math.min(...whole)).toBeLessThan(1e-4);
  });

  it('loses nothing in a white furnace, smooth and rough', () => {
    for (const specular_roughness of [0, 0.4]) {
      const scene = sceneOf(
        [{ triangles: box([-1, -1, -1], [1, 1, 1]), surface: { ...GLASS, specular_roughness } }],
        {
          surround: { picture: flatSurround(1), gain: 1, turn: 0, seen: true },
          bounces: 64,
        },
      );
      const picture = traced(scene, { ...spotView([0.2, 0.1, 3], [0, 0, -1]), bounces: 64 }, 256);
      for (const c of [0, 1, 2]) expect(Math.abs(meanOf(picture, c) - 1)).toBeLessThan(0.03);
    }
  });
});
