/** Seeing the other sites of a region from one: balls that touch both, as functions of where they touch it. */
import { atan2, cos, sin } from '../maths/reproducible.ts';
import { valueAt, zeros, type Basis, type Coefficients, type Piece, type Stretch } from './envelope.ts';
import { isMitred, type Sites } from './sites.ts';

/** Feet are allowed this far off the end of an edge, so that rounding opens no gap between neighbours. */
export const SLACK = 1e-7;
/** Denominators below this stand for parallel lines that no ball touches both of. */
const PARALLEL = 1e-11;

/** Everything about seeing the other sites from one. */
export abstract class Viewpoint {
  protected readonly s: Sites;
  protected readonly site: number;
  abstract readonly basis: Basis;
  abstract readonly from: number;
  abstract readonly to: number;
  /** End of the site itself; it starts at 0. */
  abstract readonly end: number;
  constructor(sites: Sites, site: number) {
    this.s = sites;
    this.site = site;
  }
  /** Ball against the line of edge k, or null. */
  abstract line(k: number): Coefficients | null;
  /** Ball against vertex k, or null. */
  abstract point(k: number): Coefficients | null;
  /** (centre − p) · m as a function of the parameter (times a positive factor), for balls of a piece. */
  abstract side(of: Coefficients, px: number, py: number, mx: number, my: number): Coefficients;
  /** Non-negative where the radius is. */
  abstract positive(of: Coefficients): Coefficients;
  abstract centre(of: Coefficients, p: number): [number, number, number];
  /** The part of an envelope on the site's side of its mitred ends. */
  abstract territory(envelope: Stretch[]): Stretch[];
  /** Lower bound of the radius of balls that touch a place between two points (alike for a corner). */
  abstract least(ax: number, ay: number, bx: number, by: number): number;
  /** Greatest radius of a stretch. */
  abstract greatest(of: Piece, from: number, to: number): number;
}

export const minus = ({ a, b, c }: Coefficients) => ({ a: -a, b: -b, c: -c });

/** Where an edge's envelope crosses the bisector at its start (`way` −1) or end (1), nearest to the edge. */
function crossing(
  view: EdgeView,
  envelope: Stretch[],
  px: number,
  py: number,
  mx: number,
  my: number,
  way: 1 | -1,
): number {
  const foot = way < 0 ? 0 : view.end;
  const outward = way < 0 ? [...envelope].reverse() : envelope;
  for (const { from, to, piece } of outward) {
    const [p, q] = way < 0 ? [from, Math.min(to, foot)] : [Math.max(from, foot), to];
    if (p >= q || !piece) continue;
    const found = zeros('quadratic', view.side(piece, px, py, mx, my), p - SLACK, q + SLACK);
    if (found.length > 0) return way < 0 ? found[found.length - 1] : found[0];
  }
  return foot;
}

export class EdgeView extends Viewpoint {
  readonly basis = 'quadratic';
  readonly from: number;
  readonly to: number;
  readonly end: number;
  private readonly nx: number;
  private readonly ny: number;

  constructor(sites: Sites, k: number, reach: number) {
    super(sites, k);
    this.nx = -sites.dy[k];
    this.ny = sites.dx[k];
    this.from = isMitred(sites, k) ? -reach * 0.1 : 0;
    this.end = sites.length[k];
    this.to = this.end + (isMitred(sites, sites.next[k]) ? reach * 0.1 : 0);
  }

  line(k: number) {
    const { s, site: i, nx, ny } = this;
    const [lx, ly] = [-s.dy[k], s.dx[k]];
    const gap = 1 - (nx * lx + ny * ly);
    if (gap < PARALLEL) return null;
    const c0 = (s.x[i] - s.x[k]) * lx + (s.y[i] - s.y[k]) * ly;
    return { a: c0 / gap, b: (s.dx[i] * lx + s.dy[i] * ly) / gap, c: 0 };
  }

  point(k: number) {
    const { s, site: i, nx, ny } = this;
    const [wx, wy] = [s.x[k] - s.x[i], s.y[k] - s.y[i]];
    const cx = wx * s.dx[i] + wy * s.dy[i];
    const cy = wx * nx + wy * ny;
    if (cy < 1e-9) return null;
    return { a: (cx * cx + cy * cy) / (2 * cy), b: -cx / cy, c: 1 / (2 * cy) };
  }

  side({ a, b, c }: Coefficients, px: number, py: number, mx: number, my: number) {
    const { s, site: i, nx, ny } = this;
    const n = nx * mx + ny * my;
    return {
      a: (s.x[i] - px) * mx + (s.y[i] - py) * my + a * n,
      b: s.dx[i] * mx + s.dy[i] * my + b * n,
      c: c * n,
    };
  }

  positive(of: Coefficients) {
    return of;
  }

  centre(of: Coefficients, p: number): [number, number, number] {
    const { s, site: i } = this;
    const r = valueAt('quadratic', of, p);
    return [s.x[i] + p * s.dx[i] + r * this.nx, s.y[i] + p * s.dy[i] + r * this.ny, r];
  }

  territory(envelope: Stretch[]): Stretch[] {
    const { s, site: i } = this;
    const j = s.next[i];
    const start = isMitred(s, i) ? crossing(this, envelope, s.x[i], s.y[i], s.startX[i], s.startY[i], -1) : 0;
    const end = isMitred(s, j) ? crossing(this, envelope, s.x[j], s.y[j], s.endX[i], s.endY[i], 1) : this.end;
    return envelope
      .map((e) => ({ ...e, from: Math.max(e.from, start), to: Math.min(e.to, end) }))
      .filter((e) => e.to > e.from);
  }

