/** What all eyes on a scene share: plain data, made once a scene and sent to every thread. */
import type { RenderScene } from '../scene/renderScene.ts';
import type { SceneAddresses, SceneMemory } from './sceneMemory.ts';

export interface PreparedScene {
  scene: RenderScene;
  /** Compiled finishes, one record after the other. */
  records: Float32Array;
  /** Where the scene lies in the kernel's memory. */
  addresses: SceneAddresses;
}

/** Lays a scene out in the kernel's memory, for the threads that trace it. */
export const prepared = (memory: SceneMemory, scene: RenderScene): PreparedScene => ({
  scene,
  records: memory.records(scene),
  addresses: memory.take(scene),
});
