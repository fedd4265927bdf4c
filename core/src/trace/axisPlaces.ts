/** Asks the kernel where places of faces lie on the axes that a finish is fed along, some hundred at a time. */
import type { RenderScene } from '../scene/renderScene.ts';
import { instantiate, kernelMemory, type KernelExports } from './kernel.ts';
import * as K from './kernelLayout.ts';
import { prepared } from './prepare.ts';
import { SceneMemory } from './sceneMemory.ts';

/** Words of a place as the kernel takes it (kernel/assembly/bake.ts). */
const PLACE = 8;

/** Nothing shines: places are only looked at, and what a scene's light takes to lay out is left away. */
export const UNLIT: Pick<RenderScene, 'lights' | 'surround'> = {
  lights: [],
  surround: {
    picture: { width: 2, height: 1, data: new Float32Array(6) },
    gain: 0,
    turn: 0,
    seen: false,
    group: 0,
  },
};

export class AxisPlaces {
  private readonly kernel: KernelExports;
  private readonly memory: WebAssembly.Memory;
  private readonly store: SceneMemory;
  private places = 0;
  private out = 0;
  private floats = new Float32Array();
  private words = new Int32Array();

  /** @param module over shared memory, or not, as `shared` says */
  constructor(module: WebAssembly.Module, shared: boolean) {
    this.memory = kernelMemory(shared);
    this.store = new SceneMemory(module, this.memory, 1);
    this.kernel = instantiate(module, this.memory);
  }

  /** Takes a scene up; solids that it shares with the last stay where they are. */
  take(scene: RenderScene): void {
    const { top, instances, finishes, sites, lanes } = prepared(this.store, { ...scene, ...UNLIT }).addresses;
    this.kernel.init(top, instances, lanes);
    this.kernel.setScene(instances, finishes, sites, lanes);
    this.places = lanes + K.LANE_RAYS;
    this.out = lanes + K.LANE_HITS;
    this.floats = new Float32Array(this.memory.buffer, this.places, K.BATCH_RAYS * PLACE);
    this.words = new Int32Array(this.memory.buffer, this.places, K.BATCH_RAYS * PLACE);
  }

  /** Places that may be asked for at once, of a finish with so many axes. */
  room(axes: number): number {
    return Math.min(K.BATCH_RAYS, Math.floor((K.BATCH_RAYS * K.HIT_BYTES) / (4 * axes)));
  }

  /**
   * Puts a place among those that are asked for next.
   * @param w1 weight of the triangle's second corner, @param w2 of its third; (nx, ny, nz) unit normal in the world
   */
  put(
    i: number,
    instance: number,
    triangle: number,
    w1: number,
    w2: number,
    nx: number,
    ny: number,
    nz: number,
  ): void {
    const { floats, words } = this;
    const to = i * PLACE;
    words[to] = instance;
    words[to + 1] = triangle;
    floats[to + 2] = w1;
    floats[to + 3] = w2;
    floats[to + 4] = nx;
    floats[to + 5] = ny;
    floats[to + 6] = nz;
  }

  /**
   * Where the first `count` places lie, looked at straight from before: 0 … 1 on each axis, place by place. Overwritten
   * by the next.
   * @param seen width that is told apart at least, metres
   */
  ask(finish: number, axes: number, seen: number, count: number): Float32Array {
    this.kernel.axesAt(finish, axes, seen, this.places, count, this.out);
    return new Float32Array(this.memory.buffer, this.out, count * axes);
  }
}
