/**
 * The host side of the ray kernel: lays a scene out in WebAssembly memory and opens instances on it.
 * The bytes of the compiled module come from outside (core does no I/O).
 */

import { BATCH_RAYS, FLOOR, LANE_BYTES, LANE_HIT, LANE_HITS, LANE_RAYS, MOST_PAGES } from './kernelLayout.ts';

interface KernelExports {
  build(positions: number, n: number, scratch: number, nodes: number, packs: number): number;
  scratchBytes(n: number): number;
  nodeBytes(n: number): number;
  packBytes(n: number): number;
  init(nodes: number, packs: number, stack: number, hit: number, shadowLimit: number): void;
  closest(
    ox: number,
    oy: number,
    oz: number,
    tmin: number,
    dx: number,
    dy: number,
    dz: number,
    tmax: number,
  ): number;
  occluded(
    ox: number,
    oy: number,
    oz: number,
    tmin: number,
    dx: number,
    dy: number,
    dz: number,
    tmax: number,
  ): number;
  closestBatch(rays: number, hits: number, n: number): void;
  occludedBatch(rays: number, out: number, n: number): void;
}

const PAGE = 65536;

/** Where a built scene lies in memory: plain data, so that it travels to the other threads. */
export interface RayAddresses {
  nodes: number;
  packs: number;
  lanes: number;
  triangles: number;
  shadowLimit: number;
}

/** Result of a closest-hit query; one object per instance, overwritten by each call. */
export interface Hit {
  t: number;
  b1: number;
  b2: number;
  triangle: number;
}

/** Memory a kernel module can be instantiated on. `shared` needs cross-origin isolation in a page. */
export function kernelMemory(shared: boolean): WebAssembly.Memory {
  return shared
    ? new WebAssembly.Memory({ initial: 16, maximum: MOST_PAGES, shared: true })
    : new WebAssembly.Memory({ initial: 16 });
}

function instantiate(module: WebAssembly.Module, memory: WebAssembly.Memory): KernelExports {
  const instance = new WebAssembly.Instance(module, {
    env: {
      memory,
      abort: () => {
        throw new Error('the ray kernel aborted');
      },
    },
  });
  return instance.exports as unknown as KernelExports;
}

/**
 * Builds the tree over triangles and leaves it in `memory`, growing it as needed.
 * @param positions nine floats a triangle, metres; triangles numbered `shadowLimit` and above cast no shadow
 * @param lanes how many instances will trace at once
 * @throws RangeError when the scene does not fit into the kernel's memory
 */
export function buildRayScene(
  module: WebAssembly.Module,
  memory: WebAssembly.Memory,
  positions: Float32Array,
  shadowLimit: number,
  lanes: number,
): RayAddresses {
  const kernel = instantiate(module, memory);
  const n = positions.length / 9;
  const nodes = FLOOR;
  const packs = align(nodes + kernel.nodeBytes(n));
  const lanesAt = align(packs + kernel.packBytes(n));
  const positionsAt = align(lanesAt + lanes * LANE_BYTES);
  const scratch = align(positionsAt + positions.byteLength);
  const end = scratch + kernel.scratchBytes(n);
  const missing = Math.ceil((end - memory.buffer.byteLength) / PAGE);
  if (missing > 0) {
    if (end > MOST_PAGES * PAGE) {
      throw new RangeError(`${n} triangles do not fit into the ray kernel's memory of 2 GiB`);
    }
    memory.grow(missing);
  }
  new Float32Array(memory.buffer, positionsAt, positions.length).set(positions);
  if (n > 0) kernel.build(positionsAt, n, scratch, nodes, packs);
  return { nodes, packs, lanes: lanesAt, triangles: n, shadowLimit };
}

const align = (at: number) => Math.ceil(at / 64) * 64;

/** One tracing instance on a built scene. Not to be shared between threads. */
export class Kernel {
  readonly hit: Hit = { t: 0, b1: 0, b2: 0, triangle: -1 };
  /** Ray records of a batch, 8 floats each: origin, tmin, direction, tmax. */
  readonly rays: Float32Array;
  /** Batch results, 4 floats a ray (t, b1, b2, triangle as i32 bits) or one i32 for any-hit. */
  readonly results: Float32Array;
  readonly resultInts: Int32Array;
  private readonly exports: KernelExports;
  private readonly hitFloats: Float32Array;
  private readonly raysAt: number;
  private readonly resultsAt: number;

  constructor(module: WebAssembly.Module, memory: WebAssembly.Memory, layout: RayAddresses, lane: number) {
    this.exports = instantiate(module, memory);
    const base = layout.lanes + lane * LANE_BYTES;
    const hitAt = base + LANE_HIT;
    this.raysAt = base + LANE_RAYS;
    this.resultsAt = base + LANE_HITS;
    this.hitFloats = new Float32Array(memory.buffer, hitAt, 4);
    this.rays = new Float32Array(memory.buffer, this.raysAt, BATCH_RAYS * 8);
    this.results = new Float32Array(memory.buffer, this.resultsAt, BATCH_RAYS * 4);
    this.resultInts = new Int32Array(memory.buffer, this.resultsAt, BATCH_RAYS * 4);
    this.exports.init(layout.nodes, layout.packs, base, hitAt, layout.shadowLimit);
    if (layout.triangles === 0) {
      this.closest = () => -1;
      this.occluded = () => false;
    }
  }

  /** Closest hit with tmin ≤ t ≤ tmax: the triangle or -1; t and barycentrics in `hit`. */
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
    const triangle = this.exports.closest(ox, oy, oz, tmin, dx, dy, dz, tmax);
    const hit = this.hit;
    hit.triangle = triangle;
    hit.t = this.hitFloats[0];
    hit.b1 = this.hitFloats[1];
    hit.b2 = this.hitFloats[2];
    return triangle;
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
    return this.exports.occluded(ox, oy, oz, tmin, dx, dy, dz, tmax) !== 0;
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
