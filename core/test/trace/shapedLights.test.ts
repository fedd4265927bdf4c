import { beforeAll, describe, expect, it } from 'vitest';
import { readProfile, readyProfile } from '../../src/light/profile.ts';
import type { Vec } from '../../src/light/placing.ts';
import { loadRegions } from '../../src/plane/region.ts';
import { lettersFace, outlineFace } from '../../src/scene/lightFaces.ts';
import { BEAM_SIDE, beamPicture } from '../../src/scene/beamPicture.ts';
import { profileTexture } from '../../src/scene/profileTexture.ts';
import type { LightFace } from '../../src/scene/renderScene.ts';
import { paintTexture } from '../../src/texture/paintedTextures.ts';
import { LIGHT_PATTERNS } from '../../src/texture/patterns.ts';
import { srgbStep, textureOf } from '../../src/texture/texture.ts';
import { ALBEDO, any, down, LACQUER, MATTE, MIRROR, placed, plane, within } from './lightFixture.ts';
import {
  flatSurround,
  meanOf,
  quad,
  sceneOf,
  spotView,
  traced,
  type SceneChanges,
  type TestLight,
} from './sceneFixture.ts';

const DEG = Math.PI / 180;

/** Mean of the picture of a spot on a floor, looked at from above. */
function seen(
  surface: object,
  changes: SceneChanges,
  at: readonly [number, number],
  samples = 256,
  bounces = 1,
) {
  const scene = sceneOf([{ triangles: plane(), surface }], { bounces, ...changes });
  return meanOf(traced(scene, { ...spotView([at[0], 0.4, at[1]], down), bounces }, samples), 1);
}
const irradiance = (changes: SceneChanges, at: readonly [number, number] = [0, 0], samples = 256) =>
  (seen(MATTE, changes, at, samples) * Math.PI) / ALBEDO;

/**
 * What a polygon of even radiance gives a point that looks along n (Lambert 1760; Arvo 1994, eq. 2.12).
 * @param corners as seen from the point, counter-clockwise about what it faces
 */
function fromPolygon(corners: Vec[], n: Vec): number {
  const unit = (v: Vec): Vec => v.map((x) => x / Math.hypot(...v)) as Vec;
  let sum = 0;
  corners.forEach((c, i) => {
    const [a, b] = [unit(c), unit(corners[(i + 1) % corners.length])];
    const cross: Vec = [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]];
    const angle = Math.acos(Math.min(1, a[0] * b[0] + a[1] * b[1] + a[2] * b[2]));
    const side = unit(cross);
    sum += angle * (side[0] * n[0] + side[1] * n[1] + side[2] * n[2]);
  });
  return Math.abs(sum) / 2;
}

describe('area lights of their own outline', () => {
  beforeAll(loadRegions);
  const corners = [
    { x: -0.5, y: -0.5 },
    { x: 0.5, y: -0.3 },
    { x: 0.2, y: 0.5 },
  ];
  const lamp = (face: LightFace, height = 0.8, strength = 9): TestLight => ({
    ...any,
    kind: 'area',
    face,
    width: 2,
    height: 1,
    placed: placed([0, height, 0], strength),
  });

  it('give what a polygon of their corners does', () => {
    const face = outlineFace({ outline: corners })!;
    expect(face.area).toBeCloseTo(0.43, 4);
    for (const at of [
      [0, 0],
      [0.7, 0.2],
      [-0.9, -0.4],
    ] as const) {
      // seen from below, right is at −x; the light’s up looks along −z
      const polygon = corners.map(({ x, y }): Vec => [-x * 2 - at[0], 0.8, -y - at[1]]);
      within(irradiance({ lights: [lamp(face)] }, at, 1024), 9 * fromPolygon(polygon, [0, 1, 0]));
    }
  });

  it('that cross themselves shine where they are odd, and one without an area not at all', () => {
    const bow = outlineFace({
      outline: [
        { x: -0.5, y: -0.5 },
        { x: 0.5, y: 0.5 },
        { x: 0.5, y: -0.5 },
        { x: -0.5, y: 0.5 },
      ],
    })!;
    expect(bow.area).toBeCloseTo(0.5, 6);
    expect(
      outlineFace({
        outline: [
          { x: 0, y: 0 },
          { x: 0.5, y: 0 },
          { x: 0.2, y: 0 },
        ],
      }),
    ).toBeNull();
  });

  it('are seen in a mirror in their shape, and from behind not at all', () => {
    const face = outlineFace({ outline: corners })!;
    const light = lamp(face);
    const mirrored = (x: number, z: number) => seen(MIRROR, { lights: [light] }, [x, z], 4, 2);
    expect(mirrored(0, 0)).toBeCloseTo(9, 2);
    expect(mirrored(-0.9, 0.45)).toBe(0);
    expect(mirrored(0.8, 0.4)).toBeCloseTo(9, 2);
    const turned: TestLight = { ...light, placed: { ...light.placed, forward: [0, 1, 0], up: [0, 0, 1] } };
    expect(irradiance({ lights: [turned] })).toBe(0);
  });

  it('of letters fill their box in proportion, holes left out', () => {
    const o = [quadContour(0, 0, 600, 700), quadContour(150, 150, 300, 400).reverse()];
    const ring = o.map((c) => Float64Array.from(c.flat()));
    const face = lettersFace('O', ring, { width: 3, height: 0.7 })!;
    // 600 by 700 units fit the height: 0.6 m of 3 wide
    const xs = Array.from(face.positions).filter((_, i) => i % 3 === 0);
    expect(Math.max(...xs)).toBeCloseTo(0.1, 5);
    expect(face.area * 3 * 0.7).toBeCloseTo(0.6 * 0.7 - 0.3 * 0.4, 5);
    expect(lettersFace('', [], { width: 1, height: 1 })).toBeNull();
  });
});

