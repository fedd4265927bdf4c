import fc from 'fast-check';
import { beforeAll, describe, expect, it } from 'vitest';
import { newBevel } from '../../src/document/index.ts';
import type { Contour } from '../../src/plane/flatten.ts';
import { areaOf, loadRegions, merged } from '../../src/plane/region.ts';
import { SHIPPED_FONTS } from '../../src/type/shippedFonts.ts';
import type { Solid } from '../../src/solid/sheet.ts';
import { crossings, openEdges } from '../../src/solid/soundness.ts';
import { buildSolid } from '../../src/solid/solid.ts';
import { voronoiOf } from '../../src/plane/voronoi.ts';
import { kernelOver, seeded } from '../trace/kernelFixture.ts';
import { distanceTo, inset, openShipped } from '../type/fixture.ts';

beforeAll(() => loadRegions());

const contour = (...xy: number[]): Contour => Float64Array.from(xy);
const ring = (n: number, r: number, way: 1 | -1 = 1): Contour =>
  Float64Array.from(
    Array.from({ length: n }, (_, i) => {
      const a = (way * 2 * Math.PI * i) / n;
      return [r * Math.cos(a), r * Math.sin(a)];
    }).flat(),
  );
const none = newBevel({ width: 0, height: 0, profile: 'straight', segments: 1 });
/** A straight bevel as high as it is wide: height above the side is distance to the outline. */
const chisel = (region: Contour[], width: number) =>
  buildSolid(region, {
    depth: width + 10,
    front: newBevel({ width, height: width, profile: 'straight', segments: 1 }),
    back: none,
  });

/** Vertices of the front bevel, without repeats: x, y and height above the side. */
function bevelVertices(solid: Solid, base: number): number[][] {
  const seen = new Map<string, number[]>();
  for (let i = solid.zoneStarts[1] * 9; i < solid.zoneStarts[2] * 9; i += 3) {
    const v = [solid.positions[i], solid.positions[i + 1], solid.positions[i + 2] - base];
    seen.set(v.join(), v);
  }
  return [...seen.values()];
}

describe('bevels past the ridge', () => {
  it('make a pyramid of a square, its edges straight', () => {
    const solid = chisel([contour(0, 0, 100, 0, 100, 100, 0, 100)], 80);
    const vertices = bevelVertices(solid, 10);
    expect(vertices).toHaveLength(5);
    const [apex] = vertices.filter((v) => v[2] > 1);
    for (const [i, v] of [50, 50, 50].entries()) expect(Math.abs(apex[i] - v)).toBeLessThan(1e-6 * 100);
    expect(solid.zoneStarts[1]).toBe(0);
  });

  it('make a roof of a rectangle', () => {
    const ridge = bevelVertices(chisel([contour(0, 0, 300, 0, 300, 100, 0, 100)], 80), 10).filter(
      (v) => v[2] > 1,
    );
    expect(ridge.sort((a, b) => a[0] - b[0])).toEqual([
      [50, 50, 50],
      [250, 50, 50],
    ]);
  });

  it('make a ring ridge of an annulus', () => {
    const solid = chisel([ring(96, 200), ring(96, 100, -1)], 80);
    const ridge = bevelVertices(solid, 10).filter((v) => v[2] > 1);
    expect(ridge.length).toBeGreaterThanOrEqual(96);
    for (const [x, y, z] of ridge) {
      expect(Math.hypot(x, y)).toBeGreaterThan(149.5);
      expect(Math.hypot(x, y)).toBeLessThan(150.5);
      expect(z).toBeCloseTo(50, 0);
    }
  });

  it('go round a sharp reflex corner: an L has a parabola in its ridge', () => {
    const region = [contour(0, 0, 200, 0, 200, 100, 100, 100, 100, 200, 0, 200)];
    const ridge = bevelVertices(chisel(region, 90), 10).filter((v) => v[2] > 1);
    for (const [x, y, z] of ridge) expect(z).toBeCloseTo(distanceTo(region, x, y), 2);
    // where the parabola between corner and edges turns: on the diagonal, as far from both
    const turn = 100 * (2 - Math.SQRT2);
    expect(Math.min(...ridge.map(([x, y]) => Math.hypot(x - turn, y - turn)))).toBeLessThan(1e-3);
  });
});

