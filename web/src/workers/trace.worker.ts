/** One tracing thread: its share of the picture's tiles, and small pictures of finishes. */
import 'reflect-metadata';
import { toneMapped8 } from '@wemlox/core/picture/tone';
import { createFilm, developed, type Film } from '@wemlox/core/trace/film';
import { Kernel } from '@wemlox/core/trace/kernel';
import { PathTracer } from '@wemlox/core/trace/pathTracer';
import type { PreparedScene } from '@wemlox/core/trace/prepare';
import { runIsOff, traceShare } from '@wemlox/core/trace/tiles';
import { cellEye, shotEye } from '@wemlox/core/trace/eye';
import type { TraceOrder, TraceReply } from './messages.ts';

let prepared: PreparedScene | null = null;
let kernel: Kernel | null = null;
let kernelVersion = -1;
let control: Int32Array = new Int32Array(2);
/** The tracer of the picture and what it was made for. */
let main: { tracer: PathTracer; film: Film; key: string } | null = null;

const CELL_SEED = 7;

const reply = (message: TraceReply, transfer: Transferable[] = []) => self.postMessage(message, { transfer });

function take(order: TraceOrder & { type: 'scene' }): void {
  prepared = order.prepared;
  control = order.control;
  main = null;
  if (order.rays.version !== kernelVersion) {
    const { module, memory, layout, version } = order.rays;
    kernel = new Kernel(module, memory, layout, order.lane);
    kernelVersion = version;
  }
  reply({ type: 'accepted', version: order.rays.version });
}

function pass(order: TraceOrder & { type: 'pass' }): void {
  const { run, first, last, seed, camera, film } = order;
  const { scene } = prepared!;
  const key = JSON.stringify([camera, film.width, film.height]);
  if (main?.key !== key) {
    const view = shotEye({ ...scene, camera }, film.width, film.height);
    main = { tracer: new PathTracer(prepared!, kernel!, view), film, key };
  }
  const before = main.tracer.rays;
  const whole = traceShare(main.tracer, film, control, run, first, last, seed);
  reply({ type: 'pass', run, whole, rays: main.tracer.rays - before });
}

function cell({ run, cell: order }: TraceOrder & { type: 'cell' }): void {
  const { key, block, letter, zone, dress, width, height, samples, grade } = order;
  const nothing: TraceReply = { type: 'cell', run, key, samples, width, height, pixels: null };
  const view =
    prepared && !runIsOff(control, run) && cellEye(prepared, block, letter, zone, dress, width, height);
  if (!view) {
    reply(nothing);
    return;
  }
  const tracer = new PathTracer(prepared!, kernel!, view);
  const film = createFilm(width, height);
  for (let s = 0; s < samples; s++) {
    if (runIsOff(control, run)) {
      reply(nothing);
      return;
    }
    tracer.traceTile(film, 0, 0, width, height, s, s + 1, CELL_SEED);
  }
  const pixels = toneMapped8(developed(film, samples), grade);
  reply({ ...nothing, pixels }, [pixels.buffer]);
}

self.onmessage = ({ data }: MessageEvent<TraceOrder>) => {
  if (data.type === 'scene') take(data);
  else if (data.type === 'pass') pass(data);
  else cell(data);
};
