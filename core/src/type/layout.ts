/** Text to placed letters: lines, directions, tracking, kerning, leading, alignment and baseline. */
import { cos, sin } from '../maths/reproducible.ts';
import bidiFactory from 'bidi-js';
import type { Block } from '../document/index.ts';
import { standOn } from './baseline.ts';
import type { Course } from '../plane/curve.ts';
import type { Contour } from '../plane/flatten.ts';
import type { OpenFont } from './font.ts';
import { boundsOf, merged } from '../plane/region.ts';
import { isTangled } from '../plane/tangle.ts';

/** A letter of the block that has an outline. Lengths in thousandths of an em of the block's font. */
export interface PlacedLetter {
  /** Lasting identifier of the first character it stands for. */
  letter: string;
  /** The character or characters, for display. */
  text: string;
  /** Names the outline: alike keys, alike outlines. */
  glyph: string;
  x: number;
  y: number;
  /** Turn about its origin, radians. */
  turn: number;
  advance: number;
  /** Line it stands in, from 0. */
  line: number;
  /** True when no font has such a character. */
  missing: boolean;
  /** Name of the font that stands in for the block's own; null when that has it. */
  standIn: string | null;
  /** Of its outline, see OpenFont.outline; bevels are made as coarsely. */
  coarseness: number;
}

export interface TextLayout {
  letters: PlacedLetter[];
  /** Outline of each glyph used, merged. */
  outlines: Map<string, Contour[]>;
  /** Lines that a pen drew, of those glyphs that it did; their tubes follow them. */
  lines?: Map<string, Course[]>;
  /** Characters without ink because their outlines cross themselves beyond measure. */
  tangled?: string[];
  /** Ink bounds [x0, y0, x1, y1] about the block's centre; null when there is no ink. */
  bounds: [number, number, number, number] | null;
}

/** A font with the name its glyphs go by in caches. */
export interface NamedFont {
  font: OpenFont;
  key: string;
}

type TextSettings = Pick<
  Block,
  | 'text'
  | 'letters'
  | 'tracking'
  | 'leading'
  | 'alignment'
  | 'kerns'
  | 'features'
  | 'axes'
  | 'baseline'
  | 'capHeight'
>;

/** Where letters are made more coarsely than others. */
export interface Beyond {
  coarseness: number;
  /** Whether letters at a place of the block are looked at. */
  sees: (x: number, y: number) => boolean;
}

const bidi = bidiFactory();

/** Merged outlines of each font's glyphs, for as long as the font is open. */
const regions = new WeakMap<OpenFont, Map<string, Contour[] | null>>();

/** @param size multiplies the outline @returns null for outlines that cross themselves beyond measure */
function regionOf(font: OpenFont, glyph: number, size: number, coarseness: number): Contour[] | null {
  let known = regions.get(font);
  if (!known) regions.set(font, (known = new Map()));
  const key = `${glyph}/${size}/${coarseness}`;
  let region = known.get(key);
  if (region === undefined) {
    const drawn = font.outline(glyph, coarseness);
    const sized = size === 1 ? drawn : drawn.map((c) => c.map((v) => v * size));
    known.set(key, (region = isTangled(sized) ? null : merged(sized)));
  }
  return region;
}

interface FontRun {
  start: number;
  end: number;
  level: number;
  font: number;
}

/** Stretches of a line that have one direction and one font, in the order they are read across. */
function runsOf(line: string, fonts: readonly NamedFont[]): FontRun[] {
  const { levels } = bidi.getEmbeddingLevels(line);
  const runs: FontRun[] = [];
  let at = 0;
  for (const character of line) {
    const code = character.codePointAt(0)!;
    const last = runs.at(-1);
    // marks and joiners stay with what they follow
    const follows = last !== undefined && /^(\p{M}|\u200c|\u200d|\ufe0f)$/u.test(character);
    const found = follows ? last.font : fonts.findIndex((f) => f.font.has(code));
    const font = Math.max(0, found);
    if (last && last.font === font && last.level === levels[at]) last.end = at + character.length;
    else runs.push({ start: at, end: at + character.length, level: levels[at], font });
    at += character.length;
  }
  // Unicode Bidirectional Algorithm, rule L2
  for (let level = Math.max(0, ...runs.map((r) => r.level)); level > 0; level--) {
    for (let i = 0; i < runs.length; i++) {
      if (runs[i].level < level) continue;
      let j = i;
      while (j < runs.length && runs[j].level >= level) j++;
      runs.splice(i, j - i, ...runs.slice(i, j).reverse());
      i = j;
    }
  }
  return runs;
}

