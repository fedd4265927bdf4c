/** Depth of field of a thin lens: what is sharp, and the lens for what is to be. */
import type { Camera } from '../document/index.ts';

/** A spot this large on the frame still counts as sharp, as a share of the frame's width: about a pixel and a half of full HD. */
export const SHARP = 1 / 1280;

type Lens = Pick<Camera, 'focal' | 'sensor' | 'aperture' | 'focus'>;

/** Radius of the lens's opening, metres. */
export const lensRadius = ({ focal, aperture }: Pick<Lens, 'focal' | 'aperture'>) => focal / aperture / 2000;

/**
 * Width of the spot that a point at a distance becomes on the frame, as a share of the frame's width: the thin lens's
 * circle of confusion, A f |d − s| / (d s), where the frame stands in the focal plane, so that focusing does not
 * change what the picture takes in.
 * @param distance along the sight, metres
 */
export const spotOf = ({ focal, sensor, aperture, focus }: Lens, distance: number): number =>
  (((focal / 1000 / aperture) * focal) / sensor) * Math.abs(1 / distance - 1 / focus);

/** The nearest and farthest that is sharp, metres; far is infinite where nothing behind blurs. */
export function sharpBetween(
  { focal, sensor, aperture, focus }: Lens,
  spot = SHARP,
): { near: number; far: number } {
  const by = spot / (((focal / 1000 / aperture) * focal) / sensor);
  return { near: 1 / (1 / focus + by), far: by < 1 / focus ? 1 / (1 / focus - by) : Infinity };
}

/**
 * Focus and aperture with which two distances are just sharp, and all between them.
 * @param a metres @param b metres, another one
 */
export function sharpFor(
  { focal, sensor }: Pick<Lens, 'focal' | 'sensor'>,
  a: number,
  b: number,
  spot = SHARP,
): { focus: number; aperture: number } {
  const [near, far] = [Math.min(a, b), Math.max(a, b)];
  const focus = 2 / (1 / near + 1 / far);
  const by = (1 / near - 1 / far) / 2;
  return { focus, aperture: (focal * focal * by) / 1000 / sensor / spot };
}
