/** Letters that touch or overlap: found, parted by tracking, or welded into one. */
import { cos, sin } from '../maths/reproducible.ts';
import type { Contour } from '../plane/flatten.ts';
import { placedOutline, type PlacedLetter, type TextLayout } from './layout.ts';
import { areaOf, boundsOf, boxesMeet, grown, joined, shared } from '../plane/region.ts';

/** Shared area from which letters touch, square thousandths of an em, once each is widened by LEAST_GAP. */
const LEAST_AREA = 0.5;
/** Letters nearer than this touch: half of it on each side, thousandths of an em. */
const LEAST_GAP = 1;
/** Most tracking that is added to part letters, and how exactly it is found. */
const MOST_OPENED = 2000;
const OPENED_STEP = 1;

interface Placed {
  region: Contour[];
  box: [number, number, number, number];
}

function placedOf(layout: TextLayout, i: number): Placed {
  const l = layout.letters[i];
  const region = grown(placedOutline(l, layout.outlines.get(l.glyph)!), LEAST_GAP / 2);
  return { region, box: boundsOf(region) };
}

const meet = (a: Placed, b: Placed) =>
  boxesMeet(a.box, b.box) && areaOf(shared(a.region, b.region)) > LEAST_AREA;

/** Pairs of letters, by their places in the layout, that touch. */
export function touching(layout: TextLayout): [number, number][] {
  // boxes first: only letters whose boxes meet are looked at closely
  const rough = layout.letters.map((l) => {
    const outline = layout.outlines.get(l.glyph)!;
    const box = boundsOf(l.turn === 0 ? outline : placedOutline(l, outline));
    const [dx, dy] = l.turn === 0 ? [l.x, l.y] : [0, 0];
    return [box[0] + dx - 1, box[1] + dy - 1, box[2] + dx + 1, box[3] + dy + 1] as Placed['box'];
  });
  const order = rough.map((_, i) => i).sort((a, b) => rough[a][0] - rough[b][0]);
  const known = new Map<number, Placed>();
  const placed = (i: number) => {
    let p = known.get(i);
    if (!p) known.set(i, (p = placedOf(layout, i)));
    return p;
  };
  const pairs: [number, number][] = [];
  order.forEach((a, k) => {
    for (let m = k + 1; m < order.length && rough[order[m]][0] < rough[a][2]; m++) {
      const b = order[m];
      if (boxesMeet(rough[a], rough[b]) && meet(placed(a), placed(b))) pairs.push(a < b ? [a, b] : [b, a]);
    }
  });
  return pairs.sort((p, q) => p[0] - q[0] || p[1] - q[1]);
}

/**
 * Least tracking to add, thousandths of an em, so that letters next to each other in a line part.
 * @param lay lays the text out with so much added
 * @returns null when no tracking parts them
 */
export function partingTracking(lay: (added: number) => TextLayout): number | null {
  const touches = (added: number) => {
    const layout = lay(added);
    const all = layout.letters.map((_, i) => placedOf(layout, i));
    return layout.letters.some((l, i) => layout.letters[i + 1]?.line === l.line && meet(all[i], all[i + 1]));
  };
  if (!touches(0)) return 0;
  let low = 0;
  let high = 16;
  while (touches(high)) {
    low = high;
    high *= 2;
    if (high > MOST_OPENED) return null;
  }
  while (high - low > OPENED_STEP) {
    const middle = Math.ceil((low + high) / 2);
    if (touches(middle)) low = middle;
    else high = middle;
  }
  return high;
}

/** Joined outlines kept, so that their solids are found again. */
const weldedOutlines = new Map<string, Contour[]>();
const MOST_WELDED = 200;

/** The layout with touching letters joined: each group stands as one letter under the first one's name. */
export function welded(layout: TextLayout): TextLayout {
  const groupOf = layout.letters.map((_, i) => i);
  const root = (i: number): number => (groupOf[i] === i ? i : (groupOf[i] = root(groupOf[i])));
  for (const [a, b] of touching(layout)) {
    const [p, q] = [root(a), root(b)];
    groupOf[Math.max(p, q)] = Math.min(p, q);
  }
  const groups = new Map<number, PlacedLetter[]>();
  layout.letters.forEach((l, i) => groups.set(root(i), [...(groups.get(root(i)) ?? []), l]));
  const outlines = new Map(layout.outlines);
  const letters = [...groups.values()].map((members): PlacedLetter => {
    const [first] = members;
    if (members.length === 1) return first;
    // about the first letter's origin
    const back = (contours: Contour[]) => {
      const [c, s] = [cos(first.turn), sin(first.turn)];
      return contours.map((contour) => {
        const out = new Float64Array(contour.length);
        for (let i = 0; i < contour.length; i += 2) {
          const [x, y] = [contour[i] - first.x, contour[i + 1] - first.y];
          out[i] = c * x + s * y;
          out[i + 1] = c * y - s * x;
        }
        return out;
      });
    };
    const glyph = members.map((m) => [m.glyph, m.x - first.x, m.y - first.y, m.turn].join(' ')).join(' + ');
    let outline = weldedOutlines.get(glyph);
    if (!outline) {
      outline = members
        .map((m): Contour[] => back(placedOutline(m, layout.outlines.get(m.glyph)!)))
        .reduce((all, one) => joined(all, one));
      weldedOutlines.set(glyph, outline);
      if (weldedOutlines.size > MOST_WELDED) weldedOutlines.delete(weldedOutlines.keys().next().value!);
    }
    outlines.set(glyph, outline);
    const end = Math.max(...members.map((m) => m.x + m.advance));
    const coarseness = Math.min(...members.map((m) => m.coarseness));
    return { ...first, glyph, coarseness, text: members.map((m) => m.text).join(''), advance: end - first.x };
  });
  return { ...layout, letters, outlines };
}
