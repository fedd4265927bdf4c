import { describe, expect, it } from 'vitest';
import type { Vec } from '../../src/light/placing.ts';
import { inPicture, intoPicture, outOfPicture } from '../../src/light/surround.ts';
import type { Reach } from '../../src/scene/renderScene.ts';
import { ALBEDO, any, down, LACQUER, MATTE, MIRROR, placed, plane, within } from './lightFixture.ts';
import {
  flatSurround,
  meanOf,
  Probe,
  quad,
  sceneOf,
  spotView,
  traced,
  type SceneChanges,
  type TestLight,
} from './sceneFixture.ts';

/** Mean of the green channel where a floor is looked at from above. */
function seen(surface: object, changes: SceneChanges, samples = 256, aside = 0, bounces = 1): number {
  const scene = sceneOf([{ triangles: plane(), surface }], { bounces, ...changes });
  return meanOf(traced(scene, { ...spotView([aside, 3, 0], down), bounces }, samples), 1);
}
const irradiance = (lights: TestLight[], samples = 256, aside = 0) =>
  (seen(MATTE, { lights }, samples, aside) * Math.PI) / ALBEDO;

describe('shapes of lights', () => {
  it('a round area light gives π L sin² of its half angle under its middle', () => {
    for (const [size, height, nits] of [
      [1.2, 0.9, 5],
      [0.1, 1, 800],
      [6, 1, 1],
    ]) {
      const light: TestLight = {
        ...any,
        kind: 'area',
        round: true,
        width: size,
        height: size,
        placed: placed([0, height, 0], nits),
      };
      const r2 = (size / 2) ** 2;
      within(irradiance([light]), (nits * Math.PI * r2) / (r2 + height ** 2));
    }
  });

  it('a mirror sees a round light round: nothing in its rectangle’s corners', () => {
    const light: TestLight = {
      ...any,
      kind: 'area',
      round: true,
      width: 2,
      height: 2,
      placed: placed([0, 4, 0], 7),
    };
    const at = (x: number, z: number) => {
      const scene = sceneOf([{ triangles: plane(), surface: MIRROR }], { lights: [light], bounces: 2 });
      return meanOf(traced(scene, { ...spotView([x, 3, z], down), bounces: 2 }, 4), 1);
    };
    expect(at(0, 0)).toBeCloseTo(7, 2);
    expect(at(0.65, 0.65)).toBeCloseTo(7, 1);
    expect(at(0.75, 0.75)).toBe(0);
  });

  it('a ball gives its candela over the squared distance, as a point does, and a mirror sees its radiance', () => {
    for (const [radius, height] of [
      [0.05, 1],
      [0.4, 1],
      [0.9, 1.2],
    ]) {
      const light: TestLight = { ...any, kind: 'point', radius, placed: placed([0, height, 0], 20) };
      within(irradiance([light], 1024), 20 / height ** 2);
      const scene = sceneOf([{ triangles: plane(), surface: MIRROR }], { lights: [light], bounces: 2 });
      const mirrored = traced(scene, { ...spotView([0, 0.05, 0], down), bounces: 2 }, 4);
      within(meanOf(mirrored, 1), 20 / (Math.PI * radius ** 2), 0.01);
    }
  });

  it('a directional light with a size gives the same lux, and stands in a mirror as a disc', () => {
    for (const degrees of [1, 5, 40]) {
      const edge = Math.cos((degrees * Math.PI) / 180);
      const light: TestLight = { ...any, kind: 'directional', cosEdge: edge, placed: placed([0, 9, 0], 3) };
      within(irradiance([light]), 3);
      const mirrored = seen(MIRROR, { lights: [light] }, 4, 0, 2);
      // the sharpest lobe there is still spreads a little past one degree
      within(mirrored, 3 / (Math.PI * (1 - edge ** 2)), 0.02);
    }
  });

  it('softens shadows by its size', () => {
    const lid = { triangles: quad([0, 1, 1], [3, 0, 0], [0, 0, -2]) };
    const lit = (cosEdge: number, x: number) => {
      const light: TestLight = { ...any, kind: 'directional', cosEdge, placed: placed([0, 9, 0], 3) };
      const scene = sceneOf([{ triangles: plane(), surface: MATTE }, lid], { lights: [light] });
      return (meanOf(traced(scene, spotView([x, 0.5, 0], down), 256), 1) * Math.PI) / ALBEDO;
    };
    // the edge of the lid stands straight above 0: half of the disc is seen there
    within(lit(Math.cos(0.1), 0), 1.5, 0.03);
    expect(lit(Math.cos(0.1), 0.2)).toBe(0);
    within(lit(Math.cos(0.1), -0.2), 3);
    expect(lit(1, 0.01)).toBe(0);
  });

  it('from all around it gives π times its luminance, and less where something is near', () => {
    const light: TestLight = { ...any, kind: 'directional', cosEdge: -1, placed: placed([0, 9, 0], 2) };
    within(irradiance([light]), 2 * Math.PI);
    const wall = { triangles: quad([-9, 0, -0.001], [18, 0, 0], [0, 50, 0]) };
    const scene = sceneOf([{ triangles: plane(), surface: MATTE }, wall], { lights: [light] });
    const beside = meanOf(traced(scene, spotView([0, 3, 0.01], down), 512), 1);
    within((beside * Math.PI) / ALBEDO, Math.PI, 0.03);
  });
});

