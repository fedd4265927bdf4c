/** One tracing thread. */
import { parentPort, workerData } from 'node:worker_threads';
import { traceShare } from '@wemlox/core/trace/tiles';
import { WaveTracer } from '@wemlox/core/trace/waveTracer';
import type { Pass, PassDone, Subject, ThreadStart } from './threads.ts';

const { module, memory, lane, prepared, view, film, control } = workerData as ThreadStart;
const tracer = new WaveTracer(module, memory, lane);
tracer.aim(prepared, view);

parentPort!.on('message', (order: Pass | Subject) => {
  if ('prepared' in order) {
    tracer.aim(order.prepared, order.view);
    return;
  }
  const { run, first, last, seed } = order;
  const before = tracer.rays;
  const whole = first === last || traceShare(tracer, film, control, run, first, last, seed);
  parentPort!.postMessage({
    whole,
    rays: tracer.rays - before,
  } satisfies PassDone);
});
