import { describe, expect, it } from 'vitest';
import type { Vec } from '../../src/light/placing.ts';
import type { Eye } from '../../src/trace/eye.ts';
import { dielectric } from '../../src/finish/fresnel.ts';
import { referencePicture } from '../oracle/picture.ts';
import { box, flatSurround, meanOf, quad, sceneOf, spotView, traced } from './sceneFixture.ts';

const down: Vec = [0, -1, 0];
const ALBEDO = 0.5;
const matte = { base_color: [ALBEDO, ALBEDO, ALBEDO], specular_weight: 0, specular_roughness: 1 };
const black = { base_color: [0, 0, 0], specular_weight: 0 };
const white = (nits = 1) => ({ picture: flatSurround(nits), gain: 1, turn: 0, seen: true });
const floor = (half = 5) => ({
  triangles: quad([-half, 0, half], [2 * half, 0, 0], [0, 0, -2 * half]),
  surface: matte,
});

/** Configuration factor from a small plane to a parallel rectangle whose corner lies on its normal (Howell B-3). */
function cornerFactor(a: number, b: number, c: number): number {
  const [x, y] = [a / c, b / c];
  const [rx, ry] = [Math.sqrt(1 + x * x), Math.sqrt(1 + y * y)];
  return ((x / rx) * Math.atan(y / rx) + (y / ry) * Math.atan(x / ry)) / (2 * Math.PI);
}

describe('what glows', () => {
  it('does not stand in its own light at a slant', () => {
    // long thin bars low over a large floor, looked at far aside: what they send is nearly along the floor
    for (const size of [5, 20]) {
      const bar = {
        triangles: box([-2, 0.02, -0.01], [2, 0.04, 0.01]),
        surface: { ...black, emission_luminance: 10 },
      };
      const aside = 0.6;
      const view = { ...spotView([0, 3, aside], down, 16) };
      const got = meanOf(traced(sceneOf([floor(size), bar]), view, 256), 1);
      // its side towards the spot, an upright strip: integrated over its height and length
      let lux = 0;
      const [n, m] = [40, 2000];
      for (let i = 0; i < n; i++) {
        const y = 0.02 + ((i + 0.5) / n) * 0.02;
        for (let j = 0; j < m; j++) {
          const x = -2 + ((j + 0.5) / m) * 4;
          const d2 = x * x + y * y + (aside - 0.01) ** 2;
          lux += ((10 * y * (aside - 0.01)) / (d2 * d2)) * ((0.02 / n) * (4 / m));
        }
      }
      // its underside turned to the floor
      for (let i = 0; i < n; i++) {
        const z = -0.01 + ((i + 0.5) / n) * 0.02;
        for (let j = 0; j < m; j++) {
          const x = -2 + ((j + 0.5) / m) * 4;
          const d2 = x * x + 0.02 ** 2 + (aside - z) ** 2;
          lux += ((10 * 0.02 * 0.02) / (d2 * d2)) * ((0.02 / n) * (4 / m));
        }
      }
      expect((got * Math.PI) / ALBEDO / lux, `floor of ${size}`).toBeGreaterThan(0.99);
      expect((got * Math.PI) / ALBEDO / lux, `floor of ${size}`).toBeLessThan(1.01);
    }
  });

  it('glows from its outside alone, seen or sending, unless it is said to have two sides', () => {
    const lamp = (up: boolean) => ({
      triangles: up ? quad([-1, 1, 1], [2, 0, 0], [0, 0, -2]) : quad([-1, 1, -1], [2, 0, 0], [0, 0, 2]),
      surface: { ...black, emission_luminance: 5 },
    });
    const seen = (up: boolean, from: number, forward: Vec) =>
      meanOf(traced(sceneOf([lamp(up)]), { ...spotView([0, from, 0], forward), bounces: 1 }, 8), 1);
    expect(seen(true, 2, down)).toBeCloseTo(5, 4);
    expect(seen(true, 0.5, [0, 1, 0])).toBe(0);
    expect(seen(false, 0.5, [0, 1, 0])).toBeCloseTo(5, 4);
    const lit = (up: boolean, sides: number) => {
      const scene = sceneOf([floor(), lamp(up)]);
      scene.parts.twoSided.fill(sides);
      return (meanOf(traced(scene, spotView([0, 0.9, 0], down), 256), 1) * Math.PI) / ALBEDO;
    };
    const exact = 5 * Math.PI * 4 * cornerFactor(1, 1, 1);
    expect(lit(true, 0)).toBe(0);
    expect(lit(false, 0) / exact).toBeCloseTo(1, 1);
    expect(lit(true, 1) / exact).toBeCloseTo(1, 1);
    expect(lit(false, 1) / exact).toBeCloseTo(1, 1);
  });

  it('gives out of clear glass what it gives without it', () => {
    // a glowing ball in the middle of a glass one: all its power comes out in the end
    const ball = (radius: number, steps = 24): number[] => {
      const at = (i: number, j: number): Vec => {
        const [t, p] = [(Math.PI * i) / steps, (2 * Math.PI * j) / (2 * steps)];
        return [radius * Math.sin(t) * Math.sin(p), radius * Math.cos(t), radius * Math.sin(t) * Math.cos(p)];
      };
      const out: number[] = [];
      for (let i = 0; i < steps; i++)
        for (let j = 0; j < 2 * steps; j++) {
          const [a, b, c, d] = [at(i, j), at(i + 1, j), at(i + 1, j + 1), at(i, j + 1)];
          if (i < steps - 1) out.push(...a, ...b, ...c);
          if (i > 0) out.push(...a, ...c, ...d);
        }
      return out;
    };
    const core = { triangles: ball(0.1), surface: { ...black, emission_luminance: 20 } };
    const shell = {
      triangles: ball(0.5),
      surface: {
        transmission_weight: 1,
        specular_roughness: 0,
        specular_ior: 1.5,
        transmission_color: [1, 1, 1],
      },
    };
    const wide: Eye = {
      ...spotView([0, 0, 3], [0, 0, -1], 40),
      right: [0.6, 0, 0],
      up: [0, 0.6, 0],
      bounces: 60,
      limits: null,
    };
    const power = (pieces: Parameters<typeof sceneOf>[0]) => meanOf(traced(sceneOf(pieces), wide, 400), 1);
    // seen from one side: flux through a plane, the same from every side
    const bare = power([core]);
    const within = power([core, shell]);
    // the ball looks n times as wide, and is seen through the surface at (1 − F)
    expect(within / bare).toBeGreaterThan(0.9);
    expect(within / bare).toBeLessThan(1.02);
  });
});

