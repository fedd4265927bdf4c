import { encode as encodePng } from 'fast-png';
import { beforeAll, describe, expect, it } from 'vitest';
import { newBevel, newBlock, newProject } from '../../src/document/index.ts';
import { READY_FINISHES } from '../../src/finish/readyFinishes.ts';
import { buildDome } from '../../src/solid/dome.ts';
import { DrawingError } from '../../src/drawing/painted.ts';
import type { Contour } from '../../src/plane/flatten.ts';
import { OpenFont } from '../../src/type/font.ts';
import { openDrawing } from '../../src/drawing/drawing.ts';
import { areaOf, loadRegions, merged, outlined, RegionError } from '../../src/plane/region.ts';
import { rulesOf } from '../../src/drawing/styleRules.ts';
import { buildSolid } from '../../src/solid/solid.ts';
import { openEdges } from '../../src/solid/soundness.ts';
import { isTangled } from '../../src/plane/tangle.ts';
import { CrossingError } from '../../src/plane/triangulate.ts';
import { FontError, unwrapFont } from '../../src/type/unwrap.ts';
import { testMaker } from '../scene/maker.ts';
import { fontBytes } from '../type/fixture.ts';

beforeAll(() => loadRegions());

/** Numbers from 0 to 1, the same ones every time (Numerical Recipes' linear congruence). */
function numbers(seed: number): () => number {
  let state = seed >>> 0;
  return () => (state = (Math.imul(state, 1664525) + 1013904223) >>> 0) / 2 ** 32;
}

/** A line that runs to and fro between two sides: half of all pairs of its steps cross. */
function knot(steps: number): Contour {
  const next = numbers(steps);
  return Float64Array.from(
    Array.from({ length: steps }, (_, i) => [(i % 2) * 900 + 100 * next(), 900 * next()]).flat(),
  );
}

const wave = (steps: number): Contour =>
  Float64Array.from(
    Array.from({ length: steps }, (_, i) => {
      const a = (i / steps) * 2 * Math.PI;
      const r = 400 + 60 * Math.sin(9 * a);
      return [r * Math.cos(a), r * Math.sin(a)];
    }).flat(),
  );

/** A ring of teeth. */
const cog = (steps: number): Contour => wave(steps).map((v, i) => ((i >> 1) % 2 ? v * 1.02 : v));

/** Table of a plain SFNT file: where it starts, and its length. */
function table(sfnt: Uint8Array, tag: string): [number, number] {
  const view = new DataView(sfnt.buffer, sfnt.byteOffset, sfnt.byteLength);
  for (let i = 0; i < view.getUint16(4); i++) {
    const at = 12 + i * 16;
    if (String.fromCharCode(...sfnt.subarray(at, at + 4)) === tag)
      return [view.getUint32(at + 8), view.getUint32(at + 12)];
  }
  throw new Error(`no ${tag}`);
}

describe('tangled outlines', () => {
  it('are told from fine ones, however many points those have', () => {
    expect(isTangled([knot(3000)])).toBe(true);
    expect(isTangled([knot(200)])).toBe(false);
    expect(isTangled([wave(40_000)])).toBe(false);
    expect(isTangled([wave(300), wave(5000)])).toBe(false);
    expect(isTangled([wave(400_000)])).toBe(true);
    expect(isTangled([])).toBe(false);
    expect(isTangled([new Float64Array(4000)])).toBe(false);
  });

  it('of drawings are refused with a reason', () => {
    const points = [...knot(3000)].map((v) => v.toFixed(2)).join(' ');
    for (const paint of ['', 'fill="none" stroke="black"']) {
      const svg = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1000 1000"><polygon ${paint} points="${points}"/></svg>`;
      expect(() => openDrawing(new TextEncoder().encode(svg), 'vector')).toThrow(/crosses itself/);
      expect(() => openDrawing(new TextEncoder().encode(svg), 'vector')).toThrow(DrawingError);
    }
  });

  it('too intricate to be bevelled or rounded stand flat, and are named', async () => {
    const maker = testMaker(
      () =>
        `<svg xmlns="http://www.w3.org/2000/svg" viewBox="-500 -500 1000 1000"><polygon id="surf" points="${[...cog(6000)].map((v) => v.toFixed(3)).join(' ')}"/></svg>`,
    );
    const p = newProject('Ostrel', '', structuredClone([...READY_FINISHES]));
    p.blocks = [newBlock('', { drawing: { id: 'e'.repeat(64), name: 'surf.svg', kind: 'vector' } })];
    for (const form of ['bevelled', 'rounded'] as const) {
      p.blocks[0].form = form;
      const { solids, findings } = await maker.make(p, p.looks[0].id, p.shots[0].id, 512);
      expect(findings).toMatchObject([{ code: 'outline-flat', what: { texts: ['surf'] } }]);
      const { positions, zones, zoneStarts } = solids[0].letters[0].solid;
      expect(openEdges(positions)).toBe(0);
      expect(zones[0]).toBe('front');
      expect(zoneStarts[1]).toBeGreaterThan(5000);
    }
  });

  it('that are just not too many become solids, or are named and left out, and the rest stands', async () => {
    const points = [...knot(120)].map((v) => v.toFixed(2)).join(' ');
    const maker = testMaker(
      () =>
        `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1000 1000"><polygon id="knot" points="${points}"/></svg>`,
    );
    const p = newProject('Ostrel', 'O', structuredClone([...READY_FINISHES]));
    p.blocks.push(newBlock('', { drawing: { id: 'd'.repeat(64), name: 'knot.svg', kind: 'vector' } }));
    for (const form of ['bevelled', 'rounded', 'tube'] as const) {
      p.blocks[1].form = form;
      const { solids, findings } = await maker.make(p, p.looks[0].id, p.shots[0].id, 512);
      expect(solids[0].letters[0].solid.positions.length).toBeGreaterThan(0);
      const knotted = solids[1].letters[0].solid;
      if (knotted.positions.length > 0) expect(openEdges(knotted.positions)).toBe(0);
      else if (form !== 'tube')
        expect(findings).toMatchObject([{ code: 'outline-tangled', what: { texts: ['knot'] } }]);
    }
  });
});

