/** What all eyes on a scene share: plain data, made once a scene and sent to every thread. */
import type { SurroundPicture } from '../light/surround.ts';
import { flattened, type FlatScene, type Laid } from '../scene/flatScene.ts';
import type { RenderScene } from '../scene/renderScene.ts';
import { surroundTable, type SurroundTable } from './environment.ts';
import { FinishRecords } from './finishRecords.ts';

export interface PreparedScene {
  scene: RenderScene;
  flat: FlatScene;
  /** Compiled finishes, one record after the other. */
  records: Float32Array;
  table: SurroundTable;
}

/** Prepares scenes for tracing, keeping what has not changed: triangles, surround, finishes. */
export class ScenePreparer {
  private readonly finishes = new FinishRecords();
  private readonly tables = new WeakMap<SurroundPicture, SurroundTable>();
  private last: Laid | null = null;

  prepare(scene: RenderScene, shared = false): PreparedScene {
    const { picture } = scene.surround;
    let table = this.tables.get(picture);
    if (!table) {
      table = surroundTable(picture, shared);
      this.tables.set(picture, table);
    }
    const flat = flattened(scene, shared, this.last);
    this.last = { scene, flat };
    return { scene, flat, records: this.finishes.compile(scene.finishes), table };
  }
}
