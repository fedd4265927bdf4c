import { beforeAll, describe, expect, it } from 'vitest';
import { newBlock, newBaseline, type Block } from '../../src/document/index.ts';
import type { OpenFont } from '../../src/type/font.ts';
import { layoutText, placedOutline, type TextLayout } from '../../src/type/layout.ts';
import { areaOf, boundsOf, loadRegions } from '../../src/plane/region.ts';
import { partingTracking, touching, welded } from '../../src/type/touching.ts';
import { openShipped } from './fixture.ts';

let slab: OpenFont;
let script: OpenFont;
let variable: OpenFont;
beforeAll(async () => {
  await loadRegions();
  [slab, script, variable] = await Promise.all(['alfa-slab-one', 'lobster', 'recursive'].map(openShipped));
});

const lay = (font: OpenFont, text: string, changes: Partial<Block> = {}, others: OpenFont[] = []) =>
  layoutText(
    [font, ...others].map((f, i) => ({ font: f, key: `${i}` })),
    newBlock(text, { tracking: 0, ...changes }),
  );
const text = (layout: TextLayout) => layout.letters.map((l) => l.text).join('');

describe('kerning by hand', () => {
  it('moves a letter and all behind it, and nothing before', () => {
    const block = newBlock('OSTREL', { tracking: 0 });
    const plain = layoutText([{ font: slab, key: 'a' }], block);
    const kerned = layoutText([{ font: slab, key: 'a' }], {
      ...block,
      kerns: [{ letter: block.letters[2], by: -40 }],
    });
    const gap = (l: TextLayout, i: number) => l.letters[i + 1].x - l.letters[i].x;
    expect(gap(kerned, 1) - gap(plain, 1)).toBeCloseTo(-40, 6);
    for (const i of [0, 2, 3, 4]) expect(gap(kerned, i)).toBeCloseTo(gap(plain, i), 6);
  });

  it('stays with its letter when the word changes', () => {
    const block = newBlock('OSTREL', { tracking: 0 });
    const kern = { letter: block.letters[2], by: 100 };
    const longer = { ...block, text: 'AOSTREL', letters: ['new', ...block.letters], kerns: [kern] };
    const plain = layoutText([{ font: slab, key: 'a' }], { ...longer, kerns: [] });
    const kerned = layoutText([{ font: slab, key: 'a' }], longer);
    expect(kerned.letters[3].x - kerned.letters[2].x).toBeCloseTo(
      plain.letters[3].x - plain.letters[2].x + 100,
      6,
    );
  });
});

describe('lines', () => {
  it('are justified to the widest, by their spaces or between their letters', () => {
    for (const lines of ['NIGHT FERRY OSTREL\nTO SEA', 'OSTREL\nSEA']) {
      const { letters } = lay(slab, lines, { alignment: 'justified' });
      const ends = [0, 1].map((row) => {
        const own = letters.filter((l) => l.line === row);
        return [own[0].x, own.at(-1)!.x + own.at(-1)!.advance];
      });
      expect(ends[1][0]).toBeCloseTo(ends[0][0], 6);
      expect(ends[1][1]).toBeCloseTo(ends[0][1], 6);
    }
  });

  it('run from the right in right-to-left scripts, figures and names within them from the left', () => {
    // no shipped face has Hebrew: the order of the empty boxes that stand for it is what counts
    const { letters } = lay(slab, 'אב 12 AB');
    const read = [...letters].sort((a, b) => a.x - b.x).map((l) => l.text);
    expect(read.join('')).toBe('AB12בא');
    expect(letters.filter((l) => l.missing).map((l) => l.text)).toEqual(['ב', 'א']);
  });

  it('keep combining marks over their letters', () => {
    const composed = lay(variable, 'é');
    const combined = lay(variable, 'e\u0301');
    const area = (l: TextLayout) => l.letters.reduce((sum, x) => sum + areaOf(l.outlines.get(x.glyph)!), 0);
    expect(area(combined) / area(composed)).toBeCloseTo(1, 1);
    expect(combined.bounds![3] - combined.bounds![1]).toBeCloseTo(
      composed.bounds![3] - composed.bounds![1],
      -1,
    );
  });
});

describe('fonts', () => {
  it('stand in for characters the block’s own lacks, at its size, and say so', async () => {
    const poor = await openShipped('pirata-one');
    const { letters } = lay(poor, 'A¼', {}, [variable]);
    expect(letters.map((l) => l.standIn)).toEqual([null, variable.name]);
    expect(letters[1].missing).toBe(false);
  });

  it('change with their axes, and with features switched off', () => {
    const weight = (value: number) => {
      const l = lay(variable, 'O', { axes: [{ tag: 'wght', value }] });
      return areaOf(l.outlines.get(l.letters[0].glyph)!);
    };
    expect(weight(900)).toBeGreaterThan(1.5 * weight(300));
    const fraction = (on: boolean) =>
      lay(slab, '12/34', { features: [{ tag: 'frac', on }] }).letters.map((l) => l.glyph);
    expect(fraction(true)).not.toEqual(fraction(false));
    expect(slab.facts.features.map((f) => f.tag)).toEqual(expect.arrayContaining(['frac', 'kern', 'liga']));
    expect(variable.facts.axes.map((a) => a.tag)).toContain('wght');
    for (const f of [slab, script]) {
      expect(f.facts.licence).toMatch(/Open Font License/i);
      expect(f.facts.embedding).toBe('installable');
    }
  });

  it('are coarser where the frame shows less, within what it shows', () => {
    const [fine, coarse] = [1, 8].map((c) => layoutText([{ font: script, key: 'a' }], newBlock('S'), c));
    const [a, b] = [fine, coarse].map((l) => l.outlines.get(l.letters[0].glyph)!);
    // what is kept by its key is never taken for the other
    expect(fine.letters[0].glyph).not.toBe(coarse.letters[0].glyph);
    expect(b[0].length).toBeLessThan(a[0].length / 2);
    expect(areaOf(b) / areaOf(a)).toBeCloseTo(1, 2);
  });
});

