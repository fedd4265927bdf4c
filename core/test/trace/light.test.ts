import { describe, expect, it } from 'vitest';
import type { Vec } from '../../src/light/placing.ts';
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

/** A matte white-ish floor in the plane y = 0, reflecting `albedo` and nothing glossy. */
const ALBEDO = 0.5;
const floor = (half = 5) => ({
  triangles: quad([-half, 0, half], [2 * half, 0, 0], [0, 0, -2 * half]),
  surface: { base_color: [ALBEDO, ALBEDO, ALBEDO], specular_weight: 0, specular_roughness: 1 },
});
const down: Vec = [0, -1, 0];
const placed = (position: Vec, colour: Vec = [1, 1, 1]) => ({
  position,
  forward: down,
  right: [1, 0, 0] as Vec,
  up: [0, 0, -1] as Vec,
  colour,
});

/** Irradiance at the origin, from what the matte floor sends up: E = L π / albedo. */
function irradiance(lights: TestLight[], samples = 256, aside = 0): number {
  const scene = sceneOf([floor()], { lights });
  const picture = traced(scene, spotView([aside, 3, 0], down), samples);
  return (meanOf(picture, 1) * Math.PI) / ALBEDO;
}

/**
 * Configuration factor from a small plane to a parallel rectangle a × b whose corner lies on its normal at
 * distance c (Howell, A Catalog of Radiation Heat Transfer Configuration Factors, B-3).
 */
function cornerFactor(a: number, b: number, c: number): number {
  const [x, y] = [a / c, b / c];
  const [rx, ry] = [Math.sqrt(1 + x * x), Math.sqrt(1 + y * y)];
  return ((x / rx) * Math.atan(y / rx) + (y / ry) * Math.atan(x / ry)) / (2 * Math.PI);
}

describe('area light', () => {
  it('gives the closed-form irradiance under a rectangle within 1 %', () => {
    for (const [width, height, distance, nits] of [
      [1, 1, 1, 10],
      [3, 0.2, 0.7, 4],
      [0.05, 0.05, 2, 900],
      [8, 8, 0.5, 1],
    ]) {
      const light: TestLight = {
        kind: 'area',
        name: 'a',
        placed: placed([0, distance, 0], [nits, nits, nits]),
        width,
        height,
        shadow: true,
      };
      const exact = nits * Math.PI * 4 * cornerFactor(width / 2, height / 2, distance);
      expect(irradiance([light]) / exact).toBeGreaterThan(0.99);
      expect(irradiance([light]) / exact).toBeLessThan(1.01);
    }
  });

  it('lights like a disc from far enough: π L sin² of the half angle', () => {
    // a regular polygon of many sides would be a disc; a glowing fan of triangles is one
    const sides = 96;
    const [radius, height] = [0.6, 0.9];
    const fan: number[] = [];
    for (let i = 0; i < sides; i++) {
      const at = (k: number) => [
        radius * Math.cos((k * 2 * Math.PI) / sides),
        height,
        radius * Math.sin((k * 2 * Math.PI) / sides),
      ];
      fan.push(0, height, 0, ...at(i), ...at(i + 1));
    }
    const lamp = {
      triangles: fan,
      surface: { base_color: [0, 0, 0], specular_weight: 0, emission_luminance: 5 },
    };
    const picture = traced(sceneOf([floor(), lamp]), spotView([0, 0.8, 0], down), 256);
    const exact = (5 * Math.PI * radius ** 2) / (radius ** 2 + height ** 2);
    expect((meanOf(picture, 1) * Math.PI) / ALBEDO / exact).toBeGreaterThan(0.99);
    expect((meanOf(picture, 1) * Math.PI) / ALBEDO / exact).toBeLessThan(1.01);
  });

  it('gives it on a floor of large triangles too, which no ray may hit again where it starts', () => {
    const light: TestLight = {
      kind: 'area',
      name: 'a',
      placed: placed([0, 0.5, 0]),
      width: 2,
      height: 2,
      shadow: true,
    };
    for (const half of [1, 30, 300]) {
      const picture = traced(sceneOf([floor(half)], { lights: [light] }), spotView([0, 3, 0], down), 256);
      const ratio = meanOf(picture, 1) / ALBEDO / (4 * cornerFactor(1, 1, 0.5));
      expect(ratio).toBeGreaterThan(0.99);
      expect(ratio).toBeLessThan(1.01);
    }
  });

  it('shines on one side only and is stopped by what stands between', () => {
    const light: TestLight = {
      kind: 'area',
      name: 'a',
      placed: placed([0, 1, 0]),
      width: 1,
      height: 1,
      shadow: true,
    };
    const away = { ...light, placed: { ...light.placed, forward: [0, 1, 0] as Vec } };
    expect(irradiance([away], 16)).toBe(0);
    const lid = { triangles: quad([-2, 0.5, 2], [4, 0, 0], [0, 0, -4]) };
    const view = spotView([0, 0.3, 0], down);
    const dark = traced(sceneOf([floor(), lid], { lights: [light] }), view, 16);
    expect(meanOf(dark, 1)).toBe(0);
    const through = traced(sceneOf([floor(), lid], { lights: [{ ...light, shadow: false }] }), view, 64);
    expect(meanOf(through, 1)).toBeGreaterThan(0.05);
  });
});

