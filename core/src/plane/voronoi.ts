/**
 * Voronoi cells of a region's edges and corners, within the region. Seen from its own site, a cell is bounded by
 * the lower envelope of one function for each other site: the radius of the ball that touches the site at a
 * foot and the other site anywhere. For an edge these are lines (against edges) and parabolas (against corners)
 * over the foot; for a corner, the inverse radius is a sinusoid over the angle. Cells are found one by one and
 * fitted together at common vertices.
 */
import type { Contour } from '../plane/flatten.ts';
import { allowed, lowered, type Piece, type Stretch } from './envelope.ts';
import { sitesOf, type Sites } from './sites.ts';
import { CornerView, EdgeView, minus, SLACK, type Viewpoint } from './viewpoint.ts';

/** Vertices of neighbouring cells nearer than this are one, thousandths of an em. */
const SNAP = 5e-4;
/** Outlines with more vertices are refused: the work grows with their square. */
const MOST_VERTICES = 5000;
/** How far vertices may lie off an edge that passes them and still split it. */
const STITCH = 20 * SNAP;

/** The border of a cell, walked with the cell on its left from the end of the site's own stretch to its start. */
export interface CellBorder {
  /** Vertices from the site's start to its end along the inner border. */
  nodes: number[];
  /** Site on the other side of each step between nodes. */
  across: number[];
}

export interface Voronoi {
  sites: Sites;
  /** Vertices; the first `sites.count` are the outline's. `r` is the distance to the outline. */
  x: number[];
  y: number[];
  r: number[];
  /** Cell of each edge, then of each corner (null for vertices that are none). */
  cells: (CellBorder | null)[];
}

/** A diagram could not be made: the outline is too large, or degenerate beyond what rounding explains. */
export class DiagramError extends Error {}

/** Lower envelope of everything a site sees: the nearest sites first, then what could still come nearer. */
function envelopeOf(view: Viewpoint, s: Sites, self: number, bounds: Bounds): Stretch[] {
  const { basis, from, to } = view;
  let envelope: Stretch[] = [{ from, to, piece: null }];
  let reach = Infinity;
  const see = (site: number): void => {
    if (touches(s, self, site)) return;
    const isPoint = site >= s.count;
    const k = isPoint ? site - s.count : site;
    const of = isPoint ? view.point(k) : view.line(k);
    if (!of) return;
    const conditions = [view.positive(of)];
    if (isPoint) {
      const p = s.previous[k];
      conditions.push(
        view.side(of, s.x[k], s.y[k], s.dx[p], s.dy[p]),
        minus(view.side(of, s.x[k], s.y[k], s.dx[k], s.dy[k])),
      );
    } else {
      const j = s.next[k];
      conditions.push(
        view.side(of, s.x[k], s.y[k], s.startX[k], s.startY[k]),
        minus(view.side(of, s.x[j], s.y[j], s.endX[k], s.endY[k])),
      );
    }
    const parts = allowed(basis, conditions, from, to, SLACK);
    if (parts.length === 0) return;
    for (const [p, q] of parts) envelope = lowered(basis, envelope, { site, ...of, from: p, to: q });
    reach = reachOf(view, envelope);
  };
  bounds.seenFrom(view);
  const near = bounds.nearest();
  for (const i of near) see(bounds.sites[i]);
  for (let i = 0; i < bounds.sites.length; i++) {
    if (bounds.of[i] <= reach && !near.includes(i)) see(bounds.sites[i]);
  }
  return envelope;
}

/**
 * Greatest radius of an envelope; without bound while a foot on the site itself is open. Feet beyond mitred ends
 * may stay open, and what bounds them is little farther than what bounds the ends.
 */
function reachOf(view: Viewpoint, envelope: Stretch[]): number {
  let reach = 0;
  for (const { from, to, piece } of envelope) {
    if (piece) reach = Math.max(reach, view.greatest(piece, from, to));
    else if (Math.min(to, view.end) - Math.max(from, 0) > SLACK) return Infinity;
  }
  return reach * 1.1;
}

/** A corner and its own edges, or two edges that meet at a reflex vertex: no ball lies between them. */
function touches(s: Sites, self: number, other: number): boolean {
  if (self === other) return true;
  const n = s.count;
  if (self >= n || other >= n) {
    const [corner, site] = self >= n ? [self - n, other] : [other - n, self];
    return site < n && (site === corner || site === s.previous[corner]);
  }
  return (s.next[self] === other && s.turn[other] < 0) || (s.next[other] === self && s.turn[self] < 0);
}

