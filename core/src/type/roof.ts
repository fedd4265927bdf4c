/**
 * The bevel of a region, exact to the ridge: every Voronoi cell is cut at the levels of the profile, and where a
 * cell ends below the full width, its border is the ridge. Heights follow from the distance to the outline alone,
 * so neighbouring cells meet without gaps.
 */
import type { Contour } from './font.ts';
import { clipEars } from './ears.ts';
import type { Voronoi } from './voronoi.ts';

/** Distances nearer to a level than this are on it, thousandths of an em. */
const ON_LEVEL = 1e-3;
/** Largest distance of a chord from a curved ridge. */
const RIDGE_TOLERANCE = 0.01;
/** Largest angle between neighbouring points of an arc around a corner, radians. */
const ARC_STEP = (8 * Math.PI) / 180;

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

class RoofBuilder {
  readonly x: number[];
  readonly y: number[];
  readonly r: number[];
  readonly steps: [number, number, number][][];
  private readonly v: Voronoi;
  private readonly levels: number[];
  /** Vertices between the ends of each border step, by its ends in ascending order. */
  private readonly between = new Map<number, number[]>();
  private readonly arcs = new Map<string, number>();

  constructor(v: Voronoi, levels: number[]) {
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

  /** Points of a curved border step, ends not among them. */
  private curve(a: number, b: number, site: number, other: number): [number, number, number][] {
    const { sites: s } = this.v;
    const n = s.count;
    const [ax, ay, bx, by] = [this.x[a], this.y[a], this.x[b], this.y[b]];
    const out: [number, number, number][] = [];
    if (site >= n && other >= n) {
      // between two corners: straight, but the distance is hyperbolic
      const p = site - n;
      const q = other - n;
      const [mx, my] = [(s.x[p] + s.x[q]) / 2, (s.y[p] + s.y[q]) / 2];
      const half = Math.hypot(s.x[p] - s.x[q], s.y[p] - s.y[q]) / 2;
      const l = Math.hypot(bx - ax, by - ay);
      const parts = Math.ceil(l / Math.sqrt(8 * half * RIDGE_TOLERANCE));
      for (let i = 1; i < parts; i++) {
        const [x, y] = [ax + ((bx - ax) * i) / parts, ay + ((by - ay) * i) / parts];
        out.push([x, y, Math.hypot(half, x - mx, y - my)]);
      }
      return out;
    }
    if (site < n === other < n) return out;
    const [k, corner] = site < n ? [site, other - n] : [other, site - n];
    if (corner === k || corner === s.next[k]) return out;
    const [nx, ny] = [-s.dy[k], s.dx[k]];
    const foot = (x: number, y: number) => (x - s.x[k]) * s.dx[k] + (y - s.y[k]) * s.dy[k];
    const cx = foot(s.x[corner], s.y[corner]);
    const cy = (s.x[corner] - s.x[k]) * nx + (s.y[corner] - s.y[k]) * ny;
    const [from, to] = [foot(ax, ay), foot(bx, by)];
    const parts = Math.ceil(Math.abs(to - from) / Math.sqrt(8 * Math.max(cy, 0.1) * RIDGE_TOLERANCE));
    for (let i = 1; i < parts; i++) {
      const p = from + ((to - from) * i) / parts;
      const r = ((p - cx) ** 2 + cy * cy) / (2 * cy);
      out.push([s.x[k] + p * s.dx[k] + r * nx, s.y[k] + p * s.dy[k] + r * ny, r]);
    }
    return out;
  }

  /** Vertices on a border step where it bends or crosses a level, from a to b. */
  private inner(a: number, b: number, site: number, other: number): number[] {
    const [p, q] = a < b ? [a, b] : [b, a];
    const key = p * this.v.x.length + q;
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

  /** Vertices along a level within a cell, ends not among them: arcs around corners bend. */
  private along(site: number, level: number, a: number, b: number): number[] {
    const { sites: s } = this.v;
    const v = site - s.count;
    if (v < 0 || level === 0) return [];
    const p = s.previous[v];
    const angle = (i: number) => {
      const [wx, wy] = [this.x[i] - s.x[v], this.y[i] - s.y[v]];
      return Math.atan2(wx * s.dx[p] + wy * s.dy[p], -wx * s.dy[p] + wy * s.dx[p]);
    };
    const whole = -s.turn[v];
    const step = whole / Math.ceil(whole / ARC_STEP);
    const [from, to] = [angle(a), angle(b)];
    const out: number[] = [];
    for (let j = Math.floor(from / step) + 1; j * step < to; j++) {
      if (j * step - from < step * 0.05 || to - j * step < step * 0.05) continue;
      const key = `${v},${level},${j}`;
      let vertex = this.arcs.get(key);
      if (vertex === undefined) {
        const d = this.levels[level];
        const [cos, sin] = [Math.cos(j * step) * d, Math.sin(j * step) * d];
        vertex = this.add(s.x[v] - cos * s.dy[p] + sin * s.dx[p], s.y[v] + cos * s.dx[p] + sin * s.dy[p], d);
        this.arcs.set(key, vertex);
      }
      out.push(vertex);
    }
    return out;
  }

  /** The border of a cell with every vertex it needs. */
  private walk(site: number): number[] {
    const { nodes, across } = this.v.cells[site]!;
    const out = [nodes[0]];
    across.forEach((other, i) => out.push(...this.inner(nodes[i], nodes[i + 1], site, other), nodes[i + 1]));
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
      if (!(top > low && top <= high)) continue;
      if (!polygon) polygon = [a];
      const last = polygon[polygon.length - 1];
      if (last !== a) {
        const rim = [last, ...this.along(site, band + 1, last, a), a];
        for (let k = 0; k + 1 < rim.length; k++) this.steps[band + 1].push([site, rim[k], rim[k + 1]]);
        polygon.push(...rim.slice(1));
      }
      polygon.push(b);
      if (r[b] === low) {
        const start = polygon[0];
        if (start === b) polygon.pop();
        else polygon.push(...this.along(site, band, start, b).reverse());
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
      const walk = this.walk(site);
      bands.forEach((patches, band) => patches.push(...this.patches(site, walk, band)));
    });
    return bands;
  }
}

/** @param levels distances from the outline, ascending, the first 0 */
export function roofOf(v: Voronoi, levels: number[]): Roof {
  const builder = new RoofBuilder(v, levels);
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