describe('ways of falling off', () => {
  const at = (way: 'square' | 'linear' | 'none' | 'clamped', height: number) =>
    irradiance(
      [{ ...any, kind: 'point', fall: { way, reference: 2 }, placed: placed([0, height, 0], 100) }],
      4,
    );
  it('are all alike at the reference, and do what they say elsewhere', () => {
    for (const way of ['square', 'linear', 'none', 'clamped'] as const) within(at(way, 2), 25, 1e-3);
    within(at('square', 1), 100, 1e-3);
    within(at('linear', 1), 50, 1e-3);
    within(at('none', 1), 25, 1e-3);
    within(at('clamped', 1), 25, 1e-3);
    within(at('clamped', 2.8), 100 / 2.8 ** 2, 1e-3);
  });
});

describe('what lights reach', () => {
  const only = (part: keyof Reach): Reach => ({
    diffuse: part === 'diffuse',
    mirrored: part === 'mirrored',
    through: part === 'through',
  });
  const lamp = (reach?: Reach): TestLight => ({
    ...any,
    kind: 'area',
    width: 1,
    height: 1,
    placed: placed([0, 2, 0], 10),
    reach,
  });

  it('adds up: what is scattered and what is mirrored are the whole, for lamps and for the surround', () => {
    for (const surface of [LACQUER, { ...LACQUER, fuzz_weight: 0.5 }, { ...LACQUER, coat_weight: 1 }]) {
      const of = (reach?: Reach) => seen(surface, { lights: [lamp(reach)] }, 1024, 0.1, 2);
      const [whole, scattered, mirrored] = [of(), of(only('diffuse')), of(only('mirrored'))];
      expect(scattered).toBeGreaterThan(0);
      expect(mirrored).toBeGreaterThan(0);
      within(scattered + mirrored, whole, 0.02);
      expect(of(only('through'))).toBe(0);
      const sky = (reach?: Reach) =>
        seen(
          surface,
          { surround: { picture: flatSurround(1), gain: 1, turn: 0, seen: true, reach } },
          512,
          0,
          2,
        );
      within(sky(only('diffuse')) + sky(only('mirrored')), sky(), 0.02);
    }
  });

  it('leaves a mirror dark where it is only scattered, and a matte face where it is only mirrored', () => {
    expect(seen(MIRROR, { lights: [lamp(only('diffuse'))] }, 16, 0, 2)).toBe(0);
    expect(seen(MATTE, { lights: [lamp(only('mirrored'))] }, 64, 0, 2)).toBe(0);
    within(seen(MIRROR, { lights: [lamp(only('mirrored'))] }, 16, 0, 2), 10, 0.01);
  });

  it('comes through glass alone where that is asked for', () => {
    const pane = {
      triangles: plane(),
      surface: { transmission_weight: 1, specular_roughness: 0, geometry_thin_walled: false },
    };
    const slab = {
      ...pane,
      triangles: [
        ...quad([-5, 0, 5], [10, 0, 0], [0, 0, -10]),
        ...quad([-5, -1, -5], [10, 0, 0], [0, 0, 10]),
      ],
    };
    const below: TestLight = { ...lamp(), placed: placed([0, -2, 0], 10, [0, 1, 0]) };
    const look = (reach: Reach | undefined) => {
      const scene = sceneOf([slab], { lights: [{ ...below, reach }], bounces: 8 });
      return meanOf(traced(scene, { ...spotView([0, 3, 0], down), bounces: 8 }, 64), 1);
    };
    const whole = look(undefined);
    expect(whole).toBeGreaterThan(5);
    within(look(only('through')), whole, 0.05);
    expect(look(only('diffuse'))).toBe(0);
  });

  it('falls on the things it is for, and no others', () => {
    const half = (x: number) => ({ triangles: quad([x, 0, 5], [5, 0, 0], [0, 0, -10]), surface: LACQUER });
    const lit = (lights: TestLight[], x: number) => {
      const scene = sceneOf([half(-5), half(0)], { lights, bounces: 2 });
      return meanOf(traced(scene, { ...spotView([x, 3, 0], down), bounces: 2 }, 64), 1);
    };
    const left: TestLight = { ...lamp(), only: [0] };
    const right: TestLight = { ...lamp(), only: [1] };
    expect(lit([left], 1)).toBe(0);
    expect(lit([right], -1)).toBe(0);
    within(lit([left], -1), lit([lamp()], -1), 1e-6);
    within(lit([left, right], 1), lit([lamp()], 1), 0.05);
    expect(lit([{ ...lamp(), only: [] }], 1)).toBe(0);
  });

  it('refuses more different choices of things than it can tell apart', () => {
    const many = Array.from({ length: 33 }, (_, i) => ({
      triangles: quad([i, 0, 0], [1, 0, 0], [0, 0, -1]),
    }));
    const lights = many.map((_, i): TestLight => ({ ...lamp(), only: [i] }));
    const look = (n: number) => () =>
      traced(sceneOf(many, { lights: lights.slice(0, n) }), spotView([0, 3, 0], down), 1);
    expect(look(31)).not.toThrow();
    expect(look(32)).toThrow('31 different choices');
  });
});