/** How many sites are looked at first. */
const NEAREST = 6;

/** Lower bounds of the radius of balls between one site and each other. */
class Bounds {
  /** Edges, then corners. */
  readonly sites: number[] = [];
  readonly of: Float64Array;
  private readonly s: Sites;

  constructor(s: Sites) {
    this.s = s;
    for (let k = 0; k < s.count; k++) this.sites.push(k);
    for (let v = 0; v < s.count; v++) if (s.corner[v]) this.sites.push(s.count + v);
    this.of = new Float64Array(this.sites.length);
  }

  seenFrom(view: Viewpoint): void {
    const { x, y, next, count } = this.s;
    for (let i = 0; i < this.sites.length; i++) {
      const a = i < count ? i : this.sites[i] - count;
      const b = i < count ? next[a] : a;
      this.of[i] = view.least(x[a], y[a], x[b], y[b]);
    }
  }

  /** Places in `sites` of the nearest few, nearest first. */
  nearest(): number[] {
    const found: number[] = [];
    const { of } = this;
    for (let i = 0; i < of.length; i++) {
      if (found.length === NEAREST && of[i] >= of[found[NEAREST - 1]]) continue;
      let at = found.length;
      while (at > 0 && of[found[at - 1]] > of[i]) at--;
      found.splice(at, 0, i);
      if (found.length > NEAREST) found.pop();
    }
    return found;
  }
}

/** Vertices by place. */
class VertexTable {
  readonly x: number[] = [];
  readonly y: number[] = [];
  readonly r: number[] = [];
  private readonly grid = new Map<number, number[]>();

  private key(i: number, j: number): number {
    return i * 67_108_864 + j;
  }

  /** The vertex at a place, a known one where there is one. */
  add(x: number, y: number, r: number): number {
    const [i, j] = [Math.floor(x / SNAP), Math.floor(y / SNAP)];
    for (let a = -1; a <= 1; a++) {
      for (let b = -1; b <= 1; b++) {
        for (const v of this.grid.get(this.key(i + a, j + b)) ?? []) {
          if (Math.abs(this.x[v] - x) < SNAP && Math.abs(this.y[v] - y) < SNAP) return v;
        }
      }
    }
    return this.insert(x, y, r);
  }

  /** A new vertex. */
  insert(x: number, y: number, r: number): number {
    const v = this.x.length;
    this.x.push(x);
    this.y.push(y);
    this.r.push(r);
    const key = this.key(Math.floor(x / SNAP), Math.floor(y / SNAP));
    const cell = this.grid.get(key);
    if (cell) cell.push(v);
    else this.grid.set(key, [v]);
    return v;
  }
}

/** Border of one cell from its envelope. */
function borderOf(
  s: Sites,
  self: number,
  view: Viewpoint,
  envelope: Stretch[],
  table: VertexTable,
): CellBorder {
  const isCorner = self >= s.count;
  const first = isCorner ? self - s.count : self;
  const last = isCorner ? first : s.next[self];
  const before = isCorner ? s.previous[first] : s.corner[first] ? s.count + first : s.previous[first];
  const after = isCorner ? first : s.corner[last] ? s.count + last : last;
  const bounded = view.territory(envelope);
  if (bounded.length === 0 || bounded.some((e) => e.piece === null && e.to - e.from > SLACK)) {
    throw new DiagramError(`the cell of site ${self} is open`);
  }
  const nodes = [first];
  const across: number[] = [];
  const step = (node: number, site: number) => {
    if (node === nodes[nodes.length - 1]) return;
    nodes.push(node);
    across.push(site);
  };
  const at = (piece: Piece, p: number) => table.add(...view.centre(piece, p));
  const pieces = bounded.filter((e) => e.piece !== null);
  step(at(pieces[0].piece!, pieces[0].from), before);
  for (const { piece, to } of pieces) step(at(piece!, to), piece!.site);
  step(last, after);
  return { nodes, across };
}

