/** Large placements with fewer triangles, for drivers that draw without a graphics card. */

/** Corners, three numbers each. */
interface Corners {
  position: Float32Array;
  normal: Float32Array;
}

/** Leaves about so many triangles of an index over corners, in their places as near as that allows. */
export type Thin = (
  index: Uint32Array<ArrayBuffer>,
  positions: Float32Array,
  triangles: number,
) => Uint32Array;

/** Of each corner, the first that lies where it does and faces where it does: edges that are hard stay so. */
function welded({ position, normal }: Corners): Uint32Array {
  const count = position.length / 3;
  const [places, ways] = [position, normal].map((of) => new Uint32Array(of.buffer, of.byteOffset, of.length));
  const room = 1 << Math.ceil(Math.log2(2 * count + 1));
  /** Numbers of corners, from one; nothing is zero. */
  const table = new Uint32Array(room);
  const first = new Uint32Array(count);
  const isSame = (a: number, b: number) => {
    for (let k = 0; k < 3; k++)
      if (places[a * 3 + k] !== places[b * 3 + k] || ways[a * 3 + k] !== ways[b * 3 + k]) return false;
    return true;
  };
  for (let c = 0; c < count; c++) {
    // Fowler, Noll & Vo's hash, a word at a time
    let hash = 0x811c9dc5;
    for (let k = c * 3; k < c * 3 + 3; k++) {
      hash = Math.imul(hash ^ places[k], 0x01000193);
      hash = Math.imul(hash ^ ways[k], 0x01000193);
    }
    let at = (hash ^ (hash >>> 15)) & (room - 1);
    while (table[at] > 0 && !isSame(table[at] - 1, c)) at = (at + 1) & (room - 1);
    if (table[at] === 0) table[at] = c + 1;
    first[c] = table[at] - 1;
  }
  return first;
}

interface Indexed {
  index: Uint32Array<ArrayBuffer>;
  groups: { start: number; count: number; finish: number }[];
}

/** What is left of an index, over the corners that it still needs. */
export interface Thinned extends Indexed {
  /** Numbers of those corners, as they were. */
  kept: Uint32Array;
}

/**
 * Thins all groups alike.
 * @param most triangles of all together
 */
export function thinned({ index, groups }: Indexed, corners: Corners, most: number, thin: Thin): Thinned {
  const first = welded(corners);
  const share = (most * 3) / index.length;
  const left = groups.map(({ start, count }) =>
    thin(
      index.slice(start, start + count).map((c) => first[c]),
      corners.position,
      Math.ceil((count / 3) * share),
    ),
  );
  const numbers = new Uint32Array(first.length);
  const kept: number[] = [];
  const out = new Uint32Array(left.reduce((sum, l) => sum + l.length, 0));
  let at = 0;
  for (const rest of left)
    for (const c of rest) {
      if (numbers[c] === 0) numbers[c] = kept.push(c);
      out[at++] = numbers[c] - 1;
    }
  let start = 0;
  const stretches = groups.map(({ finish }, g) => {
    const { length } = left[g];
    start += length;
    return { start: start - length, count: length, finish };
  });
  return { index: out, groups: stretches.filter((g) => g.count > 0), kept: Uint32Array.from(kept) };
}

/** Numbers of the corners that are kept; null keeps all. @param size numbers of a corner */
export function ofKept(
  numbers: Float32Array<ArrayBuffer>,
  size: number,
  kept: Uint32Array | null,
): Float32Array<ArrayBuffer> {
  if (!kept) return numbers;
  const out = new Float32Array(kept.length * size);
  for (let k = 0; k < kept.length; k++)
    for (let c = 0; c < size; c++) out[k * size + c] = numbers[kept[k] * size + c];
  return out;
}
