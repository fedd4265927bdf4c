/** Plane regions as contours, outer ones counter-clockwise and holes clockwise; set operations by Clipper2. */
import createClipper, { type EndType, type MainModule, type PathsD } from 'clipper2-wasm';
import type { Contour } from '../plane/flatten.ts';

let clipper: MainModule | null = null;

/** An outline that the polygon library cannot work with. */
export class RegionError extends Error {}

/** Loads the polygon library, anew after it has failed; everything here needs it. */
export async function loadRegions(): Promise<void> {
  clipper ??= await createClipper();
}

/** Decimal places kept, in thousandths of an em. */
const PRECISION = 5;
function library(): MainModule {
  if (!clipper) throw new Error('loadRegions() has not been awaited');
  return clipper;
}

/** Farthest coordinate that is handed over: with PRECISION places it stays well within the library's integers. */
const FARTHEST = 1e11;

/**
 * Works with the library. One that has thrown a foreign exception keeps what it held and fails from then on:
 * it is dropped, and loadRegions() makes another.
 * @throws RegionError
 */
function guarded<T>(work: (c: MainModule) => T): T {
  const c = library();
  try {
    return work(c);
  } catch (error) {
    if (error instanceof RegionError) throw error;
    clipper = null;
    throw new RegionError('an outline breaks the polygon library');
  }
}

function checkReach(contours: Contour[]): void {
  for (const contour of contours)
    for (let i = 0; i < contour.length; i++)
      if (!(Math.abs(contour[i]) <= FARTHEST))
        throw new RegionError('an outline reaches farther than can be worked with');
}

function toPaths(c: MainModule, contours: Contour[]): PathsD {
  checkReach(contours);
  const paths = new c.PathsD();
  for (const contour of contours) {
    const flat: number[] = [];
    for (let i = 0; i < contour.length; i += 2) flat.push(contour[i], contour[i + 1]);
    const path = c.MakePathD(flat);
    paths.push_back(path);
    path.delete();
  }
  return paths;
}

function fromPaths(paths: PathsD): Contour[] {
  const out: Contour[] = [];
  for (let i = 0; i < paths.size(); i++) {
    const path = paths.get(i);
    const n = path.size();
    const contour = new Float64Array(n * 2);
    const stride = path.view().length / n;
    const view = path.view();
    for (let k = 0; k < n; k++) {
      contour[k * 2] = view[k * stride];
      contour[k * 2 + 1] = view[k * stride + 1];
    }
    path.delete();
    if (n >= 3) out.push(contour);
  }
  paths.delete();
  return out;
}

/** Merges overlapping contours; outers come out counter-clockwise, holes clockwise. */
export function merged(contours: Contour[], rule: 'nonzero' | 'evenodd' = 'nonzero'): Contour[] {
  return guarded((c) => {
    const paths = toPaths(c, contours);
    const fill = rule === 'evenodd' ? c.FillRule.EvenOdd : c.FillRule.NonZero;
    const union = c.UnionSelfD(paths, fill, PRECISION);
    paths.delete();
    return fromPaths(union);
  });
}

/** How far a grown corner may reach, in distances grown, before it is cut off. */
const MITRE = 2;
/** Largest distance of a chord from a round corner. */
const ROUND = 0.02;

/** The region widened by a distance, or narrowed by a negative one; corners kept sharp within reason, or round. */
export function grown(region: Contour[], distance: number, corners: 'sharp' | 'round' = 'sharp'): Contour[] {
  return guarded((c) => {
    const paths = toPaths(c, region);
    const join = corners === 'round' ? c.JoinType.Round : c.JoinType.Miter;
    const wide = c.InflatePathsD(paths, distance, join, c.EndType.Polygon, MITRE, PRECISION, ROUND);
    paths.delete();
    return fromPaths(wide);
  });
}

/** Bounds of what a file may ask of a pen: mitres in widths, and chords of round caps as a share of the width. */
const MOST_MITRE = 100;
const FINEST_CAP = 1e-5;

export type LineCap = 'butt' | 'round' | 'square';
export type LineJoin = 'miter' | 'round' | 'bevel';

/**
 * The region that a pen covers along lines.
 * @param flatness largest distance of a chord from a round cap or join
 */
export function outlined(
  open: Contour[],
  closed: Contour[],
  width: number,
  cap: LineCap,
  join: LineJoin,
  mitre: number,
  flatness: number,
): Contour[] {
  if (!(Math.abs(width) <= FARTHEST)) throw new RegionError('a line is wider than can be worked with');
  return guarded((c) => {
    const joinType = { miter: c.JoinType.Miter, round: c.JoinType.Round, bevel: c.JoinType.Square }[join];
    const endType = { butt: c.EndType.Butt, round: c.EndType.Round, square: c.EndType.Square }[cap];
    const widen = (lines: Contour[], end: EndType) => {
      if (lines.length === 0) return [];
      const paths = toPaths(c, lines);
      const limit = Math.min(MOST_MITRE, mitre);
      const chord = Math.max(flatness, width * FINEST_CAP);
      const wide = c.InflatePathsD(paths, width / 2, joinType, end, limit, PRECISION, chord);
      paths.delete();
      return fromPaths(wide);
    };
    return merged([...widen(open, endType), ...widen(closed, c.EndType.Joined)]);
  });
}

/** Union of two regions. */
export function joined(a: Contour[], b: Contour[]): Contour[] {
  return merged([...a, ...b]);
}

/** The part that regions share. */
export function shared(a: Contour[], b: Contour[]): Contour[] {
  return combined(a, b, 'IntersectD');
}

/** The first region without what the second covers. */
export function without(a: Contour[], b: Contour[]): Contour[] {
  return combined(a, b, 'DifferenceD');
}

function combined(a: Contour[], b: Contour[], how: 'IntersectD' | 'DifferenceD'): Contour[] {
  return guarded((c) => {
    const [p, q] = [toPaths(c, a), toPaths(c, b)];
    const out = c[how](p, q, c.FillRule.NonZero, PRECISION);
    p.delete();
    q.delete();
    return fromPaths(out);
  });
}

/** Signed area of a contour: positive when counter-clockwise. */
export function signedArea(contour: Contour): number {
  let twice = 0;
  const n = contour.length;
  for (let i = 0, j = n - 2; i < n; j = i, i += 2) {
    twice += contour[j] * contour[i + 1] - contour[i] * contour[j + 1];
  }
  return twice / 2;
}

/** Area of a region (holes subtract). */
export const areaOf = (region: Contour[]) => region.reduce((sum, c) => sum + signedArea(c), 0);

/** [min x, min y, max x, max y]. */
export type Box = [number, number, number, number];

/** Whether boxes share area. */
export const boxesMeet = (a: Box, b: Box) => a[0] < b[2] && b[0] < a[2] && a[1] < b[3] && b[1] < a[3];

/** The box of a region. */
export function boundsOf(region: Contour[]): Box {
  const box: Box = [Infinity, Infinity, -Infinity, -Infinity];
  for (const contour of region) {
    for (let i = 0; i < contour.length; i += 2) {
      box[0] = Math.min(box[0], contour[i]);
      box[1] = Math.min(box[1], contour[i + 1]);
      box[2] = Math.max(box[2], contour[i]);
      box[3] = Math.max(box[3], contour[i + 1]);
    }
  }
  return box;
}
