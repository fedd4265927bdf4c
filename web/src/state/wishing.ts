/** Wishes painted on the picture: what brush is in hand, what was painted, and what came of it. */
import { create } from 'zustand';
import type { Granted, Stroke, WishKind } from '@wemlox/core/trace/wish';

interface Wishing {
  /** The brush in hand; null while nobody wishes. */
  brush: WishKind | null;
  strokes: Stroke[];
  /** What came of each stroke, once it was asked for. */
  granted: Granted[] | null;
  asking: boolean;
}

const NONE: Wishing = { brush: null, strokes: [], granted: null, asking: false };
export const useWishing = create<Wishing>()(() => NONE);

export const endWishing = () => useWishing.setState(NONE);

/** Share of what was asked that counts as had. */
const HAD = 0.5;

/** Strokes that no source could grant. */
export const unmet = ({ strokes, granted }: Wishing): Stroke[] =>
  strokes.filter((_, i) => granted?.[i] && granted[i].got / granted[i].asked < HAD);