const quadContour = (x: number, y: number, w: number, h: number) => [
  [x, y],
  [x + w, y],
  [x + w, y + h],
  [x, y + h],
];

describe('lights that the camera sees', () => {
  const look = (light: TestLight, forward: Vec, surround?: SceneChanges['surround']) => {
    const scene = sceneOf([{ triangles: quad([50, 0, 0], [1, 0, 0], [0, 0, -1]) }], {
      lights: [light],
      surround,
    });
    return traced(scene, spotView([0, 0.5, 0], forward), 4);
  };
  const lamp = (seen: boolean): TestLight => ({
    ...any,
    kind: 'area',
    width: 1,
    height: 1,
    seen,
    placed: placed([0, 1, 0], 6),
  });

  it('stand before what is behind them on the side that glows, and nowhere else', () => {
    const sky = { picture: flatSurround(0.25), gain: 1, turn: 0, seen: true };
    const front = look(lamp(true), [0, 1, 0], sky);
    expect(meanOf(front, 1)).toBeCloseTo(6, 5);
    expect(meanOf(front, 3)).toBeCloseTo(1, 6);
    expect(meanOf(look(lamp(false), [0, 1, 0], sky), 1)).toBeCloseTo(0.25, 4);
    const above = { ...lamp(true), placed: placed([0, 0.2, 0], 6) };
    expect(meanOf(look(above, down, sky), 1)).toBeCloseTo(0.25, 4);
  });

  it('are balls too', () => {
    const ball: TestLight = { ...any, kind: 'point', radius: 0.2, seen: true, placed: placed([0, 1, 0], 4) };
    within(meanOf(look(ball, [0, 1, 0]), 1), 4 / (Math.PI * 0.04));
  });

  it('light as they do unseen', () => {
    within(
      irradiance({ lights: [lamp(true)] }, [0.2, 0]),
      irradiance({ lights: [lamp(false)] }, [0.2, 0]),
      1e-6,
    );
  });
});

describe('white cards', () => {
  const CARD = { base_color: [0.9, 0.9, 0.9], specular_weight: 0 };
  /** A card over the floor that looks down on it, and light that falls on the card alone. */
  const scene = (surface: object, lights: TestLight[], surround?: SceneChanges['surround']) => {
    const white: TestLight = {
      ...any,
      kind: 'area',
      card: true,
      white: 1,
      width: 60,
      height: 60,
      placed: placed([0, 1, 0], 0),
    };
    const made = sceneOf(
      [
        { triangles: plane(400), surface },
        { triangles: quad([90, 90, 0], [1, 0, 0], [0, 1, 0]), surface: CARD },
      ],
      {
        lights: [...lights, white],
        surround,
        bounces: 2,
      },
    );
    return made;
  };
  const upwards: TestLight = {
    ...any,
    shadow: false,
    kind: 'directional',
    placed: placed([0, -9, 0], 5, [0, 1, 0]),
  };
  const look = (surface: object, lights: TestLight[], surround?: SceneChanges['surround']) => {
    const picture = traced(
      scene(surface, lights, surround),
      { ...spotView([0, 0.5, 0], down), bounces: 2 },
      2048,
    );
    return [0, 1, 2].map((c) => meanOf(picture, c));
  };
  const dark = { picture: flatSurround(0), gain: 1, turn: 0, seen: true };

  it('are as bright in a mirror as what falls on them makes paper', () => {
    within(look(MIRROR, [upwards])[1], (0.9 * 5) / Math.PI, 0.01);
    const point: TestLight = { ...any, kind: 'point', placed: placed([0.3, 0.6, 0], 8) };
    const d2 = 0.3 ** 2 + 0.4 ** 2;
    within(look(MIRROR, [point])[1], ((0.9 / Math.PI) * 8 * 0.4) / d2 ** 1.5, 0.02);
  });

  it('hide what is behind them from mirrors, and neither light nor shade what scatters', () => {
    const sky = { picture: flatSurround(1), gain: 1, turn: 0, seen: true };
    expect(look(MIRROR, [], sky)[1]).toBeLessThan(0.01);
    within(look(MATTE, [], sky)[1], ALBEDO, 0.01);
    expect(look(MATTE, [upwards], dark)[1]).toBe(0);
  });

  it('add to a lacquer just what it mirrors of them', () => {
    const whole = {
      picture: flatSurround(1),
      gain: 1,
      turn: 0,
      seen: true,
      reach: { diffuse: false, mirrored: true, through: false },
    };
    const bare = sceneOf([{ triangles: plane(), surface: LACQUER }], { surround: whole, bounces: 2 });
    const mirrored = traced(bare, { ...spotView([0, 0.5, 0], down), bounces: 2 }, 1024);
    look(LACQUER, [upwards], dark).forEach((v, c) =>
      within(v, (meanOf(mirrored, c) * 0.9 * 5) / Math.PI, 0.04),
    );
  });
});