describe('the height of a bevel', () => {
  it.each(['alfa-slab-one', 'abril-fatface', 'lobster', 'pirata-one'])(
    'is the true distance to the outline, in %s',
    async (id) => {
      const font = await openShipped(id);
      const random = seeded(7);
      const WIDTH = 70;
      let checked = 0;
      for (const { glyph } of font.shape('RS&ag8')) {
        const region = merged(font.outline(glyph));
        const solid = chisel(region, WIDTH);
        const p = solid.positions;
        for (let t = solid.zoneStarts[1] * 9; t < solid.zoneStarts[2] * 9; t += 9) {
          if (random() > 0.3) continue;
          const [s, v] = [Math.sqrt(random()), random()];
          const w = [1 - s, s * (1 - v), s * v];
          const [x, y, z] = [0, 1, 2].map((a) => w[0] * p[t + a] + w[1] * p[t + 3 + a] + w[2] * p[t + 6 + a]);
          const off = Math.abs(z - 10 - Math.min(WIDTH, distanceTo(region, x, y)));
          expect(off, `${id} glyph ${glyph} at ${x}, ${y}`).toBeLessThan(0.005 * WIDTH);
          checked++;
        }
      }
      expect(checked).toBeGreaterThan(200);
    },
  );

  it('leaves the flat front that an exact offset leaves', async () => {
    for (const { id } of SHIPPED_FONTS) {
      const font = await openShipped(id);
      for (const { glyph } of font.shape('B&e')) {
        const region = merged(font.outline(glyph));
        const solid = chisel(region, 12);
        let area = 0;
        for (let t = 0; t < solid.zoneStarts[1] * 9; t += 9) {
          const p = solid.positions;
          area += (p[t + 3] - p[t]) * (p[t + 7] - p[t + 1]) - (p[t + 6] - p[t]) * (p[t + 4] - p[t + 1]);
        }
        // of the letter's area, as thin letters leave next to no front
        expect(Math.abs(area / 2 - areaOf(inset(region, 12))) / areaOf(region), id).toBeLessThan(1e-3);
      }
    }
  });
});

describe('the limits of a bevel', () => {
  const limits = (region: Contour[]) => chisel(region, 1).limits!;

  it('are half the stroke for a bar, and the radius of the largest ball', () => {
    expect(limits([contour(0, 0, 300, 0, 300, 100, 0, 100)])).toEqual({ flat: 50, ridge: 50 });
  });

  it('differ where strokes do: a thick bar on a thin one', () => {
    const { flat, ridge } = limits([
      contour(0, 0, 200, 0, 200, 40, 120, 40, 120, 240, 20, 240, 20, 40, 0, 40),
    ]);
    expect(flat).toBeCloseTo(20, 6);
    // across the thick bar, as the joint with the thin one takes nothing from it
    expect(ridge).toBeCloseTo(50, 6);
  });

  it('name the greatest width that leaves a flat front everywhere, in a font', async () => {
    const font = await openShipped('abril-fatface');
    const region = merged(font.outline(font.shape('R')[0].glyph));
    const { flat, ridge } = limits(region);
    const pieces = (w: number) => inset(region, w).length;
    expect(pieces(flat * 0.98)).toBe(region.length);
    expect(pieces(ridge * 0.98)).toBeGreaterThan(0);
    expect(pieces(ridge * 1.02)).toBe(0);
  });
});

describe('a bevel just short of where strokes meet', () => {
  it.each(['abril-fatface', 'lobster'])(
    'leaves a front whose rims may touch, watertight, in %s',
    async (id) => {
      const font = await openShipped(id);
      for (const { glyph } of font.shape('brRa')) {
        const region = merged(font.outline(glyph));
        const { flat, ridge } = chisel(region, 1).limits!;
        for (const width of [flat * 0.999, flat * 1.001, ridge * 0.7, ridge * 0.999]) {
          expect(openEdges(chisel(region, width).positions), `glyph ${glyph}, width ${width}`).toBe(0);
        }
      }
    },
  );
});

describe('any outline', () => {
  it('is bevelled without holes or crossings: random stars with holes', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 0.2, max: 1, noNaN: true }), { minLength: 3, maxLength: 40 }),
        fc.integer({ min: 3, max: 9 }),
        fc.double({ min: 5, max: 400, noNaN: true }),
        (radii, holeSides, width) => {
          const n = radii.length;
          const star = Float64Array.from(
            radii.flatMap((r, i) => {
              const a = (2 * Math.PI * i) / n;
              return [400 * r * Math.cos(a), 400 * r * Math.sin(a)];
            }),
          );
          const region = merged([star, ring(holeSides, 30, -1)]);
          fc.pre(region.length > 0);
          const solid = buildSolid(region, {
            depth: 100,
            front: newBevel({ width, height: 60, profile: 'round', segments: 5 }),
            back: newBevel({ width: width / 3, height: 20, profile: 'cove', segments: 3 }),
          });
          return (
            openEdges(solid.positions) === 0 && crossings(solid.positions, kernelOver(solid.positions)) === 0
          );
        },
      ),
      { numRuns: 150, seed: 11 },
    );
  });

  it('with too many vertices goes without a bevel, watertight and at once', () => {
    const gear = ring(9000, 400).map((v, i) => v * (i % 4 < 2 ? 1 : 0.95));
    const solid = chisel([gear], 20);
    expect(solid.limits).toBeNull();
    expect(openEdges(solid.positions)).toBe(0);
    expect(solid.zoneStarts[1]).toBeGreaterThan(8000);
  });

  it('has cells that cover the region once', async () => {
    const font = await openShipped('rye');
    for (const { glyph } of font.shape('Qg@')) {
      const region = merged(font.outline(glyph));
      const v = voronoiOf(region);
      let area = 0;
      for (const border of v.cells) {
        if (!border) continue;
        // borders run clockwise round their cell
        for (let i = 0; i < border.nodes.length; i++) {
          const [a, b] = [border.nodes[i], border.nodes[(i + 1) % border.nodes.length]];
          area -= v.x[a] * v.y[b] - v.x[b] * v.y[a];
        }
      }
      expect(area / 2 / areaOf(region)).toBeCloseTo(1, 4);
    }
  });
});