describe('cards', () => {
  const card = (strength: number, height = 1): TestLight => ({
    ...any,
    kind: 'area',
    card: true,
    width: 60,
    height: 60,
    placed: placed([0, height, 0], strength),
  });
  const sky = { picture: flatSurround(1), gain: 1, turn: 0, seen: true };
  const view = { ...spotView([0, 0.5, 0], down), bounces: 2 };
  const look = (surface: object, lights: TestLight[], surround: SceneChanges['surround']) =>
    [0, 1, 2].map((c) =>
      meanOf(
        traced(sceneOf([{ triangles: plane(), surface }], { lights, surround, bounces: 2 }), view, 1024),
        c,
      ),
    );

  it('stand in mirrors in the place of what is behind them, black or glowing', () => {
    expect(look(MIRROR, [card(0)], sky)[1]).toBe(0);
    within(look(MIRROR, [card(3)], sky)[1], 3, 1e-3);
  });

  it('neither light nor shade what scatters light', () => {
    within(look(MATTE, [card(0)], sky)[1], ALBEDO, 0.01);
    within(look(MATTE, [card(9)], sky)[1], ALBEDO, 0.01);
  });

  it('take from a lacquer just what it mirrors', () => {
    const scattered = look(LACQUER, [], {
      ...sky,
      reach: { diffuse: true, mirrored: false, through: false },
    });
    const mirrored = look(LACQUER, [], { ...sky, reach: { diffuse: false, mirrored: true, through: false } });
    look(LACQUER, [card(0)], sky).forEach((v, c) => within(v, scattered[c], 0.02));
    // seen full in it, but for the rim of the lobe that looks past a card of sixty metres
    look(LACQUER, [card(5)], sky).forEach((v, c) => within(v, scattered[c] + 5 * mirrored[c], 0.03));
  });

  it('hide lamps behind them from mirrors', () => {
    const lamp: TestLight = { ...any, kind: 'area', width: 1, height: 1, placed: placed([0, 2, 0], 10) };
    expect(look(MIRROR, [lamp, card(0)], { ...sky, gain: 0 })[1]).toBe(0);
    within(
      look(MATTE, [lamp, card(0)], { ...sky, gain: 0 })[1],
      look(MATTE, [lamp], { ...sky, gain: 0 })[1],
      0.01,
    );
  });
});

