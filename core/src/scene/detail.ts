/** How finely letters are made, by what the frame can show of them. */
import type { Block, Camera } from '../document/index.ts';
import { cameraFrame } from '../stage/camera.ts';

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
export function coarsenessOf(block: Block, camera: Camera, width: number): number {
  const steps = 2 ** Math.round(Math.log2(Math.max(NARROWEST, width)));
  const frame = cameraFrame(camera, 1);
  const away = Math.hypot(...frame.position.map((v, i) => v - block.place.position[i]));
  const capital = (block.capHeight / (2 * frame.halfWidth * Math.max(away, block.capHeight))) * steps;
  return Math.min(COARSEST, Math.max(FINEST, 2 ** Math.floor(Math.log2(FULL / Math.max(1, capital)))));
}
