import { describe, expect, it } from 'vitest';
import { readyProfile } from '../../src/light/profile.ts';
import { profileTexture } from '../../src/scene/profileTexture.ts';
import { luminance } from '../../src/maths/colour.ts';
import { textureOf, type Texture } from '../../src/texture/texture.ts';
import { ALBEDO, any, down, MATTE, placed, plane, within } from './lightFixture.ts';
import {
  flatSurround,
  meanOf,
  Probe,
  quad,
  sceneOf,
  spotView,
  traced,
  type TestLight,
} from './sceneFixture.ts';

const HEIGHT = 1;
const RADIUS = 0.2;

const spot = (changes: object = {}): TestLight => ({
  ...any,
  kind: 'spot',
  cosInner: Math.cos(1.3),
  cosOuter: Math.cos(1.35),
  radius: RADIUS,
  placed: placed([0, HEIGHT, 0], 10),
  ...changes,
});

/** What falls on the floor at a place, with a screen over its left half at a height or without. */
function irradiance(light: TestLight, x: number, screen: number | null = null, textures: Texture[] = []) {
  const shade = { triangles: quad([-4, screen ?? 0, -4], [4, 0, 0], [0, 0, 8]) };
  const solids = [{ triangles: plane(), surface: MATTE }, ...(screen === null ? [] : [shade])];
  const scene = sceneOf(solids, { lights: [light], textures, bounces: 1 });
  return (meanOf(traced(scene, spotView([x, 0.1, 0], down), 1024), 1) * Math.PI) / ALBEDO;
}

/** Share of a disc of radius one that lies right of a line at `a`. */
const rightOf = (a: number) =>
  a <= -1 ? 1 : a >= 1 ? 0 : (Math.acos(a) - a * Math.sqrt(1 - a * a)) / Math.PI;

describe('spots with a radius', () => {
  it('give what candela spread evenly over their disc give', () => {
    // the mean over the disc of h / (h² + r²)^1.5
    const exact = (20 * HEIGHT * (1 / HEIGHT - 1 / Math.hypot(HEIGHT, RADIUS))) / RADIUS ** 2;
    within(irradiance(spot(), 0), exact);
    within(irradiance(spot({ radius: 0 }), 0), 10);
  });

  it('soften shadows over the width that their disc has from there', () => {
    const screen = 0.5;
    const small = spot({ radius: 0.05 });
    for (const x of [-0.06, -0.03, 0, 0.02, 0.04, 0.06]) {
      // as seen from the floor, the screen's edge crosses the disc at −x · (h − s) / s
      const edge = (-x * (HEIGHT - screen)) / screen / 0.05;
      const share = irradiance(small, x, screen) / irradiance(small, x);
      expect(share, `at ${x}`).toBeCloseTo(rightOf(edge), 1.7);
      expect(irradiance(spot({ radius: 0 }), x === 0 ? 0.001 : x, screen) > 0).toBe(x >= 0);
    }
  });

  it('are balls where a profile says what goes where', () => {
    const flood = profileTexture('flood', readyProfile('flood'));
    const lamp = { ...spot({ radius: 0.05, profile: 'flood' }), kind: 'point' } as TestLight;
    const bare = { ...lamp, radius: 0 } as TestLight;
    within(irradiance(lamp, 0, null, [flood]), irradiance(bare, 0, null, [flood]), 0.02);
    const half = irradiance(lamp, 0, 0.5, [flood]) / irradiance(lamp, 0, null, [flood]);
    expect(half).toBeCloseTo(0.5, 1.7);
  });
});

describe('beams thrown through something', () => {
  const halves = textureOf(
    'halves',
    { width: 2, height: 1, data: Uint8Array.from([0, 0, 0, 255, 255, 255, 255, 255]) },
    'colour',
  );
  const profile = profileTexture('narrow', readyProfile('beam'));

  /** Chance of the first of two lights at a place of a matte floor. */
  function chanceAt(lights: TestLight[], x: number, textures: Texture[]): number {
    const scene = sceneOf([{ triangles: plane(), surface: MATTE }], {
      lights,
      textures,
      surround: { picture: flatSurround(0), gain: 0, turn: 0, seen: true },
    });
    return new Probe(scene).lights([x, 0, 0, 0, 1, 0, 0, 1, 0, 1, 0, 1, 0], lights.length)[1];
  }

  it('are chosen by what goes through towards a place', () => {
    const other: TestLight = { ...any, kind: 'point', placed: placed([0, HEIGHT, 0], 10) };
    const gobo = spot({ radius: 0, pattern: { texture: 'halves', scale: 1, soft: 0 } });
    // the pattern's pixels have their middles at its edges: an eighth of the way is an eighth of the light
    for (const x of [-0.75, -0.5, 0, 0.5, 0.75]) {
      const seen = luminance(1, 1, 1) * (0.5 + x / 2);
      expect(chanceAt([gobo, other], x, [halves]), `at ${x}`).toBeCloseTo(seen / (1 + seen), 2);
    }
    // where nothing comes, it is next to never sought, and never not
    const dark = chanceAt([gobo, other], -0.999, [halves]);
    expect(dark).toBeGreaterThan(0);
    expect(dark).toBeLessThan(0.02);
  });

  it('are chosen by their profile', () => {
    const other: TestLight = { ...any, kind: 'point', placed: placed([0, HEIGHT, 0], 10) };
    const lamp = { ...spot({ radius: 0, profile: 'narrow' }), kind: 'point' } as TestLight;
    const ahead = chanceAt([lamp, other], 0, [profile]);
    expect(ahead).toBeCloseTo(0.5, 2);
    expect(chanceAt([lamp, other], 3, [profile])).toBeLessThan(0.05);
  });
});
