/** A block's letters as solids in metres, cached per glyph and bevel. */
import type { Block } from '../document/index.ts';
import type { Contour, OpenFont } from './font.ts';
import type { BevelLimits } from './limits.ts';
import type { TextLayout } from './layout.ts';
import { buildSolid, type Solid, type SolidShape } from './solid.ts';

export interface LetterSolid {
  letter: string;
  text: string;
  missing: boolean;
  /** The solid about the glyph's own origin, thousandths of an em. */
  solid: Solid;
  /** Outline for column heads and letter pictures, about the glyph's origin, thousandths of an em. */
  outline: Contour[];
  x: number;
  y: number;
  advance: number;
}

export interface BlockSolids {
  block: string;
  letters: LetterSolid[];
  /** Metres per thousandth of an em. */
  scale: number;
  /** Where the solids' z = 0 (their back) lies from the block's zero plane, metres. */
  backAt: number;
  /** Ink bounds about the block's centre, metres; null when there is no ink. */
  bounds: [number, number, number, number] | null;
  /** Bevel limits over all letters, metres; null when there is no ink to bevel. */
  limits: BevelLimits | null;
  /** How many solids had to be built rather than taken from the cache. */
  built: number;
}

/** Solids kept for reuse; the oldest go first. */
const MOST_CACHED = 2000;

export class SolidCache {
  private readonly solids = new Map<string, Solid>();

  get(key: string, build: () => Solid): { solid: Solid; fresh: boolean } {
    const known = this.solids.get(key);
    if (known) {
      this.solids.delete(key);
      this.solids.set(key, known);
      return { solid: known, fresh: false };
    }
    const solid = build();
    this.solids.set(key, solid);
    if (this.solids.size > MOST_CACHED) this.solids.delete(this.solids.keys().next().value!);
    return { solid, fresh: true };
  }
}

/** Where a solid's back lies from the zero plane it grows from. */
export function backOf(block: Pick<Block, 'depth' | 'growth'>): number {
  return { forward: 0, both: -block.depth / 2, backward: -block.depth }[block.growth];
}

/** Solids of a block's laid-out text; builds what the cache does not hold. */
export function solidsOf(
  block: Block,
  font: OpenFont,
  layout: TextLayout,
  fontKey: string,
  cache: SolidCache,
): BlockSolids {
  const scale = block.capHeight / font.capHeight;
  const bevel = (b: Block['front']) => ({ ...b, width: b.width / scale, height: b.height / scale });
  const shape: SolidShape = {
    depth: block.depth / scale,
    front: bevel(block.front),
    back: bevel(block.back),
  };
  const shapeKey = JSON.stringify(shape);
  let built = 0;
  const letters = layout.letters.map((l) => {
    const outline = layout.outlines.get(l.glyph)!;
    const { solid, fresh } = cache.get(`${fontKey}/${l.glyph}/${shapeKey}`, () => buildSolid(outline, shape));
    if (fresh) built++;
    const { letter, text, missing, x, y, advance } = l;
    return { letter, text, missing, solid, outline, x, y, advance };
  });
  const bounds = layout.bounds?.map((v) => v * scale) as BlockSolids['bounds'];
  const each = letters.flatMap((l) => l.solid.limits ?? []);
  const limits =
    each.length > 0
      ? {
          flat: Math.min(...each.map((l) => l.flat)) * scale,
          ridge: Math.max(...each.map((l) => l.ridge)) * scale,
        }
      : null;
  return { block: block.id, letters, scale, backAt: backOf(block), bounds, limits, built };
}