describe('spot and directional light', () => {
  const spot = (position: Vec, cosInner = 0.9, cosOuter = 0.8): TestLight => ({
    kind: 'spot',
    name: 's',
    placed: placed(position, [100, 100, 100]),
    cosInner,
    cosOuter,
    shadow: true,
  });

  it('of a point falls off with the square of the distance and the cosine, all around it', () => {
    const point = (position: Vec): TestLight => ({
      ...spot(position),
      kind: 'point',
      placed: { ...spot(position).placed, forward: [0, 1, 0] },
    });
    for (const h of [0.5, 1, 2.9]) expect(irradiance([point([0, h, 0])], 4)).toBeCloseTo(100 / (h * h), 2);
    const d2 = 1 + 0.8 * 0.8;
    expect(irradiance([point([0, 1, 0])], 4, 0.8)).toBeCloseTo(100 / d2 / Math.sqrt(d2), 2);
  });

  it('falls off with the square of the distance and the cosine', () => {
    for (const h of [0.5, 1, 2, 2.9]) expect(irradiance([spot([0, h, 0])], 4)).toBeCloseTo(100 / (h * h), 2);
    const aside = 0.4;
    const d2 = 1 + aside * aside;
    // seen from aside: candela times cosine over distance squared
    expect(irradiance([spot([0, 1, 0])], 4, aside)).toBeCloseTo(100 / d2 / Math.sqrt(d2), 2);
  });

  it('ends at the cone, and fades as KHR_lights_punctual says', () => {
    const at = (angle: number) =>
      irradiance([spot([0, 1, 0])], 4, Math.tan(angle)) / (100 * Math.cos(angle) ** 3);
    expect(at(Math.acos(0.79))).toBe(0);
    expect(at(Math.acos(0.91))).toBeCloseTo(1, 3);
    const half = ((0.85 - 0.8) / 0.1) ** 2;
    expect(at(Math.acos(0.85))).toBeCloseTo(half, 2);
  });

  it('gives lux as it is asked for', () => {
    const sun: TestLight = {
      kind: 'directional',
      name: 'd',
      placed: placed([0, 9, 0], [3, 3, 3]),
      shadow: true,
    };
    expect(irradiance([sun], 4)).toBeCloseTo(3, 4);
  });
});

describe('glowing surface', () => {
  it('lights the floor like the rectangle it is', () => {
    const lamp = {
      triangles: quad([-0.5, 1, -0.5], [1, 0, 0], [0, 0, 1]),
      surface: { base_color: [0, 0, 0], specular_weight: 0, emission_luminance: 20 },
    };
    const scene = sceneOf([floor(), lamp]);
    const picture = traced(scene, spotView([0, 0.9, 0], down), 256);
    const exact = 20 * Math.PI * 4 * cornerFactor(0.5, 0.5, 1);
    expect((meanOf(picture, 1) * Math.PI) / ALBEDO / exact).toBeGreaterThan(0.99);
    expect((meanOf(picture, 1) * Math.PI) / ALBEDO / exact).toBeLessThan(1.01);
  });
});