describe('a wall on which something stands', () => {
  it('has no holes, whatever touches it, seen through glass and panes too', () => {
    const wall = { triangles: quad([-1, -1, 0], [2, 0, 0], [0, 2, 0]), surface: matte };
    const peg = { triangles: box([-0.2, -0.2, 0], [0.2, 0.2, 0.3]), surface: matte };
    const glass = {
      triangles: box([-0.6, -0.6, 0], [0.6, 0.6, 0.2]),
      surface: { transmission_weight: 1, specular_roughness: 0 },
    };
    const pane = {
      triangles: quad([-0.6, -0.6, 0], [1.2, 0, 0], [0, 1.2, 0]),
      surface: { transmission_weight: 1, specular_roughness: 0, geometry_thin_walled: true },
    };
    for (const things of [
      [wall, peg],
      [peg, wall],
      [wall, glass],
      [glass, wall],
      [wall, pane],
      [pane, wall],
    ]) {
      const scene = sceneOf(things, { surround: { ...white(), seen: false } });
      const eye: Eye = {
        ...spotView([0.3, 0.2, 2], [-0.15, -0.1, -1], 64),
        right: [0.7, 0, 0],
        up: [0, 0.7, 0],
        bounces: 30,
        limits: null,
      };
      const l = Math.hypot(...eye.forward);
      eye.forward = eye.forward.map((v) => v / l) as Vec;
      const picture = traced(scene, eye, 16);
      for (let i = 3; i < picture.length; i += 4) expect(picture[i]).toBeCloseTo(1, 6);
      // and passing by parts that are not looked at
      const past = traced(scene, { ...eye, visible: Uint8Array.from([0, 1]) }, 4);
      for (let i = 3; i < past.length; i += 4) expect(past[i] === 0 || past[i] > 0.2).toBe(true);
    }
    // parts passed by never take what lies in their own plane with them
    const same = sceneOf([wall, { ...wall }], { surround: { ...white(), seen: false } });
    for (const visible of [
      [0, 1],
      [1, 0],
    ]) {
      const view = {
        ...spotView([0, 0, 2], [0, 0, -1], 16),
        visible: Uint8Array.from(visible),
        right: [0.5, 0, 0] as Vec,
      };
      expect(meanOf(traced(same, view, 4), 3)).toBe(1);
    }
  });
});

