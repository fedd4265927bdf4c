/** Edges in a plate by which the camera is matched to the one that took it, as they are drawn over the picture. */
import { create } from 'zustand';
import type { FrameLine, LinePair, Unmatched } from '@wemlox/core/stage/vanishing';

interface Matching {
  on: boolean;
  pairs: readonly [LinePair, LinePair];
  /** Why no camera sees them so; null while one does. */
  why: Unmatched | null;
}

const line = (x1: number, y1: number, x2: number, y2: number): FrameLine => [
  { across: x1, up: y1 },
  { across: x2, up: y2 },
];

/** Two pairs that meet on both sides, as edges of boards do seen from above at a slant. */
const FIRST: Matching['pairs'] = [
  [line(-0.75, -0.35, -0.05, -0.2), line(-0.5, -0.85, 0.3, -0.5)],
  [line(0.75, -0.35, 0.05, -0.2), line(0.5, -0.85, -0.3, -0.5)],
];

export const useMatching = create<Matching>()(() => ({ on: false, pairs: FIRST, why: null }));
