/** Coats and feeds as they are traced, against what they must come to. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  FEED_SOURCES,
  newCoat,
  newFeed,
  plainSurface,
  type Coat,
  type Feed,
  type FeedSource,
  type Surface,
} from '../../src/document/index.ts';
import { SURFACE } from '../../src/document/parameters.ts';
import { finishOptics } from '../../src/finish/optics.ts';
import { mixedEvenly, surfacesOf, valueAt } from '../../src/finish/recipe.ts';
import type { Vec } from '../../src/light/placing.ts';
import type { Eye } from '../../src/trace/eye.ts';
import { LAYERS_AT } from '../../src/trace/film.ts';
import { seeded } from './kernelFixture.ts';
import { box, flatSurround, meanOf, quad, sceneOf, spotView, traced, tracedFilm } from './sceneFixture.ts';

const feed = (
  parameter: string,
  source: FeedSource,
  values: (number | number[])[],
  more: Partial<Feed> = {},
): Feed => ({
  ...newFeed(`${parameter}-${source}`, parameter, Array.isArray(values[0]) ? [1, 1, 1] : 0),
  source,
  blend: 'linear',
  stops: values.map((v, i) => ({
    at: i / Math.max(1, values.length - 1),
    value: Array.isArray(v) ? 0 : v,
    colour: Array.isArray(v) ? v : [1, 1, 1],
  })),
  ...more,
});
const coat = (surface: Partial<Surface>, more: Partial<Coat> = {}): Coat =>
  newCoat({ id: 'coat', name: 'Coat', surface: plainSurface(surface), ...more });
const GLOW = { base_color: [0, 0, 0], specular_weight: 0, emission_luminance: 1 };
/** A square metre before the eye, facing it. */
const PAGE = quad([-0.5, -0.5, 0], [1, 0, 0], [0, 1, 0]);

/** Mean radiance seen at a place of the page, from a direction in the horizontal plane. */
function seenAt(
  finish: { surface?: Partial<Surface>; feeds?: Feed[]; coats?: Coat[] },
  [x, y]: [number, number],
  angle = 0,
  samples = 64,
  changes: Parameters<typeof sceneOf>[1] = {},
): number[] {
  const away: Vec = [Math.sin(angle), 0, Math.cos(angle)];
  const eye = spotView(away.map((v, i) => v * 2 + [x, y, 0][i]) as Vec, away.map((v) => -v) as Vec);
  const scene = sceneOf([{ triangles: PAGE, ...finish }], changes);
  // a glowing part is a source of its own
  const group = scene.groups.push('Glow') - 1;
  scene.parts.group.fill(group);
  const picture = traced(scene, eye, Math.ceil(samples / 8));
  return [0, 1, 2].map((c) => meanOf(picture, c));
}