describe('a rough pane', () => {
  it('spreads what it lets through, and loses nothing', () => {
    const frosted = (roughness: number) => ({
      base_color: [1, 1, 1],
      transmission_weight: 1,
      specular_roughness: roughness,
      geometry_thin_walled: true,
    });
    const at = (y: number, surface: object) => ({
      triangles: quad([-5, y, 5], [10, 0, 0], [0, 0, -10]),
      surface,
    });
    for (const roughness of [0.3, 0.6, 1]) {
      const scene = sceneOf([at(0, frosted(roughness)), at(-1, frosted(roughness))], { surround: white() });
      const got = meanOf(traced(scene, { ...spotView([0, 3, 0], down), bounces: 64 }, 1024), 1);
      expect(Math.abs(got - 1), `${roughness}: ${got}`).toBeLessThan(0.012);
    }
    // a small lamp behind it: a clear pane shows it sharp, a rough one lights up about it
    const lamp = {
      triangles: quad([-0.05, -1, 0.05], [0.1, 0, 0], [0, 0, -0.1]),
      surface: { ...black, emission_luminance: 400 },
    };
    const aside = (roughness: number) =>
      meanOf(traced(sceneOf([lamp, at(0, frosted(roughness))]), spotView([0.25, 1, 0], down), 1024), 1);
    expect(aside(0)).toBeCloseTo(0, 3);
    expect(aside(0.6)).toBeGreaterThan(0.05);
  });
});

describe('bounces', () => {
  it('bring all light out of a closed box', () => {
    // from within a box whose walls glow alike: L = E / (1 − albedo)
    const inside = box([-1, -1, -1], [1, 1, 1]);
    const flipped: number[] = [];
    for (let i = 0; i < inside.length; i += 9)
      flipped.push(...inside.slice(i, i + 3), ...inside.slice(i + 6, i + 9), ...inside.slice(i + 3, i + 6));
    const surface = {
      base_color: [0.9, 0.9, 0.9],
      specular_weight: 0,
      specular_roughness: 1,
      emission_luminance: 1,
    };
    const scene = sceneOf([{ triangles: flipped, surface }]);
    const through = (bounces: number) =>
      meanOf(traced(scene, { ...spotView([0, 0, 0], [0, 0, -1], 16), bounces }, 256), 1) / 10;
    expect(through(8)).toBeCloseTo(1 - 0.9 ** 9, 1);
    expect(through(1000)).toBeGreaterThan(0.985);
    expect(through(1000)).toBeLessThan(1.015);
  });
});