/** A glyph at its pen position, spaces too. */
interface SetGlyph {
  letter: PlacedLetter;
  /** Its outline at some coarseness, and the name that goes by. */
  drawn: (coarseness: number) => { key: string; outline: Contour[] | null };
  inked: boolean;
  space: boolean;
}

/**
 * Lays out a block's text. `loadRegions()` must have been awaited.
 * @param fonts the block's own, then those that stand in for characters it lacks
 * @param coarseness of the outlines, see OpenFont.outline
 * @param beyond places in thousandths of an em; null makes all letters alike
 */
export function layoutText(
  fonts: readonly NamedFont[],
  block: TextSettings,
  coarseness = 1,
  beyond: Beyond | null = null,
): TextLayout {
  const set = fonts.map((f, i) => (i === 0 ? f.font.varied(block.axes) : f.font));
  const own = set[0];
  const outlines = new Map<string, Contour[]>();
  const kerns = new Map(block.kerns.map((k) => [k.letter, k.by]));
  const tangled = new Set<string>();
  const rows: SetGlyph[][] = [];
  const widths: number[] = [];
  let firstCharacter = 0;
  block.text.split('\n').forEach((line, row) => {
    let pen = 0;
    const glyphs: SetGlyph[] = [];
    for (const run of runsOf(line, fonts)) {
      const font = set[run.font];
      const size = run.font === 0 ? 1 : own.capHeight / font.capHeight;
      const rightToLeft = run.level % 2 === 1;
      const shaped = font.shape(line, { ...run, rightToLeft }, block.features);
      const clusters = [...new Set(shaped.map((g) => g.cluster))].sort((a, b) => a - b);
      shaped.forEach((g, i) => {
        const drawn = (coarse: number) => ({
          key: `${fonts[run.font].key}/${g.glyph}/${size}/${coarse}`,
          outline: regionOf(font, g.glyph, size, coarse),
        });
        const { key, outline } = drawn(coarseness);
        const next = clusters[clusters.indexOf(g.cluster) + 1] ?? run.end;
        const text = line.slice(g.cluster, next);
        if (outline === null) tangled.add(text);
        const letter =
          block.letters[firstCharacter + [...line.slice(0, g.cluster)].length] ?? `${row}-${g.cluster}`;
        // marks of a cluster go where its base goes
        const leads = shaped[i - 1]?.cluster !== g.cluster;
        const by = leads ? (kerns.get(letter) ?? 0) : 0;
        if (!rightToLeft) pen += by;
        const inked = outline !== null && outline.length > 0;
        if (inked) outlines.set(key, outline);
        glyphs.push({
          drawn,
          inked,
          space: !inked && text.trim() === '' && g.advance > 0,
          letter: {
            letter,
            text,
            glyph: key,
            x: pen + g.dx * size,
            y: -row * own.lineHeight * block.leading + g.dy * size,
            turn: 0,
            advance: g.advance * size,
            line: row,
            missing: g.glyph === 0,
            standIn: run.font === 0 ? null : font.name,
            coarseness,
          },
        });
        pen += g.advance * size + (g.advance > 0 ? block.tracking : 0) + (rightToLeft ? by : 0);
      });
    }
    rows.push(glyphs);
    widths.push(glyphs.length > 0 ? pen - block.tracking : 0);
    firstCharacter += [...line].length + 1;
  });
  const widest = Math.max(0, ...widths);
  rows.forEach((glyphs, row) => align(glyphs, widest - widths[row], block.alignment));
  const inked = rows.flat().filter((g) => g.inked);
  const letters = inked.map((g) => g.letter);
  const { baseline } = block;
  if (baseline.kind !== 'straight') {
    const stand = standOn(baseline, widest, block.capHeight / own.capHeight);
    for (const l of letters) {
      // a letter turns about the middle of its foot
      const foot = stand(l.x + l.advance / 2, l.y);
      const [c, s] = [cos(foot.turn), sin(foot.turn)];
      l.x = foot.x - (c * l.advance) / 2;
      l.y = foot.y - (s * l.advance) / 2;
      l.turn = foot.turn;
    }
  }
  // drawn baselines keep their place, so that the curve stays where it was drawn
  const ink = inkOf(letters, outlines);
  const bounds = ink && baseline.kind !== 'free' ? centred(letters, ink) : ink;
  for (const { letter, drawn } of beyond ? inked : []) {
    if (beyond!.sees(letter.x, letter.y)) continue;
    const { key, outline } = drawn(beyond!.coarseness);
    if (outline === null || outline.length === 0) continue;
    outlines.set(key, outline);
    Object.assign(letter, { glyph: key, coarseness: beyond!.coarseness });
  }
  return { letters, outlines, tangled: [...tangled], bounds };
}

