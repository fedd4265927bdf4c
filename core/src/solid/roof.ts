/**
 * The bevel of a region, exact to the ridge: every Voronoi cell is cut at the levels of the profile, and where a
 * cell ends below the full width, its border is the ridge. Heights follow from the distance to the outline alone,
 * so neighbouring cells meet without gaps.
 */
import { cos, sin } from '../maths/reproducible.ts';
import type { Contour } from '../plane/flatten.ts';
import { clipEars } from '../plane/ears.ts';
import type { Voronoi } from '../plane/voronoi.ts';

/** Distances nearer to a level than this are on it, thousandths of an em. */
const ON_LEVEL = 1e-3;
/** Largest distance of a chord from a curved ridge. */
const RIDGE_TOLERANCE = 0.01;
/** Corners fan out in sectors of at most this angle, radians; a chord errs from its arc by 0.25 %. */
const SECTOR = (8 * Math.PI) / 180;
/** Bends nearer to a spoke's point than this share of their distance are left out. */
const CROWDED = 0.2;

/** A part of a cell between two levels. */
export interface RoofPatch {
  /** Edge, or corner (number of edges + vertex), it belongs to. */
  site: number;
  /** Vertices of its triangles, counter-clockwise from above. */
  triangles: number[];
}

export interface Roof {
  x: number[];
  y: number[];
  /** Distance of each vertex from the outline. */
  r: number[];
  /** Parts of cells between each level and the next. */
  bands: RoofPatch[][];
  /** Steps along each level but the first, the cell below on their right: site, from, to. */
  steps: [number, number, number][][];
}

/** Least distance of a spoke's point from the ends of a border step; nearer, the end itself stands for it. */
const APART = 0.02;
/** More vertices than a roof ever has. */
const MOST_VERTICES = 2 ** 26;

class RoofBuilder {
  readonly x: number[];
  readonly y: number[];
  readonly r: number[];
  readonly steps: [number, number, number][][];
  private readonly v: Voronoi;
  private readonly levels: number[];
  private readonly sector: number;
  /** Vertices between the ends of each border step, by its ends in ascending order. */
  private readonly between = new Map<number, number[]>();

  constructor(v: Voronoi, levels: number[], sector: number) {
    this.sector = sector;
    this.v = v;
    this.levels = levels;
    this.x = v.x.slice();
    this.y = v.y.slice();
    this.r = v.r.map((r, i) => (i < v.sites.count ? 0 : this.onLevel(r)));
    this.steps = levels.map(() => []);
  }

  private onLevel(r: number): number {
    for (const level of this.levels) if (Math.abs(r - level) < ON_LEVEL) return level;
    return r;
  }

  private add(x: number, y: number, r: number): number {
    this.x.push(x);
    this.y.push(y);
    this.r.push(r);
    return this.x.length - 1;
  }

  /** Directions from a corner in which its sectors meet, as unit vectors. */
  private *spokes(corner: number): Generator<[number, number]> {
    const { sites: s } = this.v;
    const p = s.previous[corner];
    const whole = -s.turn[corner];
    const count = Math.ceil(whole / this.sector);
    for (let j = 1; j < count; j++) {
      const [cj, sj] = [cos((whole * j) / count), sin((whole * j) / count)];
      yield [-cj * s.dy[p] + sj * s.dx[p], cj * s.dx[p] + sj * s.dy[p]];
    }
  }