describe('the kernel beside the reference', () => {
  const lit = {
    kind: 'area' as const,
    name: 'a',
    placed: {
      position: [0.5, 2, 1] as Vec,
      forward: [0, -1, 0] as Vec,
      right: [1, 0, 0] as Vec,
      up: [0, 0, -1] as Vec,
      colour: [8, 7, 6] as Vec,
    },
    width: 1,
    height: 0.6,
    shadow: true,
  };
  const spot = {
    ...lit,
    kind: 'spot' as const,
    cosInner: 0.95,
    cosOuter: 0.8,
    placed: { ...lit.placed, colour: [9, 9, 9] as Vec },
  };
  const sun = {
    ...lit,
    kind: 'directional' as const,
    placed: { ...lit.placed, forward: [0.6, -0.8, 0] as Vec, colour: [2, 2, 2] as Vec },
  };
  const surfaces = {
    metal: { base_metalness: 1, base_metal: 'gold' as const, specular_roughness: 0.3 },
    brushed: {
      base_metalness: 1,
      specular_roughness: 0.4,
      specular_roughness_anisotropy: 0.8,
      specular_rotation: 0.5,
    },
    lacquer: { base_color: [0.6, 0.1, 0.1], coat_weight: 1, coat_roughness: 0.1, specular_roughness: 0.5 },
    glass: {
      transmission_weight: 1,
      specular_roughness: 0.05,
      transmission_color: [0.7, 0.9, 0.8],
      transmission_depth: 0.3,
    },
    'frosted glass': { transmission_weight: 1, specular_roughness: 0.5 },
    pane: { transmission_weight: 1, specular_roughness: 0, geometry_thin_walled: true },
    'frosted pane': { transmission_weight: 1, specular_roughness: 0.6, geometry_thin_walled: true },
    glow: { base_color: [0.2, 0.2, 0.2], emission_color: [1, 0.4, 0.2], emission_luminance: 4 },
    mixed: {
      base_metalness: 0.3,
      transmission_weight: 0.4,
      base_diffuse_roughness: 0.7,
      coat_weight: 0.6,
      coat_roughness: 0.3,
      coat_roughness_anisotropy: 0.7,
      specular_rotation: 0.4,
    },
  };
  const eye: Eye = {
    width: 16,
    height: 12,
    orthographic: false,
    origin: [0.4, 1.1, 2.4],
    forward: [-0.15, -0.35, -0.92],
    right: [0.4, 0, 0],
    up: [0, 0.3, 0],
    visible: null,
    dress: null,
    bounces: 6,
    limits: null,
  };
  for (const [name, surface] of Object.entries(surfaces)) {
    it(`gives the same picture: ${name}`, () => {
      const scene = sceneOf([floor(2), { triangles: box([-0.4, 0.05, -0.3], [0.4, 0.6, 0.2]), surface }], {
        lights: [lit, spot, sun],
        surround: white(0.3),
      });
      const [ours, theirs] = [traced(scene, eye, 600, 5), referencePicture(scene, eye, 160, 9)];
      // blocks of four by four pixels, and the whole
      const block = (picture: Float32Array, bx: number, by: number, c: number) => {
        let sum = 0;
        for (let y = 0; y < 4; y++)
          for (let x = 0; x < 4; x++) sum += picture[((by * 4 + y) * 16 + bx * 4 + x) * 4 + c];
        return sum / 16;
      };
      for (let c = 0; c < 4; c++) {
        const whole = meanOf(theirs, c);
        expect(Math.abs(meanOf(ours, c) / whole - 1), `channel ${c}`).toBeLessThan(0.02);
        for (let by = 0; by < 3; by++)
          for (let bx = 0; bx < 4; bx++) {
            const [a, b] = [block(ours, bx, by, c), block(theirs, bx, by, c)];
            expect(Math.abs(a - b), `block ${bx} ${by} channel ${c}: ${a} for ${b}`).toBeLessThan(
              0.06 * b + 0.03,
            );
          }
      }
    });
  }
});

describe('panes', () => {
  it('let a lamp through as much as their face does not reflect, one after the other', () => {
    const clear = { transmission_weight: 1, specular_roughness: 0, geometry_thin_walled: true };
    const lamp = {
      triangles: quad([-0.5, 2, -0.5], [1, 0, 0], [0, 0, 1]),
      surface: { ...black, emission_luminance: 9 },
    };
    const pane = (y: number) => ({ triangles: quad([-5, y, 5], [10, 0, 0], [0, 0, -10]), surface: clear });
    const under = (n: number) => {
      const panes = Array.from({ length: n }, (_, i) => pane(1 + i * 0.05));
      return meanOf(traced(sceneOf([floor(), lamp, ...panes]), spotView([0, 0.5, 0], down), 512), 1);
    };
    expect(under(1) / under(0)).toBeCloseTo(1 - dielectric(1, 1.5), 1);
    expect(under(3) / under(0)).toBeCloseTo((1 - dielectric(1, 1.5)) ** 3, 1);
  });
});
