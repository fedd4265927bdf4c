/** How finely letters are made, by what the frame can show of them. */
import { floorLog2 } from '../maths/reproducible.ts';
import type { Block, Camera } from '../document/index.ts';
import { blockTransform, carried } from '../stage/blockPlace.ts';
import { cameraFrame } from '../stage/camera.ts';
import type { Beyond } from '../type/layout.ts';

/** Height of a capital, pixels, that outlines of coarseness 1 are made for. */
const FULL = 500;
const FINEST = 0.5;
/** Narrower pictures are made as finely as this one, pixels. */
const NARROWEST = 256;
const COARSEST = 32;

/**
 * Coarseness of a block's outlines: a power of two, as is the width it goes by, so that small moves of the camera
 * and of the window change nothing.
 * @param width of the picture, pixels
 */
function coarsenessOf(block: Block, camera: Camera, width: number): number {
  const steps = 2 ** floorLog2(Math.SQRT2 * Math.max(NARROWEST, width));
  const frame = cameraFrame(camera, 1);
  const away = Math.hypot(...frame.position.map((v, i) => v - block.place.position[i]));
  const far = frame.parallel ? 1 : Math.max(away, block.capHeight);
  const capital = (block.capHeight / (2 * frame.halfWidth * far)) * steps;
  return Math.min(COARSEST, Math.max(FINEST, 2 ** floorLog2(FULL / Math.max(1, capital))));
}

/** Blocks of more characters are made finely only where the camera looks. */
const MANY = 200;
/** How much of what lies outside the frame counts as looked at, shares of the frame. */
const AROUND = 1.5;
/** Coarseness of letters that the camera does not look at: what they mirror and shade needs no more. */
const UNSEEN = 16;

export interface Detail {
  coarseness: number;
  /** Places are metres from the block's centre; null makes all letters alike. */
  beyond: Beyond | null;
}

/**
 * As finely as the frame shows.
 * @param width of the picture, pixels; null makes all letters as for one that fills the screen
 */
export function detailOf(block: Block, camera: Camera, width: number | null): Detail {
  if (width === null) return { coarseness: 1, beyond: null };
  const coarseness = coarsenessOf(block, camera, width);
  if (block.text.length <= MANY || coarseness >= UNSEEN) return { coarseness, beyond: null };
  const { position, forward, right, up, halfWidth, parallel, shift } = cameraFrame(camera, 1);
  const aside = 1 + Math.max(Math.abs(shift[0]), Math.abs(shift[1]));
  const { place, capHeight } = block;
  const into = blockTransform(place);
  const sees = (x: number, y: number) => {
    const at = carried(into, [x, y, 0]);
    const along = (axis: readonly number[]) => axis.reduce((sum, v, i) => sum + v * (at[i] - position[i]), 0);
    const reach = (parallel ? 1 : Math.max(0, along(forward))) * halfWidth * AROUND * aside + 2 * capHeight;
    return along(forward) > -capHeight && Math.abs(along(right)) < reach && Math.abs(along(up)) < reach;
  };
  return { coarseness, beyond: { coarseness: UNSEEN, sees } };
}

/** Names what of the camera and the picture's size a block's detail comes of. */
export function detailKey(block: Block, camera: Camera, width: number): string {
  const { coarseness, beyond } = detailOf(block, camera, width);
  return `${coarseness}${beyond ? JSON.stringify(camera) : ''}`;
}
