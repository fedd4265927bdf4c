/** Takes the noise out of a traced picture with worker threads; the same picture whatever their number. */
import { readFile } from 'node:fs/promises';
import { availableParallelism } from 'node:os';
import { DenoiseMemory, denoiseJob } from '@wemlox/core/picture/denoise/denoise';
import { readWeights } from '@wemlox/core/picture/denoise/weights';
import type { LinearPicture } from '@wemlox/core/picture/files';
import { whollyCaught } from '@wemlox/core/trace/catching';
import type { Film } from '@wemlox/core/trace/film';
import { kernelMemory } from '@wemlox/core/trace/kernel';
import { withThreads } from './crew.ts';
import { kernelModule } from './threads.ts';

const WEIGHTS = new URL('../../core/kernel/weights/rt_hdr.tza', import.meta.url);

/**
 * Takes the noise out of shadows that were caught: they are opacity, which the picture's own cleaning leaves as it is.
 * Edges of what stands before them stay as sharp as they were.
 * @param data the picture, r g b a, whose alpha is cleaned in place
 */
export async function cleanShadows(
  film: Film,
  samples: number,
  data: Float32Array,
  amount: number,
  threads?: number,
): Promise<void> {
  if (film.catchAt === 0 || amount === 0) return;
  const { width, height } = film;
  const shade = new Float32Array(data.length);
  for (let i = 0; i < data.length; i += 4) shade.set([data[i + 3], data[i + 3], data[i + 3], 1], i);
  const clean = await denoised({ width, height, data: shade }, amount, threads);
  whollyCaught(film, samples).forEach((caught, p) => {
    if (caught) data[p * 4 + 3] = Math.min(1, Math.max(0, clean.data[p * 4]));
  });
}

/**
 * @param amount share of the clean picture in what is returned, 0 … 1; the rest is the picture as it was
 */
export async function denoised(
  { width, height, data }: LinearPicture,
  amount = 1,
  threads = availableParallelism(),
): Promise<LinearPicture> {
  const module = kernelModule('denoise-shared.wasm');
  const memory = kernelMemory(true);
  const store = new DenoiseMemory(memory, readWeights(new Uint8Array(await readFile(WEIGHTS))));
  const job = denoiseJob(store, data, width, height, threads);
  await withThreads(threads, (crew) =>
    Promise.all(crew.map((thread, lane) => thread.ask({ do: 'denoise', module, memory, lane, job }))),
  );
  return { width, height, data: data.map((v, i) => v + (job.clean[i] - v) * amount) };
}
