import { encode as encodePng } from 'fast-png';
import { encode as encodeJpeg } from 'jpeg-js';
import { beforeAll, describe, expect, it } from 'vitest';
import { buildSolid } from '../../src/solid/solid.ts';
import { newBevel } from '../../src/document/index.ts';
import { DRAWING_HEIGHT, openDrawing } from '../../src/drawing/drawing.ts';
import { DrawingError, drawingKindOf } from '../../src/drawing/painted.ts';
import { areaOf, boundsOf, loadRegions } from '../../src/plane/region.ts';
import { openEdges } from '../../src/solid/soundness.ts';
import { paintedOf } from '../../src/drawing/svg.ts';

beforeAll(() => loadRegions());

const svg = (inner: string, attributes = 'viewBox="0 0 100 100"') =>
  `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" ${attributes}>${inner}</svg>`;
const bytes = (text: string) => new TextEncoder().encode(text);
const painted = (inner: string) => paintedOf(svg(inner), 5000).painted;
const areas = (inner: string) => painted(inner).map((p) => areaOf(p.region));

describe('vector drawings', () => {
  it('have the areas of their shapes', () => {
    expect(areas('<rect x="10" y="10" width="30" height="20"/>')[0]).toBeCloseTo(600, 4);
    expect(areas('<circle cx="50" cy="50" r="20"/>')[0] / (Math.PI * 400)).toBeCloseTo(1, 2);
    expect(areas('<ellipse cx="50" cy="50" rx="30" ry="10"/>')[0] / (Math.PI * 300)).toBeCloseTo(1, 2);
    expect(areas('<rect width="40" height="20" rx="5"/>')[0]).toBeCloseTo(800 - (4 - Math.PI) * 25, 0);
    expect(areas('<polygon points="0,0 40,0 0,30"/>')[0]).toBeCloseTo(600, 4);
    expect(areas('<path d="M0 0h40v30H0z"/>')[0]).toBeCloseTo(1200, 4);
    expect(areas('<path d="M10 50 A40 40 0 0 1 90 50 Z"/>')[0] / (Math.PI * 800)).toBeCloseTo(1, 2);
  });

  it('follow fill rules, transforms, groups, uses and classes', () => {
    const nested = 'M0 0H40V40H0Z M10 10H30V30H10Z';
    expect(areas(`<path d="${nested}"/>`)[0]).toBeCloseTo(1600, 3);
    expect(areas(`<path fill-rule="evenodd" d="${nested}"/>`)[0]).toBeCloseTo(1200, 3);
    expect(areas('<g transform="scale(2) rotate(30)"><rect width="10" height="10"/></g>')[0]).toBeCloseTo(
      400,
      3,
    );
    expect(areas('<g transform="matrix(1 0.5 0 2 3 4)"><rect width="10" height="10"/></g>')[0]).toBeCloseTo(
      200,
      3,
    );
    const used = painted('<defs><rect id="a" width="10" height="10"/></defs><use href="#a" x="20" y="30"/>');
    expect(boundsOf(used[0].region)).toEqual([20, -40, 30, -30]);
    expect(painted('<style>.n{fill:none}</style><rect class="n" width="9" height="9"/>')).toEqual([]);
    expect(painted('<g style="display:none"><rect width="9" height="9"/></g>')).toEqual([]);
  });

  it('widen strokes as the pen does: caps, joins and the scale of their transform', () => {
    const stroke = 'fill="none" stroke="black" stroke-width="4"';
    expect(areas(`<path ${stroke} d="M0 0H50"/>`)[0]).toBeCloseTo(200, 2);
    expect(areas(`<path ${stroke} stroke-linecap="square" d="M0 0H50"/>`)[0]).toBeCloseTo(216, 2);
    expect(areas(`<path ${stroke} stroke-linecap="round" d="M0 0H50"/>`)[0]).toBeCloseTo(
      200 + Math.PI * 4,
      0,
    );
    expect(areas(`<path ${stroke} d="M0 0H50V50"/>`)[0]).toBeCloseTo(48 * 4 + 48 * 4 + 4 * 4, 0);
    expect(areas(`<rect ${stroke} width="40" height="40"/>`)[0]).toBeCloseTo(44 ** 2 - 36 ** 2, 2);
    expect(areas(`<g transform="scale(3)"><path ${stroke} d="M0 0H10"/></g>`)[0]).toBeCloseTo(360, 2);
  });

  it('keep the lines that a pen drew, and none for what is filled', () => {
    const { parts } = openDrawing(
      bytes(
        svg(
          '<g transform="translate(10 10) scale(2)" fill="none" stroke="black"><path id="wave" d="M0 0H20V30"/><circle id="port" cx="10" cy="15" r="5"/></g><rect id="hull" width="10" height="80"/><rect id="rim" x="70" width="20" height="80" fill="red" stroke="blue" stroke-width="2"/>',
        ),
      ),
      'vector',
    );
    const unit = DRAWING_HEIGHT / 82;
    const length = (k: number) => parts[k].lines!.reduce((sum, l) => sum + l.length.at(-1)!, 0) / unit;
    expect(parts.map((p) => [p.name, p.lines === null])).toEqual([
      ['wave', false],
      ['port', false],
      ['hull', true],
      ['rim', true],
      ['rim', false],
    ]);
    expect(length(0)).toBeCloseTo(2 * 50, 3);
    expect(length(1) / (2 * Math.PI * 10)).toBeCloseTo(1, 2);
    expect(length(4)).toBeCloseTo(200, 3);
    expect(parts[0].lines![0].closed).toBe(false);
    expect(parts[1].lines![0].closed).toBe(true);
    // they lie inside what the pen covers
    const [x0, y0, x1, y1] = boundsOf(parts[1].region);
    for (const l of parts[1].lines!)
      l.x.forEach((x, i) => {
        expect(x > x0 && x < x1 && l.y[i] > y0 && l.y[i] < y1).toBe(true);
      });
  });

  it('draw nothing of definitions and of what other programs keep in the file', () => {
    const rect = '<rect width="9" height="9"/>';
    const silent = ['defs', 'symbol', 'mask', 'clipPath', 'pattern', 'marker', 'metadata', 'editor:view'];
    const inner = silent.map((tag) => `<${tag}>${rect}</${tag}>`).join('');
    expect(areas(`${inner}<rect width="20" height="10"/>`)).toEqual([expect.closeTo(200, 4)]);
    const { leftOut } = paintedOf(svg('<path d="M0 0H9V9Z" marker-start="url(#arrow)"/>'), 5000);
    expect(leftOut).toEqual(['markers']);
  });

  it('are dashed as the pen was, from its offset on, round closed lines too', () => {
    const pen = 'fill="none" stroke="black" stroke-width="2"';
    // dashes of 6 and gaps of 4 on 50: five dashes
    expect(areas(`<path ${pen} stroke-dasharray="6 4" d="M0 0H50"/>`)[0]).toBeCloseTo(5 * 6 * 2, 2);
    // an odd list is read twice: 5 on, 3 off, 1 on, 5 off, 3 on, 1 off
    expect(areas(`<path ${pen} stroke-dasharray="5,3,1" d="M0 0H18"/>`)[0]).toBeCloseTo((5 + 1 + 3) * 2, 2);
    // an offset of 8 begins in the gap
    expect(areas(`<path ${pen} stroke-dasharray="6 4" stroke-dashoffset="8" d="M0 0H12"/>`)[0]).toBeCloseTo(
      12,
      2,
    );
    expect(
      areas(`<g transform="scale(2)"><path ${pen} stroke-dasharray="6 4" d="M0 0H50"/></g>`)[0],
    ).toBeCloseTo(5 * 12 * 4, 2);
    expect(areas(`<path ${pen} stroke-dasharray="0 0" d="M0 0H50"/>`)[0]).toBeCloseTo(100, 2);
    expect(areas(`<path ${pen} stroke-dasharray="none" d="M0 0H50"/>`)[0]).toBeCloseTo(100, 2);
    const [ring] = painted(`<rect ${pen} stroke-dasharray="10" width="30" height="30"/>`);
    expect(ring.lines!.map((l) => [l.closed, l.length.at(-1)])).toEqual(
      Array(6).fill([false, expect.closeTo(10, 6)]),
    );
    const many = paintedOf(svg(`<path ${pen} stroke-dasharray="0.001" d="M0 0H5000"/>`), 5000);
    expect(many.leftOut.join()).toMatch(/dashes of a line with more than can be drawn/);
    expect(areaOf(many.painted[0].region)).toBeCloseTo(10_000, 0);
  });

  it('are clipped by the paths of the file: in groups, by classes, one within another', () => {
    const clips =
      '<clipPath id="left"><rect width="20" height="100"/></clipPath><clipPath id="low" transform="translate(0 10)"><use href="#bar"/></clipPath><defs><rect id="bar" width="100" height="10"/></defs><style>.cut{clip-path:url(#left)}</style>';
    const cut = (inner: string) => areas(clips + inner).reduce((sum, a) => sum + a, 0);
    expect(cut('<rect clip-path="url(#left)" width="50" height="10"/>')).toBeCloseTo(200, 3);
    expect(
      cut('<g class="cut"><rect width="50" height="10"/><rect x="30" width="9" height="9"/></g>'),
    ).toBeCloseTo(200, 3);
    expect(
      cut('<g style="clip-path:url(#left)"><rect clip-path="url(#low)" width="50" height="50"/></g>'),
    ).toBeCloseTo(200, 3);
    // a clip goes where its element is taken
    expect(
      cut('<g transform="translate(5 0)"><rect clip-path="url(#left)" width="50" height="10"/></g>'),
    ).toBeCloseTo(200, 3);
    const { painted: whole, leftOut } = paintedOf(
      svg(`${clips}<rect clip-path="url(#nowhere)" width="50" height="10"/>`),
      5000,
    );
    expect(areaOf(whole[0].region)).toBeCloseTo(500, 3);
    expect(leftOut.join()).toMatch(/clipping other than by paths/);
    // one clip of many points serves many elements
    const wave = Array.from({ length: 5000 }, (_, i) => `${i / 50},${50 + 40 * Math.sin(i / 9)}`).join(' ');
    const often = `<clipPath id="wave"><polygon points="${wave} 100,100 0,100"/></clipPath>${'<rect clip-path="url(#wave)" width="100" height="100"/>'.repeat(100)}`;
    expect(painted(often)).toHaveLength(100);
    // lines stay known where the clip cuts nothing of them
    const pen = 'fill="none" stroke="black"';
    const lines = (d: string) => painted(`${clips}<path ${pen} clip-path="url(#left)" d="${d}"/>`)[0].lines;
    expect(lines('M2 5H18')).toHaveLength(1);
    expect(lines('M2 5H40')).toBeNull();
  });

  it('stand upright, as tall as a word, about their centre; what lies on top cuts what lies below', () => {
    const { parts, leftOut } = openDrawing(
      bytes(
        svg(
          '<rect id="hull" width="100" height="50" y="50"/><circle cx="50" cy="50" r="20" fill="red"/><rect x="0" y="90" width="10" height="10" fill="#fff"/><text>Ostrel</text><image href="https://example.invalid/a.png"/>',
        ),
      ),
      'vector',
    );
    const all = parts.flatMap((p) => p.region);
    const [, y0, , y1] = boundsOf(all);
    expect(y1 - y0).toBeCloseTo(DRAWING_HEIGHT, 3);
    expect(y1 + y0).toBeCloseTo(0, 3);
    // the circle is the topmost point
    expect(boundsOf(parts[1].region)[3]).toBeCloseTo(y1, 3);
    expect(parts[0].name).toBe('hull');
    const unit = DRAWING_HEIGHT / 70;
    expect(areaOf(parts[0].region) / unit ** 2).toBeCloseTo(5000 - 100 - (Math.PI * 400) / 2, -1);
    expect(leftOut.join()).toMatch(/text/);
    expect(leftOut.join()).toMatch(/pictures/);
    const solid = buildSolid(parts[0].region, {
      depth: 100,
      front: newBevel({ width: 12, height: 12, profile: 'round', segments: 4 }),
      back: newBevel({ width: 0, height: 0, profile: 'straight', segments: 1 }),
    });
    expect(openEdges(solid.positions)).toBe(0);
  });

  it('that are hostile are refused with a reason, at once', () => {
    // what takes for ever runs into the test's own time-out
    const refused = (text: string, reason: RegExp) =>
      expect(() => openDrawing(bytes(text), 'vector')).toThrow(reason);
    refused('not xml at all <<<', /SVG|XML/);
    refused('<html></html>', /not an SVG/);
    refused(svg(''), /nothing/);
    refused(`<!DOCTYPE svg [<!ENTITY a "b">]>${svg('')}`, /entities/);
    refused(svg('<g>'.repeat(300) + '</g>'.repeat(300)), /nested|XML/);
    refused(svg('<rect width="1" height="1"/>'.repeat(20_100)), /elements/);
    const points = Array.from({ length: 500_000 }, (_, i) => `${i % 997} ${(i * 7) % 991}`).join(' ');
    refused(svg(`<polygon points="${points}"/>`), /points/);
    refused(svg('<use id="a" href="#a"/>'), /nothing/);
    refused(svg('<g id="a"><use href="#b"/></g><g id="b"><use href="#a"/></g>'), /nothing/);
    for (const cut of [20, 60, 100]) {
      const whole = svg('<path d="M0 0h40v30H0z"/>');
      try {
        openDrawing(bytes(whole.slice(0, cut)), 'vector');
      } catch (error) {
        expect(error).toBeInstanceOf(DrawingError);
      }
    }
  });

  it('with a path that breaks off keep the rest and say so', () => {
    const { painted: shapes, leftOut } = paintedOf(
      svg('<path d="M0 0 L10 nonsense"/><rect width="10" height="10"/>'),
      5000,
    );
    expect(shapes.map((p) => areaOf(p.region))).toEqual([100]);
    expect(leftOut.join()).toMatch(/breaks off/);
  });
});

