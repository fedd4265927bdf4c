/** Pictures laid over faces as they are traced, against the pixels they were made from. */
import { describe, expect, it } from 'vitest';
import { newFeed, plainSurface, type Feed, type Surface } from '../../src/document/index.ts';
import type { Vec } from '../../src/light/placing.ts';
import { textureOf, type Coding, type Pixels } from '../../src/texture/texture.ts';
import { any, placed } from './lightFixture.ts';
import { flatSurround, meanOf, quad, sceneOf, spotView, traced } from './sceneFixture.ts';

const GLOW = { base_color: [0, 0, 0], specular_weight: 0, emission_luminance: 1 };
/** A square metre before the eye, facing it. */
const PAGE = quad([-0.5, -0.5, 0], [1, 0, 0], [0, 1, 0]);

const feed = (parameter: string, more: Partial<Feed> = {}): Feed => ({
  ...newFeed(parameter, parameter, parameter.endsWith('color') ? [1, 1, 1] : 0),
  source: 'picture',
  picture: { source: 'asset', id: 'p', name: 'p' },
  ...more,
});
const textures = (pixels: Pixels, coding: Coding = 'colour') => [
  textureOf(`asset:p:${coding}`, pixels, coding),
];

/** Four by two pixels, red growing to the right, green upward, a blue that is neither end of its byte. */
const RAMP: Pixels = {
  width: 4,
  height: 2,
  data: Float32Array.from({ length: 32 }, (_, i) => {
    const [x, y] = [(i >> 2) % 4, 1 - (i >> 4)];
    return [x / 3, y, 0.37, x === 0 ? 0 : 1][i & 3]!;
  }),
};
/** Middle of a pixel on the page, when the picture covers it: twice as wide as high, so it goes beyond. */
const middle = (x: number, y: number): [number, number] => [((x + 0.5) / 4) * 2 - 1, (y + 0.5) / 2 - 0.5];

/** Mean radiance of the page at a place of it. */
function seenAt(
  feeds: Feed[],
  [x, y]: [number, number],
  pixels: Pixels = RAMP,
  surface: Partial<Surface> = GLOW,
  coding: Coding = 'colour',
  samples = 16,
): number[] {
  const scene = sceneOf([{ triangles: PAGE, surface: plainSurface(surface), feeds }], {
    textures: textures(pixels, coding),
    ...(surface === GLOW ? {} : { surround: { picture: flatSurround(1), gain: 1, turn: 0, seen: false } }),
  });
  const group = scene.groups.push('Glow') - 1;
  scene.parts.group.fill(group);
  const picture = traced(scene, spotView([x, y, 2] as Vec, [0, 0, -1]), samples);
  return [0, 1, 2].map((c) => meanOf(picture, c));
}

