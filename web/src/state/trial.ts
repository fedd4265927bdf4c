/** Finishes that are looked at on the artist's letter before the project has them. */
import { create } from 'zustand';
import type { Finish } from '@wemlox/core/document';

export const useTrial = create<{ finishes: readonly Finish[] }>()(() => ({ finishes: [] }));

/** Milliseconds in which finishes come into sight together. */
const TOGETHER = 80;
let coming: Finish[] = [];
let timer: ReturnType<typeof setTimeout> | undefined;

/** Tries a finish that has come into sight, beside those that have been seen. */
export function tryFinish(finish: Finish): void {
  const { finishes } = useTrial.getState();
  if ([...finishes, ...coming].some((f) => f.id === finish.id)) return;
  coming.push(finish);
  clearTimeout(timer);
  timer = setTimeout(() => {
    useTrial.setState({ finishes: [...useTrial.getState().finishes, ...coming] });
    coming = [];
  }, TOGETHER);
}

/** Tries nothing any more. */
export function endTrial(): void {
  clearTimeout(timer);
  coming = [];
  useTrial.setState({ finishes: [] });
}