describe('profiles', () => {
  it('send their share of the strength each way', () => {
    const texture = profileTexture('flood', readyProfile('flood'));
    const light: TestLight = { ...any, kind: 'point', profile: 'flood', placed: placed([0, 2, 0], 30) };
    for (const x of [0, 0.5, 1.5, 3]) {
      const d2 = 4 + x * x;
      const cosine = 2 / Math.sqrt(d2);
      const exact = (30 * cosine ** 1.5 * cosine) / d2;
      within(irradiance({ lights: [light], textures: [texture] }, [x, 0], 4), exact, 0.005);
    }
  });

  it('stand as their file says: around, from the light’s right towards its top', () => {
    const text = 'TILT=NONE\n1 1 1 3 4 1 2 0 0 0\n1 1 1\n0 45 90\n0 90 180 270\n1 8 8\n1 2 2\n1 4 4\n1 6 6\n';
    const texture = profileTexture('odd', readProfile(new TextEncoder().encode(text)));
    const light: TestLight = {
      ...any,
      kind: 'spot',
      profile: 'odd',
      cosInner: 0.01,
      cosOuter: 0,
      placed: placed([0, 1, 0], 8),
    };
    const at = (x: number, z: number) =>
      irradiance({ lights: [light], textures: [texture] }, [x, z], 4) * 2 ** 1.5;
    // right is +x and up is −z
    [at(1, 0), at(0, -1), at(-1, 0), at(0, 1)].forEach((v, i) => within(v, [8, 2, 4, 6][i], 0.01));
  });
});

