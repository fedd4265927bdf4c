/**
 * Letters without a flat side. Their height follows the torsion function u of the outline (∇²u = −1 inside, 0 on
 * the outline; Timoshenko and Goodier, Theory of Elasticity, § 104), which is smooth everywhere inside: √(2u) makes
 * straight strokes half round, u itself is a cushion under pressure.
 */
import { acos, atan2, cos, pow, sin } from '../maths/reproducible.ts';
import { newBevel, SOLID_ZONES } from '../document/index.ts';
import type { Contour } from '../plane/flatten.ts';
import { assemble, Sheet, type PlacedSheet, type Solid } from './sheet.ts';
import { sitesOf, type Sites } from '../plane/sites.ts';
import { buildSolid, Outline, wall } from './solid.ts';
import { triangulate } from '../plane/triangulate.ts';

export interface DomeShape {
  form: 'rounded' | 'puffed';
  /** Height of the upright side between the two domes. */
  depth: number;
  /** Of cushions; at 1 as thick as round letters where they are fattest. */
  pressure: number;
  /** Of the outline, see OpenFont.outline; the mesh is as coarse. 1 when left out. */
  coarseness?: number;
}

/** Outlines of more vertices stay flat: measuring their strokes takes time with their square. */
export const MOST_DOMED = 3000;
/** Rows of vertices between outline and middle. */
const ROWS = 5;
const FEWEST_ROWS = 2;
/** Distance of outline vertices as a share of the stroke's half width there. */
const SPACING = 0.5;
/** Finest spacing as a share of the coarsest. */
const FINEST = 1 / 12;
/** Outline samples for measuring strokes. */
const MEASURED = 500;
/** Vertices nearer than this share of their spacing are left out. */
const CROWDED = 0.6;
/** Corners that turn by more spread their rows in steps of this, radians. */
const FAN = 0.45;

/** A triangulated region with its outline first. */
interface Mesh {
  x: number[];
  y: number[];
  /** Vertices on the outline. */
  rim: number;
  /** Steps along the outline: edge of the outline, from, to. */
  steps: [number, number, number][];
  triangles: Uint32Array;
}

interface Samples {
  x: number[];
  y: number[];
  edge: number[];
  /** 1 where the sample is the start of its edge. */
  starts: number[];
  nx: number[];
  ny: number[];
}

/** Points along the outline at most `spacing` apart, with inward normals of their edges. */
function sampled(s: Sites, spacing: (edge: number, share: number) => number): Samples {
  const out: Samples = { x: [], y: [], edge: [], starts: [], nx: [], ny: [] };
  for (let k = 0; k < s.count; k++) {
    for (let at = 0; at < s.length[k] * (1 - 1e-9);) {
      out.x.push(s.x[k] + s.dx[k] * at);
      out.y.push(s.y[k] + s.dy[k] * at);
      out.edge.push(k);
      out.starts.push(at === 0 ? 1 : 0);
      out.nx.push(-s.dy[k]);
      out.ny.push(s.dx[k]);
      const step = spacing(k, at / s.length[k]);
      const left = s.length[k] - at;
      at += left < 1.5 * step ? left : step;
    }
  }
  return out;
}

/**
 * Radius of the greatest ball inside that touches the outline at a point, as far as the samples show.
 * @param own edges that meet at the point: their insides are chords of what is round there, and do not count
 */
function ballAt(
  samples: Samples,
  x: number,
  y: number,
  nx: number,
  ny: number,
  own: readonly number[],
): number {
  let least = Infinity;
  for (let i = 0; i < samples.x.length; i++) {
    if (samples.starts[i] === 0 && own.includes(samples.edge[i])) continue;
    const [wx, wy] = [samples.x[i] - x, samples.y[i] - y];
    const along = wx * nx + wy * ny;
    const square = wx * wx + wy * wy;
    if (along > 1e-6 * Math.sqrt(square) && square < 2 * along * least) least = square / (2 * along);
  }
  return least;
}

/** Inward direction at the vertex that starts an edge, `share` of the way round from the edge before to it. */
function bisector(s: Sites, k: number, share: number): [number, number] {
  const p = s.previous[k];
  const angle = atan2(s.dx[p], -s.dy[p]) + s.turn[k] * share;
  return [cos(angle), sin(angle)];
}