describe('surround', () => {
  /** One bright spot in a dark sky. */
  const spotted = () => {
    const picture = { width: 128, height: 64, data: new Float32Array(128 * 64 * 3).fill(0.02) };
    for (const x of [90, 91])
      for (const y of [14, 15]) picture.data.fill(500, (y * 128 + x) * 3, (y * 128 + x) * 3 + 3);
    return picture;
  };

  it('is turned about all axes, there and back', () => {
    const stance = { turn: 0.7, tilt: -0.4, roll: 1.9 };
    const m = intoPicture(stance);
    const d: Vec = [0.36, 0.48, 0.8];
    outOfPicture(m, ...inPicture(m, ...d)).forEach((v, i) => expect(v).toBeCloseTo(d[i], 12));
    // tilted a quarter, what was straight up looks to the front
    outOfPicture(intoPicture({ turn: 0, tilt: Math.PI / 2 }), 0, 1, 0).forEach((v, i) =>
      expect(v).toBeCloseTo([0, 0, 1][i], 12),
    );
    // rolled a quarter, what was to the right is up
    outOfPicture(intoPicture({ turn: 0, roll: Math.PI / 2 }), 1, 0, 0).forEach((v, i) =>
      expect(v).toBeCloseTo([0, 1, 0][i], 12),
    );
    const probe = new Probe(
      sceneOf([], { surround: { picture: spotted(), gain: 1, ...stance, seen: true, tint: [1, 0.5, 0.25] } }),
    );
    for (let k = 0; k < 100; k++) {
      const [r, g, b, density, ...direction] = probe.sky((k * 0.618) % 1, (k * 0.377) % 1);
      const back = probe.look(direction);
      expect(back[0] / r).toBeCloseTo(1, 2);
      expect(back[3] / density).toBeCloseTo(1, 2);
      expect(g / r).toBeCloseTo(0.5, 4);
      expect(b / r).toBeCloseTo(0.25, 4);
    }
    // the spot is where the picture's direction is taken to
    const [phi, theta] = [((91 / 128) * 2 - 1) * Math.PI, (0.5 - 15 / 64) * Math.PI];
    const spot = [Math.cos(theta) * Math.cos(phi), Math.sin(theta), Math.cos(theta) * Math.sin(phi)] as Vec;
    expect(probe.look(outOfPicture(m, ...spot))[0]).toBeGreaterThan(400);
  });

  it('blurred behind the type still lights as it is, and blurred in mirrors only they see it so', () => {
    const of = (blur: { behind: number; mirrored: number } | undefined) => ({
      picture: spotted(),
      gain: 1,
      turn: 0,
      seen: true,
      blur,
    });
    const [phi, theta] = [((91 / 128) * 2 - 1) * Math.PI, (0.5 - 15 / 64) * Math.PI];
    const spot = [Math.cos(theta) * Math.cos(phi), Math.sin(theta), Math.cos(theta) * Math.sin(phi)] as Vec;
    const behind = (blur?: { behind: number; mirrored: number }) =>
      meanOf(traced(sceneOf([], { surround: of(blur) }), { ...spotView([0, 0, 0], spot), bounces: 2 }, 4), 1);
    const sharp = behind();
    expect(sharp).toBeGreaterThan(400);
    expect(behind({ behind: 0.15, mirrored: 0 })).toBeLessThan(sharp / 10);
    within(behind({ behind: 0, mirrored: 0.15 }), sharp, 1e-3);
    const matte = (blur?: { behind: number; mirrored: number }) => seen(MATTE, { surround: of(blur) }, 1024);
    within(matte({ behind: 0.3, mirrored: 0.3 }), matte(), 0.02);
    // straight down onto a mirror that looks at the spot
    const up: Vec = [-spot[0], -spot[1], -spot[2]];
    const facing = (blur?: { behind: number; mirrored: number }) => {
      const u: Vec = [-spot[1], spot[0], 0];
      const v: Vec = [
        spot[1] * u[2] - spot[2] * u[1],
        spot[2] * u[0] - spot[0] * u[2],
        spot[0] * u[1] - spot[1] * u[0],
      ];
      const corner = [0, 1, 2].map((i) => -u[i] - v[i]) as Vec;
      const quadUp = quad(corner, u.map((x) => 2 * x) as Vec, v.map((x) => 2 * x) as Vec);
      const origin = spot.map((x) => 2 * x) as Vec;
      const view = {
        ...spotView(origin, up),
        right: u.map((x) => x * 1e-4) as Vec,
        up: v.map((x) => x * 1e-4) as Vec,
      };
      const scene = sceneOf([{ triangles: quadUp, surface: MIRROR }], { surround: of(blur), bounces: 2 });
      return meanOf(traced(scene, { ...view, bounces: 2 }, 4), 1);
    };
    expect(facing()).toBeGreaterThan(400);
    expect(facing({ behind: 0.15, mirrored: 0 })).toBeGreaterThan(400);
    expect(facing({ behind: 0, mirrored: 0.15 })).toBeLessThan(sharp / 10);
  });
});