/** Takes out steps that go to a vertex and straight back. */
function withoutSpikes({ nodes, across }: CellBorder): void {
  for (let i = 1; i + 1 < nodes.length;) {
    if (nodes[i - 1] === nodes[i + 1]) {
      nodes.splice(i, 2);
      across.splice(i - 1, 2);
      i = Math.max(1, i - 1);
    } else i++;
  }
}

interface Step {
  cell: number;
  index: number;
}

/** Steps that no other cell walks the other way. */
function unmatched(cells: (CellBorder | null)[]): Step[] {
  const seen = new Map<string, Step[]>();
  cells.forEach((border, cell) =>
    border?.across.forEach((_, index) => {
      const [a, b] = [border.nodes[index], border.nodes[index + 1]];
      const key = `${a}>${b}`;
      const list = seen.get(key);
      if (list) list.push({ cell, index });
      else seen.set(key, [{ cell, index }]);
    }),
  );
  const out: Step[] = [];
  for (const [key, list] of seen) {
    const [a, b] = key.split('>');
    if ((seen.get(`${b}>${a}`)?.length ?? 0) !== list.length) out.push(...list);
  }
  return out;
}

/** Splits steps that pass vertices of their neighbours, where rounding left one side a vertex more. */
function stitch(cells: (CellBorder | null)[], table: VertexTable): void {
  for (let round = 0; round < 4; round++) {
    const loose = unmatched(cells);
    if (loose.length === 0) return;
    const ends = new Set<number>();
    for (const { cell, index } of loose) {
      const { nodes } = cells[cell]!;
      ends.add(nodes[index]);
      ends.add(nodes[index + 1]);
    }
    // from the back, so that earlier steps keep their numbers
    for (const { cell, index } of loose.sort((p, q) => q.index - p.index)) {
      const { nodes, across } = cells[cell]!;
      const [a, b] = [nodes[index], nodes[index + 1]];
      const [ax, ay] = [table.x[a], table.y[a]];
      const [ux, uy] = [table.x[b] - ax, table.y[b] - ay];
      const l = Math.hypot(ux, uy);
      const between: { v: number; t: number }[] = [];
      for (const v of ends) {
        if (v === a || v === b) continue;
        const [wx, wy] = [table.x[v] - ax, table.y[v] - ay];
        const t = (wx * ux + wy * uy) / l;
        if (t > 0 && t < l && Math.abs(wx * uy - wy * ux) / l < STITCH) between.push({ v, t });
      }
      between.sort((p, q) => p.t - q.t);
      nodes.splice(index + 1, 0, ...between.map((p) => p.v));
      across.splice(index, 0, ...between.map(() => across[index]));
    }
    for (const border of cells) if (border) withoutSpikes(border);
  }
  const loose = unmatched(cells);
  if (loose.length > 0) throw new DiagramError(`${loose.length} steps of the diagram have no other side`);
}

/**
 * The diagram of a region.
 * @param region merged contours, outers counter-clockwise, holes clockwise
 * @throws DiagramError when rounding leaves the diagram open
 */
export function voronoiOf(region: Contour[]): Voronoi {
  const s = sitesOf(region);
  if (s.count > MOST_VERTICES) throw new DiagramError(`${s.count} vertices are too many for a diagram`);
  const table = new VertexTable();
  for (let i = 0; i < s.count; i++) table.insert(s.x[i], s.y[i], 0);
  let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let i = 0; i < s.count; i++) {
    x0 = Math.min(x0, s.x[i]);
    y0 = Math.min(y0, s.y[i]);
    x1 = Math.max(x1, s.x[i]);
    y1 = Math.max(y1, s.y[i]);
  }
  const reach = Math.hypot(x1 - x0, y1 - y0) / 2;
  const bounds = new Bounds(s);
  const cells: (CellBorder | null)[] = Array.from({ length: s.count * 2 }, () => null);
  for (let k = 0; k < s.count; k++) {
    const view = new EdgeView(s, k, reach);
    cells[k] = borderOf(s, k, view, envelopeOf(view, s, k, bounds), table);
    if (s.corner[k]) {
      const corner = new CornerView(s, k);
      const self = s.count + k;
      cells[self] = borderOf(s, self, corner, envelopeOf(corner, s, self, bounds), table);
    }
  }
  for (const border of cells) if (border) withoutSpikes(border);
  stitch(cells, table);
  return { sites: s, x: table.x, y: table.y, r: table.r, cells };
}
