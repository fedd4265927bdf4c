/** Where places on faces lie in the pictures that are laid over them: as the tracer finds them for its hits. */
import type { Feed } from '@wemlox/core/document';
import { picturedFaces, unrolledBlock, type PicturedFaces } from '@wemlox/core/scene/faces';
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
export interface InPicture {
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
  const place = laying({ lay, tile, zoom, turn, shift: [feed.shift_x, feed.shift_y] }, aspect, faceOf());
  const [x, y] = lay === 'letter' ? laid : inBlock;
  const unit =
    lay === 'letter' ? scaleOf(composed(placements.now, instances.placement[i], instances.rest, i)) : 1;
  const [, , w, h] = faceOf();
  const width = (lay === 'tiles' ? tile : Math.max(w, h * aspect) * unit) * zoom;
  return { at: place(x, y), width };

  function faceOf(): Face {
    return lay === 'tiles' ? [0, 0, 1, 1] : facesOf(scene)[lay][i];
  }
}

/** What a picture has to cover to lie on all of a block, with its bevels and sides: middle and sides, metres; null for a block that is not there. */
export function sheetOf(scene: RenderScene, block: string): Face | null {
  const { parts, things, instances } = scene;
  for (let p = 0; p < parts.count; p++) {
    if (things[parts.thing[p]]!.block !== block) continue;
    const { min, max } = unrolledBlock(scene, instances.placement[parts.instance[p]]!);
    return [(min[0] + max[0]) / 2, (min[1] + max[1]) / 2, max[0] - min[0], max[1] - min[1]];
  }
  return null;
}
