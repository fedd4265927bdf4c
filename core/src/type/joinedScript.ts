/** Whether a face is a joined script: its small letters run into each other as they are spaced by the font. */
import type { Contour } from '../plane/flatten.ts';
import type { OpenFont } from './font.ts';
import { areaOf, merged, shared } from '../plane/region.ts';

/** Pairs of small letters that joined hands connect, and how many of them must meet. */
const PAIRS = ['an', 'ni', 'in', 'mu', 'on', 'ei'];
const ENOUGH = 4;
/** Shared area from which two letters meet, square thousandths of an em. */
const LEAST_AREA = 20;

const known = new WeakMap<OpenFont, boolean>();

function meets(font: OpenFont, pair: string): boolean {
  const glyphs = font.shape(pair);
  if (glyphs.length !== 2 || glyphs.some((g) => g.glyph === 0)) return false;
  const [a, b] = glyphs.map((g) => merged(font.outline(g.glyph)));
  const moved = b.map((c): Contour => c.map((v, i) => (i % 2 ? v : v + glyphs[0].advance)));
  return areaOf(shared(a, moved)) > LEAST_AREA;
}

/** `loadRegions()` must have been awaited. */
export function isJoinedScript(font: OpenFont): boolean {
  let joined = known.get(font);
  if (joined === undefined) {
    joined = PAIRS.filter((pair) => meets(font, pair)).length >= ENOUGH;
    known.set(font, joined);
  }
  return joined;
}
