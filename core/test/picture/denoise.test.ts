import { readFileSync } from 'node:fs';
import { createHash } from 'node:crypto';
import * as fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { DenoiseMemory, denoiseJob, DenoiseWorker } from '../../src/picture/denoise/denoise.ts';
import { NetworkWorker, pixel, STAGE_COUNT, stripsOf } from '../../src/picture/denoise/network.ts';
import { decoded, encoded, exposureOf } from '../../src/picture/denoise/transfer.ts';
import { readWeights } from '../../src/picture/denoise/weights.ts';
import { shrunk } from '../../src/picture/compare.ts';
import { kernelMemory } from '../../src/trace/kernel.ts';
import { seeded } from '../trace/kernelFixture.ts';

const kernel = (path: string) =>
  new Uint8Array(readFileSync(new URL(`../../kernel/${path}`, import.meta.url)));
const bytes = kernel('weights/rt_hdr.tza');
const tensors = readWeights(bytes);
const module = new WebAssembly.Module(kernel('build/denoise-shared.wasm'));
const open = () => new DenoiseMemory(kernelMemory(true), tensors);

function cleaned(store: DenoiseMemory, picture: Float32Array, width: number, height: number): Float32Array {
  const job = denoiseJob(store, picture, width, height, 1);
  expect(new DenoiseWorker(module, store.memory, 0).share(job)).toBe(true);
  return job.clean;
}

/** An upright edge between two lights, with noise of a given size. */
function edge(width: number, height: number, noise: number, seed = 1): Float32Array {
  const random = seeded(seed);
  const out = new Float32Array(width * height * 4);
  for (let i = 0; i < width * height; i++) {
    const light = i % width < width / 2 ? 0.2 : 1.5;
    for (let c = 0; c < 3; c++) out[i * 4 + c] = Math.max(0, light * (1 + noise * (random() - 0.5)));
    out[i * 4 + 3] = 1;
  }
  return out;
}

const rms = (a: Float32Array, b: Float32Array) => {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += i % 4 === 3 ? 0 : (a[i] - b[i]) ** 2;
  return Math.sqrt(sum / a.length);
};

describe('the weights', () => {
  it('are the ones that were published', () => {
    expect(createHash('sha256').update(bytes).digest('hex')).toBe(
      'a097e8fe9b1ba71ec43cde3e6df3fcf54fa4f8f2f4dd41eac01d0a76a16261e3',
    );
    expect(tensors.size).toBe(32);
    expect(tensors.get('dec_conv1a.weight')!.shape).toEqual([64, 67, 3, 3]);
    expect(() => readWeights(bytes.subarray(2))).toThrow(/not a .tza file/);
  });
});

describe('the network’s curve', () => {
  it('comes back to the light it was given, and rises', () => {
    let last = -1;
    for (let k = -20; k < 16; k += 0.25) {
      const light = 2 ** k;
      expect(decoded(encoded(light)) / light).toBeCloseTo(1, 4);
      expect(encoded(light)).toBeGreaterThan(last);
      last = encoded(light);
    }
    expect(encoded(0)).toBe(0);
    expect(encoded(-3)).toBe(0);
    expect(encoded(1e9)).toBeCloseTo(1, 9);
  });

  it('is set by the picture’s own light', () => {
    expect(exposureOf(64, 64, () => 4)).toBeCloseTo(0.18 / 4, 6);
    expect(exposureOf(64, 64, () => 0)).toBe(1);
    // half black: what is black does not count
    expect(exposureOf(64, 64, (p) => (p < 2048 ? 0 : 1))).toBeCloseTo(0.18, 6);
  });
});

