/** An opened font: shaping and outlines by HarfBuzz. */
import { Blob, Buffer, Face, Font, shape } from 'harfbuzzjs';
import { FontError, unwrapFont } from './unwrap.ts';

/** Outlines are handled in thousandths of an em, whatever the font's own units. */
export const EM = 1000;

/** A closed contour as x, y pairs. */
export type Contour = Float64Array;

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

export class OpenFont {
  readonly name: string;
  /** Height of a capital H, and the font's line distance, in thousandths of an em. */
  readonly capHeight: number;
  readonly lineHeight: number;
  private readonly font: Font;
  private readonly face: Face;
  private readonly scale: number;
  private readonly outlines = new Map<number, Contour[]>();

  private constructor(sfnt: Uint8Array) {
    const face = new Face(new Blob(sfnt));
    this.face = face;
    if (!(face.upem > 0) || face.collectUnicodes().length === 0) {
      throw new FontError('the font has no characters');
    }
    this.font = new Font(face);
    this.scale = EM / face.upem;
    this.name = (face.getName(16, 'en') || face.getName(1, 'en') || 'Unnamed font').slice(0, 200);
    const extents = this.font.hExtents();
    this.lineHeight = (extents.ascender - extents.descender + extents.lineGap) * this.scale || EM * 1.2;
    this.capHeight = this.heightOf('H') ?? this.heightOf([...this.sampleText()][0] ?? '') ?? EM * 0.7;
  }

  /** Opens TTF, OTF, WOFF or WOFF2 bytes. @throws FontError */
  static async open(bytes: Uint8Array): Promise<OpenFont> {
    const sfnt = await unwrapFont(bytes);
    try {
      return new OpenFont(sfnt);
    } catch (error) {
      if (error instanceof FontError) throw error;
      throw new FontError('the font cannot be read');
    }
  }

  private sampleText(): string {
    return String.fromCodePoint(
      ...this.face
        .collectUnicodes()
        .filter((u) => u > 0x20)
        .slice(0, 1),
    );
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

  /** Shapes one line: kerning, ligatures and marks applied, in visual order. */
  shape(text: string): ShapedGlyph[] {
    if (text.length === 0) return [];
    const buffer = new Buffer();
    buffer.addText(text);
    buffer.guessSegmentProperties();
    shape(this.font, buffer);
    return buffer.getGlyphInfosAndPositions().map((g) => ({
      glyph: g.codepoint,
      cluster: g.cluster,
      advance: (g.xAdvance ?? 0) * this.scale,
      dx: (g.xOffset ?? 0) * this.scale,
      dy: (g.yOffset ?? 0) * this.scale,
    }));
  }

  /** The glyph's contours, curves flattened, as drawn (windings not normalised). */
  outline(glyph: number): Contour[] {
    let contours = this.outlines.get(glyph);
    if (!contours) {
      contours = flatten(this.font.glyphToJson(glyph), this.scale);
      this.outlines.set(glyph, contours);
    }
    return contours;
  }
}

/** Path commands to polylines; the number of chords follows from the second difference (Wang's formula). */
function flatten(path: { type: string; values: number[] }[], scale: number): Contour[] {
  const contours: Contour[] = [];
  let points: number[] = [];
  let x = 0;
  let y = 0;
  const add = (px: number, py: number) => {
    const n = points.length;
    if (n >= 2 && points[n - 2] === px && points[n - 1] === py) return;
    points.push(px, py);
  };
  const close = () => {
    const n = points.length;
    if (n >= 4 && points[0] === points[n - 2] && points[1] === points[n - 1]) points.length -= 2;
    if (points.length >= 6) contours.push(Float64Array.from(points));
    points = [];
  };
  for (const { type, values } of path) {
    const v = values.map((c) => c * scale);
    if (type === 'M') {
      close();
      add(v[0], v[1]);
    } else if (type === 'L') {
      add(v[0], v[1]);
    } else if (type === 'Q') {
      const bend = Math.hypot(x - 2 * v[0] + v[2], y - 2 * v[1] + v[3]);
      const n = Math.max(1, Math.ceil(Math.sqrt(bend / (4 * FLATNESS))));
      for (let i = 1; i <= n; i++) {
        const t = i / n;
        const s = 1 - t;
        add(s * s * x + 2 * s * t * v[0] + t * t * v[2], s * s * y + 2 * s * t * v[1] + t * t * v[3]);
      }
    } else if (type === 'C') {
      const bend = Math.max(
        Math.hypot(x - 2 * v[0] + v[2], y - 2 * v[1] + v[3]),
        Math.hypot(v[0] - 2 * v[2] + v[4], v[1] - 2 * v[3] + v[5]),
      );
      const n = Math.max(1, Math.ceil(Math.sqrt((3 * bend) / (4 * FLATNESS))));
      for (let i = 1; i <= n; i++) {
        const t = i / n;
        const s = 1 - t;
        const [a, b, c, d] = [s * s * s, 3 * s * s * t, 3 * s * t * t, t * t * t];
        add(a * x + b * v[0] + c * v[2] + d * v[4], a * y + b * v[1] + c * v[3] + d * v[5]);
      }
    } else {
      close();
    }
    if (v.length >= 2) [x, y] = v.slice(-2);
  }
  close();
  return contours;
}
