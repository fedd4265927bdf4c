/**
 * A U-Net that takes the noise out of traced pictures (Open Image Denoise's `rt_hdr`, by its weights), run by our own
 * kernel. Layer after layer, each in strips of rows that any number of threads may share; the parts at full and half
 * size keep only strips of what lies between, and planes lie where others lay that nobody reads any more, so that
 * memory stays small.
 *
 *   picture ─ 32 ─ 32 ▽ 48 ▽ 64 ▽ 80 ▽ 96 ─ 96 △ 112 ─ 112 △ 96 ─ 96 △ 64 ─ 64 △ 64 ─ 32 ─ picture
 *      └──────────────────│────│────│──────────────┘      │           │          │
 *                         └────│────│─────────────────────┘ … and so the others: ▽ halves, △ doubles and joins
 */
import type { Arena } from '../../trace/arena.ts';
import type { Tensor } from './weights.ts';

export interface DenoiseExports {
  convRow(...numbers: number[]): void;
  poolRow(out: number, row0: number, row1: number, pixels: number, step: number): void;
}

/** Rows of a strip. */
const STRIP = 8;
/** Sides are made multiples of this: four halvings. */
export const MULTIPLE = 16;

/** A tensor in memory: rows with a pixel of noughts on each side, and a row of them above and below. */
export interface Plane {
  width: number;
  height: number;
  channels: number;
  at: number;
  rowBytes: number;
}

export interface Layer {
  written: number;
  bias: number;
  /** Of the source below (or alone), or of its four parities when that is doubled. */
  weights: number[];
  /** Of the source beside it. */
  beside: number;
}

/** Where the network's planes lie, for pictures of a size: plain data, the same for all threads. */
export interface NetworkPlan {
  width: number;
  height: number;
  threads: number;
  /** Blocks of memory it took. */
  blocks: number[];
  planes: Record<PlaneName, Plane>;
  /** Room for strips, a piece for each thread. */
  scratch: number;
  scratchBytes: number;
  layers: Record<string, Layer>;
}

type PlaneName =
  | 'picture'
  | 'half1'
  | 'half2'
  | 'half3'
  | 'half4'
  | 'low5a'
  | 'low5b'
  | 'up4a'
  | 'up4b'
  | 'up3a'
  | 'up3b'
  | 'up2b'
  | 'clean';

const FLOAT = 4;
const eights = (channels: number) => Math.ceil(channels / 8) * 8;

/** Bytes of a plane's row: pixels rounded up to twice four, and one more on each side. */
const rowBytesOf = (width: number, channels: number) => (Math.ceil(width / 8) * 8 + 2) * channels * FLOAT;

const planeBytes = (width: number, height: number, channels: number) =>
  (height + 2) * rowBytesOf(width, channels);

/** Address of a pixel. */
export const pixel = (p: Plane, x: number, y: number) =>
  p.at + (y + 1) * p.rowBytes + (x + 1) * p.channels * FLOAT;

/** Puts the network's weights into memory, in the kernel's order. */
export function placeWeights(arena: Arena, tensors: ReadonlyMap<string, Tensor>): Record<string, Layer> {
  const layers: Record<string, Layer> = {};
  const put = (values: Float32Array) => {
    const at = arena.allocate(values.byteLength);
    arena.floats(at, values.length).set(values);
    return at;
  };
  for (const [name, { shape, values }] of tensors) {
    if (!name.endsWith('.weight')) continue;
    const layer = name.slice(0, -'.weight'.length);
    const [written, read] = shape;
    const bias = new Float32Array(eights(written));
    bias.set(tensors.get(`${layer}.bias`)!.values);
    const below = DOUBLED[layer];
    const of = (from: number, to: number, taps: Taps) => put(packed(values, written, read, from, to, taps));
    layers[layer] = {
      written: eights(written),
      bias: put(bias),
      weights: below
        ? [0, 1, 2, 3].map((k) => of(0, below, [PARITY[k >> 1], PARITY[k & 1]]))
        : [of(0, read, [SINGLE, SINGLE])],
      beside: below ? of(below, read, [SINGLE, SINGLE]) : 0,
    };
  }
  return layers;
}

/** How often a plane's sides are halved, and its channels. */
type Shape = readonly [halvings: number, channels: number];

