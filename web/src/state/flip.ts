/** The flip-book: traced pictures of the shot, small, that fill in while the hands rest. Not part of the document. */
import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import type { Project } from '@wemlox/core/document';
import { framesOf } from '@wemlox/core/motion/span';
import { shotOf, useStudio } from './studio.ts';

/** A picture of the flip-book. */
export interface FlipPicture {
  /** Of all it depends on. */
  key: string;
  samples: number;
  image: ImageData;
  /** The document it was last found to be of: while hands are at work, nobody knows whether it still is. */
  of: Project;
}

interface Flip {
  on: boolean;
  /** By the number of the picture, of the shot in use. */
  pictures: ReadonlyMap<number, FlipPicture>;
  /** Pictures a minute that were made last; null before. */
  pace: number | null;
  /** Why it does not go on. */
  failure: string | null;
}

export const useFlip = create<Flip>()(() => ({
  on: false,
  pictures: new Map(),
  pace: null,
  failure: null,
}));

interface FlipEnds {
  /** First and last picture that are made and played, by project and shot; all of it where there are none. */
  ends: Readonly<Record<string, { first: number; last: number }>>;
}

/** Kept beyond the page. */
export const useFlipEnds = create<FlipEnds>()(
  persist((): FlipEnds => ({ ends: {} }), { name: 'wemlox-flip' }),
);

/** How the ends of the shot in use are known. */
export const flipKey = () => {
  const { id, project } = useStudio.getState();
  return `${id}/${shotOf(project).id}`;
};

/** First and last picture of the shot in use that are made and played. */
export function flipEnds(): { first: number; last: number } {
  const shot = shotOf(useStudio.getState().project);
  const end = framesOf(shot) - 1;
  const { first = 0, last = end } = useFlipEnds.getState().ends[flipKey()] ?? {};
  return { first: Math.min(first, end), last: Math.min(Math.max(first, last), end) };
}

/** Has the flip-book begin or end at a picture. */
export function setFlipEnd(which: 'first' | 'last', frame: number): void {
  const { first, last } = flipEnds();
  const to =
    which === 'first'
      ? { first: frame, last: Math.max(frame, last) }
      : { first: Math.min(first, frame), last: frame };
  useFlipEnds.setState(({ ends }) => ({ ends: { ...ends, [flipKey()]: to } }));
}

/** Has it run over the whole shot again. */
export function clearFlipEnds(): void {
  const key = flipKey();
  useFlipEnds.setState(({ ends }) => ({
    ends: Object.fromEntries(Object.entries(ends).filter(([of]) => of !== key)),
  }));
}

/** The picture of the flip-book that stands for the time looked at; null while there is none. */
export function flipAt(frame: number): FlipPicture | null {
  const { on, pictures } = useFlip.getState();
  const picture = on ? pictures.get(Math.floor(frame)) : undefined;
  return picture && picture.of === useStudio.getState().project ? picture : null;
}
