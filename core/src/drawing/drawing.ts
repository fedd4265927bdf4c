/** Drawings that stand in place of text: vector files and bitmaps as letters with outlines. */
import { group } from 'd3-array';
import type { DrawingRef } from '../document/index.ts';
import { tracedBitmap } from './bitmap.ts';
import { measured, type Course } from '../plane/curve.ts';
import type { Contour } from '../plane/flatten.ts';
import type { PlacedLetter, TextLayout } from '../type/layout.ts';
import { DrawingError, type Painted } from './painted.ts';
import { boundsOf, boxesMeet, merged, without, type Box } from '../plane/region.ts';
import { paintedOf } from './svg.ts';

/** Height of a drawing in its own unit: that of a capital in a common face, in thousandths of an em. */
export const DRAWING_HEIGHT = 700;
/** Chords per height. */
const FINENESS = 5000;
/** Shapes that keep a name of their own; of more, those of one paint are one. */
const MOST_PARTS = 48;

export interface OpenDrawing {
  /** Shapes, and the lines of those that a pen drew. */
  parts: { name: string; region: Contour[]; lines: Course[] | null }[];
  /** What in the file was left out, in words. */
  leftOut: string[];
}

const isWhite = (paint: string) =>
  /^(white|#fff|#ffffff|rgb\(\s*255\s*,\s*255\s*,\s*255\s*\))$/i.test(paint.trim());

/**
 * What lies on top cuts what lies below, so that solids of one depth do not share space; white only cuts.
 * Shapes whose boxes are apart are not looked at together.
 */
function flat(painted: Painted[]): Painted[] {
  const out: { shape: Painted; box: Box }[] = [];
  for (const shape of painted) {
    const box = boundsOf(shape.region);
    for (const below of out) {
      if (!boxesMeet(below.box, box)) continue;
      below.shape.region = without(below.shape.region, shape.region);
      below.box = boundsOf(below.shape.region);
    }
    if (!isWhite(shape.paint)) out.push({ shape: { ...shape }, box });
  }
  return out.map(({ shape }) => shape).filter((p) => p.region.length > 0);
}

function byPaint(painted: Painted[]): Painted[] {
  return [...group(painted, (p) => p.paint)].map(([paint, shapes]) => ({
    name: paint,
    paint,
    region: merged(shapes.flatMap((s) => s.region)),
    lines: shapes.every((s) => s.lines) ? shapes.flatMap((s) => s.lines!) : null,
  }));
}

/** Opens a drawing. `loadRegions()` must have been awaited. @throws DrawingError */
export function openDrawing(bytes: Uint8Array, kind: DrawingRef['kind']): OpenDrawing {
  const { painted, leftOut } =
    kind === 'vector' ? paintedOf(new TextDecoder().decode(bytes), FINENESS) : tracedBitmap(bytes, FINENESS);
  let shapes = flat(painted);
  if (shapes.length > MOST_PARTS) shapes = byPaint(shapes);
  if (shapes.length === 0) throw new DrawingError('nothing in the file is painted dark');
  const [x0, y0, x1, y1] = boundsOf(shapes.flatMap((s) => s.region));
  const scale = DRAWING_HEIGHT / (y1 - y0);
  if (!Number.isFinite(scale) || scale <= 0) throw new DrawingError('the drawing has no height');
  const [cx, cy] = [(x0 + x1) / 2, (y0 + y1) / 2];
  return {
    parts: shapes.map(({ name, region, lines }, i) => ({
      name: name || `${i + 1}`,
      region: region.map((c) => c.map((v, k) => (v - (k % 2 ? cy : cx)) * scale)),
      lines:
        lines &&
        lines.map(({ x, y, closed }) =>
          measured(
            x.map((v) => (v - cx) * scale),
            y.map((v) => (v - cy) * scale),
            closed,
          ),
        ),
    })),
    leftOut,
  };
}

/** Lasting identifier of a drawing's part. */
export const partId = (i: number) => `part-${i}`;

/**
 * A drawing laid out like text: its parts stand as letters about the block's centre.
 * @param coarseness of bevels; the outlines stay as they were drawn
 */
export function layoutDrawing({ parts }: OpenDrawing, key: string, coarseness = 1): TextLayout {
  const outlines = new Map<string, Contour[]>();
  const lines = new Map<string, Course[]>();
  const letters = parts.map(({ name, region, lines: drawn }, i): PlacedLetter => {
    const glyph = `${key}/${i}`;
    outlines.set(glyph, region);
    if (drawn) lines.set(glyph, drawn);
    const [x0, , x1] = boundsOf(region);
    return {
      letter: partId(i),
      text: name,
      glyph,
      x: 0,
      y: 0,
      turn: 0,
      advance: x1 - x0,
      line: 0,
      missing: false,
      standIn: null,
      coarseness,
    };
  });
  return { letters, outlines, lines, bounds: boundsOf(parts.flatMap((p) => p.region)) };
}