describe('surround', () => {
  it('gives π times its radiance under a uniform sky', () => {
    const scene = sceneOf([floor()], {
      surround: { picture: flatSurround(0.7), gain: 2, turn: 0.4, seen: true },
    });
    const picture = traced(scene, spotView([0, 3, 0], down), 64);
    expect(meanOf(picture, 1) / (ALBEDO * 1.4)).toBeCloseTo(1, 2);
  });

  /** One pixel of a dark sky, 1e5 times as bright. */
  const sunny = () => {
    const picture = { width: 256, height: 128, data: new Float32Array(256 * 128 * 3).fill(0.01) };
    const at = (20 * 256 + 200) * 3;
    picture.data.fill(1000, at, at + 3);
    return picture;
  };

  it('finds a sun 1e5 times brighter than the sky within 16 samples', () => {
    const picture = sunny();
    const scene = sceneOf([floor()], { surround: { picture, gain: 1, turn: 0, seen: true } });
    const view = spotView([0, 3, 0], down, 16);
    const few = traced(scene, view, 16);
    const many = traced(scene, view, 512, 9);
    expect(Math.abs(meanOf(few, 1) / meanOf(many, 1) - 1)).toBeLessThan(0.02);
    // no pixel misses it: each lies near the mean
    const mean = meanOf(many, 1);
    for (let i = 1; i < few.length; i += 4) expect(Math.abs(few[i] / mean - 1)).toBeLessThan(0.5);
    // what the sun must give: radiance × its solid angle × cosine, the rest of the sky beside it
    const elevation = (0.5 - 20.5 / 128) * Math.PI;
    const solid = ((2 * Math.PI) / 256) * (Math.PI / 128) * Math.cos(elevation);
    const expected = (ALBEDO / Math.PI) * (1000 * solid * Math.sin(elevation) + 0.01 * Math.PI);
    expect(mean / expected).toBeGreaterThan(0.97);
    expect(mean / expected).toBeLessThan(1.03);
  });

  it('samples directions with the density it reports, which integrates to one', () => {
    const probe = new Probe(
      sceneOf([floor()], { surround: { picture: sunny(), gain: 1, turn: 0.7, seen: true } }),
    );
    // ∫ pdf dω on a grid that divides each cell of the table alike
    const [across, down] = [256 * 4, 128 * 8];
    let sum = 0;
    for (let i = 0; i < down; i++) {
      const elevation = (0.5 - (i + 0.5) / down) * Math.PI;
      const [y, s] = [Math.sin(elevation), Math.cos(elevation)];
      const row = new Float32Array(across * 3);
      for (let j = 0; j < across; j++) {
        const phi = ((j + 0.5) / across) * 2 * Math.PI;
        row.set([s * Math.cos(phi), y, s * Math.sin(phi)], j * 3);
      }
      const looked = probe.many('look', 0, 0, row);
      for (let k = 3; k < looked.length; k += 4) sum += looked[k] * s;
    }
    expect((sum * 2 * Math.PI * Math.PI) / (across * down)).toBeCloseTo(1, 2);
    for (let k = 0; k < 200; k++) {
      const [r, , , density, ...direction] = probe.sky((k * 0.618) % 1, (k * 0.377) % 1);
      const seen = probe.look(direction);
      expect(seen[3] / density).toBeCloseTo(1, 2);
      expect(seen[0] / r).toBeCloseTo(1, 2);
    }
  });
});

describe('glass', () => {
  it('dims light by Beer and Lambert’s law through a slab', () => {
    const depth = 0.1;
    const thickness = 0.25;
    const box = [
      ...quad([-1, 0, 1], [2, 0, 0], [0, 2, 0]),
      ...quad([1, 0, 1 - thickness], [-2, 0, 0], [0, 2, 0]),
    ];
    const surface = {
      specular_roughness: 0,
      specular_ior: 1.5,
      transmission_weight: 1,
      transmission_color: [0.6, 0.3, 0.9],
      transmission_depth: depth,
    };
    const scene = sceneOf([{ triangles: box, surface }], {
      surround: { picture: flatSurround(1), gain: 1, turn: 0, seen: true },
      bounces: 24,
    });
    const view = { ...spotView([0, 1, 3], [0, 0, -1], 16), bounces: 24 };
    const picture = traced(scene, view, 64);
    // reflected and transmitted series of a slab at normal incidence, white all around
    const r = ((1.5 - 1) / (1.5 + 1)) ** 2;
    [0.6, 0.3, 0.9].forEach((colour, c) => {
      const t = colour ** (thickness / depth);
      const through = ((1 - r) ** 2 * t) / (1 - r * r * t * t);
      const back = r + ((1 - r) ** 2 * r * t * t) / (1 - r * r * t * t);
      expect(meanOf(picture, c)).toBeCloseTo(through + back, 2);
    });
  });
});

describe('convergence', () => {
  it('errs less as samples grow, at least as fast as N^-1/2', () => {
    const light: TestLight = {
      kind: 'area',
      name: 'a',
      placed: placed([0.4, 1, 0.2], [8, 8, 8]),
      width: 1,
      height: 1,
      shadow: true,
    };
    const scene = sceneOf([floor(), { triangles: quad([-0.2, 0.3, 0.1], [0.3, 0, 0], [0, 0.1, -0.3]) }], {
      lights: [light],
    });
    const view = { ...spotView([0, 3, 0], down, 24), right: [0.3, 0, 0] as Vec, up: [0, 0, 0.3] as Vec };
    const truth = traced(scene, view, 4096, 5);
    const rms = (samples: number) => {
      const picture = traced(scene, view, samples, 2);
      let sum = 0;
      for (let i = 1; i < picture.length; i += 4) sum += (picture[i] - truth[i]) ** 2;
      return Math.sqrt(sum / (picture.length / 4));
    };
    expect(rms(16) / rms(256)).toBeGreaterThan(4);
  });
});