/** Moves a line's glyphs by what it lacks to the widest. */
function align(glyphs: SetGlyph[], lacking: number, alignment: Block['alignment']): void {
  if (alignment !== 'justified') {
    const by = lacking * { left: 0, centre: 0.5, right: 1 }[alignment];
    for (const g of glyphs) g.letter.x += by;
    return;
  }
  // room goes to the spaces, or between the letters of a line without any
  const inner = glyphs.slice(0, -1);
  const spaces = inner.filter((g) => g.space).length;
  const gaps = spaces || inner.filter((g) => g.letter.advance > 0).length;
  let by = 0;
  for (const g of glyphs) {
    g.letter.x += by;
    if (gaps > 0 && (spaces > 0 ? g.space : g.letter.advance > 0)) by += lacking / gaps;
  }
}

/** A placed letter's outline in the block. */
export function placedOutline(letter: Pick<PlacedLetter, 'x' | 'y' | 'turn'>, outline: Contour[]): Contour[] {
  const [c, s] = [cos(letter.turn), sin(letter.turn)];
  return outline.map((contour) => {
    const out = new Float64Array(contour.length);
    for (let i = 0; i < contour.length; i += 2) {
      out[i] = letter.x + c * contour[i] - s * contour[i + 1];
      out[i + 1] = letter.y + s * contour[i] + c * contour[i + 1];
    }
    return out;
  });
}

function inkOf(letters: PlacedLetter[], outlines: Map<string, Contour[]>): TextLayout['bounds'] {
  if (letters.length === 0) return null;
  let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const l of letters) {
    const outline = outlines.get(l.glyph)!;
    const box =
      l.turn === 0
        ? boundsOf(outline).map((v, i) => v + (i % 2 ? l.y : l.x))
        : boundsOf(placedOutline(l, outline));
    x0 = Math.min(x0, box[0]);
    y0 = Math.min(y0, box[1]);
    x1 = Math.max(x1, box[2]);
    y1 = Math.max(y1, box[3]);
  }
  return [x0, y0, x1, y1];
}

/** Moves the letters so that their common ink is centred; returns the centred bounds. */
function centred(
  letters: PlacedLetter[],
  [x0, y0, x1, y1]: [number, number, number, number],
): TextLayout['bounds'] {
  const [cx, cy] = [(x0 + x1) / 2, (y0 + y1) / 2];
  for (const l of letters) {
    l.x -= cx;
    l.y -= cy;
  }
  return [x0 - cx, y0 - cy, x1 - cx, y1 - cy];
}