describe('patterns', () => {
  const colours = [
    [255, 0, 0],
    [0, 255, 0],
    [0, 0, 255],
    [255, 255, 255],
  ];
  /** Four pixels: red and green above, blue and white below. */
  const texture = textureOf(
    'four',
    { width: 2, height: 2, data: Uint8Array.from(colours.flatMap((c) => [...c, 255])) },
    'colour',
  );
  const light = (changes: object = {}): TestLight => ({
    ...any,
    kind: 'spot',
    cosInner: Math.cos(45 * DEG),
    cosOuter: Math.cos(46 * DEG),
    pattern: { texture: 'four', scale: 1 / Math.tan(45 * DEG), soft: 0 },
    placed: placed([0, 1, 0], 10),
    ...changes,
  });
  const at = (x: number, z: number, own = light()) => {
    const scene = sceneOf([{ triangles: plane(), surface: MATTE }], {
      lights: [own],
      textures: [texture],
      bounces: 1,
    });
    const picture = traced(scene, spotView([x, 0.4, z], down), 4);
    return [0, 1, 2].map((c) => (meanOf(picture, c) * Math.PI) / ALBEDO);
  };

  it('fall as whoever stands behind the light sees them, their top towards its top', () => {
    const bare = (x: number, z: number) => at(x, z, light({ pattern: undefined }))[0];
    // the light’s up is −z: its upper left is at −x, −z
    const places = [
      [-0.5, -0.5],
      [0.5, -0.5],
      [-0.5, 0.5],
      [0.5, 0.5],
    ];
    places.forEach(([x, z], i) => {
      // the pixels’ middles stand at the picture’s edges, so half way out each has three quarters across and up
      const got = at(x, z).map((v) => v / bare(x, z));
      const share = [0, 1, 2, 3].map((k) => (k === i ? 9 : k === 3 - i ? 1 : 3) / 16);
      [0, 1, 2].forEach((c) => {
        const exact = colours.reduce((sum, colour, k) => sum + (share[k] * colour[c]) / 255, 0);
        expect(got[c]).toBeCloseTo(exact, 2);
      });
    });
  });

  it('lie as one picture across the cone of a spot, as the traced light has them', () => {
    for (const soft of [0, 1])
      for (const scale of [1, 1.7]) {
        const own = light({ pattern: { texture: 'four', scale, soft } });
        const scene = sceneOf([], { lights: [own], textures: [texture] });
        const picture = beamPicture(scene.lights[0], scene)!;
        const half = Math.tan(46 * DEG);
        for (const [x, z] of [
          [0.3, 0.2],
          [-0.4, 0.5],
          [0.1, -0.55],
          [-0.7, 0],
        ]) {
          const pixel = (v: number) => Math.floor((0.5 + (0.5 * v) / half) * BEAM_SIDE);
          const at4 = (pixel(-z) * BEAM_SIDE + pixel(x)) * 4;
          const bare = at(x, z, light({ pattern: undefined }))[0];
          at(x, z, own).forEach((v, c) =>
            expect(srgbStep(picture[at4 + c] / 255), `${x} ${z} by ${scale}`).toBeCloseTo(v / bare, 1.7),
          );
        }
      }
    expect(beamPicture(light({ pattern: undefined }) as never, { textures: [texture] })).toBeNull();
    expect(beamPicture(light({ cosOuter: 0.01 }) as never, { textures: [texture] })).toBeNull();
  });

  it('end at their edge, grow with their size, and blur to their mean', () => {
    const small = light({ pattern: { texture: 'four', scale: 4, soft: 0 } });
    expect(at(0.3, 0, small)).toEqual([0, 0, 0]);
    expect(at(0.2, 0.2, small)[0]).toBeGreaterThan(1);
    const soft = light({ pattern: { texture: 'four', scale: 1, soft: 1 } });
    const [r, g, b] = at(0, 0, soft);
    // of red, green and blue two of the four are lit each
    within(r, 5, 0.01);
    within(g, 5, 0.01);
    within(b, 5, 0.01);
  });

  it.each(LIGHT_PATTERNS.map((p) => p.id))('%s lets some light through and holds some back', (id) => {
    const { width, height, data } = paintTexture(id);
    let sum = 0;
    let [dark, bright] = [0, 0];
    for (let i = 0; i < data.length; i += 4) {
      sum += data[i] / 255;
      if (data[i] < 110) dark++;
      if (data[i] > 180) bright++;
    }
    const pixels = width * height;
    expect(sum / pixels).toBeGreaterThan(0.1);
    expect(dark / pixels).toBeGreaterThan(0.05);
    expect(bright / pixels).toBeGreaterThan(0.05);
  });
});

describe('a surround on the ground', () => {
  /** Bright where its ground is, a metre before the eye’s foot: 45° down along +z for an eye a metre high. */
  const picture = { width: 256, height: 128, data: new Float32Array(256 * 128 * 3).fill(0.1) };
  for (let y = 92; y < 100; y++)
    for (let x = 188; x < 196; x++) picture.data.fill(7, (y * 256 + x) * 3, (y * 256 + x) * 3 + 3);
  const look = (origin: Vec, forward: Vec, ground: boolean) => {
    const surround = {
      picture,
      gain: 1,
      turn: 0,
      seen: true,
      ...(ground ? { ground: { at: [0, 0, 0], eye: 1 } } : {}),
    };
    const scene = sceneOf([{ triangles: quad([50, 9, 0], [1, 0, 0], [0, 0, -1]) }], { surround });
    return meanOf(traced(scene, spotView(origin, forward), 4), 1);
  };
  const towards = (from: Vec, to: Vec): Vec => {
    const way = to.map((v, i) => v - from[i]) as Vec;
    return way.map((v) => v / Math.hypot(...way)) as Vec;
  };

  it('lies where it is, from wherever the camera looks', () => {
    for (const from of [
      [0, 2, 4],
      [3, 0.5, -1],
      [-2, 1, 0],
    ] as Vec[]) {
      expect(look(from, towards(from, [0, 0, 1]), true)).toBeCloseTo(7, 2);
      expect(look(from, towards(from, [0, 0, 2]), true)).toBeCloseTo(0.1, 2);
      expect(look(from, towards(from, [0, 0, 1]), false)).toBeCloseTo(0.1, 2);
    }
  });

  it('looks as ever from where it was taken', () => {
    for (const way of [
      [0.3, -0.5, 0.8],
      [0, 0.2, 1],
      [-0.7, -0.1, 0.2],
    ] as Vec[]) {
      const forward = towards([0, 0, 0], way);
      expect(look([0, 1, 0], forward, true)).toBeCloseTo(look([0, 1, 0], forward, false), 4);
    }
  });
});