  /** Points of a border step where it bends or a spoke of a corner meets it, ends not among them. */
  private curve(a: number, b: number, site: number, other: number): [number, number, number][] {
    const { sites: s } = this.v;
    const n = s.count;
    if (site === other || (site < n && other < n)) return [];
    const [k, corner] = site < n ? [site, other - n] : [other, site - n];
    if (corner === k || (k < n && corner === s.next[k])) return [];
    // the step as a graph: place and distance over a coordinate along it
    let place: (t: number) => [number, number, number];
    let along: (x: number, y: number) => number;
    let bend: number;
    const hits: number[] = [];
    if (k >= n) {
      const q = k - n;
      const [mx, my] = [(s.x[corner] + s.x[q]) / 2, (s.y[corner] + s.y[q]) / 2];
      const [wx, wy] = [s.x[q] - s.x[corner], s.y[q] - s.y[corner]];
      const whole = Math.hypot(wx, wy);
      const [ux, uy] = [-wy / whole, wx / whole];
      along = (x, y) => (x - mx) * ux + (y - my) * uy;
      place = (t) => [mx + t * ux, my + t * uy, Math.hypot(whole / 2, t)];
      bend = Math.sqrt(4 * whole * RIDGE_TOLERANCE);
      for (const [from, towards] of [
        [corner, 1],
        [q, -1],
      ]) {
        for (const [sx, sy] of this.spokes(from)) {
          const facing = (sx * wx + sy * wy) * towards;
          if (facing <= 0) continue;
          const r = (whole * whole) / (2 * facing);
          hits.push(along(s.x[from] + r * sx, s.y[from] + r * sy));
        }
      }
    } else {
      const [nx, ny] = [-s.dy[k], s.dx[k]];
      along = (x, y) => (x - s.x[k]) * s.dx[k] + (y - s.y[k]) * s.dy[k];
      const cx = along(s.x[corner], s.y[corner]);
      const cy = (s.x[corner] - s.x[k]) * nx + (s.y[corner] - s.y[k]) * ny;
      place = (t) => {
        const r = ((t - cx) ** 2 + cy * cy) / (2 * cy);
        return [s.x[k] + t * s.dx[k] + r * nx, s.y[k] + t * s.dy[k] + r * ny, r];
      };
      bend = Math.sqrt(8 * Math.max(cy, 0.1) * RIDGE_TOLERANCE);
      for (const [sx, sy] of this.spokes(corner)) {
        const gap = 1 - (sx * nx + sy * ny);
        if (gap > 1e-9) hits.push(along(s.x[corner] + (cy / gap) * sx, s.y[corner] + (cy / gap) * sy));
      }
    }
    const from = along(this.x[a], this.y[a]);
    const to = along(this.x[b], this.y[b]);
    const [low, high] = from < to ? [from, to] : [to, from];
    const parts = Math.max(1, Math.ceil((high - low) / bend));
    const least = ((high - low) / parts) * CROWDED;
    const stops = hits.filter((t) => t > low + APART && t < high - APART);
    for (let i = 1; i < parts; i++) {
      const t = low + ((high - low) * i) / parts;
      if (stops.every((u) => Math.abs(u - t) > least)) stops.push(t);
    }
    stops.sort((p, q) => (from < to ? p - q : q - p));
    return stops.map(place);
  }

  /** Vertices on a border step where it bends or crosses a level, from a to b. */
  private inner(a: number, b: number, site: number, other: number): number[] {
    const [p, q] = a < b ? [a, b] : [b, a];
    const key = p * MOST_VERTICES + q;
    let found = this.between.get(key);
    if (!found) {
      found = [];
      const bends = this.curve(p, q, site, other).map(([x, y, r]) => this.add(x, y, this.onLevel(r)));
      let last = p;
      for (const next of [...bends, q]) {
        const [r0, r1] = [this.r[last], this.r[next]];
        const [least, most] = r0 < r1 ? [r0, r1] : [r1, r0];
        const crossed = this.levels.filter((d) => d > least && d < most);
        if (r1 < r0) crossed.reverse();
        for (const d of crossed) {
          const t = (d - r0) / (r1 - r0);
          found.push(
            this.add(
              this.x[last] + t * (this.x[next] - this.x[last]),
              this.y[last] + t * (this.y[next] - this.y[last]),
              d,
            ),
          );
        }
        if (next !== q) found.push(next);
        last = next;
      }
      this.between.set(key, found);
    }
    return a < b ? found : [...found].reverse();
  }

