/** What the stage knows about the picture: the scene made from the document, and how far the trace is. */
import { create } from 'zustand';
import type { Finding } from '@wemlox/core/preflight/finding';
import type { Bounds } from '@wemlox/core/scene/faces';
import type { RenderScene } from '@wemlox/core/scene/renderScene';
import type { BandBlock, SurroundPreview } from '../workers/messages.ts';

type StageState = 'idle' | 'drafting' | 'tracing' | 'done' | 'failed';

interface View {
  state: StageState;
  failure: string;
  scene: RenderScene | null;
  /** Of each of its placements, in its own space. */
  bounds: Bounds[];
  /** Raised with each new geometry. */
  geometry: number;
  surround: SurroundPreview | null;
  blocks: BandBlock[];
  /** What an artist should know: what had to be replaced or left out. */
  findings: Finding[];
  samples: number;
  noise: number;
  /** Share of the light that limits on bounces lose; 0 where it is not worth a word. */
  loss: number;
  secondsLeft: number;
  /** The traced picture is of the document as it is now. */
  fresh: boolean;
}

export const useShown = create<View>()(() => ({
  state: 'idle',
  failure: '',
  scene: null,
  bounds: [],
  geometry: 0,
  surround: null,
  blocks: [],
  findings: [],
  samples: 0,
  noise: 0,
  loss: 0,
  secondsLeft: 0,
  fresh: false,
}));

/** Whether the type is still being shaped for the first time. */
export const useShaping = () => useShown((v) => v.scene === null && v.state !== 'failed');

/** The scene on the stage, once there is one: what is fitted to the type waits for it. */
export const sceneShown = (): Promise<RenderScene> =>
  new Promise((resolve) => {
    const { scene } = useShown.getState();
    if (scene) {
      resolve(scene);
      return;
    }
    const off = useShown.subscribe(({ scene: made }) => {
      if (!made) return;
      off();
      resolve(made);
    });
  });