const drawing = (inner: string) =>
  openDrawing(
    new TextEncoder().encode(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 100">${inner}</svg>`),
    'vector',
  );

describe('hostile drawings', () => {
  it('that reach too far are refused, and sound ones are read as ever after hundreds of them', () => {
    for (let i = 0; i < 400; i++)
      for (const far of [
        '<path d="M0 0H1e30V1e30Z"/>',
        '<rect width="1e300" height="1e300"/>',
        '<rect width="5" height="5" transform="scale(1e200)"/>',
        '<path fill="none" stroke="black" stroke-width="1e200" d="M0 0H9"/>',
      ])
        expect(() => drawing(far)).toThrow(DrawingError);
    expect(drawing('<circle r="4"/>').parts).toHaveLength(1);
  });

  it('that break the polygon library do so once: it is made anew', async () => {
    // beyond what is handed over from drawings, as a fault elsewhere might
    const broken = Float64Array.from([0, 0, 1e300, 0, 1e300, 1e300]);
    expect(() => merged([broken])).toThrow(RegionError);
    const pen = (width: number) =>
      outlined([Float64Array.from([0, 0, 9, 0])], [], width, 'round', 'round', 4, 0.1);
    expect(() => pen(Infinity)).toThrow(RegionError);
    await loadRegions();
    expect(areaOf(pen(2))).toBeGreaterThan(18);
  });

  it('read style sheets without an end in one pass, and the rules they hold', () => {
    const many = 'a b '.repeat(200_000);
    expect(drawing(`<style>${many}</style><rect width="5" height="5"/>`).parts).toHaveLength(1);
    expect(drawing(`<style>${'/* '.repeat(200_000)}</style><rect width="5" height="5"/>`).parts).toHaveLength(
      1,
    );
    expect(rulesOf('/* a { */ .n , .m{fill:none} @media x { .k{stroke:red} } .open {')).toEqual([
      { selectors: ['.n', '.m'], body: 'fill:none' },
      { selectors: ['.k'], body: 'stroke:red' },
      // a block that is not closed ends with the sheet (CSS Syntax 3, 5.4.8)
      { selectors: ['.open'], body: '' },
    ]);
    expect(() =>
      drawing(`<style>${'.a{fill:red}'.repeat(5001)}</style><rect width="5" height="5"/>`),
    ).toThrow(/more than 5000 style rules/);
  });

  it('of noise are refused in words, naming the ceiling', () => {
    const next = numbers(7);
    const data = Uint8Array.from({ length: 900 * 900 }, () => 255 * next());
    const png = encodePng({ width: 900, height: 900, data, channels: 1, depth: 8 });
    expect(() => openDrawing(png, 'bitmap')).toThrow(/too noisy.*250000 pixels/);
  });
});

describe('shapes under a clip', () => {
  it('show what the clip lets through: all, some or nothing', () => {
    const clip =
      '<clipPath id="c"><rect width="50" height="100"/><circle cx="80" cy="50" r="10"/></clipPath>';
    const { parts } = drawing(
      `${clip}<g clip-path="url(#c)"><rect id="all" x="5" y="5" width="20" height="20"/><rect id="half" x="40" y="40" width="20" height="20"/><rect id="none" x="55" y="2" width="20" height="20"/></g>`,
    );
    expect(parts.map((p) => p.name)).toEqual(['all', 'half']);
    expect(areaOf(parts[1].region) / areaOf(parts[0].region)).toBeCloseTo(0.5, 6);
  });
});

describe('fonts with damaged outlines', () => {
  it('give solids that are closed, or none, and never anything else', async () => {
    const sfnt = await unwrapFont(fontBytes('archivo-black'));
    const [start, length] = table(sfnt, 'glyf');
    let built = 0;
    for (let round = 0; round < 8; round++) {
      const next = numbers(round + 1);
      const bad = sfnt.slice();
      for (let i = 0; i < length / 40; i++)
        bad[start + Math.floor(next() * length)] = Math.floor(next() * 256);
      let font: OpenFont;
      try {
        font = await OpenFont.open(bad);
      } catch (error) {
        expect(error).toBeInstanceOf(FontError);
        continue;
      }
      for (const character of 'OSTREL') {
        const drawn = font.outline(font.shape(character)[0].glyph);
        if (isTangled(drawn)) continue;
        const region = merged(drawn);
        try {
          const bevel = newBevel({ width: 14, height: 14, profile: 'round', segments: 3 });
          for (const solid of [
            buildSolid(region, { depth: 100, front: bevel, back: bevel }),
            buildDome(region, { form: 'rounded', depth: 20, pressure: 1 }),
          ]) {
            expect(openEdges(solid.positions), `${round} ${character}`).toBe(0);
            if (solid.positions.length > 0) built++;
          }
        } catch (error) {
          expect(error).toBeInstanceOf(CrossingError);
        }
      }
    }
    expect(built).toBeGreaterThan(20);
  });
});
