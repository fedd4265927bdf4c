import fc from 'fast-check';
import { beforeAll, describe, expect, it } from 'vitest';
import {
  newBevel,
  newBlock,
  PROFILES,
  SOLID_ZONES,
  ZONES,
  type Bevel,
  type Block,
  type Profile,
} from '../../src/document/index.ts';
import { SolidCache, solidsOf } from '../../src/solid/blockSolids.ts';
import type { Contour } from '../../src/plane/flatten.ts';
import type { OpenFont } from '../../src/type/font.ts';
import { layoutText } from '../../src/type/layout.ts';
import { areaOf, loadRegions, merged } from '../../src/plane/region.ts';
import type { Solid } from '../../src/solid/sheet.ts';
import { SHIPPED_FONTS } from '../../src/type/shippedFonts.ts';
import { crossings, openEdges, volume } from '../../src/solid/soundness.ts';
import { buildSolid, type SolidShape } from '../../src/solid/solid.ts';
import { kernelOver } from '../trace/kernelFixture.ts';
import { inset, openShipped } from '../type/fixture.ts';

beforeAll(() => loadRegions());

const solidsIn = (block: Block, font: OpenFont, key: string, cache: SolidCache) =>
  solidsOf(block, layoutText([{ font, key }], block), block.capHeight / font.capHeight, cache);

const bevel = (width: number, height: number, profile: Profile, segments = 5) =>
  newBevel({ width, height, profile, segments });
const contour = (...xy: number[]): Contour => Float64Array.from(xy);
const square = (s: number) => [contour(0, 0, s, 0, s, s, 0, s)];

/** Area of a zone seen from the front. */
function flatArea(solid: Solid, zone: number): number {
  let twice = 0;
  for (let t = solid.zoneStarts[zone] * 9; t < solid.zoneStarts[zone + 1] * 9; t += 9) {
    const p = solid.positions;
    twice += (p[t + 3] - p[t]) * (p[t + 7] - p[t + 1]) - (p[t + 6] - p[t]) * (p[t + 4] - p[t + 1]);
  }
  return Math.abs(twice) / 2;
}

