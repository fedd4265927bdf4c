/** Boxes of runs of a solid's triangles: what passes by a box need not look at what is in it. */
import type { SceneSolid } from './renderScene.ts';

/** Triangles of a run: files and solids have neighbours follow each other. */
export const RUN = 128;

const known = new WeakMap<SceneSolid, Float32Array>();

/**
 * Six floats a run of `RUN` triangles from the first, the last one shorter: least x, y, z and greatest x, y, z, in the
 * solid's unit; made once a solid.
 * @param room where they are kept
 */
export function runsOf(solid: SceneSolid, room: (bytes: number) => ArrayBufferLike): Float32Array {
  let boxes = known.get(solid);
  if (!boxes) {
    boxes = new Float32Array(room(Math.ceil(solid.triangles / RUN) * 24));
    for (let run = 0; run * RUN < solid.triangles; run++)
      boxOf(solid.positions, run * RUN, Math.min(solid.triangles, (run + 1) * RUN), boxes, run * 6);
    known.set(solid, boxes);
  }
  return boxes;
}

/**
 * The box of some triangles, six floats into `out`.
 * @param first and @param last of them, the last not included
 */
export function boxOf(p: Float32Array, first: number, last: number, out: Float32Array, at: number): void {
  out.fill(Infinity, at, at + 3);
  out.fill(-Infinity, at + 3, at + 6);
  for (let i = first * 9; i < last * 9; i += 3)
    for (let k = 0; k < 3; k++) {
      const v = p[i + k];
      if (v < out[at + k]) out[at + k] = v;
      if (v > out[at + 3 + k]) out[at + 3 + k] = v;
    }
}
