/** SVG drawings to painted regions (SVG 1.1 shapes, paths, strokes, transforms, fill rules, groups and use). */
import { XMLParser } from 'fast-xml-parser';
import { DRAWING, inWords } from '../ceilings.ts';
import { coursesAlong, coursesRound, pointsOf, type Course } from '../plane/curve.ts';
import { dashed, dashPattern } from '../plane/dashes.ts';
import { flattened, flattenedOpen, type PathCommand } from '../plane/flatten.ts';
import type { Contour } from '../plane/flatten.ts';
import { DrawingError, type Painted } from './painted.ts';
import {
  areaOf,
  boundsOf,
  boxesMeet,
  merged,
  outlined,
  shared,
  type Box,
  type LineCap,
  type LineJoin,
} from '../plane/region.ts';
import { rulesOf } from './styleRules.ts';
import {
  commandsOf,
  declarations,
  lengthOf,
  matrixOf,
  product,
  SAME,
  shapeData,
  type Attributes,
  type Element,
  type Matrix,
} from './svgShapes.ts';
import { isTangled } from '../plane/tangle.ts';

/** Presentation that children inherit. */
interface Style {
  fill: string;
  fillRule: 'nonzero' | 'evenodd';
  stroke: string;
  strokeWidth: number;
  cap: LineCap;
  join: LineJoin;
  mitre: number;
  dashes: string;
  dashOffset: number;
  visible: boolean;
}

const PLAIN: Style = {
  fill: 'black',
  fillRule: 'nonzero',
  stroke: 'none',
  strokeWidth: 1,
  cap: 'butt',
  join: 'miter',
  mitre: 4,
  dashes: 'none',
  dashOffset: 0,
  visible: true,
};

/** What is left out, and how the report names it. */
const LEFT_OUT: Record<string, string> = {
  text: 'text (turn it into paths before saving)',
  image: 'embedded pictures',
  foreignObject: 'embedded pages',
  video: 'moving pictures',
  script: 'scripts',
};

const parser = new XMLParser({
  preserveOrder: true,
  ignoreAttributes: false,
  attributeNamePrefix: '',
  processEntities: false,
  parseTagValue: false,
  parseAttributeValue: false,
  trimValues: false,
});

function elementsOf(nodes: unknown, depth = 0): Element[] {
  if (!Array.isArray(nodes)) return [];
  if (depth > DRAWING.depth) throw new DrawingError(`groups are nested more than ${DRAWING.depth} deep`);
  return (nodes as Record<string, unknown>[]).flatMap((node) => {
    const tag = Object.keys(node).find((k) => k !== ':@');
    if (tag === undefined || tag === '#text' || tag.startsWith('?')) return [];
    const inner = node[tag] as Record<string, unknown>[];
    return [
      {
        tag: tag.replace(/^svg:/, ''),
        attributes: (node[':@'] ?? {}) as Attributes,
        children: elementsOf(inner, depth + 1),
        text: inner.map((child) => (typeof child['#text'] === 'string' ? child['#text'] : '')).join(''),
      },
    ];
  });
}

let clipCount = 0;

/** What a clip path lets through. */
class Clip {
  readonly number = ++clipCount;
  readonly region: Contour[];
  private readonly boxes: Box[];

  constructor(region: Contour[]) {
    this.region = region;
    this.boxes = region.map((c) => boundsOf([c]));
  }

  /** The part of a region that is seen: only what of the clip lies about it is looked at. */
  of(whole: Contour[]): Contour[] {
    const box = boundsOf(whole);
    const near = this.region.filter((_, i) => boxesMeet(this.boxes[i], box));
    if (near.length === 0) return [];
    // one rectangle about all of it hides nothing
    const [x0, y0, x1, y1] = this.boxes[this.region.indexOf(near[0])];
    const around = x0 <= box[0] && y0 <= box[1] && x1 >= box[2] && y1 >= box[3];
    const area = (x1 - x0) * (y1 - y0);
    if (near.length === 1 && around && areaOf(near) >= area * (1 - 1e-12)) return whole;
    return shared(whole, near);
  }
}