/** Keeps points apart, each by its own distance. */
class Spread {
  private readonly cells = new Map<number, number[]>();
  private readonly size: number;
  readonly points: number[] = [];

  constructor(size: number) {
    this.size = size;
  }

  private key = (i: number, j: number) => i * 1_048_576 + j;

  add(x: number, y: number, apart: number): void {
    const [i, j] = [Math.floor(x / this.size), Math.floor(y / this.size)];
    for (let a = -1; a <= 1; a++) {
      for (let b = -1; b <= 1; b++) {
        for (const at of this.cells.get(this.key(i + a, j + b)) ?? []) {
          if (Math.hypot(this.points[at] - x, this.points[at + 1] - y) < apart) return;
        }
      }
    }
    const key = this.key(i, j);
    const cell = this.cells.get(key);
    if (cell) cell.push(this.points.length);
    else this.cells.set(key, [this.points.length]);
    this.points.push(x, y);
  }
}

/**
 * Meshes a region in rows along its outline, as fine as its strokes are thin.
 * @param coarser how many times coarser than for a picture that fills the screen
 */
function meshOf(s: Sites, coarser: number): Mesh {
  const rowCount = Math.max(FEWEST_ROWS, Math.round(ROWS / coarser));
  const share = SPACING * coarser;
  let perimeter = 0;
  for (let k = 0; k < s.count; k++) perimeter += s.length[k];
  const rough = sampled(s, () => perimeter / MEASURED);
  const balls = rough.x.map((x, i) => {
    const k = rough.edge[i];
    if (rough.starts[i] === 0) return ballAt(rough, x, rough.y[i], rough.nx[i], rough.ny[i], [k]);
    const [nx, ny] = bisector(s, k, 0.5);
    return ballAt(rough, x, rough.y[i], nx, ny, [k, s.previous[k]]);
  });
  const inner = balls.filter(Number.isFinite).sort((a, b) => a - b);
  const coarsest = share * (inner[Math.floor(inner.length * 0.9)] ?? perimeter / 20);
  const finest = coarsest * FINEST;
  const firstOf = new Int32Array(s.count).fill(-1);
  rough.edge.forEach((k, i) => {
    if (firstOf[k] < 0) firstOf[k] = i;
  });
  const fitting = (ball: number) => Math.min(coarsest, Math.max(finest, share * ball));
  const rim = sampled(s, (k, along) => {
    const count = (k + 1 < s.count ? firstOf[k + 1] : rough.x.length) - firstOf[k];
    return fitting(balls[firstOf[k] + Math.min(count - 1, Math.floor(along * count))]);
  });
  const count = rim.x.length;
  const next = new Int32Array(count);
  const startOf = new Int32Array(s.count);
  for (let i = count - 1; i >= 0; i--) startOf[rim.edge[i]] = i;
  for (let i = 0; i < count; i++) {
    const k = rim.edge[i];
    next[i] = i + 1 < count && rim.edge[i + 1] === k ? i + 1 : startOf[s.next[k]];
  }
  const spread = new Spread(coarsest);
  /** A row of points inward from a place on the outline. */
  const inward = (x: number, y: number, [nx, ny]: [number, number], spacing: number, own: number[]) => {
    const ball = ballAt(rough, x, y, nx, ny, own);
    if (!Number.isFinite(ball) || ball < finest * 0.25) return;
    let before = 0;
    for (let j = 1; j <= rowCount; j++) {
      const at = ball * (1 - cos((Math.PI / 2) * (j / rowCount)));
      spread.add(x + nx * at, y + ny * at, CROWDED * Math.min(at - before, spacing));
      before = at;
    }
  };
  for (let i = 0; i < count; i++) {
    const k = rim.edge[i];
    const spacing = Math.hypot(rim.x[next[i]] - rim.x[i], rim.y[next[i]] - rim.y[i]);
    if (startOf[k] !== i) {
      inward(rim.x[i], rim.y[i], [rim.nx[i], rim.ny[i]], spacing, [k]);
      continue;
    }
    // a corner: one row along the bisector, or a fan round a reflex one
    const rows = s.turn[k] < -FAN ? Math.ceil(-s.turn[k] / FAN) : 0;
    for (let j = 0; j <= rows; j++) {
      inward(rim.x[i], rim.y[i], bisector(s, k, rows === 0 ? 0.5 : j / rows), spacing, [k, s.previous[k]]);
    }
  }
  const contours: Contour[] = [];
  const order: number[] = [];
  const done = new Uint8Array(count);
  for (let start = 0; start < count; start++) {
    if (done[start]) continue;
    const points: number[] = [];
    for (let i = start; !done[i]; i = next[i]) {
      done[i] = 1;
      order.push(i);
      points.push(rim.x[i], rim.y[i]);
    }
    contours.push(Float64Array.from(points));
  }
  const place = new Int32Array(count);
  order.forEach((i, at) => (place[i] = at));
  const x = order.map((i) => rim.x[i]);
  const y = order.map((i) => rim.y[i]);
  for (let i = 0; i < spread.points.length; i += 2) {
    x.push(spread.points[i]);
    y.push(spread.points[i + 1]);
  }
  return {
    x,
    y,
    rim: count,
    steps: order.map((i) => [rim.edge[i], place[i], place[next[i]]]),
    triangles: triangulate(contours, spread.points),
  };
}

