/** A part of a letter laid flat into a picture: coordinates of its corners, and which place of it each texel shows. */
import { ZONES, type Zone } from '../document/index.ts';
import { composed, scaleOf } from './transform.ts';
import type { RenderScene } from './renderScene.ts';

/** Room about what lies beside each other in the picture, texels. */
const GAP = 2;
/** Zones that lie in the plane of the letter. */
const PLANE: readonly Zone[] = ['front', 'back'];

export interface FlatPart {
  /** Two for each corner, 0 … 1 from the picture's left and top. */
  coordinates: Float32Array;
  width: number;
  height: number;
  /** Width of a texel, metres. */
  texel: number;
  /** Triangle of the part that each texel shows, −1 where there is none; and where in it: weights of its 2nd and 3rd corner. */
  triangle: Int32Array;
  weights: Float32Array;
}

/** Numbers pieces of a part: triangles that share a corner are of one piece. */
function piecesOf(positions: Float32Array, first: number, count: number): Int32Array {
  const leader = Int32Array.from({ length: count }, (_, t) => t);
  const of = (t: number): number => {
    while (leader[t] !== t) t = leader[t] = leader[leader[t]];
    return t;
  };
  const at = new Map<string, number>();
  for (let t = 0; t < count; t++)
    for (let k = 0; k < 3; k++) {
      const p = (first + t) * 9 + k * 3;
      const key = `${positions[p]} ${positions[p + 1]} ${positions[p + 2]}`;
      const known = at.get(key);
      if (known === undefined) at.set(key, t);
      else leader[of(t)] = of(known);
    }
  return leader.map((_, t) => of(t));
}

/**
 * Lays a part flat: fronts and backs in their plane, all else along its outline, pieces below each other.
 * @param most texels of the longer side
 */
export function flatPart(scene: RenderScene, part: number, most: number): FlatPart {
  const { parts, instances, placements, solids } = scene;
  const instance = parts.instance[part];
  const { positions, uv } = solids[instances.solid[instance]];
  const [first, count] = [parts.first[part], parts.triangles[part]];
  const inPlane = PLANE.includes(ZONES[parts.zone[part]]);
  const unit = scaleOf(composed(placements.now, instances.placement[instance], instances.local, instance));
  const plane = new Float32Array(count * 6);
  for (let i = 0; i < count * 3; i++) {
    const from = (first * 3 + i) * 4 + (inPlane ? 2 : 0);
    plane[i * 2] = uv[from] * unit;
    plane[i * 2 + 1] = -uv[from + 1] * unit;
  }
  const piece = inPlane ? new Int32Array(count) : piecesOf(positions, first, count);
  const boxes = new Map<number, [number, number, number, number]>();
  for (let i = 0; i < count * 3; i++) {
    const key = piece[Math.floor(i / 3)];
    const box = boxes.get(key) ?? [Infinity, Infinity, -Infinity, -Infinity];
    const [x, y] = [plane[i * 2], plane[i * 2 + 1]];
    boxes.set(key, [Math.min(box[0], x), Math.min(box[1], y), Math.max(box[2], x), Math.max(box[3], y)]);
  }
  const sides = [...boxes.values()].map(([x0, y0, x1, y1]) => [x1 - x0, y1 - y0]);
  const wide = Math.max(...sides.map((s) => s[0]));
  const high = sides.reduce((sum, s) => sum + s[1], 0);
  const texel = Math.max(wide, high, 1e-9) / (most - GAP * (sides.length + 1));
  const width = Math.max(1, Math.ceil(wide / texel) + 2 * GAP);
  const shifts = new Map<number, [number, number]>();
  let down = GAP;
  for (const [key, [x0, y0, , y1]] of boxes) {
    shifts.set(key, [GAP - x0 / texel, down - y0 / texel]);
    down += Math.ceil((y1 - y0) / texel) + GAP;
  }
  const height = Math.max(1, down);
  // in texels
  const laid = new Float32Array(count * 6);
  for (let i = 0; i < count * 3; i++) {
    const [dx, dy] = shifts.get(piece[Math.floor(i / 3)])!;
    laid[i * 2] = plane[i * 2] / texel + dx;
    laid[i * 2 + 1] = plane[i * 2 + 1] / texel + dy;
  }
  const triangle = new Int32Array(width * height).fill(-1);
  const weights = new Float32Array(width * height * 2);
  for (let t = 0; t < count; t++) fill(laid, t, width, height, triangle, weights);
  const coordinates = laid.map((v, i) => v / (i % 2 === 0 ? width : height));
  return { coordinates, width, height, texel, triangle, weights };
}

