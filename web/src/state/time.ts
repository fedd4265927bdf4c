/** Time of the open shot: playing it, and what of its keys is in hand. Not part of the document. */
import { create } from 'zustand';
import type { Shot } from '@wemlox/core/document';
import type { KeyRef } from '@wemlox/core/edits';
import { framesOf } from '@wemlox/core/motion/span';
import { useChoice } from './choice.ts';
import { flipEnds, useFlip } from './flip.ts';
import { goToFrame, shotOf, useStudio } from './studio.ts';

interface Time {
  playing: boolean;
  /** Keys that are moved together. */
  keys: KeyRef[];
  /** What moves and is worked on, by its address. */
  row: string | null;
  /** Groups of the band whose rows are folded away, by what they belong to. */
  folded: string[];
}

export const useTime = create<Time>()(() => ({ playing: false, keys: [], row: null, folded: [] }));

/** The picture looked at, whole. */
export const useFrame = () => useStudio((s) => Math.floor(s.frame));

/** The shot in use, as it is seen. */
export function useShot(): Shot {
  // another shot may be chosen while the document stays as it is
  useChoice((c) => c.shot);
  return useStudio((s) => shotOf(s.seen));
}

/** Folds the rows of a group away, or shows them again. */
export const foldGroup = (of: string) =>
  useTime.setState(({ folded }) => ({
    folded: folded.includes(of) ? folded.filter((f) => f !== of) : [...folded, of],
  }));

/** Takes keys in hand; those that are in hand already stay so. */
export const takeKeys = (keys: readonly KeyRef[], more = false) =>
  useTime.setState((t) => ({
    keys: more ? [...t.keys.filter((k) => !keys.includes(k)), ...keys] : [...keys],
  }));

export const isInHand = (keys: readonly KeyRef[], track: string, at: number) =>
  keys.some((k) => k.track === track && Math.abs(k.at - at) < SAME_TIME);

/** Times nearer than that are the same, seconds. */
export const SAME_TIME = 5e-4;

let due = 0;

/** Pictures that are played: those of the flip-book where it is open. */
const played = (shot: Shot) => (useFlip.getState().on ? flipEnds() : { first: 0, last: framesOf(shot) - 1 });

/** Plays the shot in real time from the picture looked at, leaving out what cannot be drawn in time. */
export function play(): void {
  if (useTime.getState().playing) return;
  useTime.setState({ playing: true });
  const shot = shotOf(useStudio.getState().project);
  const { first: from, last } = played(shot);
  const { frame } = useStudio.getState();
  const first = frame >= last || frame < from ? from : Math.floor(frame);
  const began = performance.now();
  const tick = () => {
    const now = shotOf(useStudio.getState().project);
    const ends = played(now);
    const n = ends.last - ends.first + 1;
    const gone = first - ends.first + Math.floor(((performance.now() - began) / 1000) * now.rate);
    if (!now.loops && gone >= n) {
      goToFrame(ends.last);
      stop();
      return;
    }
    goToFrame(ends.first + (gone % n));
    due = requestAnimationFrame(tick);
  };
  due = requestAnimationFrame(tick);
}

export function stop(): void {
  cancelAnimationFrame(due);
  useTime.setState({ playing: false });
}

export const togglePlay = () => (useTime.getState().playing ? stop() : play());

/** Goes some pictures on or back, round the ends of a shot that loops. */
export function stepFrames(by: number): void {
  stop();
  const shot = shotOf(useStudio.getState().project);
  const n = framesOf(shot);
  const to = Math.floor(useStudio.getState().frame) + by;
  goToFrame(shot.loops ? ((to % n) + n) % n : to);
}
