/**
 * The picture on the stage as it is traced: of one moment, or of all those at which light falls on it while the shutter
 * is open. Knows which scene the tracers have in hand.
 */
import { momentsOf } from '@wemlox/core/motion/shutter';
import type { Camera } from '@wemlox/core/document';
import type { PictureSize, SceneMade } from '../workers/messages.ts';
import { MomentScenes, MOST_MOMENTS, type Shown } from './momentScenes.ts';
import type { TracePool, TraceProgress } from './tracePool.ts';

/** Samples that a picture has of its own moment first. */
const STILL_FIRST = 8;
/** Each round over all moments takes the picture to so many times the samples of the last. */
const ROUND = 4;
/** Seed of pictures on the stage. */
export const SEED = 1;

type Scene = Pick<SceneMade, 'prepared' | 'rays'>;

export interface Wanted {
  /** The document as it is edited, and a place in it. */
  shown: Omit<Shown, 'width'>;
  /** Picture of the shot, with fractions. */
  frame: number;
  camera: Camera;
  size: PictureSize;
  samples: number;
}

/** @param isOfStage whether the tracers have the scene on the stage in hand, so that others may look at it */
type OnProgress = (progress: TraceProgress, isOfStage: boolean) => void | Promise<void>;

export class StagePicture {
  private readonly pool: TracePool;
  private readonly onFailure: (message: string) => void;
  /** The scene on the stage. */
  private own: Scene | null = null;
  /** Scenes while the shutter is open, once some were wanted. */
  private moments: MomentScenes | null = null;
  /** The scene that tracers have in hand. */
  private inHand: Scene | null = null;
  /** Whether the picture so far is of more moments than its own. */
  private mixed = false;
  /** Samples of the picture that fell on it at all moments alike; 0 while it is of one. */
  private blurred = 0;

  /** @param onFailure told when scenes of other moments can no longer be made */
  constructor(pool: TracePool, onFailure: (message: string) => void) {
    this.pool = pool;
    this.onFailure = onFailure;
  }

  /** What was traced is no longer what the document says. */
  changed(): void {
    this.blurred = 0;
  }

  /** Has the next picture begin without samples, of a scene: tracers take it in hand once it is traced. */
  async begin(scene: Scene): Promise<void> {
    this.own = scene;
    this.inHand = null;
    this.mixed = false;
    this.blurred = 0;
    await this.pool.leave(scene.prepared.scene);
  }

  /** Has the picture go on with a scene that differs from the last in nothing that was seen. */
  async swap(scene: Scene): Promise<void> {
    this.own = this.inHand = scene;
    await this.pool.swapScene(scene.prepared, scene.rays);
  }

  /** Gives the tracers the scene on the stage where they have another in hand. */
  async takeOwn(): Promise<void> {
    while (this.own && this.inHand !== this.own) await this.swap(this.own);
  }

  /**
   * Takes the picture to its samples, from those it has.
   * @param isCurrent whether the document is still what is asked for
   * @returns whether it has all its samples; false when something else came between
   * @throws Error in words when the scene of a moment cannot be made
   */
  async trace(wanted: Wanted, isCurrent: () => boolean, onProgress: OnProgress): Promise<boolean> {
    const { shown, frame, camera, size, samples } = wanted;
    // moments that were left in the middle weigh more than the others
    if (this.mixed && this.blurred === 0 && this.own) await this.begin(this.own);
    await this.takeOwn();
    if (!isCurrent()) return false;
    const moments = momentsOf(shown.project, shown.shot, frame, Math.min(MOST_MOMENTS, samples));
    const isStill = moments.length === 1;
    if (this.blurred === 0) {
      const upTo = isStill ? samples : Math.min(samples, STILL_FIRST);
      const request = { camera, size, samples: upTo, seed: SEED };
      if (!(await this.pool.trace(request, (progress) => onProgress(progress, true)))) return false;
    }
    return isStill || (await this.blur(wanted, moments, isCurrent, onProgress));
  }

  /** Traces at all moments alike, in rounds of ever more samples: each round takes every moment once. */
  private async blur(
    { shown, size, samples }: Wanted,
    moments: readonly number[],
    isCurrent: () => boolean,
    onProgress: OnProgress,
  ): Promise<boolean> {
    this.moments ??= new MomentScenes(this.pool.lanes, this.onFailure);
    let done = this.blurred;
    const [began, first] = [performance.now(), done];
    const left = (now: number) =>
      ((performance.now() - began) / 1000 / Math.max(1, now - first)) * (samples - now);
    while (done < samples) {
      const goal = Math.min(samples, Math.max(moments.length, done * ROUND));
      for (const [k, moment] of moments.entries()) {
        const upTo = done + Math.round(((goal - done) * (k + 1)) / moments.length);
        const { scene, camera } = await this.moments.at({ ...shown, width: size.width }, moment);
        if (!isCurrent()) return false;
        const goesOn = done > 0 || k > 0;
        this.inHand = scene;
        this.mixed = true;
        this.blurred = 0;
        if (goesOn) await this.pool.swapScene(scene.prepared, scene.rays);
        else await this.pool.takeScene(scene.prepared, scene.rays);
        const unfinished = k < moments.length - 1;
        const request = { camera, size, samples: upTo, seed: SEED, goesOn, unfinished };
        const whole = await this.pool.trace(request, (progress) =>
          onProgress({ ...progress, secondsLeft: left(progress.samples) }, progress.samples === upTo),
        );
        if (!whole || !isCurrent()) return false;
      }
      done = goal;
      this.blurred = goal;
    }
    return true;
  }

  end(): void {
    this.moments?.end();
  }
}