/** Largest error of the solution, relative, and most rounds of the conjugate gradients. */
const SOLVED = 1e-7;
const MOST_ROUNDS = 4000;

/** The torsion function on a mesh, by linear finite elements and conjugate gradients. */
function torsion({ x, y, rim, triangles }: Pick<Mesh, 'x' | 'y' | 'rim' | 'triangles'>): Float64Array {
  const n = x.length;
  const load = new Float64Array(n);
  const diagonal = new Float64Array(n);
  const [from, to, weight]: [number[], number[], number[]] = [[], [], []];
  for (let t = 0; t < triangles.length; t += 3) {
    const corners = [triangles[t], triangles[t + 1], triangles[t + 2]];
    const [a, b, c] = corners;
    const twice = (x[b] - x[a]) * (y[c] - y[a]) - (x[c] - x[a]) * (y[b] - y[a]);
    if (twice <= 1e-12) continue;
    corners.forEach((i, k) => {
      const [p, q] = [corners[(k + 1) % 3], corners[(k + 2) % 3]];
      load[i] += twice / 6;
      // half the cotangent of the angle at i couples the other two
      const w = ((x[p] - x[i]) * (x[q] - x[i]) + (y[p] - y[i]) * (y[q] - y[i])) / (2 * twice);
      from.push(p);
      to.push(q);
      weight.push(w);
      diagonal[p] += w;
      diagonal[q] += w;
    });
  }
  const multiply = (v: Float64Array, out: Float64Array) => {
    for (let i = 0; i < n; i++) out[i] = diagonal[i] * v[i];
    for (let e = 0; e < weight.length; e++) {
      out[from[e]] -= weight[e] * v[to[e]];
      out[to[e]] -= weight[e] * v[from[e]];
    }
    out.fill(0, 0, rim);
  };
  const u = new Float64Array(n);
  const r = load.slice();
  r.fill(0, 0, rim);
  const z = new Float64Array(n);
  const p = new Float64Array(n);
  const ap = new Float64Array(n);
  const precondition = () => {
    for (let i = rim; i < n; i++) z[i] = diagonal[i] > 0 ? r[i] / diagonal[i] : 0;
  };
  const dot = (a: Float64Array, b: Float64Array) => {
    let sum = 0;
    for (let i = rim; i < n; i++) sum += a[i] * b[i];
    return sum;
  };
  precondition();
  p.set(z);
  let rz = dot(r, z);
  const goal = rz * SOLVED * SOLVED;
  for (let round = 0; round < MOST_ROUNDS && rz > goal; round++) {
    multiply(p, ap);
    const step = rz / dot(p, ap);
    for (let i = rim; i < n; i++) {
      u[i] += step * p[i];
      r[i] -= step * ap[i];
    }
    precondition();
    const next = dot(r, z);
    for (let i = rim; i < n; i++) p[i] = z[i] + (next / rz) * p[i];
    rz = next;
  }
  return u;
}

/** Heights above the outline. */
function heightsOf(u: Float64Array, { form, pressure }: DomeShape): Float64Array {
  // rounding may leave specks below zero
  const round = u.map((v) => Math.sqrt(2 * Math.max(0, v)));
  if (form === 'rounded') return round;
  const fattest = round.reduce((a, b) => Math.max(a, b), 0);
  return fattest > 0 ? u.map((v) => (pressure * 2 * Math.max(0, v)) / fattest) : round;
}

