/** Whether lines cross each other more often than can be worked through: those of broken or hostile files. */
import type { Contour } from './flatten.ts';

/** Crossings up to which outlines are worked through: drawings of letters have dozens. */
const MOST_CROSSINGS = 40_000;
/** Edges and places of edges in the grid, and pairs of them that are looked at, before giving up. */
const MOST_EDGES = 250_000;
const MOST_PLACES = 4_000_000;
const MOST_TESTS = 30_000_000;
const FINEST_GRID = 512;

/** Edges of contours, four numbers each. */
function edgesOf(contours: readonly Contour[]): Float64Array {
  const out = new Float64Array(contours.reduce((sum, c) => sum + c.length, 0) * 2);
  let at = 0;
  for (const c of contours) {
    for (let i = 0; i < c.length; i += 2, at += 4) {
      const j = i + 2 === c.length ? 0 : i + 2;
      out[at] = c[i];
      out[at + 1] = c[i + 1];
      out[at + 2] = c[j];
      out[at + 3] = c[j + 1];
    }
  }
  return out;
}

/** Where two edges cross inside both; null where they do not. */
function crossing(e: Float64Array, a: number, b: number): [number, number] | null {
  const [ux, uy, vx, vy] = [e[a + 2] - e[a], e[a + 3] - e[a + 1], e[b + 2] - e[b], e[b + 3] - e[b + 1]];
  const across = ux * vy - uy * vx;
  if (across === 0) return null;
  const [wx, wy] = [e[b] - e[a], e[b + 1] - e[a + 1]];
  const s = (wx * vy - wy * vx) / across;
  const t = (wx * uy - wy * ux) / across;
  return s > 0 && s < 1 && t > 0 && t < 1 ? [e[a] + s * ux, e[a + 1] + s * uy] : null;
}

/** @param contours closed lines */
export function isTangled(contours: readonly Contour[]): boolean {
  const edges = edgesOf(contours);
  const count = edges.length / 4;
  if (count > MOST_EDGES) return true;
  // so few edges cannot cross more often
  if ((count * (count - 1)) / 2 <= MOST_CROSSINGS) return false;
  let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let i = 0; i < edges.length; i += 2) {
    x0 = Math.min(x0, edges[i]);
    x1 = Math.max(x1, edges[i]);
    y0 = Math.min(y0, edges[i + 1]);
    y1 = Math.max(y1, edges[i + 1]);
  }
  const side = Math.min(FINEST_GRID, Math.ceil(Math.sqrt(count)));
  const [w, h] = [(x1 - x0) / side || 1, (y1 - y0) / side || 1];
  const column = (x: number) => Math.min(side - 1, Math.max(0, Math.floor((x - x0) / w)));
  const row = (y: number) => Math.min(side - 1, Math.max(0, Math.floor((y - y0) / h)));
  const cells = new Map<number, number[]>();
  let places = 0;
  for (let at = 0; at < edges.length; at += 4) {
    const [left, right] = edges[at] < edges[at + 2] ? [at, at + 2] : [at + 2, at];
    const slope = (edges[right + 1] - edges[left + 1]) / (edges[right] - edges[left] || 1);
    const last = column(edges[right]);
    for (let i = column(edges[left]); i <= last; i++) {
      // the edge's rows within this column
      const from = Math.max(edges[left], x0 + i * w);
      const to = Math.min(edges[right], x0 + (i + 1) * w);
      const a = edges[left + 1] + (from - edges[left]) * slope;
      const b =
        edges[left] === edges[right] ? edges[right + 1] : edges[left + 1] + (to - edges[left]) * slope;
      for (let j = row(Math.min(a, b)); j <= row(Math.max(a, b)); j++) {
        const cell = cells.get(i * side + j);
        if (cell) cell.push(at);
        else cells.set(i * side + j, [at]);
        if (++places > MOST_PLACES) return true;
      }
    }
  }
  let crossings = 0;
  let tests = 0;
  for (const [key, cell] of cells) {
    for (let p = 0; p < cell.length; p++) {
      tests += p;
      if (tests > MOST_TESTS) return true;
      for (let q = 0; q < p; q++) {
        const found = crossing(edges, cell[p], cell[q]);
        // each crossing counts in the cell it lies in
        if (found && column(found[0]) * side + row(found[1]) === key && ++crossings > MOST_CROSSINGS)
          return true;
      }
    }
  }
  return false;
}