describe('a feed', () => {
  it('over the viewing angle gives what its stops say at that angle, evenly and late', () => {
    const colours = [
      [1, 0, 0],
      [0, 1, 0],
      [0, 0, 1],
    ];
    for (const shape of ['even', 'fresnel'] as const)
      for (const degrees of [0, 30, 60, 75]) {
        const angle = (degrees * Math.PI) / 180;
        const rest = 1 - Math.cos(angle);
        const u = shape === 'even' ? rest : rest ** 5;
        const seen = seenAt(
          { surface: GLOW, feeds: [feed('emission_color', 'angle', colours, { shape })] },
          [0, 0],
          angle,
        );
        const [from, to, t] = u < 0.5 ? [colours[0], colours[1], u * 2] : [colours[1], colours[2], u * 2 - 1];
        from.forEach((v, c) => expect(seen[c]).toBeCloseTo(v + (to[c] - v) * t, 1));
        expect(seen[0] + seen[1] + seen[2]).toBeCloseTo(1, 5);
      }
  });

  it('along the line and up lies over the box of its letter, from its first stop to its last', () => {
    for (const [x, y] of [
      [-0.4, 0.1],
      [0.05, -0.3],
      [0.35, 0.45],
    ] as [number, number][]) {
      const at = { from: 0.25, to: 0.75 };
      const along = seenAt(
        { surface: GLOW, feeds: [feed('emission_luminance', 'along', [0, 1])] },
        [x, y],
        0,
        256,
      );
      expect(along[1]).toBeCloseTo(x + 0.5, 1);
      const up = seenAt(
        { surface: GLOW, feeds: [feed('emission_luminance', 'up', [0, 1], at)] },
        [x, y],
        0,
        256,
      );
      expect(up[1]).toBeCloseTo(Math.min(1, Math.max(0, (y + 0.5 - 0.25) * 2)), 1);
    }
  });

  it('by distance rises from where another thing is nearest to as far as is told', () => {
    const near = feed(
      'emission_color',
      'near',
      [
        [0, 0, 0],
        [1, 1, 1],
      ],
      { scale: 0.8 },
    );
    const page = { triangles: PAGE, surface: GLOW, feeds: [near] };
    const cube = (x: number, y: number, z: number) => box([x, y, z], [x + 0.1, y + 0.1, z + 0.1]);
    const black = { base_color: [0, 0, 0], specular_weight: 0 };
    const scene = sceneOf([
      page,
      // a piece of the stage, which does not count, and type behind and beside the page
      { triangles: cube(0, 0, -0.2), surface: black },
      { triangles: cube(-0.4, 0.1, -0.3), surface: black, type: true },
      { triangles: [...cube(0.3, -0.3, -0.35), ...cube(0.6, 0.6, -0.15)], surface: black, type: true },
    ]);
    const group = scene.groups.push('Glow') - 1;
    scene.parts.group.fill(group);
    const boxes = [
      [-0.4, 0.1, -0.3],
      [0.3, -0.3, -0.35],
      [0.6, 0.6, -0.15],
    ];
    const random = seeded(4);
    for (let k = 0; k < 40; k++) {
      const [x, y] = [random() - 0.5, random() - 0.5];
      const away = Math.min(
        ...boxes.map((b) => Math.hypot(...[x, y, 0].map((v, i) => Math.max(b[i] - v, 0, v - b[i] - 0.1)))),
      );
      const picture = traced(scene, spotView([x, y, 2], [0, 0, -1]), 512);
      // drawn between two places of the grid: the mean is told by many samples
      expect(Math.abs(meanOf(picture, 0) - Math.min(1, away / 0.8)), `${x} ${y}`).toBeLessThan(0.02);
    }
  });

  it('has edges as sharp as its stops', () => {
    const edged = feed('emission_luminance', 'along', [0, 0]);
    edged.stops = [
      [0, 0.2],
      [0.5, 0.2],
      [0.5, 0.9],
      [1, 0.9],
    ].map(([at, value]) => ({ at, value, colour: [1, 1, 1] }));
    expect(seenAt({ surface: GLOW, feeds: [edged] }, [-0.001, 0])[1]).toBeCloseTo(0.2, 5);
    expect(seenAt({ surface: GLOW, feeds: [edged] }, [0.001, 0])[1]).toBeCloseTo(0.9, 5);
  });

  it('of noise is even about the middle, keeps to its seed, and differs with it', () => {
    const means = [1, 1, 2].map((seed) => {
      const noisy = feed('emission_luminance', 'noise', [0, 1], { scale: 0.02, seed, octaves: 2 });
      const wide: Eye = { ...spotView([0, 0, 2], [0, 0, -1], 32), right: [0.5, 0, 0], up: [0, 0.5, 0] };
      const scene = sceneOf([{ triangles: PAGE, surface: GLOW, feeds: [noisy] }]);
      scene.parts.group.fill(scene.groups.push('Glow') - 1);
      return meanOf(traced(scene, wide, 16), 1);
    });
    expect(means[0]).toBe(means[1]);
    expect(means[2]).not.toBe(means[0]);
    for (const mean of means) expect(mean).toBeCloseTo(0.5, 1);
  });

  it('leans the surface by its relief: a ramp of one in ten by that angle', () => {
    const ramp = feed('relief', 'along', [0, 0.1]);
    const scene = sceneOf([{ triangles: PAGE, surface: { base_metalness: 1 }, feeds: [ramp] }]);
    const film = tracedFilm(scene, spotView([0, 0, 2], [0, 0, -1]), 4, 1, { layers: true });
    const n = [3, 4, 5].map((k) => film.sums[LAYERS_AT + k] / film.sums[LAYERS_AT + 7]);
    expect(Math.atan2(-n[0], n[2])).toBeCloseTo(Math.atan(0.1), 3);
    expect(n[1]).toBeCloseTo(0, 5);
  });

  it('of light lights others as the same light laid out in pieces does', () => {
    const floor = quad([-0.5, -0.5, 0.5], [0, 1, 0], [1, 0, 0]);
    const halves = [-0.5, 0].map((x) => quad([x, -0.5, 0], [0.5, 0, 0], [0, 1, 0]));
    const split = feed('emission_color', 'along', [[0, 0, 0]]);
    split.stops = [
      { at: 0, value: 0, colour: [1, 0, 0] },
      { at: 0.5, value: 0, colour: [1, 0, 0] },
      { at: 0.5, value: 0, colour: [0, 0, 1] },
      { at: 1, value: 0, colour: [0, 0, 1] },
    ];
    // the floor looks down at the page, and is looked at from beside it
    const eye = spotView([0.2, 0, 0.1], [0, 0, 1]);
    const view = { ...eye, bounces: 1 };
    const lit = (pieces: Parameters<typeof sceneOf>[0]) => {
      const scene = sceneOf(pieces);
      const group = scene.groups.push('Glow') - 1;
      for (let i = 0; i < scene.parts.count; i++) scene.parts.group[i] = group;
      const picture = traced(scene, view, 250);
      return [0, 1, 2].map((c) => meanOf(picture, c));
    };
    const matte = { base_color: [0.8, 0.8, 0.8], specular_weight: 0 };
    const fed = lit([
      { triangles: floor, surface: matte },
      { triangles: PAGE, surface: GLOW, feeds: [split] },
    ]);
    const apart = lit([
      { triangles: floor, surface: matte },
      { triangles: halves[0], surface: { ...GLOW, emission_color: [1, 0, 0] } },
      { triangles: halves[1], surface: { ...GLOW, emission_color: [0, 0, 1] } },
    ]);
    expect(apart[0]).toBeGreaterThan(0.02);
    expect(fed[0] / apart[0]).toBeCloseTo(1, 1.5);
    expect(fed[2] / apart[2]).toBeCloseTo(1, 1.5);
    expect(fed[1]).toBe(0);
  });
});

