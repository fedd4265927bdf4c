/**
 * Takes slivers out of a solid. Where a cell of a bevel is folded flat, triangles remain whose corner lies on their
 * longest side; the triangle across that side is split there instead, and the solid stays closed and where it is.
 */
import type { Solid } from './sheet.ts';

/** Triangles lower than this over their longest side are slivers, thousandths of an em. */
export const LEAST_HEIGHT = 2e-4;
/** Slivers lean on each other in chains; each round undoes one link of all. */
const MOST_ROUNDS = 24;
/** Floats of a corner: position, normal, tangent, texture coordinates. */
const CORNER = 13;

interface Triangle {
  zone: number;
  /** Three corners. */
  corners: Float32Array[];
}

type Arrays = Omit<Solid, 'limits'>;

const apart = (a: Float32Array, b: Float32Array) => Math.hypot(b[0] - a[0], b[1] - a[1], b[2] - a[2]);
const same = (a: Float32Array, b: Float32Array) => a[0] === b[0] && a[1] === b[1] && a[2] === b[2];
const nameOf = (a: Float32Array, b: Float32Array) => `${a[0]},${a[1]},${a[2]}/${b[0]},${b[1]},${b[2]}`;

/** Twice the area. */
function doubled([a, b, c]: Float32Array[]): number {
  const [ux, uy, uz] = [b[0] - a[0], b[1] - a[1], b[2] - a[2]];
  const [vx, vy, vz] = [c[0] - a[0], c[1] - a[1], c[2] - a[2]];
  return Math.hypot(uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx);
}

/** Which side is longest: the one from corner k to the next. */
function longest(corners: Float32Array[]): number {
  const l = [0, 1, 2].map((k) => apart(corners[k], corners[(k + 1) % 3]));
  return l.indexOf(Math.max(...l));
}

/** Least height. */
function heightOf(corners: Float32Array[]): number {
  const k = longest(corners);
  const side = apart(corners[k], corners[(k + 1) % 3]);
  return side > 0 ? doubled(corners) / side : 0;
}

/** A corner of the side from a to b, at another corner's place. */
function between(a: Float32Array, b: Float32Array, at: Float32Array): Float32Array {
  const [dx, dy, dz] = [b[0] - a[0], b[1] - a[1], b[2] - a[2]];
  const along = (at[0] - a[0]) * dx + (at[1] - a[1]) * dy + (at[2] - a[2]) * dz;
  const t = along / (dx * dx + dy * dy + dz * dz);
  const out = a.map((v, i) => v + (b[i] - v) * t);
  for (const from of [3, 6]) {
    const l = Math.hypot(out[from], out[from + 1], out[from + 2]) || 1;
    for (let i = from; i < from + 3; i++) out[i] /= l;
  }
  out.set(at.subarray(0, 3));
  // the plane's own coordinates
  out.set(at.subarray(0, 2), 11);
  return out;
}

/** A solid's triangles, taken out of its arrays only where something changes. */
class Triangles {
  readonly count: number;
  readonly changed = new Map<number, Triangle>();
  private readonly solid: Arrays;

  constructor(solid: Arrays) {
    this.solid = solid;
    this.count = solid.positions.length / 9;
  }

  at(t: number): Triangle {
    const known = this.changed.get(t);
    if (known) return known;
    const { positions, normals, tangents, uv, zoneStarts } = this.solid;
    const corners = [0, 1, 2].map((k) => {
      const corner = new Float32Array(CORNER);
      const i = t * 3 + k;
      corner.set(positions.subarray(i * 3, i * 3 + 3));
      corner.set(normals.subarray(i * 3, i * 3 + 3), 3);
      corner.set(tangents.subarray(i * 3, i * 3 + 3), 6);
      corner.set(uv.subarray(i * 4, i * 4 + 4), 9);
      return corner;
    });
    let zone = 0;
    while (zoneStarts[zone + 1] <= t) zone++;
    return { zone, corners };
  }

  /** Sides that can be among those between some places, by name, with their triangle. @param xs of the places */
  *sides(xs: ReadonlySet<number>): Generator<[string, number]> {
    const p = this.solid.positions;
    for (let t = 0; t < this.count; t++) {
      const changed = this.changed.get(t);
      for (let k = 0; k < 3; k++) {
        const [i, j] = [t * 9 + k * 3, t * 9 + ((k + 1) % 3) * 3];
        if (changed) yield [nameOf(changed.corners[k], changed.corners[(k + 1) % 3]), t];
        else if (xs.has(p[i]) && xs.has(p[j])) yield [nameOf(p.subarray(i, i + 3), p.subarray(j, j + 3)), t];
      }
    }
  }
}

