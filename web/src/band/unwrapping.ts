/**
 * The surround unwrapped as it stands in the world: the front in the middle, as one sees it who stands in the type and
 * turns about. Places across and down are 0 … 1 from the left and the top.
 */
import { directionAt, positionOf } from '@wemlox/core/light/surround';
import type { Vec } from '@wemlox/core/light/placing';

/** How far the front stands from where pictures have it, turns. */
const FRONT = 0.25;

export const worldAt = (across: number, down: number): Vec => directionAt((across + FRONT) % 1, down);

export function placeOf([x, y, z]: readonly number[]): { across: number; down: number } {
  const [u, v] = positionOf(x, Math.min(1, Math.max(-1, y)), z);
  return { across: (u - FRONT + 1) % 1, down: v };
}

/** A map of columns over pictures' directions, moved so that its middle is the front. */
export function fronted(map: ArrayLike<number>, across: number, down: number): number[] {
  const shift = Math.round(FRONT * across);
  return Array.from({ length: across * down }, (_, i) => {
    const [x, y] = [i % across, Math.floor(i / across)];
    return map[y * across + ((x + shift) % across)];
  });
}
