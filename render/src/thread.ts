/** One tracing thread. */
import { parentPort, workerData } from 'node:worker_threads';
import { Kernel } from '@wemlox/core/trace/kernel';
import { PathTracer } from '@wemlox/core/trace/pathTracer';
import { traceShare } from '@wemlox/core/trace/tiles';
import type { Pass, PassDone, ThreadStart } from './threads.ts';

const { module, memory, layout, lane, prepared, view, film, control } = workerData as ThreadStart;
const tracer = new PathTracer(prepared, new Kernel(module, memory, layout, lane), view);

parentPort!.on('message', ({ run, first, last, seed }: Pass) => {
  const before = tracer.rays;
  const whole = first === last || traceShare(tracer, film, control, run, first, last, seed);
  parentPort!.postMessage({
    whole,
    rays: tracer.rays - before,
  } satisfies PassDone);
});