describe('a square block', () => {
  const shape: SolidShape = {
    depth: 40,
    front: bevel(10, 10, 'straight', 1),
    back: bevel(0, 0, 'straight', 1),
  };

  it('has the volume and zones of a chamfered prism', () => {
    const solid = buildSolid(square(100), shape);
    expect(openEdges(solid.positions)).toBe(0);
    // prism below the bevel, frustum above it
    const frustum = (10 / 3) * (100 ** 2 + 80 ** 2 + 100 * 80);
    expect(volume(solid.positions) / (100 ** 2 * 30 + frustum)).toBeCloseTo(1, 4);
    expect(flatArea(solid, ZONES.indexOf('front')) / 80 ** 2).toBeCloseTo(1, 4);
    expect(flatArea(solid, ZONES.indexOf('back')) / 100 ** 2).toBeCloseTo(1, 4);
  });

  it('rolls its bevel and side out beside the front, true to length and without a seam', () => {
    for (const profile of PROFILES.filter((p) => p !== 'free')) {
      const solid = buildSolid(square(100), { ...shape, front: bevel(10, 10, profile) });
      const [p, uv] = [solid.positions, solid.uv];
      const away = (i: number, j: number) =>
        Math.hypot(p[i * 3] - p[j * 3], p[i * 3 + 1] - p[j * 3 + 1], p[i * 3 + 2] - p[j * 3 + 2]);
      const rolled = (i: number, j: number) =>
        Math.hypot(uv[i * 4 + 2] - uv[j * 4 + 2], uv[i * 4 + 3] - uv[j * 4 + 3]);
      const [first, last] = [solid.zoneStarts[0] * 3, solid.zoneStarts[3] * 3];
      for (let i = first; i < last; i += 3)
        for (const [a, b] of [
          [0, 1],
          [1, 2],
          [2, 0],
        ] as const)
          expect(Math.abs(rolled(i + a, i + b) - away(i + a, i + b))).toBeLessThan(0.02);
    }
  });

  it('rolls out round a smooth outline so that what zones share lies in one place', () => {
    const round = [
      Float64Array.from(
        { length: 128 },
        (_, i) => 50 * ((i & 1) === 0 ? Math.cos : Math.sin)((i >> 1) * (Math.PI / 32)),
      ),
    ];
    const solid = buildSolid(round, { ...shape, front: bevel(10, 12, 'round') });
    const places = new Map<string, number[]>();
    let shared = 0;
    for (let zone = 0; zone < 3; zone++)
      for (let i = solid.zoneStarts[zone] * 3; i < solid.zoneStarts[zone + 1] * 3; i++) {
        const place = [...solid.positions.subarray(i * 3, i * 3 + 3)].map((c) => c.toFixed(2)).join();
        const here = [zone, solid.uv[i * 4 + 2], solid.uv[i * 4 + 3]];
        const known = places.get(place) ?? here;
        if (known[0] !== zone) shared++;
        for (const k of [1, 2]) expect(Math.abs(here[k] - known[k])).toBeLessThan(0.05);
        places.set(place, known);
      }
    // the outline's points, and those of the front's edge
    expect(shared).toBeGreaterThan(2 * 64);
    // the side stands beyond the bevel: its foot lies as far out as the way over both is long
    const reach = Math.max(
      ...Array.from({ length: solid.zoneStarts[3] * 3 }, (_, i) =>
        Math.hypot(solid.uv[i * 4 + 2], solid.uv[i * 4 + 3]),
      ),
    );
    const way = (Math.PI / 2) * ((10 + 12) / 2);
    expect(Math.abs(reach - (40 + way + 28))).toBeLessThan(0.6);
  });

  it('ends in a pyramid when the bevel is as wide as half of it', () => {
    const solid = buildSolid(square(100), { ...shape, depth: 50, front: bevel(50, 50, 'straight', 1) });
    expect(openEdges(solid.positions)).toBe(0);
    expect(flatArea(solid, 0)).toBeLessThan(1);
    expect(volume(solid.positions) / (100 ** 2 * (50 / 3))).toBeCloseTo(1, 2);
  });

  it('shares its depth between bevels that together are deeper', () => {
    const solid = buildSolid(square(100), {
      depth: 20,
      front: bevel(5, 30, 'round'),
      back: bevel(5, 10, 'cove'),
    });
    expect(openEdges(solid.positions)).toBe(0);
    let top = -Infinity;
    for (let i = 2; i < solid.positions.length; i += 3) top = Math.max(top, solid.positions[i]);
    expect(top).toBeCloseTo(20, 4);
  });

  it('has normals of unit length that face outward', () => {
    const { positions: p, normals: n } = buildSolid(square(100), {
      ...shape,
      front: bevel(10, 12, 'round', 8),
    });
    for (let t = 0; t < p.length; t += 9) {
      const e1 = [p[t + 3] - p[t], p[t + 4] - p[t + 1], p[t + 5] - p[t + 2]];
      const e2 = [p[t + 6] - p[t], p[t + 7] - p[t + 1], p[t + 8] - p[t + 2]];
      const g = [e1[1] * e2[2] - e1[2] * e2[1], e1[2] * e2[0] - e1[0] * e2[2], e1[0] * e2[1] - e1[1] * e2[0]];
      for (let v = t; v < t + 9; v += 3) {
        expect(Math.hypot(n[v], n[v + 1], n[v + 2])).toBeCloseTo(1, 4);
        expect(n[v] * g[0] + n[v + 1] * g[1] + n[v + 2] * g[2]).toBeGreaterThan(-1e-3);
      }
    }
  });
});

