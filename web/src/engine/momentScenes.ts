/** Scenes of the document at moments of its time, made by a worker of their own: what the stage shows stays as it is. */
import type { Camera, Look, Project } from '@wemlox/core/document';
import { shownAt } from '@wemlox/core/motion/shown';
import { lookOf } from '../state/studio.ts';
import type { Answered, SceneMade, SceneReply, SceneRequest } from '../workers/messages.ts';

/** Most moments of a picture that is blurred by motion. */
export const MOST_MOMENTS = 16;

export interface MomentScene {
  scene: SceneMade;
  look: Look;
  camera: Camera;
}

/** A picture's place in the document. */
export interface Shown {
  project: Project;
  look: string;
  shot: string;
  /** Of the frame, pixels. */
  width: number;
}

export class MomentScenes {
  private readonly worker: Worker;
  private seq = 0;
  private heard: ((reply: SceneReply) => void) | null = null;

  /** @param onFailure told when the worker stopped */
  constructor(lanes: number, onFailure: (message: string) => void) {
    this.worker = new Worker(new URL('../workers/scene.worker.ts', import.meta.url), {
      type: 'module',
      name: String(lanes),
    });
    this.worker.onmessage = ({ data }: MessageEvent<SceneReply | Answered>) => {
      if (!('number' in data)) this.heard?.(data);
    };
    this.worker.onerror = (event) => onFailure(event.message || 'the scene worker stopped');
  }

  /**
   * The scene at a moment; the last one may still be looked at until then, and no longer. Who asks before the last was
   * answered is the only one to be answered.
   * @param moment a picture of the shot, with fractions
   * @throws Error in words when it cannot be made
   */
  async at({ project, look, shot, width }: Shown, moment: number): Promise<MomentScene> {
    const shown = shownAt(project, look, shot, moment);
    const request: SceneRequest = {
      seq: ++this.seq,
      project: shown,
      look,
      shot,
      width,
      trial: [],
      draft: null,
    };
    const scene = await new Promise<SceneReply>((resolve) => {
      this.heard = (heard) => heard.seq === request.seq && resolve(heard);
      this.worker.postMessage(request);
    });
    if ('failed' in scene) throw new Error(scene.failed);
    const { camera } = shown.shots.find((s) => s.id === shot)!;
    return { scene, look: lookOf(shown, look), camera };
  }

  end(): void {
    this.worker.terminate();
  }
}
