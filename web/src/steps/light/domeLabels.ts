/** Places for the names of lights on the dome map, so that none lies over another or over a mark. */

interface Mark {
  x: number;
  y: number;
  name: string;
}

interface Box {
  x0: number;
  y0: number;
  x1: number;
  y1: number;
}

/** Where a name begins or ends, y at its baseline. */
interface Label {
  x: number;
  y: number;
  anchor: 'start' | 'end' | 'middle';
}

/** Size of the type, its width a letter about, and room about a mark, in the map's unit. */
export const LABEL_SIZE = 9;
const LETTER = 4.9;
const MARK = 9;

const meet = (a: Box, b: Box) => a.x0 < b.x1 && b.x0 < a.x1 && a.y0 < b.y1 && b.y0 < a.y1;

function boxOf({ x, y, anchor }: Label, name: string): Box {
  const width = name.length * LETTER;
  const x0 = anchor === 'start' ? x : anchor === 'end' ? x - width : x - width / 2;
  return { x0, y0: y - LABEL_SIZE * 0.85, x1: x0 + width, y1: y + LABEL_SIZE * 0.25 };
}

/** Places about a mark in the order they are tried: beside it, over and under it, then farther up and down. */
function* placesOf({ x, y }: Mark): Generator<Label> {
  for (const shift of [0, 1, -1, 2, -2, 3, -3, 4, -4, 5, -5]) {
    const down = shift * (LABEL_SIZE + 2);
    yield { x: x + 11, y: y + 3 + down, anchor: 'start' };
    yield { x: x - 11, y: y + 3 + down, anchor: 'end' };
    if (shift === 0) continue;
    yield { x, y: y + 3 + down + Math.sign(shift) * 3, anchor: 'middle' };
  }
}

/**
 * A label for each mark, in their order.
 * @param size of the square map: labels stay within it
 */
export function labelsOf(marks: readonly Mark[], size: number): Label[] {
  const taken: Box[] = marks.map(({ x, y }) => ({ x0: x - MARK, y0: y - MARK, x1: x + MARK, y1: y + MARK }));
  return marks.map((mark, i) => {
    let found: Label | null = null;
    for (const place of placesOf(mark)) {
      const box = boxOf(place, mark.name);
      const inside = box.x0 >= 0 && box.x1 <= size && box.y0 >= 0 && box.y1 <= size;
      // a name may touch its own mark's corner, and no other
      if (inside && taken.every((t, k) => k === i || !meet(box, t))) {
        found = place;
        break;
      }
    }
    const label = found ?? { x: mark.x + 11, y: mark.y + 3, anchor: 'start' as const };
    taken.push(boxOf(label, mark.name));
    return label;
  });
}

/** A name in the room that the map has for it. */
export const shortName = (name: string) => (name.length > 18 ? `${name.slice(0, 17)}…` : name);
