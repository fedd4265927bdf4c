import { describe, expect, it } from 'vitest';
import type { Vec } from '../../src/light/placing.ts';
import type { Eye } from '../../src/trace/eye.ts';
import { developed } from '../../src/trace/developing.ts';
import { createFilm } from '../../src/trace/film.ts';
import { box, meanOf, quad, sceneOf, spotView, traced, tracerFor, type TestLight } from './sceneFixture.ts';

const PLAIN = { base_metalness: 0, specular_weight: 0, base_diffuse_roughness: 0 };
const DULL = { ...PLAIN, base_weight: 1, base_color: [0.05, 0.05, 0.05] as Vec };
const GLASS = { transmission_weight: 1, specular_ior: 1.5, specular_roughness: 0.02, base_metalness: 0 };
const MIRROR = { base_metalness: 1, base_weight: 1, base_color: [1, 1, 1] as Vec, specular_roughness: 0.02 };

const floor = (size: number) => quad([-size, 0, size], [2 * size, 0, 0], [0, 0, -2 * size]);

const shining = (direction: Vec, lux: number): TestLight => {
  const up: Vec = Math.abs(direction[1]) > 0.9 ? [0, 0, 1] : [0, 1, 0];
  return {
    kind: 'directional',
    name: 'Sun',
    shadow: true,
    placed: { position: [0, 0, 0], forward: direction, right: [1, 0, 0], up, colour: [lux, lux, lux] },
  } as TestLight;
};

/** A look straight along a direction at half a metre. */
const patch = (origin: Vec, forward: Vec, bounces: number): Eye => {
  const up: Vec = Math.abs(forward[1]) > 0.9 ? [0, 0, 0.25] : [0, 0.25, 0];
  return { ...spotView(origin, forward), width: 32, height: 32, right: [0.25, 0, 0], up, bounces };
};

