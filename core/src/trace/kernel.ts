/**
 * The host side of the kernel: its module's functions, and single rays through a scene in its memory. The bytes of the
 * compiled module come from outside (core does no I/O).
 */
import {
  BATCH_RAYS,
  HIT_BYTES,
  LANE_BYTES,
  LANE_HITS,
  LANE_RAYS,
  MOST_PAGES,
  RAY_BYTES,
} from './kernelLayout.ts';

/** Functions of the compiled kernel; addresses in bytes. */
export interface KernelExports {
  scratchBytes(n: number): number;
  nodeBytes(n: number): number;
  packBytes(n: number): number;
  build(triangles: number, n: number, scratch: number, nodes: number, packs: number): void;
  buildTop(instances: number, n: number, scratch: number, nodes: number): void;
  nodesBuilt(): number;
  packsBuilt(): number;
  init(top: number, instances: number, lane: number): void;
  closestBatch(rays: number, hits: number, n: number): void;
  occludedBatch(rays: number, out: number, n: number): void;
  setScene(instances: number, finishes: number, sites: number, lane: number): void;
  setLights(
    parts: number,
    emitters: number,
    nodes: number,
    nodeCount: number,
    directionals: number,
    points: number,
    sheets: number,
    mirror: number,
    cards: number,
    parted: number,
    discs: number,
    sought: number,
  ): void;
  axesAt(finish: number, axes: number, seen: number, places: number, count: number, out: number): void;
  setEye(at: number, width: number, height: number, orthographic: number): void;
  setMasks(hidden: number): void;
  setView(view: number): void;
  setSurround(at: number): void;
  setShares(at: number, groups: number): void;
  setLimits(scattered: number, reflected: number, transmitted: number): void;
  setSources(at: number, count: number, sky: number, box: number, reach: number): void;
  setPhotons(landed: number, sorted: number, cells: number, clip: number): void;
  sendPhotons(first: number, all: number, sample: number, seed: number, bounces: number): void;
  sortPhotons(count: number, radius: number): number;
  usePhotons(radius: number): void;
  traceWave(
    x0: number,
    y0: number,
    x1: number,
    y1: number,
    index: number,
    seed: number,
    bounces: number,
  ): void;
  raysTraced(): number;
  probe(
    stage: number,
    finish: number,
    inside: number,
    input: number,
    taken: number,
    output: number,
    given: number,
    groups: number,
  ): void;
  probeLights(place: number, out: number, emitters: number): void;
  probeChoice(u: number, out: number): number;
}

/** Result of a closest-hit query; one object per instance, overwritten by each call. */
export interface Hit {
  t: number;
  b1: number;
  b2: number;
  /** Triangle of the instance's solid, or -1. */
  triangle: number;
  instance: number;
}

/** Memory a kernel module can be instantiated on. `shared` needs cross-origin isolation in a page. */
export function kernelMemory(shared: boolean): WebAssembly.Memory {
  return shared
    ? new WebAssembly.Memory({ initial: 16, maximum: MOST_PAGES, shared: true })
    : new WebAssembly.Memory({ initial: 16 });
}

export function instantiate(module: WebAssembly.Module, memory: WebAssembly.Memory): KernelExports {
  const instance = new WebAssembly.Instance(module, {
    env: {
      memory,
      abort: () => {
        throw new Error('the kernel aborted');
      },
    },
  });
  return instance.exports as unknown as KernelExports;
}

/** Where the trees of a scene lie in memory: plain data, so that it travels to the other threads. */
export interface RayAddresses {
  top: number;
  instances: number;
  lanes: number;
}

/** Single rays and batches through a scene, for one thread. */
export class Kernel {
  readonly hit: Hit = { t: 0, b1: 0, b2: 0, triangle: -1, instance: -1 };
  /** Ray records of a batch, 8 floats each: origin, tmin, direction, tmax. */
  readonly rays: Float32Array;
  /** Batch results: 8 floats a ray (t, b1, b2, then triangle and instance as i32 bits), or one i32 for any-hit. */
  readonly results: Float32Array;
  readonly resultInts: Int32Array;
  private readonly exports: KernelExports;
  private readonly raysAt: number;
  private readonly resultsAt: number;

  constructor(module: WebAssembly.Module, memory: WebAssembly.Memory, scene: RayAddresses, lane: number) {
    this.exports = instantiate(module, memory);
    const base = scene.lanes + lane * LANE_BYTES;
    this.raysAt = base + LANE_RAYS;
    this.resultsAt = base + LANE_HITS;
    this.rays = new Float32Array(memory.buffer, this.raysAt, (BATCH_RAYS * RAY_BYTES) / 4);
    this.results = new Float32Array(memory.buffer, this.resultsAt, (BATCH_RAYS * HIT_BYTES) / 4);
    this.resultInts = new Int32Array(memory.buffer, this.resultsAt, (BATCH_RAYS * HIT_BYTES) / 4);
    this.exports.init(scene.top, scene.instances, base);
  }

  /** Closest hit with tmin ≤ t ≤ tmax: the triangle of its instance's solid or -1; the rest in `hit`. */
  closest(
    ox: number,
    oy: number,
    oz: number,
    tmin: number,
    dx: number,
    dy: number,
    dz: number,
    tmax: number,
  ): number {
    const { hit, rays, results, resultInts } = this;
    hit.triangle = -1;
    rays.set([ox, oy, oz, tmin, dx, dy, dz, tmax]);
    this.exports.closestBatch(this.raysAt, this.resultsAt, 1);
    hit.t = results[0];
    hit.b1 = results[1];
    hit.b2 = results[2];
    hit.instance = resultInts[4];
    return (hit.triangle = resultInts[3]);
  }

  /** Whether a shadow caster lies on the ray. */
  occluded(
    ox: number,
    oy: number,
    oz: number,
    tmin: number,
    dx: number,
    dy: number,
    dz: number,
    tmax: number,
  ): boolean {
    this.rays.set([ox, oy, oz, tmin, dx, dy, dz, tmax]);
    this.exports.occludedBatch(this.raysAt, this.resultsAt, 1);
    return this.resultInts[0] !== 0;
  }

  /** Traces the first `n` of `rays` into `results`. */
  closestBatch(n: number): void {
    this.exports.closestBatch(this.raysAt, this.resultsAt, n);
  }

  /** Any-hit for the first `n` of `rays` into `resultInts`. */
  occludedBatch(n: number): void {
    this.exports.occludedBatch(this.raysAt, this.resultsAt, n);
  }
}
