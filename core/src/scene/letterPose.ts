/** Carries letters to where their poses have them. */
import type { Each } from '../document/index.ts';
import type { LetterSolid } from '../solid/blockSolids.ts';
import { turnOf } from '../stage/pieces.ts';
import { isAsLaid, type Pose } from '../stage/pose.ts';
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
  about: Each['about'],
  scale: number,
): Transform {
  if (isAsLaid(pose) || !box) return local;
  const [x0, y0, z0, x1, y1, z1] = box;
  const pivot = [(x0 + x1) / 2, { foot: y0, middle: (y0 + y1) / 2, head: y1 }[about], (z0 + z1) / 2];
  const own = turnOf(pose).flatMap((row, i) => {
    const turned = row.map((v) => v * pose.size);
    const carried = turned[0] * pivot[0] + turned[1] * pivot[1] + turned[2] * pivot[2];
    return [...turned, pivot[i] + pose.shift[i] / scale - carried];
  });
  return composed(local, 0, own, 0);
}
