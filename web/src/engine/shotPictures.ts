/** Traces pictures of a shot one by one beside the stage, with a scene worker and tracers of its own. */
import { aspectOf, type Project } from '@wemlox/core/document';
import { momentsOf } from '@wemlox/core/motion/shutter';
import type { PictureSize } from '../workers/messages.ts';
import { MomentScenes, MOST_MOMENTS, type Shown } from './momentScenes.ts';
import { lanesHere, TracePool } from './tracePool.ts';

const SEED = 1;

/** Size of a shot's pictures by their longer side, pixels. */
export function sizeWithin(project: Project, shot: string, side: number): PictureSize {
  const aspect = aspectOf(project.shots.find((s) => s.id === shot)!);
  const [width, height] = [side * Math.min(1, aspect), side / Math.max(1, aspect)].map((v) =>
    Math.max(1, Math.round(v)),
  );
  return { width, height };
}

export class ShotPictures {
  private readonly pool: TracePool;
  private readonly scenes: MomentScenes;
  /** Rejects once a worker stopped: what was asked of it is never answered. */
  private readonly failed: Promise<never>;
  /** Whether a worker stopped: no picture is made any more. */
  broken = false;

  constructor() {
    let fail!: (message: string) => void;
    this.failed = new Promise((_, reject) => (fail = (message) => reject(new Error(message))));
    this.failed.catch(() => (this.broken = true));
    const lanes = lanesHere();
    this.pool = new TracePool(lanes, fail);
    this.scenes = new MomentScenes(lanes, fail);
  }

  /** Calls off the picture under way. */
  callOff(): void {
    this.pool.callOff();
  }

  /**
   * A picture of the document as it is shown, cleaned, its samples shared out over its moments; null when it was
   * called off.
   * @param of the document as it is edited, and a place in it
   * @param frame number of the picture
   * @param goesOn asked before each moment is traced
   * @throws Error in words when a scene cannot be made, or a worker stopped
   */
  traced(
    of: Omit<Shown, 'width'>,
    frame: number,
    size: PictureSize,
    samples: number,
    goesOn: () => boolean,
  ): Promise<ImageData | null> {
    return Promise.race([this.trace(of, frame, size, samples, goesOn), this.failed]);
  }

  private async trace(
    of: Omit<Shown, 'width'>,
    frame: number,
    size: PictureSize,
    samples: number,
    goesOn: () => boolean,
  ): Promise<ImageData | null> {
    const moments = momentsOf(of.project, of.shot, frame, Math.min(MOST_MOMENTS, samples));
    let image: ImageData | null = null;
    for (const [k, moment] of moments.entries()) {
      const { scene, look, camera } = await this.scenes.at({ ...of, width: size.width }, moment);
      if (!goesOn()) return null;
      if (k === 0) await this.pool.takeScene(scene.prepared, scene.rays);
      else await this.pool.swapScene(scene.prepared, scene.rays);
      this.pool.setGrade(look.grade);
      const request = {
        camera,
        size,
        samples: Math.round((samples * (k + 1)) / moments.length),
        seed: SEED,
        goesOn: k > 0,
        unfinished: k < moments.length - 1,
        plain: true,
      };
      const whole = await this.pool.trace(request, ({ pixels, size: { width, height } }) => {
        if (pixels) image = new ImageData(pixels.slice(), width, height);
      });
      if (!whole) return null;
    }
    return image;
  }

  end(): void {
    this.pool.end();
    this.scenes.end();
  }
}
