/** Where places on faces lie in the pictures that are laid over them: as the tracer finds them for its hits. */
import type { Feed } from '@wemlox/core/document';
import { blockBounds, picturedFaces, type PicturedFaces } from '@wemlox/core/scene/faces';
import type { RenderScene } from '@wemlox/core/scene/renderScene';
import { composed, scaleOf } from '@wemlox/core/scene/transform';
import { laying, type Face } from '@wemlox/core/texture/laying';
import type { Picked } from './pick.ts';

const known = new WeakMap<RenderScene, PicturedFaces>();

function facesOf(scene: RenderScene): PicturedFaces {
  const faces = known.get(scene) ?? picturedFaces(scene);
  known.set(scene, faces);
  return faces;
}

/** A place in a picture: across and up in its widths and heights, from its lower left; and how wide it lies, metres. */
interface InPicture {
  at: readonly [number, number];
  width: number;
}

/** @param aspect of the picture, width by height */
export function inPicture(scene: RenderScene, hit: Picked, feed: Feed, aspect: number): InPicture {
  const { instances, placements } = scene;
  const { instance: i, laid } = hit;
  const { lay, tile, zoom, turn } = feed;
  const m = instances.rest.subarray(i * 12, i * 12 + 12);
  const inBlock = [0, 4].map((r) => m[r] * laid[0] + m[r + 1] * laid[1] + m[r + 3]);
  // tiles lie from the middle of the block, whatever they cover
  const face: Face = lay === 'tiles' ? [0, 0, 1, 1] : facesOf(scene)[lay][i];
  const place = laying({ lay, tile, zoom, turn, shift: [feed.shift_x, feed.shift_y] }, aspect, face);
  const [x, y] = lay === 'letter' ? laid : inBlock;
  const unit =
    lay === 'letter' ? scaleOf(composed(placements.now, instances.placement[i], instances.rest, i)) : 1;
  const [, , w, h] = face;
  const width = (lay === 'tiles' ? tile : Math.max(w, h * aspect) * unit) * zoom;
  return { at: place(x, y), width };
}

/** How much longer the way over bevels and side may be than a solid is deep. */
const OVER_BEVELS = 1.2;

/**
 * What a picture has to cover to lie on all of a block, with what is rolled out of its bevels and sides: middle and
 * sides, metres; null for a block that is not there. Where outlines are sharply bent, sides are drawn out farther.
 */
export function sheetOf(scene: RenderScene, block: string): Face | null {
  const { parts, things, instances } = scene;
  const part = Array.from({ length: parts.count }, (_, p) => p).find(
    (p) => things[parts.thing[p]].block === block,
  );
  if (part === undefined) return null;
  const { min, max } = blockBounds(scene)[instances.placement[parts.instance[part]]];
  const out = 2 * OVER_BEVELS * (max[2] - min[2]);
  return [(min[0] + max[0]) / 2, (min[1] + max[1]) / 2, max[0] - min[0] + out, max[1] - min[1] + out];
}