/** Lays the network's planes out in memory. @param width and height multiples of MULTIPLE */
export function planNetwork(
  arena: Arena,
  layers: Record<string, Layer>,
  width: number,
  height: number,
  threads: number,
): NetworkPlan {
  const planes = {} as Record<PlaneName, Plane>;
  const blocks: number[] = [];
  const sidesOf = ([halvings]: Shape) => [width >> halvings, height >> halvings] as const;
  const bytesOf = (shape: Shape) => planeBytes(...sidesOf(shape), shape[1]);
  /** Room for one row of planes or another, each row's one after the other. */
  const laid = (...rows: Partial<Record<PlaneName, Shape>>[]) => {
    const sizes = rows.map((row) => Object.values(row).reduce((sum, shape) => sum + bytesOf(shape), 0));
    const room = arena.allocate(Math.max(...sizes));
    blocks.push(room);
    for (const row of rows) {
      let at = room;
      for (const [name, shape] of Object.entries(row)) {
        const [w, h] = sidesOf(shape);
        const channels = shape[1];
        planes[name as PlaneName] = { width: w, height: h, channels, at, rowBytes: rowBytesOf(w, channels) };
        at += bytesOf(shape);
      }
    }
  };
  laid({ picture: [0, 4] });
  new Uint8Array(arena.memory.buffer, planes.picture.at, bytesOf([0, 4])).fill(0);
  laid({ half1: [1, 32] }, { clean: [0, 8] });
  laid({ up3b: [2, 96] });
  laid(
    {
      half2: [2, 48],
      half3: [3, 64],
      half4: [4, 80],
      low5a: [4, 96],
      low5b: [4, 96],
      up4a: [3, 112],
      up4b: [3, 112],
      up3a: [2, 96],
    },
    { up2b: [1, 64] },
  );
  // the largest need: full size, 64 and 32 channels in strips with rows about them
  const scratchBytes = planeBytes(width, 2 * STRIP + 4, 64) + planeBytes(width, 2 * STRIP + 4, 32);
  const scratch = arena.allocate(scratchBytes * threads);
  blocks.push(scratch);
  return { width, height, threads, planes, scratch, scratchBytes, layers, blocks };
}

/** Channels that come doubled from below into a layer; the rest come from beside. */
const DOUBLED: Record<string, number> = { dec_conv4a: 96, dec_conv3a: 112, dec_conv2a: 96, dec_conv1a: 64 };

/** Which of the three taps each row (or column) of taps adds up. */
type Taps = [number[][], number[][]];
const SINGLE = [[0], [1], [2]];
/** Of doubled sources two neighbours are one pixel: at even places the last two, at odd ones the first two. */
const PARITY = [
  [[0], [1, 2]],
  [[0, 1], [2]],
];

/** Weights in the kernel's order: eight channels written, rows of taps, taps, channels read; the last the eight. */
function packed(
  values: Float32Array,
  written: number,
  read: number,
  from: number,
  to: number,
  [down, across]: Taps,
): Float32Array {
  // channels read come in fours
  const depth = Math.ceil((to - from) / 4) * 4;
  const out = new Float32Array((eights(written) / 8) * down.length * across.length * depth * 8);
  let at = 0;
  for (let e = 0; e < eights(written); e += 8)
    for (const rows of down)
      for (const columns of across)
        for (let c = from; c < from + depth; c++)
          for (let k = 0; k < 8; k++, at++) {
            if (e + k >= written || c >= to) continue;
            for (const y of rows)
              for (const x of columns) out[at] += values[(((e + k) * read + c) * 3 + y) * 3 + x];
          }
  return out;
}

/** Stages in their order, and how many strips each is shared out in. */
export const stripsOf = (plan: NetworkPlan, stage: number): number =>
  Math.ceil(plan.planes[STAGES[stage].out].height / STRIP);

interface Stage {
  out: PlaneName;
  run: (worker: NetworkWorker, y0: number, y1: number) => void;
}