  least(ax: number, ay: number, bx: number, by: number): number {
    const { s, site: i, nx, ny } = this;
    // in the edge's frame a ball over foot p through (x, y) has radius ((x − p)² + y²) / 2y
    const above = Math.max((ax - s.x[i]) * nx + (ay - s.y[i]) * ny, (bx - s.x[i]) * nx + (by - s.y[i]) * ny);
    if (above < 1e-9) return Infinity;
    const low = Math.min((ax - s.x[i]) * nx + (ay - s.y[i]) * ny, (bx - s.x[i]) * nx + (by - s.y[i]) * ny);
    const p = (ax - s.x[i]) * s.dx[i] + (ay - s.y[i]) * s.dy[i];
    const q = (bx - s.x[i]) * s.dx[i] + (by - s.y[i]) * s.dy[i];
    const beside = Math.max(0, this.from - Math.max(p, q), Math.min(p, q) - this.to);
    const least = low > 0 ? low : 0;
    return (beside * beside + least * least) / (2 * above);
  }

  greatest(of: Piece, from: number, to: number): number {
    return Math.max(valueAt('quadratic', of, from), valueAt('quadratic', of, to));
  }
}

export class CornerView extends Viewpoint {
  readonly basis = 'circular';
  readonly from = 0;
  readonly to: number;
  readonly end: number;
  private readonly px: number;
  private readonly py: number;
  private readonly qx: number;
  private readonly qy: number;

  constructor(sites: Sites, vertex: number) {
    super(sites, vertex);
    const p = sites.previous[vertex];
    // the angle runs from the normal of the edge before to that of the edge after, turning clockwise
    this.px = -sites.dy[p];
    this.py = sites.dx[p];
    this.qx = sites.dx[p];
    this.qy = sites.dy[p];
    this.to = this.end = -sites.turn[vertex];
  }

  line(k: number) {
    const { s, site: v } = this;
    const [lx, ly] = [-s.dy[k], s.dx[k]];
    const c0 = (s.x[v] - s.x[k]) * lx + (s.y[v] - s.y[k]) * ly;
    if (c0 < 1e-9) return null;
    return {
      a: -1 / c0,
      b: (this.px * lx + this.py * ly) / c0,
      c: (this.qx * lx + this.qy * ly) / c0,
    };
  }

  point(k: number) {
    const { s, site: v } = this;
    const [wx, wy] = [s.x[k] - s.x[v], s.y[k] - s.y[v]];
    const w2 = wx * wx + wy * wy;
    if (w2 < 1e-12) return null;
    return {
      a: 0,
      b: (-2 * (this.px * wx + this.py * wy)) / w2,
      c: (-2 * (this.qx * wx + this.qy * wy)) / w2,
    };
  }

  side({ a, b, c }: Coefficients, px: number, py: number, mx: number, my: number) {
    const { s, site: v } = this;
    const w = (s.x[v] - px) * mx + (s.y[v] - py) * my;
    return {
      a: -w * a,
      b: -w * b + this.px * mx + this.py * my,
      c: -w * c + this.qx * mx + this.qy * my,
    };
  }

  positive(of: Coefficients) {
    return minus(of);
  }

  centre(of: Coefficients, p: number): [number, number, number] {
    const { s, site: v } = this;
    const r = -1 / valueAt('circular', of, p);
    const [cp, sp] = [cos(p), sin(p)];
    return [s.x[v] + r * (cp * this.px + sp * this.qx), s.y[v] + r * (cp * this.py + sp * this.qy), r];
  }

  territory(envelope: Stretch[]): Stretch[] {
    return envelope;
  }

  least(ax: number, ay: number, bx: number, by: number): number {
    const most = Math.max(this.facing(ax, ay), this.facing(bx, by));
    if (most < 1e-9) return Infinity;
    const { s, site: v } = this;
    const [mx, my] = [(ax + bx) / 2 - s.x[v], (ay + by) / 2 - s.y[v]];
    const near = Math.max(0, Math.sqrt(mx * mx + my * my) - Math.sqrt((bx - ax) ** 2 + (by - ay) ** 2) / 2);
    // a ball through w in direction u has radius |w|² / 2 u·w
    return (near * near) / (2 * most);
  }

  /** Greatest u·w over the directions u of the corner. */
  private facing(x: number, y: number): number {
    const { s, site: v } = this;
    const [wx, wy] = [x - s.x[v], y - s.y[v]];
    const first = wx * this.px + wy * this.py;
    const along = wx * this.qx + wy * this.qy;
    const last = first * cos(this.to) + along * sin(this.to);
    const angle = atan2(along, first);
    return angle > 0 && angle < this.to ? Math.sqrt(wx * wx + wy * wy) : Math.max(first, last);
  }

  greatest(of: Piece, from: number, to: number): number {
    let least = Math.min(-valueAt('circular', of, from), -valueAt('circular', of, to));
    for (const p of zeros('circular', { a: 0, b: of.c, c: -of.b }, from, to)) {
      least = Math.min(least, -valueAt('circular', of, p));
    }
    return least > 0 ? 1 / least : Infinity;
  }
}