class Reader {
  readonly painted: Painted[] = [];
  readonly leftOut = new Set<string>();
  private readonly byId = new Map<string, Element>();
  private readonly classes = new Map<string, Attributes>();
  /** Clips by their name and where they lie: many elements share one. */
  private readonly clips = new Map<string, Clip>();
  private readonly sayings = new WeakMap<Element, Attributes>();
  private count = 0;
  private rules = 0;
  private points = 0;
  private readonly flatness: number;

  constructor(roots: Element[], flatness: number) {
    this.flatness = flatness;
    const visit = (e: Element) => {
      if (e.attributes.id) this.byId.set(e.attributes.id, e);
      if (e.tag === 'style') this.readStyles(e.text);
      e.children.forEach(visit);
    };
    roots.forEach(visit);
  }

  private readStyles(css: string): void {
    for (const { selectors, body } of rulesOf(css)) {
      if (++this.rules > DRAWING.rules)
        throw new DrawingError(`the drawing has more than ${DRAWING.rules} style rules`);
      for (const selector of selectors) {
        if (/^\.[\w-]+$/.test(selector)) {
          const name = selector.slice(1);
          this.classes.set(name, { ...this.classes.get(name), ...declarations(body) });
        } else this.leftOut.add(`the style rule ${selector.slice(0, 40)}`);
      }
    }
  }

  /** What an element says of itself: attributes, then its classes, then its own style. */
  private said(e: Element): Attributes {
    const known = this.sayings.get(e);
    if (known) return known;
    const a: Attributes = { ...e.attributes };
    const names = new Set((e.attributes.class ?? '').split(/\s+/));
    for (const name of names) Object.assign(a, this.classes.get(name));
    Object.assign(a, declarations(e.attributes.style ?? ''));
    this.sayings.set(e, a);
    return a;
  }

  private styleOf(e: Element, inherited: Style): Style {
    const a = this.said(e);
    const style = { ...inherited };
    const take = (name: string, use: (value: string) => void) => {
      if (a[name] !== undefined && a[name] !== 'inherit') use(a[name]);
    };
    take('fill', (v) => (style.fill = v));
    take('fill-rule', (v) => (style.fillRule = v === 'evenodd' ? 'evenodd' : 'nonzero'));
    take('stroke', (v) => (style.stroke = v));
    take('stroke-width', (v) => (style.strokeWidth = lengthOf(v, inherited.strokeWidth)));
    take('stroke-linecap', (v) => (style.cap = v === 'round' || v === 'square' ? v : 'butt'));
    take('stroke-linejoin', (v) => (style.join = v === 'round' || v === 'bevel' ? v : 'miter'));
    take('stroke-miterlimit', (v) => (style.mitre = lengthOf(v, 4)));
    take('stroke-dasharray', (v) => (style.dashes = v));
    take('stroke-dashoffset', (v) => (style.dashOffset = lengthOf(v)));
    take('visibility', (v) => (style.visible = v === 'visible'));
    for (const [name, what] of [
      ['mask', 'masks'],
      ['filter', 'filters'],
      ['marker-start', 'markers'],
      ['marker-mid', 'markers'],
      ['marker-end', 'markers'],
    ]) {
      if (a[name] && a[name] !== 'none') this.leftOut.add(what);
    }
    if (a.display === 'none') style.visible = false;
    return style;
  }

  /** @param clip what is seen of what the element draws; null for all of it */
  walk(
    e: Element,
    inherited: Style,
    outer: Matrix,
    uses: readonly string[] = [],
    clip: Clip | null = null,
  ): void {
    if (++this.count > DRAWING.elements)
      throw new DrawingError(`the drawing has more than ${DRAWING.elements} elements`);
    if (LEFT_OUT[e.tag]) {
      this.leftOut.add(LEFT_OUT[e.tag]);
      return;
    }
    if (this.said(e).display === 'none') return;
    const style = this.styleOf(e, inherited);
    const matrix = product(outer, matrixOf(e.attributes.transform));
    const seen = this.clipped(e, matrix, clip);
    if (e.tag === 'use') this.use(e, style, matrix, uses, seen);
    else if (['svg', 'g', 'a', 'switch'].includes(e.tag)) {
      const place: Matrix =
        e.tag === 'svg' && uses.length + this.painted.length > 0
          ? [1, 0, 0, 1, lengthOf(e.attributes.x), lengthOf(e.attributes.y)]
          : SAME;
      for (const child of e.children) this.walk(child, style, product(matrix, place), uses, seen);
    } else if (style.visible) this.paint(e, style, matrix, seen);
  }