const STAGES: Stage[] = [
  { out: 'half1', run: (w, a, b) => w.first(a, b) },
  { out: 'half2', run: (w, a, b) => w.halved('half1', 'enc_conv2', 'half2', a, b) },
  { out: 'half3', run: (w, a, b) => w.halved('half2', 'enc_conv3', 'half3', a, b) },
  { out: 'half4', run: (w, a, b) => w.halved('half3', 'enc_conv4', 'half4', a, b) },
  { out: 'low5a', run: (w, a, b) => w.plain('half4', 'enc_conv5a', 'low5a', a, b) },
  { out: 'low5b', run: (w, a, b) => w.plain('low5a', 'enc_conv5b', 'low5b', a, b) },
  { out: 'up4a', run: (w, a, b) => w.doubled('low5b', 'half3', 'dec_conv4a', 'up4a', a, b) },
  { out: 'up4b', run: (w, a, b) => w.plain('up4a', 'dec_conv4b', 'up4b', a, b) },
  { out: 'up3a', run: (w, a, b) => w.doubled('up4b', 'half2', 'dec_conv3a', 'up3a', a, b) },
  { out: 'up3b', run: (w, a, b) => w.plain('up3a', 'dec_conv3b', 'up3b', a, b) },
  { out: 'up2b', run: (w, a, b) => w.second(a, b) },
  { out: 'clean', run: (w, a, b) => w.last(a, b) },
];
export const STAGE_COUNT = STAGES.length;

/** One thread's hand in running the network. */
export class NetworkWorker {
  private readonly kernel: DenoiseExports;
  private readonly memory: WebAssembly.Memory;
  private readonly plan: NetworkPlan;
  private readonly scratch: number;

  constructor(module: WebAssembly.Module, memory: WebAssembly.Memory, plan: NetworkPlan, thread: number) {
    const instance = new WebAssembly.Instance(module, { env: { memory, abort: () => undefined } });
    this.kernel = instance.exports as unknown as DenoiseExports;
    this.memory = memory;
    this.plan = plan;
    this.scratch = plan.scratch + thread * plan.scratchBytes;
  }

  /** Runs one strip of a stage; all strips of the stages before must be done. */
  strip(stage: number, number: number): void {
    const { out: name, run } = STAGES[stage];
    const out = this.plan.planes[name];
    const y0 = number * STRIP;
    const y1 = Math.min(y0 + STRIP, out.height);
    run(this, y0, y1);
    // what lay there before is not nought
    for (let y = y0; y < y1; y++) {
      new Uint8Array(this.memory.buffer, pixel(out, -1, y), out.channels * FLOAT).fill(0);
      this.edge(out, y);
    }
    if (y0 === 0) this.blank(out, -1);
    if (y1 === out.height) this.blank(out, y1);
  }

  /** A plane of some rows about a strip: row y of the picture is its row y − `top`. */
  private strips(at: number, width: number, channels: number, rows: number): Plane {
    return { width, height: rows, channels, at, rowBytes: rowBytesOf(width, channels) };
  }

  /** Rows [y0, y1) of a convolution; those beyond the picture are noughts. `from` and `to` are the planes' first rows. */
  private conv(
    source: Plane,
    from: number,
    name: string,
    out: Plane,
    to: number,
    y0: number,
    y1: number,
    height: number,
  ) {
    const { bias, weights, written } = this.plan.layers[name];
    const step = source.channels * FLOAT;
    for (let y = y0; y < y1; y++) {
      if (y < 0 || y >= height) {
        this.blank(out, y - to);
        continue;
      }
      const row = (k: number) => pixel(source, -1, y - from + k);
      this.kernel.convRow(
        pixel(out, 0, y - to),
        out.channels * FLOAT,
        Math.ceil(out.width / 4),
        written / 8,
        bias,
        row(-1),
        row(0),
        row(1),
        step,
        source.channels * 3,
        weights[0],
        0,
        0,
        0,
        0,
        0,
        0,
      );
      this.edge(out, y - to);
    }
  }

  /** Rows of a convolution over a source of half the size, doubled, and one beside it. */
  private convDoubled(
    below: Plane,
    beside: Plane,
    name: string,
    out: Plane,
    to: number,
    y0: number,
    y1: number,
  ) {
    const layer = this.plan.layers[name];
    const { height } = beside;
    const [stepA, stepB] = [below.channels * FLOAT, 2 * beside.channels * FLOAT];
    for (let y = y0; y < y1; y++) {
      if (y < 0 || y >= height) {
        this.blank(out, y - to);
        continue;
      }
      const [half, odd] = [y >> 1, y & 1];
      for (let px = 0; px < 2; px++) {
        const rowA = (k: number) => pixel(below, px - 1, half + odd - 1 + k);
        const rowB = (k: number) => pixel(beside, px - 1, y + k);
        this.kernel.convRow(
          pixel(out, px, y - to),
          2 * out.channels * FLOAT,
          Math.ceil(out.width / 8),
          layer.written / 8,
          layer.bias,
          rowA(0),
          rowA(1),
          0,
          stepA,
          below.channels * 2,
          layer.weights[odd * 2 + px],
          rowB(-1),
          rowB(0),
          rowB(1),
          stepB,
          beside.channels * 3,
          layer.beside,
        );
      }
      this.edge(out, y - to);
    }
  }

