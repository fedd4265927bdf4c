/** A table top: a slab with corners rounded as seen from above, and edges broken so that they catch light. */
import { cos, sin } from '../maths/reproducible.ts';
import { TriangleList, type Corner, type Triangles } from './triangles.ts';

/** Radius of a broken edge, metres, and as a share of the thickness at most. */
const EDGE = 0.003;
const EDGE_SHARE = 0.25;
const EDGE_STEPS = 5;
/** Chords of a rounded corner. */
const CORNER_STEPS = 16;

interface OutlinePoint {
  x: number;
  z: number;
  /** What it faces, outward. */
  nx: number;
  nz: number;
  /** Way round to it. */
  along: number;
}

/** A rounded rectangle about the origin, counter-clockwise as seen from above, closed by its first point again. */
function outlineOf(width: number, depth: number, radius: number): OutlinePoint[] {
  const r = Math.max(1e-5, Math.min(radius, width / 2, depth / 2));
  const out: OutlinePoint[] = [];
  for (let k = 0; k <= 4; k++)
    for (let i = 0; i <= (k === 4 ? 0 : CORNER_STEPS); i++) {
      const a = (Math.PI / 2) * ((k % 4) + i / CORNER_STEPS);
      const [nx, nz] = [cos(a), -sin(a)];
      const [sx, sz] = [k % 4 === 0 || k % 4 === 3 ? 1 : -1, k % 4 < 2 ? -1 : 1];
      const [x, z] = [sx * (width / 2 - r) + r * nx, sz * (depth / 2 - r) + r * nz];
      const last = out.at(-1);
      out.push({ x, z, nx, nz, along: last ? last.along + Math.hypot(x - last.x, z - last.z) : 0 });
    }
  return out;
}

/** A slab whose top is at y = 0, about the origin. Lengths in metres. */
export function tableTriangles(width: number, depth: number, thickness: number, radius: number): Triangles {
  const edge = Math.min(EDGE, thickness * EDGE_SHARE, width / 4, depth / 4);
  // corners are rounder than edges, so that none comes to a point
  const outline = outlineOf(width, depth, Math.max(radius, 2 * edge));
  const list = new TriangleList();
  /** Down the side: how far in, how deep, and what it faces, out and up. */
  const section: { inset: number; y: number; out: number; up: number }[] = [];
  for (let i = 0; i <= EDGE_STEPS; i++) {
    const a = (Math.PI / 2) * (i / EDGE_STEPS);
    section.push({ inset: edge * (1 - sin(a)), y: -edge * (1 - cos(a)), out: sin(a), up: cos(a) });
  }
  for (let i = 0; i <= EDGE_STEPS; i++) {
    const a = (Math.PI / 2) * (i / EDGE_STEPS);
    section.push({
      inset: edge * (1 - cos(a)),
      y: -thickness + edge * (1 - sin(a)),
      out: cos(a),
      up: -sin(a),
    });
  }
  const flat = (p: OutlinePoint, up: 1 | -1): Corner => {
    const [x, z] = [p.x - p.nx * edge, p.z - p.nz * edge];
    return { at: [x, up > 0 ? 0 : -thickness, z], normal: [0, up, 0], tangent: [1, 0, 0], uv: [x, -z] };
  };
  const middle = (up: 1 | -1): Corner => ({
    at: [0, up > 0 ? 0 : -thickness, 0],
    normal: [0, up, 0],
    tangent: [1, 0, 0],
    uv: [0, 0],
  });
  for (let i = 1; i < outline.length; i++) {
    const [p, q] = [outline[i - 1], outline[i]];
    if (p.x === q.x && p.z === q.z) continue;
    list.add(middle(1), flat(p, 1), flat(q, 1));
    list.add(middle(-1), flat(q, -1), flat(p, -1));
    let down = 0;
    for (let k = 1; k < section.length; k++) {
      const [a, b] = [section[k - 1], section[k]];
      const next = down + Math.hypot(a.inset - b.inset, a.y - b.y);
      const corner = (o: OutlinePoint, s: (typeof section)[number], v: number): Corner => ({
        at: [o.x - o.nx * s.inset, s.y, o.z - o.nz * s.inset],
        normal: [o.nx * s.out, s.up, o.nz * s.out],
        tangent: [o.nz, 0, -o.nx],
        // beside the top as it lies unrolled
        uv: [o.along, -depth / 2 - v],
      });
      list.face(corner(p, b, next), corner(q, b, next), corner(q, a, down), corner(p, a, down));
      down = next;
    }
  }
  return list.done();
}