describe('letters', () => {
  const word = 'RSOQ&@5ago%';

  it.each(SHIPPED_FONTS.map((f) => f.id))(
    '%s are watertight at every profile, past the ridge too',
    async (id) => {
      const font = await openShipped(id);
      let checked = 0;
      for (const { glyph } of font.shape(word)) {
        const region = merged(font.outline(glyph));
        if (region.length === 0) continue;
        for (const profile of ['straight', 'round', 'cove', 'step'] as const) {
          for (const width of profile === 'straight' ? [0, 8, 90] : [90]) {
            const solid = buildSolid(region, {
              depth: 150,
              front: bevel(width, 40, profile, 3),
              back: bevel(5, 5, 'straight', 1),
            });
            expect(openEdges(solid.positions), `${id} glyph ${glyph} ${profile} ${width}`).toBe(0);
            expect(volume(solid.positions)).toBeGreaterThan(0);
            expect(volume(solid.positions)).toBeLessThan(areaOf(region) * 150 * 1.0001);
            checked++;
          }
        }
      }
      expect(checked).toBeGreaterThan(50);
    },
  );

  it('are watertight in every profile', async () => {
    const font = await openShipped('abril-fatface');
    for (const { glyph } of font.shape('Ra&')) {
      const region = merged(font.outline(glyph));
      for (const profile of PROFILES) {
        for (const width of [12, 90]) {
          const solid = buildSolid(region, {
            depth: 150,
            front: bevel(width, 40, profile, 4),
            back: bevel(0, 0, 'straight', 1),
          });
          expect(openEdges(solid.positions), `glyph ${glyph} ${profile} ${width}`).toBe(0);
          expect(volume(solid.positions)).toBeGreaterThan(0);
        }
      }
    }
  });

  it('keep their counters open', async () => {
    const font = await openShipped('alfa-slab-one');
    const [o] = font.shape('O');
    const region = merged(font.outline(o.glyph));
    expect(region).toHaveLength(2);
    const solid = buildSolid(region, {
      depth: 100,
      front: bevel(10, 10, 'straight', 1),
      back: bevel(0, 0, 'straight', 1),
    });
    expect(flatArea(solid, 0) / areaOf(inset(region, 10))).toBeCloseTo(1, 3);
  });

  it('that overlap themselves are merged', () => {
    const cross = [contour(0, 40, 100, 40, 100, 60, 0, 60), contour(40, 0, 60, 0, 60, 100, 40, 100)];
    const region = merged(cross);
    expect(region).toHaveLength(1);
    expect(areaOf(region)).toBeCloseTo(2000 + 2000 - 400, 3);
  });
});

describe('any polygon', () => {
  it('becomes a watertight solid of no more than its prism', () => {
    const star = fc.array(fc.double({ min: 0.15, max: 1, noNaN: true }), { minLength: 3, maxLength: 24 });
    fc.assert(
      fc.property(
        star,
        fc.double({ min: 0, max: 400, noNaN: true }),
        fc.constantFrom(...PROFILES),
        (radii, width, profile) => {
          const points = radii.flatMap((r, i) => {
            const a = (i / radii.length) * 2 * Math.PI;
            return [500 * r * Math.cos(a), 500 * r * Math.sin(a)];
          });
          const region = merged([Float64Array.from(points)]);
          if (region.length === 0) return;
          const solid = buildSolid(region, {
            depth: 100,
            front: bevel(width, 60, profile, 3),
            back: bevel(width / 7, 10, 'straight', 1),
          });
          expect(openEdges(solid.positions)).toBe(0);
          expect(volume(solid.positions)).toBeLessThan(areaOf(region) * 100 * 1.001);
        },
      ),
      { numRuns: 150, seed: 11 },
    );
  });
});

