/** One denoising thread: its share of one picture. */
import { workerData } from 'node:worker_threads';
import { DenoiseWorker } from '@wemlox/core/picture/denoise/denoise';
import type { DenoiseStart } from './denoise.ts';

const { module, memory, thread, job } = workerData as DenoiseStart;
new DenoiseWorker(module, memory, thread).share(job);