  /** Noughts after a row's last pixel, where four at a time wrote beyond it. */
  private edge(out: Plane, y: number): void {
    const from = pixel(out, out.width, y);
    const to = pixel(out, -1, y) + out.rowBytes;
    new Uint8Array(this.memory.buffer, from, to - from).fill(0);
  }

  private blank(out: Plane, y: number): void {
    new Uint8Array(this.memory.buffer, pixel(out, -1, y), out.rowBytes).fill(0);
  }

  private pool(source: Plane, from: number, out: Plane, y0: number, y1: number): void {
    for (let y = y0; y < y1; y++) {
      this.kernel.poolRow(
        pixel(out, 0, y),
        pixel(source, 0, 2 * y - from),
        pixel(source, 0, 2 * y + 1 - from),
        out.width,
        out.channels * FLOAT,
      );
    }
  }

  first(y0: number, y1: number): void {
    const { picture, half1 } = this.plan.planes;
    const top = 2 * y0 - 1;
    const a = this.strips(this.scratch, picture.width, 32, 2 * (y1 - y0) + 2);
    const b = this.strips(
      this.scratch + planeBytes(picture.width, 2 * STRIP + 2, 32),
      picture.width,
      32,
      2 * (y1 - y0),
    );
    this.clearSides(a);
    this.conv(picture, 0, 'enc_conv0', a, top, top, 2 * y1 + 1, picture.height);
    this.conv(a, top, 'enc_conv1', b, 2 * y0, 2 * y0, 2 * y1, picture.height);
    this.pool(b, 2 * y0, half1, y0, y1);
  }

  halved(source: PlaneName, name: string, out: PlaneName, y0: number, y1: number): void {
    const from = this.plan.planes[source];
    const to = this.plan.planes[out];
    const a = this.strips(this.scratch, from.width, to.channels, 2 * (y1 - y0));
    this.conv(from, 0, name, a, 2 * y0, 2 * y0, 2 * y1, from.height);
    this.pool(a, 2 * y0, to, y0, y1);
  }

  plain(source: PlaneName, name: string, out: PlaneName, y0: number, y1: number): void {
    const from = this.plan.planes[source];
    this.conv(from, 0, name, this.plan.planes[out], 0, y0, y1, from.height);
  }

  doubled(below: PlaneName, beside: PlaneName, name: string, out: PlaneName, y0: number, y1: number): void {
    const { planes } = this.plan;
    this.convDoubled(planes[below], planes[beside], name, planes[out], 0, y0, y1);
  }

  second(y0: number, y1: number): void {
    const { up3b, half1, up2b } = this.plan.planes;
    const a = this.strips(this.scratch, up2b.width, 64, y1 - y0 + 2);
    this.clearSides(a);
    this.convDoubled(up3b, half1, 'dec_conv2a', a, y0 - 1, y0 - 1, y1 + 1);
    this.conv(a, y0 - 1, 'dec_conv2b', up2b, 0, y0, y1, up2b.height);
  }

  last(y0: number, y1: number): void {
    const { up2b, picture, clean } = this.plan.planes;
    const a = this.strips(this.scratch, picture.width, 64, y1 - y0 + 4);
    const b = this.strips(
      this.scratch + planeBytes(picture.width, STRIP + 4, 64),
      picture.width,
      32,
      y1 - y0 + 2,
    );
    this.clearSides(a);
    this.clearSides(b);
    this.convDoubled(up2b, picture, 'dec_conv1a', a, y0 - 2, y0 - 2, y1 + 2);
    this.conv(a, y0 - 2, 'dec_conv1b', b, y0 - 1, y0 - 1, y1 + 1, picture.height);
    this.conv(b, y0 - 1, 'dec_conv0', clean, 0, y0, y1, picture.height);
  }

  /** Noughts before each row's first pixel: a strip's memory held other strips before. */
  private clearSides(out: Plane): void {
    const bytes = out.channels * FLOAT;
    for (let y = -1; y <= out.height; y++)
      new Uint8Array(this.memory.buffer, pixel(out, -1, y), bytes).fill(0);
  }
}
