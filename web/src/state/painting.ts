/** Painting by hand on a picture that a parameter is fed from: on which, and with what brush. */
import { create } from 'zustand';
import { place, usePlacing, type Placing } from './pictures.ts';

interface Painting {
  /** The picture that is painted on; null while no brush is in hand. */
  on: Placing | null;
  /** The brush's radius, metres. */
  radius: number;
  /** How bright it paints: 0 takes away, 1 covers. */
  amount: number;
  /** Share of its radius over which it fades. */
  soft: number;
}

export const BRUSH = { radius: 0.006, amount: 1, soft: 0.5 };
export const LEAST_RADIUS = 0.0002;
export const MOST_RADIUS = 1;

export const usePainting = create<Painting>()(() => ({ on: null, ...BRUSH }));

export const setBrush = (brush: Partial<Omit<Painting, 'on'>>) => usePainting.setState(brush);

/** Lets go of a picture that is moved or painted on, when it is the one in hand. */
export function letGo(feed: string): void {
  if (usePlacing.getState().placing?.feed === feed) place(null);
  if (usePainting.getState().on?.feed === feed) takeBrush(null);
}

/** Takes the brush in hand, and lets go of a picture that was moved. */
export function takeBrush(on: Placing | null): void {
  if (on) place(null);
  usePainting.setState({ on });
}
