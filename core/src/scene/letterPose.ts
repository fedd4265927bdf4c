/** Carries letters to where their poses have them. */
import type { LetterPivot } from '../document/index.ts';
import type { LetterSolid } from '../solid/blockSolids.ts';
import { isAsLaid, poseRows, type Pose } from '../stage/pose.ts';
import { composed, type Transform } from './transform.ts';

/**
 * Carries a letter's points, in the solid's unit about the glyph's origin, to where its pose has them.
 * @param local from there into the block's plane; returned as it is where the pose does nothing
 * @param scale metres a unit
 */
export function posed(
  local: Transform,
  { solid: { box } }: Pick<LetterSolid, 'solid'>,
  pose: Pose,
  about: LetterPivot,
  scale: number,
): Transform {
  if (isAsLaid(pose) || !box) return local;
  const [x0, y0, z0, x1, y1, z1] = box;
  return composed(local, 0, poseRows(pose, { min: [x0, y0, z0], max: [x1, y1, z1] }, about, scale), 0);
}
