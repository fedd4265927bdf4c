/** A scene as the reference tracer reads it. */
import type { FlatScene } from '../../src/scene/flatScene.ts';
import type { RenderScene } from '../../src/scene/renderScene.ts';
import type { SurroundTable } from './environment.ts';

export interface PreparedScene {
  scene: RenderScene;
  flat: FlatScene;
  records: Float32Array;
  table: SurroundTable;
}
