/** A grid of lines with a square section, upright in the plane z = 0. */
import { TriangleList, type Corner, type Triangles } from './triangles.ts';

/** Lines each way at most: beyond, only so many stand about the middle. */
const MOST_LINES = 200;
/** Pieces of each line, so that its light is told apart along it. */
const PIECES = 8;

/** Places of lines about the middle, one in it, within half a width. */
function places(width: number, spacing: number): number[] {
  const each = Math.min(Math.floor(width / 2 / spacing + 1e-9), Math.floor((MOST_LINES - 1) / 2));
  return Array.from({ length: 2 * each + 1 }, (_, i) => (i - each) * spacing);
}

/** @param width about the middle @param height up from y = 0; lengths in metres */
export function gridTriangles(width: number, height: number, spacing: number, thickness: number): Triangles {
  const list = new TriangleList();
  const across = places(width, spacing);
  const up = places(height, spacing).map((y) => y + height / 2);
  const half = thickness / 2;
  const reach = Math.min(width / 2, (across.length - 1) * spacing * 0.5 + half);
  /** A bar about `at`, from `from` to `to` along an axis of the plane. */
  const bar = (upright: boolean, at: number, from: number, to: number) => {
    for (let k = 0; k < PIECES; k++) {
      const [a, b] = [k, k + 1].map((i) => from + ((to - from) * i) / PIECES);
      for (const [nx, nz] of [
        [0, 1],
        [1, 0],
        [0, -1],
        [-1, 0],
      ]) {
        // the side's own across is the normal turned about the bar
        const corner = (along: number, side: number): Corner => {
          const off = nx * half + side * half * nz;
          const z = nz * half - side * half * nx;
          const normal = upright ? ([nx, 0, nz] as const) : ([0, nx, nz] as const);
          return {
            at: upright ? [at + off, along, z] : [along, at + off, z],
            normal,
            tangent: upright ? [0, 1, 0] : [1, 0, 0],
            uv: upright ? [at + off, along] : [along, at + off],
          };
        };
        if (upright) list.face(corner(a, -1), corner(a, 1), corner(b, 1), corner(b, -1));
        else list.face(corner(a, 1), corner(a, -1), corner(b, -1), corner(b, 1));
      }
    }
  };
  for (const x of across) bar(true, x, up[0] - half, up[up.length - 1] + half);
  for (const y of up) bar(false, y, -reach, reach);
  return list.done();
}
