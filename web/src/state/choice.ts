/** What is chosen and shown: not part of the document, but a reload comes back to it. */
import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import type { Zone } from '@wemlox/core/document';

export interface ChosenFace {
  block: string;
  letter: string;
  zone: Zone;
}

export const GUIDES = ['thirds', 'middle', 'safe', 'margin'] as const;
export type Guide = (typeof GUIDES)[number];

interface Choice {
  lookId: string;
  /** Shot in use; the first when there is none of that name. */
  shot: string | null;
  /** Project that was open when the page was left, and the picture of its shot. */
  left: { project: string; frame: number };
  /** Block in the desk of Set; the chosen face's goes before it. */
  block: string | null;
  face: ChosenFace | null;
  /** Finish in the desk when no face is chosen, and what the keyboard lays on. */
  finish: string | null;
  /** Finish last chosen in the rack: Enter lays it on the chosen face. */
  brush: string | null;
  light: string | null;
  /** Panel of the surround that is worked on. */
  panel: string | null;
  piece: string | null;
  mode: 'traced' | 'draft';
  /** Traced pictures are shown without their noise. */
  clean: boolean;
  handles: boolean;
  /** Lines laid over the picture. */
  guides: readonly Guide[];
  /** Own margin, a share of the picture's shorter side. */
  margin: number;
  /** The finish chart is large, at the picture's cost. */
  largeChart: boolean;
  /** Equal letters that are dressed alike are one column of the finish chart, and dressed in one move. */
  groupedChart: boolean;
  /** Of letters that are picked at random. */
  seed: number;
  theme: 'graphite' | 'paper';
  /** Samples at which the traced view rests. */
  samples: number;
  /** Proof that is looked at, and the one it is compared with (null: the present). */
  proof: string | null;
  against: string | null;
  comparing: 'wipe' | 'difference' | 'off';
  /** Stops by which a difference is brightened. */
  amplify: number;
  /** Proofs with a film are shown under the present grade, not as they were kept. */
  regraded: boolean;
  /** Share of the picture left of the wipe. */
  wipe: number;
}

export const useChoice = create<Choice>()(
  persist(
    (): Choice => ({
      lookId: '',
      shot: null,
      left: { project: '', frame: 0 },
      block: null,
      face: null,
      finish: null,
      brush: null,
      light: null,
      panel: null,
      piece: null,
      mode: 'traced',
      clean: true,
      handles: true,
      guides: [],
      margin: 0.08,
      largeChart: false,
      groupedChart: false,
      seed: 1,
      theme: 'graphite',
      samples: 256,
      proof: null,
      against: null,
      comparing: 'off',
      amplify: 3,
      regraded: false,
      wipe: 0.5,
    }),
    { name: 'wemlox-choice' },
  ),
);

/** Chooses; a light or a panel is in hand, not both. */
export const choose = (change: Partial<Choice>) =>
  useChoice.setState(change.light ? { panel: null, ...change } : change);

/** Whether the picture has the window to itself: for now, not for the next time. */
export const useAlone = create<{ alone: boolean }>()(() => ({ alone: false }));
export const toggleAlone = () => useAlone.setState(({ alone }) => ({ alone: !alone }));

/** Whether handles and lines lie over the picture. */
export function useHandles(): boolean {
  const { alone } = useAlone();
  return useChoice((c) => c.handles) && !alone;
}

/** What the last comparison of films found: the mean difference as a share of the light, or why there is none. */
export const useCompared = create<{ mean: number | null; problem: string }>()(() => ({
  mean: null,
  problem: '',
}));

/**
 * The face under the pointer, in the picture or in the chart: where a dragged finish would land; and the place on it,
 * metres, where it is known.
 */
export const useHover = create<{ face: ChosenFace | null; point: readonly number[] | null }>()(() => ({
  face: null,
  point: null,
}));

/** Finish that somebody wants to remove, and that is still worn: asked about first. */
export const useRemoving = create<{ finish: string | null }>()(() => ({ finish: null }));