/** Finds normals in the world, of length one, by a part's triangles and weights of their 2nd and 3rd corners. */
export function normalsOf(scene: RenderScene, part: number) {
  const { parts, instances, placements, solids } = scene;
  const instance = parts.instance[part];
  const { normals } = solids[instances.solid[instance]];
  const m = composed(placements.now, instances.placement[instance], instances.local, instance);
  return (triangle: number, w1: number, w2: number): [number, number, number] => {
    const at = (parts.first[part] + triangle) * 9;
    const mean = (k: number) =>
      (1 - w1 - w2) * normals[at + k] + w1 * normals[at + 3 + k] + w2 * normals[at + 6 + k];
    const [x, y, z] = [mean(0), mean(1), mean(2)];
    const nx = m[0] * x + m[1] * y + m[2] * z;
    const ny = m[4] * x + m[5] * y + m[6] * z;
    const nz = m[8] * x + m[9] * y + m[10] * z;
    const length = Math.sqrt(nx * nx + ny * ny + nz * nz) || 1;
    return [nx / length, ny / length, nz / length];
  };
}

/** A texel beside a triangle shows the nearest place of it, so that edges have something to be blended with. */
const BESIDE = 0.75;

function fill(
  laid: Float32Array,
  t: number,
  width: number,
  height: number,
  triangle: Int32Array,
  weights: Float32Array,
): void {
  const [ax, ay, bx, by, cx, cy] = laid.subarray(t * 6, t * 6 + 6);
  const area = (bx - ax) * (cy - ay) - (cx - ax) * (by - ay);
  if (Math.abs(area) < 1e-9) return;
  const x0 = Math.max(0, Math.floor(Math.min(ax, bx, cx) - BESIDE));
  const x1 = Math.min(width - 1, Math.ceil(Math.max(ax, bx, cx) + BESIDE));
  const y0 = Math.max(0, Math.floor(Math.min(ay, by, cy) - BESIDE));
  const y1 = Math.min(height - 1, Math.ceil(Math.max(ay, by, cy) + BESIDE));
  // how much a weight changes over a texel, at most
  const reach = (dx: number, dy: number) => (BESIDE * Math.sqrt(dx * dx + dy * dy)) / Math.abs(area);
  const [r0, r1, r2] = [reach(cx - bx, cy - by), reach(cx - ax, cy - ay), reach(bx - ax, by - ay)];
  for (let y = y0; y <= y1; y++)
    for (let x = x0; x <= x1; x++) {
      const [px, py] = [x + 0.5, y + 0.5];
      const w1 = ((px - ax) * (cy - ay) - (cx - ax) * (py - ay)) / area;
      const w2 = ((bx - ax) * (py - ay) - (px - ax) * (by - ay)) / area;
      const w0 = 1 - w1 - w2;
      if (w0 < -r0 || w1 < -r1 || w2 < -r2) continue;
      const isInside = w0 >= 0 && w1 >= 0 && w2 >= 0;
      const at = y * width + x;
      // what is inside of a triangle wins over what is only beside another
      if (triangle[at] >= 0 && !isInside) continue;
      const [c0, c1, c2] = [Math.max(0, w0), Math.max(0, w1), Math.max(0, w2)];
      triangle[at] = t;
      weights[at * 2] = c1 / (c0 + c1 + c2);
      weights[at * 2 + 1] = c2 / (c0 + c1 + c2);
    }
}