describe('bitmaps', () => {
  const size = 200;
  /** An antialiased disc and square. */
  const cover = (x: number, y: number) => {
    const disc = Math.min(1, Math.max(0, 60.5 - Math.hypot(x - 100, y - 70)));
    const square = x >= 40 && x < 160 && y >= 150 && y < 190 ? 1 : 0;
    return Math.max(disc, square);
  };
  const rgba = (pixel: (c: number) => [number, number, number, number]) =>
    Uint8Array.from(
      Array.from({ length: size * size }, (_, i) =>
        pixel(cover((i % size) + 0.5, Math.floor(i / size) + 0.5)),
      ).flat(),
    );
  const onNothing = encodePng({
    width: size,
    height: size,
    channels: 4,
    data: rgba((c) => [0, 0, 0, 255 * c]),
  });
  const onWhite = encodePng({
    width: size,
    height: size,
    channels: 4,
    data: rgba((c) => [255 * (1 - c), 255 * (1 - c), 255 * (1 - c), 255]),
  });
  const lightOnNothing = encodePng({
    width: size,
    height: size,
    channels: 4,
    data: rgba((c) => [255, 255, 255, 255 * c]),
  });
  const jpeg = new Uint8Array(
    encodeJpeg(
      { width: size, height: size, data: rgba((c) => [255 * (1 - c), 255 * (1 - c), 255 * (1 - c), 255]) },
      92,
    ).data,
  );

  it.each([
    ['black on nothing', onNothing],
    ['black on white', onWhite],
    ['white on nothing', lightOnNothing],
    ['a JPEG', jpeg],
  ])('%s become smooth outlines of the true size', (_, file) => {
    expect(drawingKindOf(file)).toBe('bitmap');
    const { parts } = openDrawing(file, 'bitmap');
    expect(parts).toHaveLength(1);
    const unit = DRAWING_HEIGHT / (190 - 10);
    const [disc, square] = [...parts[0].region].sort((a, b) => boundsOf([b])[3] - boundsOf([a])[3]);
    expect(areaOf([disc]) / (Math.PI * 60 ** 2 * unit ** 2)).toBeCloseTo(1, 1);
    expect(areaOf([square]) / (120 * 40 * unit ** 2)).toBeCloseTo(1, 1);
    // smooth: no vertex of the disc is farther from the circle than a fraction of a pixel
    const [x0, y0, x1, y1] = boundsOf([disc]);
    for (let i = 0; i < disc.length; i += 2) {
      const off = Math.hypot(disc[i] - (x0 + x1) / 2, disc[i + 1] - (y0 + y1) / 2) - (x1 - x0) / 2;
      expect(Math.abs(off) / unit).toBeLessThan(1);
    }
    expect(y1).toBeGreaterThan(0);
  });

  it('that are empty, broken or too large are refused with a reason', () => {
    const empty = encodePng({ width: 4, height: 4, channels: 4, data: new Uint8Array(64) });
    expect(() => openDrawing(empty, 'bitmap')).toThrow(/nothing/);
    expect(() => openDrawing(onNothing.slice(0, 300), 'bitmap')).toThrow(DrawingError);
    const huge = onNothing.slice();
    new DataView(huge.buffer).setUint32(16, 60_000);
    new DataView(huge.buffer).setUint32(20, 60_000);
    expect(() => openDrawing(huge, 'bitmap')).toThrow(/100 million/);
    expect(() => openDrawing(jpeg.slice(0, 200), 'bitmap')).toThrow(DrawingError);
  });
});