describe('sampling', () => {
  it('of a ring of two hundred points converges to their sum, seen by what scatters and what mirrors', () => {
    const count = 200;
    const ring = Array.from({ length: count }, (_, i): TestLight => {
      const a = (i / count) * 2 * Math.PI;
      return { ...any, kind: 'point', placed: placed([2 * Math.cos(a), 1.5, 2 * Math.sin(a)], 5) };
    });
    const d2 = 4 + 1.5 ** 2;
    within(irradiance(ring, 1024), (count * 5 * 1.5) / d2 ** 1.5);
    const balls = ring.map((l): TestLight => ({ ...l, radius: 0.02 }) as TestLight);
    within(irradiance(balls, 1024), (count * 5 * 1.5) / d2 ** 1.5, 0.02);
    // satin: few samples are near many
    const lit = (lights: TestLight[], samples: number) =>
      seen({ ...MIRROR, specular_roughness: 0.4 }, { lights }, samples, 0.4, 2);
    within(lit(ring, 256), lit(ring, 4096), 0.03);
  });

  it('of a sun through a keyhole converges: a spot of the hole’s size and the sun’s lux under it', () => {
    // a plate with a square hole two millimetres wide, a metre over the floor
    const [hole, far] = [0.001, 4];
    const plate = [
      ...quad([-far, 1, far], [2 * far, 0, 0], [0, 0, hole - far]),
      ...quad([-far, 1, -hole], [2 * far, 0, 0], [0, 0, hole - far]),
      ...quad([-far, 1, hole], [far - hole, 0, 0], [0, 0, -2 * hole]),
      ...quad([hole, 1, hole], [far - hole, 0, 0], [0, 0, -2 * hole]),
    ];
    const radius = (0.25 * Math.PI) / 180;
    const sun: TestLight = {
      ...any,
      kind: 'directional',
      cosEdge: Math.cos(radius),
      placed: placed([0, 9, 0], 1e5),
    };
    const scene = sceneOf([{ triangles: plane(), surface: MATTE }, { triangles: plate }], { lights: [sun] });
    const view = { ...spotView([0, 0.5, 0], down, 32), right: [0.01, 0, 0] as Vec, up: [0, 0, 0.01] as Vec };
    const picture = traced(scene, view, 256);
    // what falls on the floor is what falls on the hole
    const flux = (meanOf(picture, 1) * Math.PI * 0.02 * 0.02) / ALBEDO;
    within(flux, 1e5 * (2 * hole) ** 2, 0.03);
  });
});
