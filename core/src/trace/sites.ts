/** Where each instance stands in its block, for feeds that lie over letters and blocks (SITE in kernel/layout.mjs). */
import { blockBounds, boundsOf, picturedFaces, piecesOf, wordBounds, type Bounds } from '../scene/faces.ts';
import type { RenderScene } from '../scene/renderScene.ts';
import { composed, inverseOf, scaleOf } from '../scene/transform.ts';
import * as K from './kernelLayout.ts';

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
  const blocks = blockBounds(scene);
  const pieces = piecesOf(scene);
  const spans = wordBounds(scene, blocks);
  const faces = picturedFaces(scene, blocks, spans);
  for (let i = 0; i < instances.count; i++) {
    const at = (i * K.SITE_BYTES) / 4;
    const put = (offset: number, values: readonly number[]) => out.set(values, at + offset / 4);
    const p = instances.placement[i] * 12;
    const m = placements.now.subarray(p, p + 12);
    const world = composed(placements.now, instances.placement[i], instances.local, i);
    const unit = scaleOf(composed(placements.now, instances.placement[i], instances.rest, i));
    if (instances.rest === instances.local)
      // placements only turn and shift: the way back is the turn's transpose
      for (let r = 0; r < 3; r++) {
        const [a, b, c] = [m[r], m[4 + r], m[8 + r]];
        put(K.S_XX + r * 16, [a, b, c, -(a * m[3] + b * m[7] + c * m[11])]);
      }
    else put(K.S_XX, [...composed(instances.rest, i, inverseOf(world), 0)]);
    const letter = boxNumbers(boundsOf(solids[instances.solid[i]]));
    const block = boxNumbers(blocks[instances.placement[i]]);
    put(K.S_LETTER_X, letter.low);
    put(K.S_UNIT, [unit]);
    put(K.S_PER_METRE, [instances.rest === instances.local ? 1 : unit / scaleOf(world)]);
    put(K.S_LETTER_PER_X, letter.per);
    words[at + K.S_PLACEMENT / 4] = instances.placement[i];
    words[at + K.S_KIND / 4] = pieces.has(i) ? 0 : 1;
    words[at + K.S_UV / 4] = uv[instances.solid[i]];
    put(K.S_BLOCK_X, block.low);
    put(K.S_BLOCK_PER_X, block.per);
    const word = boxNumbers(spans[i]);
    put(K.S_WORD_X, word.low);
    put(K.S_WORD_PER_X, word.per);
    put(K.S_WRAP_X, faces.letter[i]);
    put(K.S_WORD_WRAP_X, faces.word[i]);
    put(K.S_BLOCK_WRAP_X, faces.block[i]);
  }
  return new Uint8Array(out.buffer);
}