describe('coats', () => {
  it('show by as much as they cover, the last on top', () => {
    const coats = [
      coat({ ...GLOW, emission_color: [0, 1, 0] }, { id: 'a', cover: 0.5 }),
      coat({ ...GLOW, emission_color: [0, 0, 1] }, { id: 'b', cover: 0.25 }),
    ];
    const seen = seenAt({ surface: { ...GLOW, emission_color: [1, 0, 0] }, coats }, [0, 0], 0, 1024);
    [0.375, 0.375, 0.25].forEach((v, c) => expect(seen[c]).toBeCloseTo(v, 2));
    const off = seenAt({ surface: GLOW, coats: coats.map((c) => ({ ...c, on: false })) }, [0, 0]);
    expect(off[0]).toBeCloseTo(1, 6);
  });

  it('that lie as light add what they give by themselves, and hide nothing', () => {
    const lit = coat(
      { ...GLOW, emission_color: [0, 0, 1], emission_luminance: 4 },
      { id: 'lit', lies: 'light', cover: 0.5 },
    );
    const surround = { picture: flatSurround(1), gain: 1, turn: 0, seen: true };
    const white = {
      base_color: [1, 1, 1],
      specular_weight: 0,
      emission_luminance: 1,
      emission_color: [0, 1, 0],
    };
    const seen = seenAt({ surface: white, coats: [lit] }, [0, 0], 0.3, 256, { surround });
    [1, 2, 3].forEach((v, c) => expect(seen[c]).toBeCloseTo(v, 2));
    // one over the other: what lies over hides the light too
    const over = coat({ base_color: [0, 0, 0], specular_weight: 0 }, { id: 'over', cover: 0.75 });
    const hidden = seenAt({ surface: white, coats: [lit, over] }, [0, 0], 0.3, 2048, { surround });
    [0.25, 0.5, 0.75].forEach((v, c) => expect(Math.abs(hidden[c] - v)).toBeLessThan(0.06));
    // as much as it covers, along its axis
    const climbing = { ...lit, feeds: [feed('cover', 'up', [0, 1])] };
    for (const y of [-0.3, 0.25])
      expect(seenAt({ surface: white, coats: [climbing] }, [0, y], 0, 2048, { surround })[2]).toBeCloseTo(
        1 + 4 * (y + 0.5),
        0.5,
      );
  });

  it('or all of them are there in part: the rest is seen through, and casts half a shadow', () => {
    const half = { ...GLOW, emission_luminance: 4, geometry_opacity: 0.25 };
    const surround = { picture: flatSurround(2), gain: 1, turn: 0, seen: true };
    const seen = seenAt({ surface: half }, [0, 0], 0, 4096, { surround });
    for (const v of seen) expect(Math.abs(v - (0.25 * 4 + 0.75 * 2))).toBeLessThan(0.05);
    const cut = { surface: GLOW, feeds: [feed('geometry_opacity', 'up', [0, 0, 1, 1], {})] };
    cut.feeds[0].stops.forEach((s, i) => (s.at = [0, 0.5, 0.5, 1][i]));
    expect(seenAt(cut, [0.1, -0.3], 0, 64, { surround })[0]).toBeCloseTo(2, 4);
    expect(seenAt(cut, [0.1, 0.3], 0, 64, { surround })[0]).toBeCloseTo(1, 4);
    const coats = [coat(GLOW, { cover: 1 })];
    expect(
      seenAt({ surface: { ...half, geometry_opacity: 0 }, coats }, [0, 0], 0, 64, { surround })[0],
    ).toBeCloseTo(1, 4);
  });

  it('cover where they are covered and opaque, place by place', () => {
    const red = { ...GLOW, emission_color: [1, 0, 0] as [number, number, number] };
    /** Share of a blue coat over red, at a height of the page. */
    const share = (y: number, more: Partial<Coat>, opacity = 1) => {
      const blue = {
        ...GLOW,
        emission_color: [0, 0, 1] as [number, number, number],
        geometry_opacity: opacity,
      };
      const seen = seenAt({ surface: red, coats: [coat(blue, more)] }, [0, y], 0, 4096);
      expect(seen[0] + seen[2]).toBeCloseTo(1, 4);
      return seen[2];
    };
    const cut = feed('geometry_opacity', 'up', [0, 0, 1, 1]);
    cut.stops.forEach((s, i) => (s.at = [0, 0.5, 0.5, 1][i]));
    const climbs = feed('cover', 'up', [0, 1]);
    for (const y of [-0.3, -0.1, 0.1, 0.3]) {
      const up = y + 0.5;
      // its own opacity fed, its cover even
      expect(share(y, { cover: 0.6, feeds: [cut] })).toBeCloseTo(up < 0.5 ? 0 : 0.6, 1.7);
      // its cover fed, its opacity even
      expect(share(y, { feeds: [climbs] }, 0.5)).toBeCloseTo(up / 2, 1.7);
      // both along one axis: edges stay edges, and what curves is followed
      expect(share(y, { feeds: [climbs, cut] })).toBeCloseTo(up < 0.5 ? 0 : up, 1.7);
      const opens = feed('geometry_opacity', 'up', [1, 0]);
      expect(share(y, { feeds: [climbs, opens] })).toBeCloseTo(up * (1 - up), 1.7);
      // along two axes: by the mean of its opacity
      const across = feed('geometry_opacity', 'angle', [0.2, 0.2, 0.8]);
      expect(share(y, { feeds: [climbs, across] })).toBeCloseTo(up * 0.35, 1.7);
    }
  });

  it('covers by angle, so that another shows at the edge', () => {
    const over = coat({ ...GLOW, emission_color: [0, 0, 1] }, { feeds: [feed('cover', 'angle', [0, 1])] });
    const seen = seenAt(
      { surface: { ...GLOW, emission_color: [1, 0, 0] }, coats: [over] },
      [0, 0],
      Math.PI / 3,
      1024,
    );
    expect(seen[0]).toBeCloseTo(0.5, 1.5);
    expect(seen[2]).toBeCloseTo(0.5, 1.5);
  });

  it('of any sort keep a white furnace white', () => {
    const white: Partial<Surface>[] = [
      { base_metalness: 1, base_color: [1, 1, 1], specular_roughness: 0.4 },
      { base_color: [1, 1, 1], specular_roughness: 0.2 },
      { base_color: [1, 1, 1], coat_weight: 1, coat_roughness: 0.1 },
      { base_color: [1, 1, 1], base_diffuse_roughness: 1, specular_weight: 0 },
    ];
    white.forEach((surface, i) => {
      const feeds = [
        feed('specular_roughness', 'noise', [0.05, 1], { scale: 0.01 }),
        feed('base_metalness', 'angle', [0, 1]),
      ];
      const over = coat(white[(i + 1) % 4], {
        feeds: [feed('cover', 'cells', [0, 1], { scale: 0.01 }), feed('coat_weight', 'up', [0, 1])],
      });
      const seen = seenAt({ surface, feeds, coats: [over] }, [0.1, 0.2], 0.6, 1024, {
        surround: { picture: flatSurround(1), gain: 1, turn: 0, seen: true },
      });
      for (const v of seen) {
        expect(v, JSON.stringify(surface)).toBeGreaterThan(0.97);
        expect(v, JSON.stringify(surface)).toBeLessThan(1.015);
      }
    });
  });
});