describe('letters that touch', () => {
  const close = { tracking: -120 };

  it('are found, parted by the least tracking, and welded into one', () => {
    const tight = lay(slab, 'OSTREL', close);
    const pairs = touching(tight);
    expect(pairs.length).toBeGreaterThan(0);
    const by = partingTracking((added) => lay(slab, 'OSTREL', { tracking: -120 + added }))!;
    expect(touching(lay(slab, 'OSTREL', { tracking: -120 + by }))).toEqual([]);
    expect(touching(lay(slab, 'OSTREL', { tracking: -120 + by - 2 })).length).toBeGreaterThan(0);
    const one = welded(tight);
    expect(one.letters.length).toBe(6 - pairs.length);
    expect(text(one)).toBe('OSTREL');
    const covered = (l: TextLayout) =>
      l.letters.reduce((sum, x) => sum + areaOf(placedOutline(x, l.outlines.get(x.glyph)!)), 0);
    expect(covered(one)).toBeLessThan(covered(tight));
    expect(touching(one)).toEqual([]);
  });

  it('are none where letters stand apart', () => {
    expect(touching(lay(slab, 'OSTREL', { tracking: 60 }))).toEqual([]);
    expect(partingTracking(() => lay(slab, 'OSTREL', { tracking: 60 }))).toBe(0);
  });
});

describe('baselines', () => {
  const on = (baseline: Partial<Block['baseline']>, changes: Partial<Block> = {}) =>
    lay(slab, 'OSTREL', { baseline: { ...newBaseline(), ...baseline }, ...changes });
  /** Middles of the letters' feet. */
  const feet = (l: TextLayout) =>
    l.letters.map((x) => [
      x.x + (Math.cos(x.turn) * x.advance) / 2,
      x.y + (Math.sin(x.turn) * x.advance) / 2,
    ]);

  it('of a circle hold the feet on it, as far apart along it as on a line', () => {
    const radius = 0.8;
    const straight = lay(slab, 'OSTREL');
    const scale = 0.3 / slab.capHeight;
    const r = radius / scale;
    const round = on({ kind: 'circle', radius });
    const points = feet(round);
    // the circle through three feet is that of the baseline
    const [[ax, ay], [bx, by], [cx, cy]] = [points[0], points[2], points[5]];
    const twice = (bx - ax) * (cy - ay) - (cx - ax) * (by - ay);
    const sides = Math.hypot(bx - ax, by - ay) * Math.hypot(cx - bx, cy - by) * Math.hypot(ax - cx, ay - cy);
    expect(sides / (2 * Math.abs(twice)) / r).toBeCloseTo(1, 6);
    const middles = straight.letters.map((l) => l.x + l.advance / 2);
    round.letters.slice(1).forEach((l, i) => {
      const arc = (round.letters[i].turn - l.turn) * r;
      expect(arc).toBeCloseTo(middles[i + 1] - middles[i], 3);
    });
  });

  it('bend an arc by its angle over the text, and a slope tilts it', () => {
    const arched = on({ kind: 'arc', bend: 1 });
    expect(arched.letters[0].turn).toBeGreaterThan(0);
    expect(arched.letters[0].turn - arched.letters[5].turn).toBeLessThan(1);
    expect(arched.letters[0].turn - arched.letters[5].turn).toBeGreaterThan(0.7);
    const flat = on({ kind: 'arc', bend: 0 });
    const plain = lay(slab, 'OSTREL');
    flat.letters.forEach((l, i) => expect(l.x).toBeCloseTo(plain.letters[i].x, 1));
    for (const l of on({ kind: 'line', slope: 0.3 }).letters) expect(l.turn).toBeCloseTo(0.3, 9);
  });

  it('keep letters upright when asked, on the same feet', () => {
    const node = (x: number, y: number) => ({ x, y, inX: -0.2, inY: 0, outX: 0.2, outY: 0 });
    const nodes = [node(-1, 0), node(0, 0.4), node(1, 0)];
    const turned = on({ kind: 'free', nodes });
    const upright = on({ kind: 'free', nodes, upright: true });
    for (const l of upright.letters) expect(l.turn).toBe(0);
    feet(upright).forEach((p, i) => {
      expect(p[0]).toBeCloseTo(feet(turned)[i][0], 6);
      expect(p[1]).toBeCloseTo(feet(turned)[i][1], 6);
    });
    // the middle of the text stands at the middle of the curve, its crest
    const crest = Math.max(...feet(turned).map((p) => p[1]));
    expect((crest * 0.3) / slab.capHeight).toBeGreaterThan(0.36);
  });

  it('put the ink about the centre of the block', () => {
    const { bounds, letters, outlines } = on({ kind: 'arc', bend: 2 });
    const all = boundsOf(letters.flatMap((l) => placedOutline(l, outlines.get(l.glyph)!)));
    all.forEach((v, i) => expect(v).toBeCloseTo(bounds![i], 6));
    expect(bounds![0]).toBeCloseTo(-bounds![2], 6);
  });
});
