/** Takes the noise out of small pictures, each by the one thread that traced it. */
import { DenoiseMemory, denoiseJob, DenoiseWorker } from '@wemlox/core/picture/denoise/denoise';
import { readWeights } from '@wemlox/core/picture/denoise/weights';
import { kernelMemory } from '@wemlox/core/trace/kernel';
import { compileDenoiser, denoiserWeights } from './files.ts';

/** Linear r g b alpha of a picture in; without its noise out. */
export type CellCleaner = (picture: Float32Array, width: number, height: number) => Float32Array;

/** A cleaner of this thread's own; without its files pictures stay as they are. */
export async function openCellCleaner(): Promise<CellCleaner> {
  try {
    const [module, weights] = await Promise.all([compileDenoiser(), denoiserWeights()]);
    const memory = kernelMemory(true);
    const store = new DenoiseMemory(memory, readWeights(weights));
    const worker = new DenoiseWorker(module, memory, 0);
    return (picture, width, height) => {
      const job = denoiseJob(store, picture, width, height, 1);
      worker.share(job);
      return Float32Array.from(job.clean);
    };
  } catch {
    return (picture) => picture;
  }
}