describe('any stack of coats, fed by anything,', () => {
  it('gives back no more light than falls on it', () => {
    const numbers = Object.entries(SURFACE).filter(
      ([key, p]) => p.kind === 'number' && !/^emission/.test(key),
    );
    const surface = fc
      .tuple(...numbers.map(() => fc.double({ min: 0, max: 1, noNaN: true })))
      .map((shares) => {
        const made: Record<string, unknown> = { base_color: [1, 1, 1] };
        numbers.forEach(([key, p], i) => {
          const { min, max } = p as { min: number; max: number };
          made[key] = min + (max - min) * shares[i];
        });
        // films take long to compile: some have one
        const thin_film_weight = shares[0] > 0.8 ? 1 : 0;
        return {
          ...made,
          thin_film_weight,
          relief: 0,
          transmission_depth: 0,
          base_metal: 'none',
        } as Partial<Surface>;
      });
    const source = fc.constantFrom(...FEED_SOURCES);
    const feeds = fc.uniqueArray(
      fc.tuple(
        fc.constantFrom('specular_roughness', 'base_metalness', 'coat_weight', 'specular_ior'),
        source,
        fc.double({ min: 0, max: 1, noNaN: true }),
      ),
      { selector: ([key]) => key, maxLength: 1 },
    );
    const fedBy = (list: [string, FeedSource, number][]) =>
      list.map(([key, from, v]) =>
        feed(key, from, key === 'specular_ior' ? [1.1, 1 + v] : [v, 1 - v], { scale: 0.03 }),
      );
    const stacks = fc.sample(
      fc.tuple(surface, feeds, surface, feeds, fc.double({ min: 0, max: 1, noNaN: true })),
      {
        numRuns: 200,
        seed: 11,
      },
    );
    for (const [below, fedBelow, above, fedAbove, cover] of stacks) {
      const seen = seenAt(
        { surface: below, feeds: fedBy(fedBelow), coats: [coat(above, { cover, feeds: fedBy(fedAbove) })] },
        [0.1, -0.2],
        0.5,
        128,
        { surround: { picture: flatSurround(1), gain: 1, turn: 0, seen: true } },
      );
      for (const v of seen)
        expect(v, JSON.stringify([below, fedBelow, above, fedAbove, cover])).toBeLessThan(1.04);
    }
  });
});