describe('a layer', () => {
  it('is the convolution it stands for, to the last strip: the first against sums taken one by one', () => {
    const store = open();
    const [width, height] = [32, 48];
    const plan = store.plan(width, height, 1);
    const random = seeded(3);
    const { picture, half1 } = plan.planes;
    const values = (y: number, x: number, c: number) =>
      y < 0 || y >= height || x < 0 || x >= width || c > 2 ? 0 : lights[(y * width + x) * 4 + c];
    const lights = Float32Array.from({ length: width * height * 4 }, () => random());
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++)
        new Float32Array(store.memory.buffer, pixel(picture, x, y), 3).set(
          lights.subarray((y * width + x) * 4, (y * width + x) * 4 + 3),
        );
    const worker = new NetworkWorker(module, store.memory, plan, 0);
    for (let k = 0; k < stripsOf(plan, 0); k++) worker.strip(0, k);
    const conv = (name: string, read: (y: number, x: number, c: number) => number) => {
      const { shape, values: w } = tensors.get(`${name}.weight`)!;
      const bias = tensors.get(`${name}.bias`)!.values;
      return (y: number, x: number, o: number) => {
        if (y < 0 || y >= height || x < 0 || x >= width) return 0;
        let sum = bias[o];
        for (let c = 0; c < shape[1]; c++)
          for (let k = 0; k < 9; k++)
            sum += w[(o * shape[1] + c) * 9 + k] * read(y + Math.floor(k / 3) - 1, x + (k % 3) - 1, c);
        return Math.max(0, sum);
      };
    };
    const once = new Map<string, number>();
    const first = conv('enc_conv0', values);
    const kept = (y: number, x: number, c: number) => {
      const key = `${y} ${x} ${c}`;
      if (!once.has(key)) once.set(key, first(y, x, c));
      return once.get(key)!;
    };
    const second = conv('enc_conv1', kept);
    for (const [y, x] of [
      [0, 0],
      [3, 15],
      [11, 7],
      [23, 15],
      [8, 0],
      [15, 8],
    ]) {
      const got = new Float32Array(store.memory.buffer, pixel(half1, x, y), 32);
      for (const o of [0, 5, 31]) {
        const want = Math.max(...[0, 1, 2, 3].map((k) => second(2 * y + (k >> 1), 2 * x + (k & 1), o)));
        expect(got[o]).toBeCloseTo(want, 4);
      }
    }
  });
});