/** The dome as a sheet over z = 0. */
function domeSheet(mesh: Mesh, outline: Outline, height: Float64Array, upright: boolean): Sheet {
  const { x, y, rim, triangles, steps } = mesh;
  const normals = new Float64Array(x.length * 3);
  for (let t = 0; t < triangles.length; t += 3) {
    const corners = [triangles[t], triangles[t + 1], triangles[t + 2]];
    const [a, b, c] = corners;
    const [e, f] = [b, c].map((i) => [x[i] - x[a], y[i] - y[a], height[i] - height[a]]);
    const normal = [e[1] * f[2] - e[2] * f[1], e[2] * f[0] - e[0] * f[2], e[0] * f[1] - e[1] * f[0]];
    const l = Math.hypot(...normal) || 1;
    corners.forEach((i, k) => {
      const [p, q] = [corners[(k + 1) % 3], corners[(k + 2) % 3]];
      const [ux, uy, uz] = [x[p] - x[i], y[p] - y[i], height[p] - height[i]];
      const [vx, vy, vz] = [x[q] - x[i], y[q] - y[i], height[q] - height[i]];
      const cosine = (ux * vx + uy * vy + uz * vz) / (Math.hypot(ux, uy, uz) * Math.hypot(vx, vy, vz) || 1);
      // each triangle weighs by its angle (Thürmer and Wüthrich, 1998)
      const w = acos(Math.min(1, Math.max(-1, cosine))) / l;
      for (let d = 0; d < 3; d++) normals[i * 3 + d] += normal[d] * w;
    });
  }
  if (upright) {
    // round letters leave their outline upright
    normals.fill(0, 0, rim * 3);
    for (const [edge, a, b] of steps) {
      for (const i of [a, b]) {
        const { normal } = outline.at(edge, x[i], y[i]);
        normals[i * 3] += normal[0];
        normals[i * 3 + 1] += normal[1];
      }
    }
  }
  const sheet = new Sheet();
  for (const i of triangles) {
    const [nx, ny, nz] = [normals[i * 3], normals[i * 3 + 1], normals[i * 3 + 2]];
    const l = Math.hypot(nx, ny, nz) || 1;
    // along the line of text, in the surface
    const [tx, tz] = [nz / l, -nx / l];
    const k = Math.hypot(tx, tz);
    const flat = k > 1e-3;
    sheet.corner(
      x[i],
      y[i],
      height[i],
      nx / l,
      ny / l,
      nz / l,
      flat ? tx / k : 1,
      0,
      flat ? tz / k : 0,
      x[i],
      y[i],
    );
  }
  return sheet;
}

/**
 * A letter as two domes, back to back on an upright side that may have no height; flat when its outline is too
 * intricate (MOST_DOMED).
 * @param region merged contours, outers counter-clockwise, holes clockwise
 */
export function buildDome(region: Contour[], shape: DomeShape): Solid {
  const sites = sitesOf(region);
  if (sites.count > MOST_DOMED) {
    const none = newBevel({ width: 0, height: 0, profile: 'straight', segments: 1 });
    return buildSolid(region, { depth: shape.depth, front: none, back: none });
  }
  const mesh = meshOf(sites, Math.max(1, pow(shape.coarseness ?? 1, 1 / 3)));
  const outline = new Outline(sites);
  const height = heightsOf(torsion(mesh), shape);
  const dome = domeSheet(mesh, outline, height, shape.form === 'rounded');
  const side = new Sheet();
  wall(side, outline, mesh.steps, mesh, 0, shape.depth, -shape.depth);
  const placed = (sheet: Sheet, offset: number, sign: 1 | -1): PlacedSheet => ({
    sheet,
    offset,
    sign,
    acrossAt: null,
    rolledOut: null,
  });
  const none = placed(new Sheet(), 0, 1);
  const sheets = [
    placed(dome, shape.depth, 1),
    none,
    { ...placed(side, 0, 1), acrossAt: 0, rolledOut: 0 },
    none,
    placed(dome, 0, -1),
  ];
  return { ...assemble(SOLID_ZONES, sheets), limits: null };
}