describe('two sides', () => {
  it('make a pane that is glass from outside and a mirror from within: light goes on between them, endlessly', () => {
    // a pane before a wall that mirrors half and glows: 1 + ½ + ¼ + …
    const pane = quad([-0.5, -0.5, 0], [1, 0, 0], [0, 1, 0]);
    const wall = quad([-0.5, -0.5, -0.1], [1, 0, 0], [0, 1, 0]);
    const scene = (bounces: number, twoSided: boolean) => {
      const made = sceneOf([
        {
          triangles: pane,
          surface: {
            transmission_weight: 1,
            geometry_thin_walled: true,
            specular_weight: 0,
            specular_roughness: 0,
          },
        },
        {
          triangles: wall,
          surface: {
            base_metalness: 1,
            base_color: [0.5, 0.5, 0.5],
            specular_roughness: 0,
            emission_luminance: 1,
          },
        },
        {
          triangles: quad([-9, -9, -9], [0.1, 0, 0], [0, 0.1, 0]),
          surface: { base_metalness: 1, base_color: [1, 1, 1], specular_roughness: 0 },
        },
      ]);
      made.parts.group.fill(made.groups.push('Glow') - 1);
      if (twoSided) made.within[0] = 2;
      const eye = { ...spotView([0, 0, 1], [0, 0, -1]), bounces };
      return meanOf(traced(made, eye, 64), 1);
    };
    expect(scene(60, false)).toBeCloseTo(1, 1);
    // the pane's own mirror, met from within, sends all of it back
    const sum = (n: number) => 2 * (1 - 0.5 ** n);
    expect(scene(60, true)).toBeCloseTo(2, 1);
    // two bounces more, one reflection more
    expect(scene(4, true)).toBeCloseTo(sum(3), 1);
  });
});