  private use(e: Element, style: Style, matrix: Matrix, uses: readonly string[], clip: Clip | null): void {
    const link = e.attributes.href ?? e.attributes['xlink:href'] ?? '';
    if (!link.startsWith('#')) {
      this.leftOut.add('links to other files');
      return;
    }
    const id = link.slice(1);
    const target = this.byId.get(id);
    if (!target) {
      this.leftOut.add(`a use of ${id}, which the file does not have`);
      return;
    }
    if (uses.includes(id)) {
      this.leftOut.add(`a use of ${id} inside itself`);
      return;
    }
    const place = product(matrix, [1, 0, 0, 1, lengthOf(e.attributes.x), lengthOf(e.attributes.y)]);
    const inner = [...uses, id];
    if (target.tag === 'symbol')
      for (const child of target.children) this.walk(child, style, place, inner, clip);
    else this.walk(target, style, place, inner, clip);
  }

  /** What is left of a clip after an element's own. */
  private clipped(e: Element, matrix: Matrix, clip: Clip | null): Clip | null {
    const value = this.said(e)['clip-path'] ?? 'none';
    if (value === 'none') return clip;
    const path = this.byId.get(/^url\(\s*["']?#([^"')]+)["']?\s*\)$/.exec(value)?.[1] ?? '');
    if (path?.tag !== 'clipPath' || path.attributes.clipPathUnits === 'objectBoundingBox') {
      this.leftOut.add('clipping other than by paths of the file');
      return clip;
    }
    const within = product(matrix, matrixOf(path.attributes.transform));
    const key = `${path.attributes.id} ${within.join(' ')}`;
    const own =
      this.clips.get(key) ??
      new Clip(merged(path.children.flatMap((child) => this.clipShape(child, within, []))));
    this.clips.set(key, own);
    if (!clip) return own;
    const both = `${clip.number} ${key}`;
    const seen = this.clips.get(both) ?? new Clip(own.of(clip.region));
    this.clips.set(both, seen);
    return seen;
  }

  private clipShape(e: Element, outer: Matrix, uses: readonly string[]): Contour[] {
    const matrix = product(outer, matrixOf(e.attributes.transform));
    if (e.tag === 'use') {
      const id = (e.attributes.href ?? e.attributes['xlink:href'] ?? '').slice(1);
      const target = this.byId.get(id);
      if (!target || uses.includes(id)) return [];
      const place: Matrix = [1, 0, 0, 1, lengthOf(e.attributes.x), lengthOf(e.attributes.y)];
      return this.clipShape(target, product(matrix, place), [...uses, id]);
    }
    const commands = this.commandsIn(e, matrix);
    if (!commands) return [];
    const rule = this.said(e)['clip-rule'] === 'evenodd' ? 'evenodd' : 'nonzero';
    return merged(this.followed(commands), rule);
  }

  /** The path of a shape; null when it draws nothing. */
  private commandsIn(e: Element, matrix: Matrix): PathCommand[] | null {
    const data = shapeData(e);
    if (data === '') return null;
    if (data.length > DRAWING.numbers && (data.match(/[\d.]+/g)?.length ?? 0) > DRAWING.numbers)
      throw new DrawingError(`a path has more than ${DRAWING.numbers / 2} points`);
    const { commands, broken } = commandsOf(data, matrix);
    if (broken) this.leftOut.add('the end of a path that breaks off');
    return commands;
  }

  /** Counts points, and refuses more than can be worked through. */
  private counted(lines: Contour[]): Contour[] {
    for (const line of lines) {
      this.points += line.length / 2;
      for (let i = 0; i < line.length; i++)
        if (!(Math.abs(line[i]) <= DRAWING.reach))
          throw new DrawingError(`a path reaches farther than ${DRAWING.reach} units from the origin`);
    }
    if (this.points > DRAWING.points)
      throw new DrawingError(`the drawing has more than ${DRAWING.points} points`);
    if (isTangled(lines))
      throw new DrawingError('a path crosses itself more often than can be worked through');
    return lines;
  }