describe('a picture', () => {
  it('gives a colour its own, pixel for pixel, and covers what it is laid over', () => {
    for (const [x, y] of [
      [1, 0],
      [2, 0],
      [1, 1],
      [2, 1],
    ] as const) {
      const seen = seenAt([feed('emission_color')], middle(x, y));
      [x / 3, y, 0.37].forEach((v, c) => expect(seen[c]).toBeCloseTo(v, 1));
    }
    // between two pixels lies their mean
    const [a] = middle(1, 0);
    const [b] = middle(2, 0);
    expect(seenAt([feed('emission_color')], [(a + b) / 2, -0.25])[0]).toBeCloseTo(0.5, 1);
  });

  it('of a wall under even light sends back what its pixels say', () => {
    const wall = { specular_weight: 0 };
    for (const [x, y] of [
      [1, 0],
      [2, 1],
    ] as const) {
      const seen = seenAt([feed('base_color')], middle(x, y), RAMP, wall, 'colour', 64);
      [x / 3, y, 0.37].forEach((v, c) => expect(seen[c]).toBeCloseTo(v, 1));
    }
  });

  it('gives numbers its brightness or its opacity, along its stops', () => {
    const stops = [
      { at: 0, value: 0, colour: [1, 1, 1] },
      { at: 1, value: 10, colour: [1, 1, 1] },
    ];
    const light = (2 / 3) * 0.2126 + 0.7152 + 0.37 * 0.0722;
    expect(seenAt([feed('emission_luminance', { stops })], middle(2, 1))[0]).toBeCloseTo(10 * light, 0);
    const cover = feed('emission_luminance', { stops, take: 'cover' });
    expect(seenAt([cover], middle(2, 1))[0]).toBeCloseTo(10, 3);
    expect(seenAt([{ ...cover, shift_x: 0.5 }], middle(2, 1))[0]).toBeCloseTo(0, 3);
  });

  it('is turned, moved, sized, tiled and mirrored', () => {
    const lay = (more: Partial<Feed>, at: [number, number]) => seenAt([feed('emission_color', more)], at)[0];
    const [x, y] = middle(1, 0);
    expect(lay({ shift_x: 0.25 }, [x + 0.5, y])).toBeCloseTo(1 / 3, 1);
    expect(lay({ zoom: 0.5 }, [x / 2, y / 2])).toBeCloseTo(1 / 3, 1);
    expect(lay({ turn: Math.PI / 2 }, [-y, x])).toBeCloseTo(1 / 3, 1);
    // in tiles of 0.2 m pixels are 0.05 m wide, from the middle of the block
    const tiled = (at: number) => lay({ lay: 'tiles', tile: 0.2 }, [at, 0.025]);
    expect(tiled(0.025)).toBeCloseTo(2 / 3, 1);
    expect(tiled(-0.025)).toBeCloseTo(1 / 3, 1);
    expect(tiled(0.225)).toBeCloseTo(2 / 3, 1);
    const small = (edges: Feed['edges'], at: number) => lay({ edges, zoom: 0.25 }, [at, 0]);
    expect(small('mirror', 0.25 + 0.0625)).toBeCloseTo(1, 1);
    expect(small('repeat', 0.25 + 0.0625)).toBeCloseTo(0, 1);
    expect(small('once', 0.45)).toBeCloseTo(1, 1);
  });

  it('of normals leans the face as they say, however it is turned, and lets its own lie flat', () => {
    const albedo = 0.5;
    const matte = { base_color: [albedo, albedo, albedo], specular_weight: 0, specular_roughness: 1 };
    const lit = (normal: Vec, from: Vec, more: Partial<Feed> = {}, triangles = PAGE) => {
      const data = Float32Array.from(
        { length: 16 },
        (_, i) => [...normal.map((v) => v / 2 + 0.5), 1][i & 3]!,
      );
      const page = {
        triangles,
        surface: plainSurface(matte),
        feeds: [feed('relief', { take: 'normals', ...more })],
      };
      const sun = {
        ...any,
        kind: 'directional' as const,
        cosEdge: 1,
        placed: placed([0, 0, 9], 3, from.map((v) => -v) as Vec),
      };
      const scene = sceneOf([page], {
        textures: textures({ width: 2, height: 2, data }, 'numbers'),
        lights: [sun],
      });
      return meanOf(traced(scene, spotView([0.1, 0.1, 2], [0, 0, -1]), 16), 0) / ((albedo / Math.PI) * 3);
    };
    const dot = (a: Vec, b: Vec) => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
    const sun: Vec = [0.48, 0.6, 0.64];
    expect(lit([0, 0, 1], sun)).toBeCloseTo(0.64, 3);
    const leans: Vec = [0.36, -0.48, 0.8];
    expect(lit(leans, sun)).toBeCloseTo(dot(leans, sun), 3);
    // turned by a quarter, what leant to the right leans up
    expect(lit([0.6, 0, 0.8], sun, { turn: Math.PI / 2 })).toBeCloseTo(dot([0, 0.6, 0.8], sun), 3);
    expect(lit([0.6, 0, 0.8], sun, { lay: 'tiles', tile: 0.3, zoom: 2 })).toBeCloseTo(
      dot([0.6, 0, 0.8], sun),
      3,
    );
    // as long as the picture is wide counts for nothing: slopes are those of the face
    expect(lit([0.6, 0, 0.8], sun, { zoom: 7 })).toBeCloseTo(dot([0.6, 0, 0.8], sun), 3);
  });

  it('is numbers when it is read as such, and light else', () => {
    const grey = { width: 1, height: 1, data: Uint8Array.of(128, 128, 128, 255) };
    const stops = [0, 1].map((at) => ({ at, value: at, colour: [1, 1, 1] }));
    const fed = (coding: Coding) =>
      seenAt([feed('emission_luminance', { stops, coding })], [0, 0], grey, GLOW, coding)[0];
    expect(fed('numbers')).toBeCloseTo(128 / 255, 2);
    expect(fed('colour')).toBeCloseTo(0.2159, 2);
  });

  it('brighter than white glows to its brightest', () => {
    const bright: Pixels = { width: 2, height: 1, data: Float32Array.of(20, 20, 20, 1, 5, 5, 5, 1) };
    const fed = feed('emission_color');
    const nits = { ...GLOW, emission_luminance: 8 };
    expect(seenAt([fed], [-0.499, 0], bright, nits)[0]).toBeCloseTo(8, 0);
    expect(seenAt([fed], [0.499, 0], bright, nits)[0]).toBeCloseTo(2, 0);
  });

  it('far away is seen as the mean of what a pixel covers, in every sample', () => {
    const checks: Pixels = {
      width: 64,
      height: 64,
      data: Uint8Array.from({ length: 64 * 64 * 4 }, (_, i) =>
        (i & 3) === 3 || ((i >> 2) + (i >> 8)) % 2 === 0 ? 255 : 0,
      ),
    };
    const scene = sceneOf(
      [
        {
          triangles: PAGE,
          surface: plainSurface(GLOW),
          feeds: [feed('emission_color', { lay: 'tiles', tile: 0.02 })],
        },
      ],
      { textures: textures(checks) },
    );
    scene.parts.group.fill(scene.groups.push('Glow') - 1);
    const view = { ...spotView([0, 0, 2], [0, 0, -1]), right: [0.2, 0, 0], up: [0, 0.2, 0] } as ReturnType<
      typeof spotView
    >;
    const picture = traced(scene, view, 1);
    // one sample a pixel: without smaller pictures each would be black or white, and not one of the steps about the mean
    for (let i = 0; i < picture.length; i += 4) expect(Math.abs(picture[i]! - 0.5)).toBeLessThan(0.25);
    expect(meanOf(picture, 0)).toBeCloseTo(0.5, 1);
  });
});