describe('recipes', () => {
  it('are none where nothing is fed and nothing lies over', () => {
    const surface = plainSurface();
    expect(finishOptics({ surface, feeds: [], coats: [] }).recipe).toBeNull();
    expect(finishOptics({ surface, feeds: [], coats: [coat({}, { on: false })] }).recipe).toBeNull();
  });

  it('have surfaces for every place of their axes, few enough', () => {
    const feeds = (['angle', 'up', 'along', 'noise'] as const).map((source, i) =>
      feed(['specular_roughness', 'coat_weight', 'specular_ior', 'coat_roughness'][i], source, [0.1, 1]),
    );
    const { recipe } = finishOptics({ surface: plainSurface(), feeds, coats: [] });
    const [base] = recipe!.coats;
    expect(recipe!.axes).toHaveLength(4);
    const surfaces = surfacesOf(base);
    expect(surfaces.length).toBeLessThanOrEqual(256);
    expect(surfaces[0].specular_roughness).toBe(0.1);
    expect(surfaces.at(-1)!.coat_roughness).toBe(1);
  });

  it('mix colours in steps that look alike, or as light does', () => {
    // the middle of white and black is 0.5 lightness: a linear value of its cube
    expect(mixedEvenly([1, 1, 1], [0, 0, 0], 0.5)[1]).toBeCloseTo(0.125, 3);
    expect(valueAt({ at: [0, 1], values: [[0], [1]] }, 0.5)).toEqual([0.5]);
  });
});

describe('light that is cast apart from what is seen', () => {
  const lamp = quad([-0.5, -0.5, 1], [0, 1, 0], [1, 0, 0]);
  const floor = quad([-0.5, -0.5, 0], [1, 0, 0], [0, 1, 0]);
  const lit = (cast: number, view: Eye, feeds: Feed[] = []) => {
    const scene = sceneOf([
      { triangles: floor, surface: { specular_weight: 0 } },
      { triangles: lamp, surface: { ...GLOW, emission_cast: cast }, feeds },
    ]);
    scene.parts.group[1] = scene.groups.push('Glow') - 1;
    return meanOf(traced(scene, view, 24), 0);
  };
  const atLamp = spotView([0, 0, 0.5], [0, 0, 1]);
  const atFloor = { ...spotView([0.2, 0.1, 0.5], [0, 0, -1]), bounces: 3 };

  it('leaves the lamp as it is, and lights the floor so many times as much', () => {
    const once = lit(1, atFloor);
    expect(once).toBeGreaterThan(0.05);
    for (const cast of [0, 0.25, 4]) {
      expect(lit(cast, atLamp)).toBeCloseTo(1, 4);
      expect(lit(cast, atFloor) / once).toBeCloseTo(cast, 1);
    }
    // light that is fed comes another way
    const fed = [feed('emission_luminance', 'up', [1, 1])];
    expect(lit(4, atFloor, fed) / once).toBeCloseTo(4, 0);
    expect(lit(4, atLamp, fed)).toBeCloseTo(1, 4);
  });
});
