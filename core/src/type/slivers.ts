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

function trianglesOf({ positions, normals, tangents, uv, zoneStarts }: Omit<Solid, 'limits'>): Triangle[] {
  const out: Triangle[] = [];
  for (let zone = 0; zone + 1 < zoneStarts.length; zone++) {
    for (let t = zoneStarts[zone]; t < zoneStarts[zone + 1]; t++) {
      const corners = [0, 1, 2].map((k) => {
        const corner = new Float32Array(CORNER);
        const i = t * 3 + k;
        corner.set(positions.subarray(i * 3, i * 3 + 3));
        corner.set(normals.subarray(i * 3, i * 3 + 3), 3);
        corner.set(tangents.subarray(i * 3, i * 3 + 3), 6);
        corner.set(uv.subarray(i * 4, i * 4 + 4), 9);
        return corner;
      });
      out.push({ zone, corners });
    }
  }
  return out;
}

function hasSlivers(p: Float32Array): boolean {
  for (let t = 0; t < p.length; t += 9) {
    const [ux, uy, uz] = [p[t + 3] - p[t], p[t + 4] - p[t + 1], p[t + 5] - p[t + 2]];
    const [vx, vy, vz] = [p[t + 6] - p[t], p[t + 7] - p[t + 1], p[t + 8] - p[t + 2]];
    const area2 = (uy * vz - uz * vy) ** 2 + (uz * vx - ux * vz) ** 2 + (ux * vy - uy * vx) ** 2;
    const side2 = Math.max(
      ux * ux + uy * uy + uz * uz,
      vx * vx + vy * vy + vz * vz,
      (vx - ux) ** 2 + (vy - uy) ** 2 + (vz - uz) ** 2,
    );
    if (area2 < LEAST_HEIGHT * LEAST_HEIGHT * side2 || side2 === 0) return true;
  }
  return false;
}

/** One round; true when something was mended. */
function mend(triangles: Triangle[]): boolean {
  const slivers = triangles.filter((t) => heightOf(t.corners) < LEAST_HEIGHT);
  // who lies across each sliver's longest side
  const across = new Map<string, Triangle | null>();
  for (const { corners } of slivers) {
    const k = longest(corners);
    across.set(nameOf(corners[(k + 1) % 3], corners[k]), null);
  }
  const xs = new Set(slivers.flatMap((s) => s.corners.map((c) => c[0])));
  for (const t of triangles) {
    for (let k = 0; k < 3; k++) {
      const [a, b] = [t.corners[k], t.corners[(k + 1) % 3]];
      if (!xs.has(a[0]) || !xs.has(b[0])) continue;
      const name = nameOf(a, b);
      if (across.has(name)) across.set(name, t);
    }
  }
  const touched = new Set<Triangle>();
  for (const sliver of slivers) {
    if (touched.has(sliver)) continue;
    const { corners } = sliver;
    const k = longest(corners);
    const [from, to, tip] = [corners[k], corners[(k + 1) % 3], corners[(k + 2) % 3]];
    const other = across.get(nameOf(to, from));
    if (!other || touched.has(other) || other === sliver) continue;
    const j = other.corners.findIndex((c, i) => same(c, to) && same(other.corners[(i + 1) % 3], from));
    const [p, q, far] = [other.corners[j], other.corners[(j + 1) % 3], other.corners[(j + 2) % 3]];
    if (same(far, tip)) continue;
    const middle = between(p, q, tip);
    const halves = [
      [p, middle, far],
      [middle, q, far],
    ];
    const before = Math.min(heightOf(corners), heightOf(other.corners));
    if (Math.min(...halves.map(heightOf)) <= before) continue;
    [sliver.corners, other.corners] = halves;
    sliver.zone = other.zone;
    touched.add(sliver).add(other);
  }
  return touched.size > 0;
}

/** The solid without triangles lower than LEAST_HEIGHT, as far as splitting others takes them away. */
export function withoutSlivers<S extends Omit<Solid, 'limits'>>(solid: S): S {
  if (!hasSlivers(solid.positions)) return solid;
  // folded to a line between two corners in one place, they bound nothing
  let triangles = trianglesOf(solid).filter(
    ({ corners: [a, b, c] }) => !same(a, b) && !same(b, c) && !same(c, a),
  );
  for (let round = 0; round < MOST_ROUNDS && mend(triangles); round++);
  triangles = solid.zones.flatMap((_, zone) => triangles.filter((t) => t.zone === zone));
  const floats = (from: number, count: number) => {
    const out = new Float32Array(triangles.length * 3 * count);
    triangles.forEach(({ corners }, t) =>
      corners.forEach((c, k) => out.set(c.subarray(from, from + count), (t * 3 + k) * count)),
    );
    return out;
  };
  const zoneStarts = new Uint32Array(solid.zones.length + 1);
  for (const { zone } of triangles) zoneStarts[zone + 1]++;
  for (let z = 1; z < zoneStarts.length; z++) zoneStarts[z] += zoneStarts[z - 1];
  return {
    ...solid,
    positions: floats(0, 3),
    normals: floats(3, 3),
    tangents: floats(6, 3),
    uv: floats(9, 4),
    zoneStarts,
  };
}
