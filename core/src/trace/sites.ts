/** Where each instance stands in its block, for feeds that lie over letters and blocks (SITE in kernel/layout.mjs). */
import type { RenderScene, SceneSolid } from '../scene/renderScene.ts';
import { composed, scaleOf } from '../scene/transform.ts';
import * as K from './kernelLayout.ts';

interface Bounds {
  min: number[];
  max: number[];
}

const none = (): Bounds => ({ min: [Infinity, Infinity, Infinity], max: [-Infinity, -Infinity, -Infinity] });

function widen({ min, max }: Bounds, p: ArrayLike<number>): void {
  for (let k = 0; k < 3; k++) {
    min[k] = Math.min(min[k], p[k]);
    max[k] = Math.max(max[k], p[k]);
  }
}

const known = new WeakMap<SceneSolid, Bounds>();

function boundsOf(solid: SceneSolid): Bounds {
  let bounds = known.get(solid);
  if (!bounds) {
    bounds = none();
    const { positions } = solid;
    for (let i = 0; i < positions.length; i += 3) widen(bounds, positions.subarray(i, i + 3));
    known.set(solid, bounds);
  }
  return bounds;
}

const corners = ({ min, max }: Bounds) =>
  Array.from({ length: 8 }, (_, i) => [0, 1, 2].map((k) => (i & (1 << k) ? max[k] : min[k])));

const carried = (m: ArrayLike<number>, at: number, p: readonly number[]) =>
  [0, 4, 8].map((r) => m[at + r] * p[0] + m[at + r + 1] * p[1] + m[at + r + 2] * p[2] + m[at + r + 3]);

/** Numbers of a box: its lower corner, and one over its sides; nothing along sides that have no length. */
const boxNumbers = ({ min, max }: Bounds) => ({
  low: min.map((v) => (Number.isFinite(v) ? v : 0)),
  per: min.map((v, k) => (max[k] > v ? 1 / (max[k] - v) : 0)),
});

/**
 * Sites of all instances, SITE_BYTES each.
 * @param uv address of the coordinates of each solid's triangles; 0 where they are not needed
 */
export function sitesOf(scene: RenderScene, uv: readonly number[]): Uint8Array {
  const { instances, placements, solids } = scene;
  const out = new Float32Array((instances.count * K.SITE_BYTES) / 4);
  const words = new Uint32Array(out.buffer);
  const blocks = Array.from({ length: placements.count }, none);
  for (let i = 0; i < instances.count; i++)
    for (const corner of corners(boundsOf(solids[instances.solid[i]])))
      widen(blocks[instances.placement[i]], carried(instances.local, i * 12, corner));
  for (let i = 0; i < instances.count; i++) {
    const at = (i * K.SITE_BYTES) / 4;
    const put = (offset: number, values: readonly number[]) => out.set(values, at + offset / 4);
    const p = instances.placement[i] * 12;
    const m = placements.now.subarray(p, p + 12);
    // placements only turn and shift: the way back is the turn's transpose
    for (let r = 0; r < 3; r++) {
      const [a, b, c] = [m[r], m[4 + r], m[8 + r]];
      put(K.S_XX + r * 16, [a, b, c, -(a * m[3] + b * m[7] + c * m[11])]);
    }
    const letter = boxNumbers(boundsOf(solids[instances.solid[i]]));
    const block = boxNumbers(blocks[instances.placement[i]]);
    put(K.S_LETTER_X, letter.low);
    put(K.S_UNIT, [scaleOf(composed(placements.now, instances.placement[i], instances.local, i))]);
    put(K.S_LETTER_PER_X, letter.per);
    words[at + K.S_UV / 4] = uv[instances.solid[i]];
    put(K.S_BLOCK_X, block.low);
    put(K.S_BLOCK_PER_X, block.per);
  }
  return new Uint8Array(out.buffer);
}