describe('caustics', () => {
  it('are thrown by a slab of glass as its two faces let light through', () => {
    const scene = sceneOf(
      [
        { triangles: floor(4), surface: DULL },
        { triangles: box([-1, 1, -1], [1, 1.2, 1]), surface: GLASS },
      ],
      { lights: [shining([0, -1, 0], 1000)], bounces: 16 },
    );
    // looking in below the slab; (1 − F) / (1 + F) of light gets through both faces, however often it is turned back
    const F = 0.04;
    const radiance = (1000 * ((1 - F) / (1 + F)) * 0.05) / Math.PI;
    const view = patch([0, 0.5, 0], [0, -1, 0], 16);
    expect(meanOf(traced(scene, view, 64), 0) / radiance).toBeCloseTo(1, 1.9);
  });

  it('are thrown by a mirror', () => {
    const scene = sceneOf(
      [
        { triangles: floor(4), surface: DULL },
        // faces left and up; light that comes from the left goes down
        { triangles: quad([0, 1.7, -1], [0.7, -0.7, 0], [0, 0, 2]), surface: MIRROR },
      ],
      { lights: [shining([1, 0, 0], 1000)], bounces: 8 },
    );
    const view = patch([0.35, 0.5, 0], [0, -1, 0], 8);
    // a patch of 0.5 m under a beam 0.7 m wide
    const radiance = (1000 * 0.05) / Math.PI;
    expect(meanOf(traced(scene, view, 64), 0) / radiance).toBeCloseTo(1, 1.9);
  });

  /** A ball of `n` rings of facets. */
  function ball(middle: Vec, radius: number, n: number): number[] {
    const at = (i: number, j: number): Vec => {
      const [a, b] = [(i * Math.PI) / n, (j * Math.PI) / n];
      return [
        middle[0] + radius * Math.sin(a) * Math.cos(b),
        middle[1] + radius * Math.cos(a),
        middle[2] - radius * Math.sin(a) * Math.sin(b),
      ];
    };
    const out: number[] = [];
    for (let i = 0; i < n; i++)
      for (let j = 0; j < 2 * n; j++) {
        if (i < n - 1) out.push(...at(i, j), ...at(i + 1, j), ...at(i + 1, j + 1));
        if (i > 0) out.push(...at(i, j), ...at(i + 1, j + 1), ...at(i, j + 1));
      }
    return out;
  }

  it('of a glass ball carry the light that refraction brings to its focus', () => {
    const [radius, height, n] = [0.5, 0.9, 1.5];
    const scene = sceneOf(
      [
        { triangles: floor(4), surface: DULL },
        { triangles: ball([0, height, 0], radius, 96), surface: { ...GLASS, specular_roughness: 0.01 } },
      ],
      { lights: [shining([0, -1, 0], 1000)], bounces: 16 },
    );
    // where a ray at distance h from the axis lands, and what of it gets through both faces (Fresnel)
    const lands = (h: number): [number, number] => {
      const a = Math.asin(h / radius);
      const b = Math.asin(h / radius / n);
      const s = Math.sin(a - b) / Math.sin(a + b);
      const p = Math.tan(a - b) / Math.tan(a + b);
      const passed = (1 - s * s) ** 2 / 2 + (1 - p * p) ** 2 / 2;
      // it leaves the ball turned by 2 (a − b), where the angle from the axis is 2 b − a
      const x = radius * Math.sin(2 * b - a);
      const y = height - radius * Math.cos(2 * b - a);
      return [Math.abs(x - y * Math.tan(2 * (a - b))), passed];
    };
    let flux = 0;
    const steps = 20000;
    for (let i = 0; i < steps; i++) {
      const h = ((i + 0.5) / steps) * radius;
      const [x, passed] = lands(h);
      if (x < 0.25) flux += 1000 * passed * 2 * Math.PI * h * (radius / steps);
    }
    const view = patch([0, 0.05, 0], [0, -1, 0], 16);
    const picture = traced(scene, view, 64);
    let seen = 0;
    for (let i = 0; i < 32 * 32; i++) {
      const [x, y] = [((i % 32) + 0.5) / 64 - 0.25, (Math.floor(i / 32) + 0.5) / 64 - 0.25];
      if (Math.hypot(x, y) < 0.25) seen += (picture[i * 4] * Math.PI) / 0.05 / 64 ** 2;
    }
    // facets blur it a little, and light that the ball turned back inside lands elsewhere
    expect(seen / flux).toBeCloseTo(1, 1.7);
  });

  it('are as bright as paths alone find them, seen through glass and lacquer too', () => {
    // a lamp small enough for photons and large enough to be found by chance
    const lamp: TestLight = {
      kind: 'area',
      name: 'Lamp',
      shadow: true,
      width: 0.4,
      height: 0.4,
      placed: {
        position: [0.5, 3, 0.5],
        forward: [0, -1, 0],
        right: [1, 0, 0],
        up: [0, 0, -1],
        colour: [900, 600, 300],
      },
    } as TestLight;
    const lacquer = { base_color: [0.6, 0.5, 0.4] as Vec, base_metalness: 0, specular_roughness: 0.03 };
    const scene = sceneOf(
      [
        { triangles: floor(1.2), surface: lacquer },
        {
          triangles: box([-0.5, 0.05, -0.3], [0.5, 0.5, 0]),
          surface: { ...GLASS, transmission_color: [0.5, 0.9, 0.7], transmission_depth: 0.5 },
        },
        { triangles: quad([-0.8, 0, -0.6], [1.6, 0, 0], [0, 0.9, -0.2]), surface: MIRROR },
      ],
      { lights: [lamp], bounces: 12 },
    );
    const view: Eye = {
      ...spotView([0, 1.2, 2.2], [0, -0.45, -0.89]),
      orthographic: false,
      width: 24,
      height: 16,
      right: [0.45, 0, 0],
      up: [0, 0.27, -0.135],
      bounces: 12,
    };
    const compare = (samples: number, paths: number) => {
      const alone = createFilm(view.width, view.height);
      tracerFor(scene, view).traceTile(alone, 0, 0, view.width, view.height, 0, paths, 3);
      const [a, b] = [traced(scene, view, samples), developed(alone, paths)];
      return [0, 1, 2].map((c) => meanOf(a, c) / meanOf(b, c));
    };
    for (const ratio of compare(128, 6000)) expect(ratio).toBeCloseTo(1, 1.7);
  });
});
