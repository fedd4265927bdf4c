/** Taking the noise out of linear pictures, by as many threads as there are; the same picture whatever their number. */
import { luminance } from '../../maths/colour.ts';
import { Arena } from '../../trace/arena.ts';
import {
  MULTIPLE,
  NetworkWorker,
  pixel,
  placeWeights,
  planNetwork,
  STAGE_COUNT,
  stripsOf,
  type Layer,
  type NetworkPlan,
} from './network.ts';
import { decoded, encoded, exposureOf } from './transfer.ts';
import type { Tensor } from './weights.ts';

/** A picture to be cleaned and where it goes: plain data in shared memory, for all threads. */
export interface DenoiseJob {
  plan: NetworkPlan;
  width: number;
  height: number;
  /** Linear r g b alpha, alpha-associated. */
  noisy: Float32Array;
  clean: Float32Array;
  exposure: number;
  threads: number;
  /** Claims and finished hands, stage by stage; the first is not nought once it is called off. */
  control: Int32Array;
}

/** Rows encoded or decoded at a time. */
const ROWS = 16;
/** Before and after the network's stages: into its curve, and out of it. */
const ALL_STAGES = STAGE_COUNT + 2;
const CLAIMS = 1;
const DONE = 1 + ALL_STAGES;
/** Longest wait before looking whether it was called off, milliseconds. */
const PATIENCE = 50;

const padded = (side: number) => Math.ceil(side / MULTIPLE) * MULTIPLE;

/** Sizes whose planes are kept; the one used longest ago goes first. */
const MOST_PLANS = 3;

/** The network's weights in memory, and planes for the sizes of pictures asked for. */
export class DenoiseMemory {
  readonly memory: WebAssembly.Memory;
  private readonly arena: Arena;
  private readonly layers: Record<string, Layer>;
  private plans: NetworkPlan[] = [];

  constructor(memory: WebAssembly.Memory, tensors: ReadonlyMap<string, Tensor>) {
    this.memory = memory;
    this.arena = new Arena(memory);
    this.layers = placeWeights(this.arena, tensors);
  }

  /** Planes for pictures of a size. No job of a size used three before may be under way. */
  plan(width: number, height: number, threads: number): NetworkPlan {
    const [w, h] = [padded(width), padded(height)];
    let plan = this.plans.find((p) => p.width === w && p.height === h && p.threads === threads);
    this.plans = this.plans.filter((p) => p !== plan);
    if (!plan) {
      while (this.plans.length >= MOST_PLANS)
        for (const at of this.plans.shift()!.blocks) this.arena.release(at);
      plan = planNetwork(this.arena, this.layers, w, h, threads);
    }
    this.plans.push(plan);
    return plan;
  }
}

const shared = (floats: number) => new Float32Array(new SharedArrayBuffer(floats * 4));

/** Sets a job up. @param picture linear r g b alpha, alpha-associated */
export function denoiseJob(
  store: DenoiseMemory,
  picture: Float32Array,
  width: number,
  height: number,
  threads: number,
): DenoiseJob {
  const plan = store.plan(width, height, threads);
  const noisy = shared(picture.length);
  noisy.set(picture);
  const exposure = exposureOf(width, height, (p) =>
    luminance(noisy[p * 4], noisy[p * 4 + 1], noisy[p * 4 + 2]),
  );
  const control = new Int32Array(new SharedArrayBuffer((1 + 2 * ALL_STAGES) * 4));
  return { plan, width, height, noisy, clean: shared(picture.length), exposure, threads, control };
}

/** Calls a job off; its threads return within a strip. */
export function callOff({ control }: DenoiseJob): void {
  Atomics.store(control, 0, 1);
}

/** Pixels along the edge from which what lies beyond it is taken, so that its noise is not the mirror image of its own. */
const APART = 7;

/** A place within n, from one beyond by mirroring: repeated edges would be streaks, which are not noise. */
const mirrored = (i: number, n: number) => {
  const k = i % (2 * n);
  return k < n ? k : 2 * n - 1 - k;
};

/** Light without its alpha, as the network sees it: edges of what is cut out are not dark. */
function encodeRows(
  { plan, width, height, noisy, exposure }: DenoiseJob,
  memory: WebAssembly.Memory,
  y0: number,
  y1: number,
): void {
  const { picture } = plan.planes;
  for (let y = y0; y < Math.min(y1, picture.height); y++) {
    const row = new Float32Array(memory.buffer, pixel(picture, 0, y), picture.width * 4);
    for (let x = 0; x < picture.width; x++) {
      const beyondX = x < width ? 0 : APART;
      const beyondY = y < height ? 0 : APART;
      const p = (mirrored(y + beyondX, height) * width + mirrored(x + beyondY, width)) * 4;
      const alpha = noisy[p + 3];
      const scale = alpha > 0 ? exposure / alpha : 0;
      for (let c = 0; c < 3; c++) row[x * 4 + c] = encoded(noisy[p + c] * scale);
    }
  }
}

function decodeRows(
  { plan, width, height, noisy, clean, exposure }: DenoiseJob,
  memory: WebAssembly.Memory,
  y0: number,
  y1: number,
): void {
  const { clean: out } = plan.planes;
  for (let y = y0; y < Math.min(y1, height); y++) {
    const row = new Float32Array(memory.buffer, pixel(out, 0, y), width * out.channels);
    for (let x = 0; x < width; x++) {
      const p = (y * width + x) * 4;
      const alpha = noisy[p + 3];
      for (let c = 0; c < 3; c++) clean[p + c] = (decoded(row[x * out.channels + c]) / exposure) * alpha;
      clean[p + 3] = alpha;
    }
  }
}

/** One thread that cleans pictures. */
export class DenoiseWorker {
  private readonly module: WebAssembly.Module;
  private readonly memory: WebAssembly.Memory;
  private readonly thread: number;
  private worker: { plan: NetworkPlan; network: NetworkWorker } | null = null;

  constructor(module: WebAssembly.Module, memory: WebAssembly.Memory, thread: number) {
    this.module = module;
    this.memory = memory;
    this.thread = thread;
  }

  /** Does this thread's share of a job. @returns false when it was called off */
  share(job: DenoiseJob): boolean {
    const { control, plan, threads } = job;
    if (this.worker?.plan !== plan)
      this.worker = { plan, network: new NetworkWorker(this.module, this.memory, plan, this.thread) };
    const { network } = this.worker;
    for (let stage = 0; stage < ALL_STAGES; stage++) {
      const ends = stage === 0 || stage === ALL_STAGES - 1;
      const count = ends ? Math.ceil(plan.height / ROWS) : stripsOf(plan, stage - 1);
      for (;;) {
        if (Atomics.load(control, 0) !== 0) return false;
        const strip = Atomics.add(control, CLAIMS + stage, 1);
        if (strip >= count) break;
        if (stage === 0) encodeRows(job, this.memory, strip * ROWS, (strip + 1) * ROWS);
        else if (ends) decodeRows(job, this.memory, strip * ROWS, (strip + 1) * ROWS);
        else network.strip(stage - 1, strip);
      }
      if (Atomics.add(control, DONE + stage, 1) + 1 === threads) Atomics.notify(control, DONE + stage);
      for (let done = Atomics.load(control, DONE + stage); done < threads;) {
        Atomics.wait(control, DONE + stage, done, PATIENCE);
        if (Atomics.load(control, 0) !== 0) return false;
        done = Atomics.load(control, DONE + stage);
      }
    }
    return true;
  }
}
