/** Text to placed letters: lines, tracking, leading and alignment; the block's centre is the origin. */
import type { Block } from '../document/index.ts';
import type { OpenFont } from './font.ts';
import { boundsOf, merged } from './region.ts';
import type { Contour } from './font.ts';

/** One glyph of the block that has an outline. Lengths in thousandths of an em. */
export interface PlacedLetter {
  /** Lasting identifier of the first character it stands for. */
  letter: string;
  /** The character or characters, for display. */
  text: string;
  glyph: number;
  x: number;
  y: number;
  advance: number;
  /** True when the font has no such character. */
  missing: boolean;
}

export interface TextLayout {
  letters: PlacedLetter[];
  /** Outline of each glyph used, merged. */
  outlines: Map<number, Contour[]>;
  /** Ink bounds [x0, y0, x1, y1] about the block's centre; null when there is no ink. */
  bounds: [number, number, number, number] | null;
}

/** Merged outlines of each font's glyphs, for as long as the font is open. */
const regions = new WeakMap<OpenFont, Map<number, Contour[]>>();

function regionOf(font: OpenFont, glyph: number): Contour[] {
  let known = regions.get(font);
  if (!known) regions.set(font, (known = new Map()));
  let region = known.get(glyph);
  if (!region) known.set(glyph, (region = merged(font.outline(glyph))));
  return region;
}

/** Lays out a block's text. `loadRegions()` must have been awaited. */
export function layoutText(
  font: OpenFont,
  block: Pick<Block, 'text' | 'letters' | 'tracking' | 'leading' | 'alignment'>,
): TextLayout {
  const letters: PlacedLetter[] = [];
  const outlines = new Map<number, Contour[]>();
  const lines = block.text.split('\n');
  const widths: number[] = [];
  const lineOf: number[] = [];
  let start = 0;
  let firstCharacter = 0;
  lines.forEach((line, row) => {
    let pen = 0;
    const shaped = font.shape(line);
    const clusters = [...new Set(shaped.map((g) => g.cluster))].sort((a, b) => a - b);
    for (const glyph of shaped) {
      if (!outlines.has(glyph.glyph)) outlines.set(glyph.glyph, regionOf(font, glyph.glyph));
      const next = clusters[clusters.indexOf(glyph.cluster) + 1] ?? line.length;
      if (outlines.get(glyph.glyph)!.length > 0) {
        const text = line.slice(glyph.cluster, next);
        letters.push({
          letter: block.letters[firstCharacter + [...line.slice(0, glyph.cluster)].length] ?? `${start}`,
          text,
          glyph: glyph.glyph,
          x: pen + glyph.dx,
          y: -row * font.lineHeight * block.leading + glyph.dy,
          advance: glyph.advance,
          missing: glyph.glyph === 0,
        });
        lineOf.push(row);
      }
      pen += glyph.advance + block.tracking;
    }
    widths.push(shaped.length > 0 ? pen - block.tracking : 0);
    start += line.length + 1;
    firstCharacter += [...line].length + 1;
  });
  const widest = Math.max(0, ...widths);
  const share = { left: 0, centre: 0.5, right: 1 }[block.alignment];
  letters.forEach((letter, i) => {
    letter.x += (widest - widths[lineOf[i]]) * share;
  });
  return { letters, outlines, bounds: centreInk(letters, outlines) };
}

/** Moves the letters so that their common ink is centred; returns the centred bounds. */
function centreInk(letters: PlacedLetter[], outlines: Map<number, Contour[]>): TextLayout['bounds'] {
  if (letters.length === 0) return null;
  let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const l of letters) {
    const box = boundsOf(outlines.get(l.glyph)!);
    x0 = Math.min(x0, box[0] + l.x);
    y0 = Math.min(y0, box[1] + l.y);
    x1 = Math.max(x1, box[2] + l.x);
    y1 = Math.max(y1, box[3] + l.y);
  }
  const [cx, cy] = [(x0 + x1) / 2, (y0 + y1) / 2];
  for (const l of letters) {
    l.x -= cx;
    l.y -= cy;
  }
  return [x0 - cx, y0 - cy, x1 - cx, y1 - cy];
}
