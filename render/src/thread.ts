/** One thread: traces its share of a film, and takes the noise out of its share of a picture. */
import { setFlagsFromString } from 'node:v8';
import { runInNewContext } from 'node:vm';
import { parentPort } from 'node:worker_threads';
import { DenoiseWorker } from '@wemlox/core/picture/denoise/denoise';
import { traceShare } from '@wemlox/core/trace/tiles';
import { WaveTracer } from '@wemlox/core/trace/waveTracer';
import type { ThreadOrder } from './crew.ts';

setFlagsFromString('--expose-gc');
const collectGarbage = runInNewContext('gc') as () => void;

let opened: { tracer: WaveTracer; order: ThreadOrder & { do: 'open' } } | null = null;

/** Does what is asked. @returns rays that were traced for it */
function done(order: ThreadOrder): number {
  switch (order.do) {
    case 'open': {
      const tracer = new WaveTracer(order.module, order.memory, order.lane);
      tracer.aim(order.prepared, order.view);
      opened = { tracer, order };
      break;
    }
    case 'aim':
      opened!.tracer.aim(order.prepared, order.view);
      break;
    case 'pass': {
      const { run, first, last, seed } = order;
      const { tracer } = opened!;
      const { film, control } = opened!.order;
      const before = tracer.rays;
      traceShare(tracer, film, control, run, first, last, seed);
      return tracer.rays - before;
    }
    case 'denoise':
      new DenoiseWorker(order.module, order.memory, order.lane).share(order.job);
      break;
    case 'rest':
      opened = null;
      // a thread that rests allocates nothing, and would keep the last scene for as long
      collectGarbage();
  }
  return 0;
}

parentPort!.on('message', (order: ThreadOrder) => {
  const rays = done(order);
  // nobody waits for one that goes to rest
  if (order.do !== 'rest') parentPort!.postMessage(rays);
});
