/** Constrained Delaunay triangulation of plane regions, every given vertex kept. */
import Constrainautor from '@kninnug/constrainautor';
import Delaunator from 'delaunator';
import type { Contour } from '../plane/flatten.ts';
import { boundsOf } from './region.ts';

/** Contours that cannot be triangulated: rounding has left edges that cross. */
export class CrossingError extends Error {}

/**
 * Triangulates the points between contours: inside an odd number of them (even-odd rule).
 * @param contours closed, mutually disjoint, none crossing itself
 * @param inner further vertices as x, y pairs, none on a contour
 * @returns corner numbers, three a counter-clockwise triangle, counting points through the contours in order,
 * then the inner ones
 */
export function triangulate(contours: Contour[], inner: ArrayLike<number> = []): Uint32Array {
  const onContours = contours.reduce((sum, c) => sum + c.length / 2, 0);
  const count = onContours + inner.length / 2;
  // four far corners keep every constraint off the hull
  const coords = new Float64Array((count + 4) * 2);
  // points that several contours share (touching corners) become one vertex of the triangulation
  const first = new Map<string, number>();
  const vertexOf = new Uint32Array(count);
  const pointOf: number[] = [];
  let at = 0;
  let used = 0;
  const edges: [number, number][] = [];
  for (const contour of contours) {
    const start = at;
    for (let i = 0; i < contour.length; i += 2, at++) {
      const key = `${contour[i]},${contour[i + 1]}`;
      let vertex = first.get(key);
      if (vertex === undefined) {
        vertex = used++;
        first.set(key, vertex);
        pointOf.push(at);
        coords[vertex * 2] = contour[i];
        coords[vertex * 2 + 1] = contour[i + 1];
      }
      vertexOf[at] = vertex;
    }
    for (let i = start; i < at; i++) {
      edges.push([vertexOf[i], vertexOf[i + 1 === at ? start : i + 1]]);
    }
  }
  if (used < 3) return new Uint32Array(0);
  for (let i = 0; i < inner.length; i += 2, at++) {
    coords[used * 2] = inner[i];
    coords[used * 2 + 1] = inner[i + 1];
    pointOf.push(at);
    used++;
  }
  const [x0, y0, x1, y1] = boundsOf(contours);
  const margin = x1 - x0 + (y1 - y0) + 1;
  const far = [
    x0 - margin,
    y0 - margin,
    x1 + margin,
    y0 - margin * 1.1,
    x1 + margin,
    y1 + margin,
    x0 - margin,
    y1 + margin * 1.1,
  ];
  coords.set(far, used * 2);
  const delaunay = new Delaunator(coords.subarray(0, used * 2 + 8));
  const constrained = new Constrainautor(delaunay);
  const crossings = new Map<number, number>();
  const base = used + 4;
  const edgeKey = (a: number, b: number) => (a < b ? a * base + b : b * base + a);
  for (const [a, b] of edges) {
    if (a === b) continue;
    try {
      constrained.constrainOne(a, b);
    } catch {
      throw new CrossingError('edges of the outline cross');
    }
    crossings.set(edgeKey(a, b), (crossings.get(edgeKey(a, b)) ?? 0) + 1);
  }
  constrained.delaunify(true);
  const inside = floodParity(delaunay, (a, b) => (crossings.get(edgeKey(a, b)) ?? 0) % 2 === 1);
  const out: number[] = [];
  const { triangles } = delaunay;
  for (let t = 0; t < triangles.length; t += 3) {
    if (!inside[t / 3]) continue;
    // Delaunator winds clockwise in a y-up plane
    out.push(pointOf[triangles[t]], pointOf[triangles[t + 2]], pointOf[triangles[t + 1]]);
  }
  return Uint32Array.from(out);
}

/** Walks in from the hull; crossing a wall flips inside and outside. */
function floodParity(
  { triangles, halfedges }: { triangles: Uint32Array; halfedges: Int32Array },
  wall: (a: number, b: number) => boolean,
): Uint8Array {
  const count = triangles.length / 3;
  const known = new Uint8Array(count);
  const inside = new Uint8Array(count);
  const next = (e: number) => (e % 3 === 2 ? e - 2 : e + 1);
  const isWall = (e: number) => wall(triangles[e], triangles[next(e)]);
  const queue: number[] = [];
  for (let e = 0; e < halfedges.length; e++) {
    const t = Math.floor(e / 3);
    if (halfedges[e] === -1 && !known[t]) {
      known[t] = 1;
      inside[t] = isWall(e) ? 1 : 0;
      queue.push(t);
    }
  }
  while (queue.length > 0) {
    const t = queue.pop()!;
    for (let e = t * 3; e < t * 3 + 3; e++) {
      if (halfedges[e] === -1) continue;
      const other = Math.floor(halfedges[e] / 3);
      if (known[other]) continue;
      known[other] = 1;
      inside[other] = isWall(e) ? 1 - inside[t] : inside[t];
      queue.push(other);
    }
  }
  return inside;
}