  private followed(commands: PathCommand[]): Contour[] {
    return this.counted(flattened(commands, 1, this.flatness));
  }

  /** The lines a pen follows along a path: dashes where it is dashed. */
  private penned(commands: PathCommand[], style: Style, scale: number): Course[] {
    const { open, closed } = flattenedOpen(commands, 1, this.flatness);
    this.counted([...open, ...closed]);
    const whole = [...coursesAlong(open), ...coursesRound(closed)];
    const pattern = dashPattern(style.dashes, (v) => lengthOf(v, NaN) * scale);
    if (!pattern) return whole;
    return whole.flatMap((line) => {
      const pieces = dashed(line, pattern, style.dashOffset * scale);
      if (!pieces) this.leftOut.add('dashes of a line with more than can be drawn');
      return pieces ?? [line];
    });
  }

  private paint(e: Element, style: Style, matrix: Matrix, clip: Clip | null): void {
    const commands = this.commandsIn(e, matrix);
    if (!commands) return;
    const name = e.attributes.id ?? '';
    const add = (whole: Contour[], paint: string, lines: Course[] | null) => {
      const region = clip ? clip.of(whole) : whole;
      // of a line that is cut it is no longer known where it runs
      const cut = clip !== null && areaOf(region) < areaOf(whole) * (1 - 1e-9);
      if (region.length > 0) this.painted.push({ name, region, paint, lines: cut ? null : lines });
    };
    if (style.fill !== 'none' && style.fill !== 'transparent' && e.tag !== 'line')
      add(merged(this.followed(commands), style.fillRule), style.fill, null);
    // strokes widen with the square root of what their transform does to areas
    const scale = Math.sqrt(Math.abs(matrix[0] * matrix[3] - matrix[1] * matrix[2]));
    const width = style.strokeWidth * scale;
    if (style.stroke !== 'none' && style.stroke !== 'transparent' && width > 0) {
      if (!(width <= DRAWING.reach)) throw new DrawingError(`a line is wider than ${DRAWING.reach} units`);
      const lines = this.penned(commands, style, scale);
      const points = (closed: boolean) => lines.filter((l) => l.closed === closed).map(pointsOf);
      const region = outlined(
        points(false),
        points(true).map((p) => p.subarray(0, p.length - 2)),
        width,
        style.cap,
        style.join,
        style.mitre,
        this.flatness,
      );
      add(region, style.stroke, lines);
    }
  }
}

/** The height a drawing is shown at by itself, for how finely its curves are followed. */
function extentOf(root: Element): number {
  const box = (root.attributes.viewBox ?? '')
    .trim()
    .split(/[\s,]+/)
    .map(Number);
  if (box.length === 4 && box[3] > 0) return box[3];
  return lengthOf(root.attributes.height, 100) || 100;
}

/**
 * What an SVG file paints, from the lowest to the topmost, y up.
 * @param fineness chords per height: curves are followed to the drawing's height divided by it
 * @throws DrawingError naming what is wrong
 */
export function paintedOf(text: string, fineness: number): { painted: Painted[]; leftOut: string[] } {
  if (text.length > DRAWING.bytes)
    throw new DrawingError(`the drawing is larger than ${inWords(DRAWING.bytes)}`);
  if (/<!ENTITY/i.test(text)) throw new DrawingError('the drawing defines entities, which are not read');
  let roots: Element[];
  try {
    roots = elementsOf(parser.parse(text));
  } catch (error) {
    if (error instanceof DrawingError) throw error;
    throw new DrawingError('the file is not well-formed XML');
  }
  const root = roots.find((e) => e.tag === 'svg');
  if (!root) throw new DrawingError('the file is not an SVG drawing');
  const reader = new Reader(roots, extentOf(root) / fineness);
  reader.walk(root, PLAIN, [1, 0, 0, -1, 0, 0]);
  return { painted: reader.painted, leftOut: [...reader.leftOut] };
}
