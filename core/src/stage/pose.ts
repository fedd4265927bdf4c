/** How letters stand that are moved, turned or sized from where their line has them. */
import { defaultsOf, type Block, type LetterPivot, type LetterPose } from '../document/index.ts';
import { POSE } from '../document/parameters.ts';
import type { Box } from './camera.ts';
import { turnOf } from './pieces.ts';

/** How a letter stands, by what every letter of its block does or by what it does itself. */
export type Pose = Omit<LetterPose, 'id'>;

/** Smaller letters are not there, shares of their size. */
const LEAST = 1e-4;

/** As the line has it. */
export const AS_LAID: Readonly<Pose> = defaultsOf(POSE);

/** One pose on top of another, in any order: ways and turns add up, sizes multiply. */
export const bothPoses = (a: Pose, b: Pose): Pose => ({
  shift: a.shift.map((v, i) => v + b.shift[i]),
  turn: a.turn + b.turn,
  tilt: a.tilt + b.tilt,
  roll: a.roll + b.roll,
  size: a.size * b.size,
  on: a.on && b.on,
});

/** How the letters of a block stand, by their identifiers. */
export function posesOf({ each, poses }: Pick<Block, 'each' | 'poses'>): (letter: string) => Pose {
  const own = new Map(poses.map((p) => [p.id, bothPoses(each, p)]));
  return (letter) => own.get(letter) ?? each;
}

/** Whether a letter is there at all. */
export const isThere = ({ on, size }: Pose): boolean => on && size > LEAST;

/**
 * Rows of the transform that turns and sizes a letter about its pivot, and moves it.
 * @param box of the letter as its line has it @param unit metres a unit of the box
 */
export function poseRows(pose: Pose, { min, max }: Box, about: LetterPivot, unit = 1): number[] {
  const height = { foot: min[1], middle: (min[1] + max[1]) / 2, head: max[1] }[about];
  const pivot = [(min[0] + max[0]) / 2, height, (min[2] + max[2]) / 2];
  return turnOf(pose).flatMap((row, i) => {
    const turned = row.map((v) => v * pose.size);
    const carried = turned[0] * pivot[0] + turned[1] * pivot[1] + turned[2] * pivot[2];
    return [...turned, pivot[i] + pose.shift[i] / unit - carried];
  });
}

export const isAsLaid = ({ shift, turn, tilt, roll, size }: Pose): boolean =>
  turn === 0 && tilt === 0 && roll === 0 && size === AS_LAID.size && shift.every((v) => v === 0);
