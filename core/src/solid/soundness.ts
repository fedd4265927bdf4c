/** Whether a solid is sound: closed, outward, free of crossings and slivers. */

/** Numbers of the vertices at a soup's corners: corners of equal coordinates are one vertex. */
function verticesOf(positions: Float32Array): Uint32Array {
  const corners = positions.length / 3;
  const vertex = new Uint32Array(corners);
  // bits tell floats apart; adding 0 makes −0 and 0 one
  const bits = new Int32Array(positions.map((v) => v + 0).buffer);
  let size = 16;
  while (size < corners * 2) size *= 2;
  /** An open hash table of the first corner of each vertex, plus one. */
  const table = new Uint32Array(size);
  let count = 0;
  for (let i = 0; i < corners; i++) {
    const [x, y, z] = [bits[i * 3], bits[i * 3 + 1], bits[i * 3 + 2]];
    let slot = Math.imul(Math.imul(Math.imul(x, 0x9e3779b1) ^ y, 0x85ebca6b) ^ z, 0xc2b2ae35);
    slot = (slot ^ (slot >>> 15)) & (size - 1);
    for (;;) {
      const other = table[slot] - 1;
      if (other < 0) {
        table[slot] = i + 1;
        vertex[i] = count++;
        break;
      }
      if (bits[other * 3] === x && bits[other * 3 + 1] === y && bits[other * 3 + 2] === z) {
        vertex[i] = vertex[other];
        break;
      }
      slot = (slot + 1) & (size - 1);
    }
  }
  return vertex;
}

/** Makes one number of an edge's two vertices, the lower first. */
const SHIFT = 2 ** 26;
const edgeOf = (a: number, b: number) => (a < b ? a * SHIFT + b : b * SHIFT + a);

/** Counts edges that do not have exactly two faces running opposite ways. @param positions nine floats a triangle */
export function openEdges(positions: Float32Array): number {
  const vertex = verticesOf(positions);
  // each edge counts up one way and down the other
  const edges = new Map<number, number>();
  for (let t = 0; t < vertex.length; t += 3) {
    for (let i = 0; i < 3; i++) {
      const [a, b] = [vertex[t + i], vertex[t + ((i + 1) % 3)]];
      if (a === b) continue;
      const key = edgeOf(a, b);
      edges.set(key, (edges.get(key) ?? 0) + (a < b ? 1 : -1));
    }
  }
  let open = 0;
  for (const balance of edges.values()) if (balance !== 0) open++;
  return open;
}

/** Volume enclosed by outward-wound triangles (divergence theorem). */
export function volume(p: Float32Array): number {
  let six = 0;
  for (let t = 0; t < p.length; t += 9) {
    six +=
      p[t] * (p[t + 4] * p[t + 8] - p[t + 5] * p[t + 7]) -
      p[t + 1] * (p[t + 3] * p[t + 8] - p[t + 5] * p[t + 6]) +
      p[t + 2] * (p[t + 3] * p[t + 7] - p[t + 4] * p[t + 6]);
  }
  return six / 6;
}

/** Closest-hit queries over the solid's triangles; the ray kernel's, or any like them. */
export interface Queries {
  closest(
    ox: number,
    oy: number,
    oz: number,
    tmin: number,
    dx: number,
    dy: number,
    dz: number,
    tmax: number,
  ): number;
  readonly hit: { t: number; b1: number; b2: number };
}

/** Penetrations no deeper than this are rounding, in the unit of the positions. */
const DEPTH = 2e-3;
/** Hits along one edge that are looked at. */
const MOST_HITS = 32;

/**
 * Counts edges that pass through the inside of a triangle they do not belong to.
 * @param positions nine floats a triangle
 */
export function crossings(positions: Float32Array, queries: Queries): number {
  const p = positions;
  const vertex = verticesOf(p);
  const seen = new Set<number>();
  let found = 0;
  for (let t = 0; t < p.length; t += 9) {
    for (let i = 0; i < 3; i++) {
      const [a, b] = [t + 3 * i, t + 3 * ((i + 1) % 3)];
      const [va, vb] = [vertex[a / 3], vertex[b / 3]];
      const name = edgeOf(va, vb);
      if (va === vb || seen.has(name)) continue;
      seen.add(name);
      const [dx, dy, dz] = [p[b] - p[a], p[b + 1] - p[a + 1], p[b + 2] - p[a + 2]];
      const l = Math.hypot(dx, dy, dz);
      if (l < 2 * DEPTH) continue;
      let from = DEPTH / l;
      const to = 1 - from;
      for (let k = 0; k < MOST_HITS; k++) {
        const hit = queries.closest(p[a], p[a + 1], p[a + 2], from, dx, dy, dz, to);
        if (hit < 0) break;
        const { t: at, b1, b2 } = queries.hit;
        from = at + 1e-5;
        const h = hit * 9;
        const near = [vertex[hit * 3], vertex[hit * 3 + 1], vertex[hit * 3 + 2]];
        if (near.includes(va) || near.includes(vb)) continue;
        // how far the nearer end lies beyond the triangle's plane
        const e = [p[h + 3] - p[h], p[h + 4] - p[h + 1], p[h + 5] - p[h + 2]];
        const f = [p[h + 6] - p[h], p[h + 7] - p[h + 1], p[h + 8] - p[h + 2]];
        const n = [e[1] * f[2] - e[2] * f[1], e[2] * f[0] - e[0] * f[2], e[0] * f[1] - e[1] * f[0]];
        const size = Math.hypot(...n) || 1;
        // slivers have no plane to speak of: how far within the triangle's sides the edge passes
        const g = f.map((v, k) => v - e[k]);
        const sides = [[1 - b1 - b2, g] as const, [b1, f] as const, [b2, e] as const];
        if (sides.some(([share, side]) => (share * size) / (Math.hypot(...side) || 1) < DEPTH)) continue;
        const steep = Math.abs(n[0] * dx + n[1] * dy + n[2] * dz) / size;
        if (steep * Math.min(at, 1 - at) > DEPTH) {
          found++;
          break;
        }
      }
    }
  }
  return found;
}

/** Least height of a triangle over its longest side, 0 where one has no area; the unit of the positions. */
export function thinnest(p: Float32Array): number {
  let least = Infinity;
  for (let t = 0; t < p.length; t += 9) {
    const e = [0, 1, 2].map((k) => p[t + 3 + k] - p[t + k]);
    const f = [0, 1, 2].map((k) => p[t + 6 + k] - p[t + k]);
    const g = [0, 1, 2].map((k) => f[k] - e[k]);
    const twice = Math.hypot(e[1] * f[2] - e[2] * f[1], e[2] * f[0] - e[0] * f[2], e[0] * f[1] - e[1] * f[0]);
    const longest = Math.max(Math.hypot(...e), Math.hypot(...f), Math.hypot(...g));
    least = Math.min(least, longest > 0 ? twice / longest : 0);
  }
  return least;
}