describe('cleaning', () => {
  it('leaves even pictures even, of any size and light, and alpha as it is', () => {
    const store = open();
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 70 }),
        fc.integer({ min: 1, max: 50 }),
        fc.double({ min: 0.01, max: 200, noNaN: true }),
        fc.constantFrom(1, 0.5),
        (width, height, light, alpha) => {
          const picture = new Float32Array(width * height * 4);
          for (let i = 0; i < picture.length; i += 4)
            picture.set([light * alpha, light * alpha, light * alpha, alpha], i);
          const out = cleaned(store, picture, width, height);
          for (let i = 0; i < out.length; i += 4) {
            expect(out[i + 3]).toBe(Math.fround(alpha));
            for (let c = 0; c < 3; c++) expect(out[i + c] / (light * alpha)).toBeCloseTo(1, 0);
          }
        },
      ),
      { numRuns: 12 },
    );
    const black = cleaned(store, new Float32Array(32 * 32 * 4), 32, 32);
    expect(black.every((v) => v === 0)).toBe(true);
  });

  it('takes most of the noise out and keeps edges', () => {
    const [width, height] = [96, 64];
    const truth = edge(width, height, 0);
    const noisy = edge(width, height, 1.6);
    const out = cleaned(open(), noisy, width, height);
    expect(rms(out, truth) / rms(noisy, truth)).toBeLessThan(0.25);
    // of sides that are no multiple of sixteen too, out to their edges
    const odd = cleaned(open(), edge(90, 57, 1.6), 90, 57);
    const even = edge(90, 57, 0);
    const last = (picture: Float32Array) =>
      picture.filter((_, i) => (i >> 2) % 90 > 84 || Math.floor((i >> 2) / 90) > 51);
    expect(rms(last(odd), last(even)) / rms(last(edge(90, 57, 1.6)), last(even))).toBeLessThan(0.3);
    for (let y = 4; y < height - 4; y++) {
      const at = (x: number) => out[(y * width + x) * 4 + 1];
      expect(at(width / 2 + 2) / at(width / 2 - 3)).toBeGreaterThan(4);
    }
  });

  it('leaves no more grain in the corners than inside, whatever is missing to a whole multiple', () => {
    const store = open();
    let [corners, inside] = [0, 0];
    for (const [width, height] of [
      [100, 90],
      [116, 106],
    ]) {
      const random = seeded(width);
      const picture = new Float32Array(width * height * 4).fill(1);
      // one light sample in three, as of a dull floor after a few samples
      for (let p = 0; p < width * height; p++) picture.fill(random() < 0.33 ? 3 : 0.1, p * 4, p * 4 + 3);
      const clean = cleaned(store, picture, width, height);
      const grain = (x0: number, y0: number) => {
        let sum = 0;
        for (let y = y0; y < y0 + 16; y++)
          for (let x = x0; x < x0 + 16; x++) {
            const at = (u: number, v: number) => clean[(v * width + u) * 4];
            sum += (2 * at(x, y) - at(x + 1, y) - at(x, y + 1)) ** 2;
          }
        return Math.sqrt(sum) / 16;
      };
      corners = Math.max(corners, grain(width - 18, height - 18));
      inside += grain(width / 2 - 8, height / 2 - 8) / 2;
    }
    expect(corners).toBeLessThan(1.4 * inside);
  });

  it('gives the same bytes whatever threads share it and in whatever order', () => {
    const [width, height] = [112, 80];
    const picture = edge(width, height, 1);
    const alone = cleaned(open(), picture, width, height);
    const store = open();
    // planes of other sizes came and went
    for (const side of [16, 32, 48, 64]) store.plan(side, side, 3);
    const job = denoiseJob(store, picture, width, height, 3);
    const workers = [0, 1, 2].map((thread) => new NetworkWorker(module, store.memory, job.plan, thread));
    // by hand, as the threads would: each stage's strips by whoever, the last first
    const one = denoiseJob(store, picture, width, height, 1);
    new DenoiseWorker(module, store.memory, 0).share(one);
    expect(Buffer.from(one.clean.buffer).equals(Buffer.from(alone.buffer))).toBe(true);
    const { picture: from, clean: to } = one.plan.planes;
    const { picture: into, clean: out } = job.plan.planes;
    for (let y = 0; y < from.height; y++)
      new Uint8Array(store.memory.buffer, pixel(into, 0, y), from.width * 16).set(
        new Uint8Array(store.memory.buffer, pixel(from, 0, y), from.width * 16),
      );
    for (let stage = 0; stage < STAGE_COUNT; stage++)
      for (let k = stripsOf(job.plan, stage) - 1; k >= 0; k--) workers[(k * 7 + stage) % 3].strip(stage, k);
    for (let y = 0; y < height; y++) {
      const row = (p: typeof to) => Buffer.from(store.memory.buffer, pixel(p, 0, y), width * 32);
      expect(row(out).equals(row(to))).toBe(true);
    }
  });

  it('gives the same bytes again, whatever was cleaned in the same memory before', () => {
    const store = open();
    const [width, height] = [72, 50];
    const picture = edge(width, height, 1);
    const first = cleaned(open(), picture, width, height).slice();
    cleaned(store, edge(width, height, 9, 4), width, height);
    expect(cleaned(store, picture, width, height)).toEqual(first);
    expect(cleaned(store, picture, width, height)).toEqual(first);
  });

  it('keeps what it needs for full HD under 400 MB', () => {
    const store = open();
    const [width, height] = [1920, 1080];
    store.plan(width, height, 2);
    // beside it the picture as it is, and as it becomes
    expect(store.memory.buffer.byteLength + 2 * 16 * width * height).toBeLessThan(400e6);
  });

  it('returns once it is called off', () => {
    const store = open();
    const job = denoiseJob(store, edge(64, 64, 1), 64, 64, 2);
    Atomics.store(job.control, 0, 1);
    expect(new DenoiseWorker(module, store.memory, 0).share(job)).toBe(false);
  });
});

describe('a picture made smaller', () => {
  it('keeps its mean, whatever is left over at the edges', () => {
    const width = 7;
    const picture = { width, height: 5, data: edge(width, 5, 1) };
    const small = shrunk(picture, 2);
    expect([small.width, small.height]).toEqual([3, 2]);
    expect(small.data[0]).toBeCloseTo(
      (picture.data[0] + picture.data[4] + picture.data[width * 4] + picture.data[width * 4 + 4]) / 4,
      6,
    );
    for (let i = 3; i < small.data.length; i += 4) expect(small.data[i]).toBeCloseTo(1, 6);
  });
});