  /** The border of a cell with every vertex it needs, for corners one walk for each sector. */
  private walks(site: number): number[][] {
    const { nodes, across } = this.v.cells[site]!;
    const n = this.v.sites.count;
    const whole = [nodes[0]];
    across.forEach((other, i) =>
      whole.push(...this.inner(nodes[i], nodes[i + 1], site, other), nodes[i + 1]),
    );
    if (site < n) return [whole];
    const corner = site - n;
    const { x, y } = this.v.sites;
    const out: number[][] = [];
    // the two sides of the cell lie along its neighbours; what is between them is cut
    let start = 0;
    const cut = (end: number) => {
      const piece = whole.slice(start, end + 1);
      if (start > 0) piece.unshift(corner, ...this.inner(corner, whole[start], site, site));
      if (end < whole.length - 1) piece.push(...this.inner(whole[end], corner, site, site), corner);
      out.push(piece);
      start = end;
    };
    const first = whole.indexOf(nodes[1]);
    const last = whole.lastIndexOf(nodes[nodes.length - 2]);
    for (const [sx, sy] of this.spokes(corner)) {
      let best = start;
      let least = Infinity;
      for (let i = Math.max(first, start); i <= last; i++) {
        const [wx, wy] = [this.x[whole[i]] - x[corner], this.y[whole[i]] - y[corner]];
        const off = 1 - (wx * sx + wy * sy) / Math.hypot(wx, wy);
        if (off < least) [best, least] = [i, off];
      }
      if (best > Math.max(first, start) && best < last) cut(best);
    }
    cut(whole.length - 1);
    return out;
  }

  /** Parts of a cell in a band, as polygons from the outline's start over the border and back along the level. */
  private patches(site: number, walk: number[], band: number): RoofPatch[] {
    const [low, high] = [this.levels[band], this.levels[band + 1]];
    const { r } = this;
    const polygons: number[][] = [];
    let polygon: number[] | null = null;
    for (let i = 0; i + 1 < walk.length; i++) {
      const [a, b] = [walk[i], walk[i + 1]];
      const top = Math.max(r[a], r[b]);
      if (polygon && top > high && r[b] === high) {
        // back on the level, to stay above it or to go below: the level line is the rim up to here
        this.steps[band + 1].push([site, polygon[polygon.length - 1], b]);
        polygon.push(b);
      }
      if (!(top > low && top <= high)) continue;
      polygon ??= [a];
      polygon.push(b);
      if (r[b] === low) {
        // a corner's own vertex is start and end
        if (polygon[0] === b) polygon.pop();
        polygons.push(polygon);
        polygon = null;
      }
    }
    return polygons.map((p) => ({ site, triangles: clipEars(p.reverse(), this.x, this.y) }));
  }

  build(): RoofPatch[][] {
    const bands: RoofPatch[][] = this.levels.slice(1).map(() => []);
    this.v.cells.forEach((border, site) => {
      if (!border) return;
      for (const walk of this.walks(site)) {
        bands.forEach((patches, band) => patches.push(...this.patches(site, walk, band)));
      }
    });
    return bands;
  }
}

/**
 * @param levels distances from the outline, ascending, the first 0; an infinite last one takes in what lies above
 * @param sector greatest angle of a corner's sectors
 */
export function roofOf(v: Voronoi, levels: number[], sector = SECTOR): Roof {
  const builder = new RoofBuilder(v, levels, sector);
  const bands = builder.build();
  const { x, y, r, steps } = builder;
  return { x, y, r, bands, steps };
}

/** Steps as closed contours. A vertex where several meet is passed through as often. */
export function loopsOf(steps: [number, number, number][]): number[][] {
  const onward = new Map<number, number[]>();
  for (const [, a, b] of steps) {
    const list = onward.get(a);
    if (list) list.push(b);
    else onward.set(a, [b]);
  }
  const loops: number[][] = [];
  for (const [start, list] of onward) {
    while (list.length > 0) {
      const loop = [start];
      let at = list.pop()!;
      while (at !== start) {
        loop.push(at);
        const next = onward.get(at)?.pop();
        if (next === undefined) break;
        at = next;
      }
      loops.push(loop);
    }
  }
  return loops;
}

/** Coordinates of a loop. */
export const contourOf = (loop: number[], { x, y }: Pick<Roof, 'x' | 'y'>): Contour =>
  Float64Array.from(loop.flatMap((i) => [x[i], y[i]]));
