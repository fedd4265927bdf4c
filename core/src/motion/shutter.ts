/** While the shutter is open: the moments of a picture in which light falls on the film. */
import type { Project, Shot } from '../document/index.ts';
import { moves, shotIn } from './seen.ts';

const TURN = 2 * Math.PI;
/** Moments that a picture is traced at, at most. */
export const MOST_MOMENTS = 32;

/**
 * Moments of a picture, as pictures of the shot with fractions: evenly through the time that the shutter is open,
 * about the picture's own; itself alone where nothing moves, or nothing blurs.
 * @param most moments, at least 1
 * @throws RangeError when there is no such shot
 */
export function momentsOf(project: Project, shotId: string, frame: number, most: number): number[] {
  const shot = shotIn(project, shotId);
  if (!isBlurred(project, shot)) return [frame];
  const n = Math.max(1, Math.min(MOST_MOMENTS, most));
  const open = shot.shutter / TURN;
  return Array.from({ length: n }, (_, k) => frame + open * ((k + 0.5) / n - 0.5));
}

const isBlurred = (project: Project, shot: Shot) =>
  shot.motion_blur && shot.shutter > 0 && moves(project, shot);
