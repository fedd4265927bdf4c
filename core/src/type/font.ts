/** An opened font: shaping and outlines by HarfBuzz. */
import { Blob, Buffer, Direction, Face, Feature as Switch, Font, shape, Variation } from 'harfbuzzjs';
import type { AxisPlace, Feature } from '../document/index.ts';
import { flattened, type Contour, type PathCommand } from '../plane/flatten.ts';
import { factsOf, type FontFacts } from './fontFacts.ts';
import { FontError, unwrapFont } from './unwrap.ts';

/** Outlines are handled in thousandths of an em, whatever the font's own units. */
export const EM = 1000;

export interface ShapedGlyph {
  glyph: number;
  /** Index into the text (UTF-16) of the first character it stands for. */
  cluster: number;
  /** Advance and offset in thousandths of an em. */
  advance: number;
  dx: number;
  dy: number;
}

/** Flatness of outlines: largest distance of a chord from its curve, thousandths of an em. */
const FLATNESS = 0.12;

/** A stretch of a line to shape, in one direction and with one font. */
export interface Run {
  /** UTF-16 range of the line. */
  start: number;
  end: number;
  rightToLeft: boolean;
}

/** Settings of a variable font that are kept open. */
const MOST_VARIED = 24;

/** A font at one place on its axes. */
export class OpenFont {
  readonly name: string;
  readonly facts: FontFacts;
  /** Height of a capital H, and the font's line distance, in thousandths of an em. */
  readonly capHeight: number;
  readonly lineHeight: number;
  private readonly font: Font;
  private readonly face: Face;
  private readonly scale: number;
  private readonly characters: Set<number>;
  private readonly outlines = new Map<string, Contour[]>();
  private readonly others = new Map<string, OpenFont>();

  private constructor(face: Face, facts: FontFacts, characters: Set<number>, axes: readonly AxisPlace[]) {
    this.face = face;
    this.facts = facts;
    this.characters = characters;
    this.font = new Font(face);
    if (axes.length > 0) this.font.setVariations(axes.map((a) => new Variation(a.tag, a.value)));
    this.scale = EM / face.upem;
    this.name = facts.name;
    const extents = this.font.hExtents();
    this.lineHeight = (extents.ascender - extents.descender + extents.lineGap) * this.scale || EM * 1.2;
    const first = [...characters].find((u) => u > 0x20);
    this.capHeight =
      this.heightOf('H') ??
      (first === undefined ? null : this.heightOf(String.fromCodePoint(first))) ??
      EM * 0.7;
  }

  /**
   * Opens TTF, OTF, WOFF or WOFF2 bytes.
   * @param licence it is known to have, for where it names none itself
   * @throws FontError
   */
  static async open(bytes: Uint8Array, licence = ''): Promise<OpenFont> {
    const sfnt = await unwrapFont(bytes);
    try {
      const face = new Face(new Blob(sfnt));
      const characters = new Set(face.collectUnicodes());
      if (!(face.upem > 0) || characters.size === 0) throw new FontError('the font has no characters');
      return new OpenFont(face, factsOf(face, licence), characters, []);
    } catch (error) {
      if (error instanceof FontError) throw error;
      throw new FontError('the font cannot be read');
    }
  }

  /** The same font at another place on its axes; axes it does not have are passed over. */
  varied(axes: readonly AxisPlace[]): OpenFont {
    const known = axes.filter((a) => this.facts.axes.some((own) => own.tag === a.tag));
    if (known.length === 0) return this;
    const key = JSON.stringify(known.map((a) => [a.tag, a.value]));
    let other = this.others.get(key);
    if (!other) {
      other = new OpenFont(this.face, this.facts, this.characters, known);
      this.others.set(key, other);
      if (this.others.size > MOST_VARIED) this.others.delete(this.others.keys().next().value!);
    }
    return other;
  }

  /** Whether the font has a character of its own for a code point. */
  has(codePoint: number): boolean {
    return this.characters.has(codePoint);
  }

  private heightOf(text: string): number | null {
    const [first] = this.shape(text);
    if (!first || first.glyph === 0) return null;
    let top = 0;
    for (const contour of this.outline(first.glyph)) {
      for (let i = 1; i < contour.length; i += 2) top = Math.max(top, contour[i]);
    }
    return top > 0 ? top : null;
  }

  /** Shapes a run of a line: kerning, ligatures and marks applied, in visual order. Clusters count from the line's start. */
  shape(
    line: string,
    run: Run = { start: 0, end: line.length, rightToLeft: false },
    features: readonly Feature[] = [],
  ): ShapedGlyph[] {
    if (run.end <= run.start) return [];
    const buffer = new Buffer();
    buffer.addText(line, run.start, run.end - run.start);
    buffer.setDirection(run.rightToLeft ? Direction.RTL : Direction.LTR);
    buffer.guessSegmentProperties();
    shape(
      this.font,
      buffer,
      features.map((f) => new Switch(f.tag, f.on ? 1 : 0)),
    );
    return buffer.getGlyphInfosAndPositions().map((g) => ({
      glyph: g.codepoint,
      cluster: g.cluster,
      advance: (g.xAdvance ?? 0) * this.scale,
      dx: (g.xOffset ?? 0) * this.scale,
      dy: (g.yOffset ?? 0) * this.scale,
    }));
  }

  /**
   * The glyph's contours, curves flattened, as drawn (windings not normalised).
   * @param coarseness how many times coarser than for a picture that fills the screen
   */
  outline(glyph: number, coarseness = 1): Contour[] {
    const key = `${glyph}/${coarseness}`;
    let contours = this.outlines.get(key);
    if (!contours) {
      contours = flattened(this.font.glyphToJson(glyph) as PathCommand[], this.scale, FLATNESS * coarseness);
      this.outlines.set(key, contours);
    }
    return contours;
  }
}