describe('a block', () => {
  it('rebuilds only what changed', async () => {
    const font = await openShipped('anton');
    const cache = new SolidCache();
    const block = newBlock('OSTREL');
    expect(solidsIn(block, font, 'anton', cache).built).toBe(6);
    const longer = { ...block, text: 'OSTRELS', letters: [...block.letters, 'x'] };
    // S is known already
    expect(solidsIn(longer, font, 'anton', cache).built).toBe(0);
    expect(solidsIn({ ...block, depth: 0.2 }, font, 'anton', cache).built).toBe(6);
  });

  it('has capitals of the height asked for, centred, and lines that follow each other', async () => {
    const font = await openShipped('archivo-black');
    const one = solidsIn(newBlock('HH', { capHeight: 0.5 }), font, 'f', new SolidCache());
    const [x0, y0, x1, y1] = one.bounds!;
    expect(y1 - y0).toBeCloseTo(0.5, 6);
    expect(x0 + x1).toBeCloseTo(0, 9);
    expect(y0 + y1).toBeCloseTo(0, 9);
    const two = solidsIn(newBlock('H\nH', { leading: 1.5, capHeight: 0.5 }), font, 'f', new SolidCache());
    const drop = (two.letters[0].y - two.letters[1].y) * two.scale;
    expect(drop / ((font.lineHeight * 1.5 * 0.5) / font.capHeight)).toBeCloseTo(1, 9);
  });

  it('says which characters its font lacks', async () => {
    const font = await openShipped('anton');
    const { letters } = solidsIn(newBlock('A\u4e2d'), font, 'f', new SolidCache());
    expect(letters.map((l) => l.missing)).toEqual([false, true]);
  });
});

describe('outward bevels', () => {
  it('widen the side by their width and leave the front as it was', () => {
    const solid = buildSolid(square(100), {
      depth: 40,
      front: { ...bevel(10, 10, 'straight', 1), way: 'outward' },
      back: bevel(0, 0, 'straight', 1),
    });
    expect(openEdges(solid.positions)).toBe(0);
    expect(flatArea(solid, SOLID_ZONES.indexOf('front')) / 100 ** 2).toBeCloseTo(1, 4);
    expect(flatArea(solid, SOLID_ZONES.indexOf('back')) / 120 ** 2).toBeCloseTo(1, 4);
    expect(solid.box).toEqual([-10, -10, 0, 110, 110, 40]);
  });
});

describe('shading', () => {
  const normalsOf = (shading: Bevel['shading']) => {
    const { normals, zoneStarts } = buildSolid(square(100), {
      depth: 40,
      front: { ...bevel(20, 20, 'keel', 1), shading },
      back: bevel(0, 0, 'straight', 1),
    });
    const ups = new Set<string>();
    for (let i = zoneStarts[1] * 9; i < zoneStarts[2] * 9; i += 3) ups.add(normals[i + 2].toFixed(4));
    return ups.size;
  };
  it('is flat on each facet when crisp, and runs over their edges when smooth', () => {
    expect(normalsOf('crisp')).toBe(2);
    expect(normalsOf('drawn')).toBe(2);
    expect(normalsOf('smooth')).toBe(3);
  });
});

describe('crossings', () => {
  it('are found where there are any, and none in bevels of any width', async () => {
    const box = buildSolid(square(100), {
      depth: 40,
      front: bevel(0, 0, 'straight', 1),
      back: bevel(0, 0, 'straight', 1),
    }).positions;
    const twice = Float32Array.from([...box, ...box.map((v, i) => v + [50, 30, 20][i % 3])]);
    expect(crossings(twice, kernelOver(twice))).toBeGreaterThan(0);
    for (const id of ['abril-fatface', 'pirata-one', 'alfa-slab-one']) {
      const font = await openShipped(id);
      for (const character of 'Rg&') {
        const region = merged(font.outline(font.shape(character)[0].glyph));
        for (const width of [8, 45, 130]) {
          const { positions } = buildSolid(region, {
            depth: 150,
            front: bevel(width, 60, 'round'),
            back: bevel(width / 2, 30, 'cove'),
          });
          expect(crossings(positions, kernelOver(positions)), `${id} ${character} ${width}`).toBe(0);
        }
      }
    }
  });
});
