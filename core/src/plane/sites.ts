/**
 * The sites of a region's Voronoi diagram: each edge of the outline, and each sharp reflex corner. Reflex
 * vertices that turn little belong to smooth curves; there the two edges meet along the bisector, which errs
 * from the true distance by 1 / cos of half the turn, 0.4 % at most.
 */
import { atan2 } from '../maths/reproducible.ts';
import type { Contour } from '../plane/flatten.ts';

/** Reflex turns from here on (radians) are corners with a cell of their own. */
const CORNER_TURN = (10 * Math.PI) / 180;
/** Vertices nearer than this to the line of their neighbours are dropped, thousandths of an em. */
const STRAIGHT = 0.002;
const LEAST_EDGE = 0.01;

/** Outline vertices, numbered through the contours; edge i runs from vertex i to `next[i]`, inside on its left. */
export interface Sites {
  count: number;
  x: Float64Array;
  y: Float64Array;
  next: Int32Array;
  previous: Int32Array;
  /** Unit direction of each edge, and its length. Its inward normal is (−dy, dx). */
  dx: Float64Array;
  dy: Float64Array;
  length: Float64Array;
  /** Turn at each vertex, radians; negative where the outline is reflex. */
  turn: Float64Array;
  /** Whether a vertex has a cell of its own: site number `count` + vertex. */
  corner: Uint8Array;
  /**
   * Directions across which each edge's territory starts and ends: along the edge, or across the bisector where
   * it meets the next one in a mitre.
   */
  startX: Float64Array;
  startY: Float64Array;
  endX: Float64Array;
  endY: Float64Array;
  /** The cleaned contours. */
  contours: Contour[];
}

/** Whether two edges meet along the bisector of a flat reflex vertex. */
export const isMitred = (s: Sites, i: number) => s.turn[i] < 0 && s.corner[i] === 0;

/** Drops vertices that say nothing: repeated ones and those on the line of their neighbours. */
function cleaned(contour: Contour): Contour {
  let points = Array.from({ length: contour.length / 2 }, (_, i) => [contour[i * 2], contour[i * 2 + 1]]);
  for (let changed = true; changed && points.length >= 3;) {
    changed = false;
    const kept: number[][] = [];
    for (let i = 0; i < points.length; i++) {
      const a = kept.at(-1) ?? points[points.length - 1];
      const p = points[i];
      const b = points[(i + 1) % points.length];
      const [ux, uy, vx, vy] = [p[0] - a[0], p[1] - a[1], b[0] - a[0], b[1] - a[1]];
      const base = Math.hypot(vx, vy);
      const off = base > 0 ? Math.abs(ux * vy - uy * vx) / base : 0;
      const along = base > 0 ? (ux * vx + uy * vy) / base : 0;
      const drop =
        Math.hypot(ux, uy) < LEAST_EDGE || (base > 0 && off < STRAIGHT && along > 0 && along < base);
      if (drop) changed = true;
      else kept.push(p);
    }
    points = kept;
  }
  return points.length < 3 ? new Float64Array(0) : Float64Array.from(points.flat());
}

/** @param region merged contours, outers counter-clockwise, holes clockwise */
export function sitesOf(region: Contour[]): Sites {
  const contours = region.map(cleaned).filter((c) => c.length > 0);
  const count = contours.reduce((sum, c) => sum + c.length / 2, 0);
  const floats = () => new Float64Array(count);
  const sites: Sites = {
    count,
    x: floats(),
    y: floats(),
    next: new Int32Array(count),
    previous: new Int32Array(count),
    dx: floats(),
    dy: floats(),
    length: floats(),
    turn: floats(),
    corner: new Uint8Array(count),
    startX: floats(),
    startY: floats(),
    endX: floats(),
    endY: floats(),
    contours,
  };
  let start = 0;
  for (const contour of contours) {
    const n = contour.length / 2;
    for (let i = 0; i < n; i++) {
      sites.x[start + i] = contour[i * 2];
      sites.y[start + i] = contour[i * 2 + 1];
      sites.next[start + i] = start + ((i + 1) % n);
      sites.previous[start + i] = start + ((i + n - 1) % n);
    }
    start += n;
  }
  const { x, y, next, previous, dx, dy, length, turn, corner } = sites;
  for (let i = 0; i < count; i++) {
    const [ex, ey] = [x[next[i]] - x[i], y[next[i]] - y[i]];
    length[i] = Math.hypot(ex, ey);
    dx[i] = ex / length[i];
    dy[i] = ey / length[i];
  }
  for (let i = 0; i < count; i++) {
    const p = previous[i];
    turn[i] = atan2(dx[p] * dy[i] - dy[p] * dx[i], dx[p] * dx[i] + dy[p] * dy[i]);
    corner[i] = turn[i] < -CORNER_TURN ? 1 : 0;
  }
  for (let i = 0; i < count; i++) {
    const p = previous[i];
    const mitred = isMitred(sites, i);
    const [mx, my] = [dx[p] + dx[i], dy[p] + dy[i]];
    const l = Math.hypot(mx, my);
    sites.startX[i] = mitred ? mx / l : dx[i];
    sites.startY[i] = mitred ? my / l : dy[i];
    sites.endX[p] = mitred ? mx / l : dx[p];
    sites.endY[p] = mitred ? my / l : dy[p];
  }
  return sites;
}