/** Indices of the triangles that are too low. */
function sliversOf(p: Float32Array): number[] {
  const found: number[] = [];
  for (let t = 0; t < p.length; t += 9) {
    const ux = p[t + 3] - p[t];
    const uy = p[t + 4] - p[t + 1];
    const uz = p[t + 5] - p[t + 2];
    const vx = p[t + 6] - p[t];
    const vy = p[t + 7] - p[t + 1];
    const vz = p[t + 8] - p[t + 2];
    const area2 = (uy * vz - uz * vy) ** 2 + (uz * vx - ux * vz) ** 2 + (ux * vy - uy * vx) ** 2;
    const side2 = Math.max(
      ux * ux + uy * uy + uz * uz,
      vx * vx + vy * vy + vz * vz,
      (vx - ux) ** 2 + (vy - uy) ** 2 + (vz - uz) ** 2,
    );
    if (area2 < LEAST_HEIGHT * LEAST_HEIGHT * side2 || side2 === 0) found.push(t / 9);
  }
  return found;
}

/** One round over some slivers; returns those that are left, which may be others. */
function mend(triangles: Triangles, slivers: readonly number[]): { mended: boolean; left: number[] } {
  // who lies across each sliver's longest side
  const across = new Map<string, number>();
  for (const t of slivers) {
    const { corners } = triangles.at(t);
    const k = longest(corners);
    across.set(nameOf(corners[(k + 1) % 3], corners[k]), -1);
  }
  const xs = new Set(slivers.flatMap((t) => triangles.at(t).corners.map((c) => c[0])));
  for (const [name, t] of triangles.sides(xs)) if (across.has(name)) across.set(name, t);
  const touched = new Set<number>();
  for (const t of slivers) {
    if (touched.has(t)) continue;
    const sliver = triangles.at(t);
    const k = longest(sliver.corners);
    const [from, to, tip] = [0, 1, 2].map((i) => sliver.corners[(k + i) % 3]);
    const o = across.get(nameOf(to, from)) ?? -1;
    if (o < 0 || o === t || touched.has(o)) continue;
    const other = triangles.at(o);
    const j = other.corners.findIndex((c, i) => same(c, to) && same(other.corners[(i + 1) % 3], from));
    const [p, q, far] = [0, 1, 2].map((i) => other.corners[(j + i) % 3]);
    if (same(far, tip)) continue;
    const middle = between(p, q, tip);
    const halves = [
      [p, middle, far],
      [middle, q, far],
    ];
    const before = Math.min(heightOf(sliver.corners), heightOf(other.corners));
    if (Math.min(...halves.map(heightOf)) <= before) continue;
    triangles.changed.set(t, { zone: other.zone, corners: halves[0] });
    triangles.changed.set(o, { zone: other.zone, corners: halves[1] });
    touched.add(t).add(o);
  }
  const left = [...new Set([...slivers, ...touched])].filter(
    (t) => heightOf(triangles.at(t).corners) < LEAST_HEIGHT,
  );
  return { mended: touched.size > 0, left };
}

/** The arrays with the changed triangles in their zones, and without some. */
function gathered<S extends Arrays>(solid: S, { changed }: Triangles, dropped: ReadonlySet<number>): S {
  const { zoneStarts } = solid;
  /** Stretches of triangles that stay as they are, from and to, and changed ones, for each zone. */
  const zones = solid.zones.map((_, zone) => {
    const runs: [number, number][] = [];
    for (let t = zoneStarts[zone]; t < zoneStarts[zone + 1]; t++) {
      if (changed.has(t) || dropped.has(t)) continue;
      const last = runs.at(-1);
      if (last && last[1] === t) last[1]++;
      else runs.push([t, t + 1]);
    }
    return { runs, made: [...changed.values()].filter((c) => c.zone === zone) };
  });
  const starts = new Uint32Array(zones.length + 1);
  zones.forEach(({ runs, made }, z) => {
    starts[z + 1] = starts[z] + made.length + runs.reduce((sum, [from, to]) => sum + to - from, 0);
  });
  const floats = (source: Float32Array, offset: number, each: number) => {
    const out = new Float32Array(starts[zones.length] * 3 * each);
    let at = 0;
    const put = (values: Float32Array) => {
      out.set(values, at);
      at += values.length;
    };
    for (const { runs, made } of zones) {
      for (const [from, to] of runs) put(source.subarray(from * 3 * each, to * 3 * each));
      for (const { corners } of made) for (const c of corners) put(c.subarray(offset, offset + each));
    }
    return out;
  };
  return {
    ...solid,
    positions: floats(solid.positions, 0, 3),
    normals: floats(solid.normals, 3, 3),
    tangents: floats(solid.tangents, 6, 3),
    uv: floats(solid.uv, 9, 4),
    zoneStarts: starts,
  };
}

/** The solid without triangles lower than LEAST_HEIGHT, as far as splitting others takes them away. */
export function withoutSlivers<S extends Arrays>(solid: S): S {
  const all = sliversOf(solid.positions);
  if (all.length === 0) return solid;
  const triangles = new Triangles(solid);
  // folded to a line between two corners in one place, they bound nothing
  const folded = (t: number) => {
    const [a, b, c] = triangles.at(t).corners;
    return same(a, b) || same(b, c) || same(c, a);
  };
  const dropped = new Set(all.filter(folded));
  let left = all.filter((t) => !dropped.has(t));
  for (let round = 0; round < MOST_ROUNDS && left.length > 0; round++) {
    const done = mend(triangles, left);
    if (!done.mended) break;
    left = done.left;
  }
  return gathered(solid, triangles, dropped);
}
