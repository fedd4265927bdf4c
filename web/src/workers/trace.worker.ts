/** One tracing thread: its share of the picture's tiles, and small pictures of finishes. */
import 'reflect-metadata';
import { DenoiseWorker } from '@wemlox/core/picture/denoise/denoise';
import { toneMapped8 } from '@wemlox/core/picture/tone';
import { developed } from '@wemlox/core/trace/developing';
import { faceMask, lobeWidths, rowKinds, rowsOf } from '@wemlox/core/trace/faceMask';
import { createFilm } from '@wemlox/core/trace/film';
import type { PreparedScene } from '@wemlox/core/trace/prepare';
import { runIsOff, traceShare } from '@wemlox/core/trace/tiles';
import { cellEye, shotEye, unfoldedEye, type Eye } from '@wemlox/core/trace/eye';
import { WaveTracer } from '@wemlox/core/trace/waveTracer';
import { openCellCleaner, type CellCleaner } from './cellCleaner.ts';
import type { TraceOrder, TraceReply } from './messages.ts';

let prepared: PreparedScene | null = null;
let tracer: WaveTracer | null = null;
/** By whose memory they look at. */
const tracers = new Map<string, WaveTracer>();
let lane = 0;
let denoiser: DenoiseWorker | null = null;
let cleaner: Promise<CellCleaner> | null = null;
let control: Int32Array = new Int32Array(2);
/** The picture's eye and what it was made for. */
let main: { eye: Eye; key: string } | null = null;

const CELL_SEED = 7;

const reply = (message: TraceReply, transfer: Transferable[] = []) => self.postMessage(message, { transfer });

function take(order: TraceOrder & { type: 'scene' }): void {
  prepared = order.prepared;
  control = order.control;
  lane = order.lane;
  main = null;
  const { of, module, memory } = order.rays;
  tracer = tracers.get(of) ?? new WaveTracer(module, memory, lane);
  tracers.set(of, tracer);
  reply({ type: 'accepted', version: order.rays.version });
}

function pass(order: TraceOrder & { type: 'pass' }): void {
  const { run, first, last, seed, camera, film } = order;
  const { scene } = prepared!;
  const key = JSON.stringify([camera, film.width, film.height]);
  if (main?.key !== key) main = { eye: shotEye({ ...scene, camera }, film.width, film.height), key };
  tracer!.aim(prepared!, main.eye);
  const before = tracer!.rays;
  const whole = traceShare(tracer!, film, control, run, first, last, seed);
  reply({ type: 'pass', run, whole, rays: tracer!.rays - before });
}

async function cell({ run, cell: order }: TraceOrder & { type: 'cell' }): Promise<void> {
  const { key, block, letter, dress, width, height, samples, grade, unfolded, camera } = order;
  const nothing: TraceReply = { type: 'cell', run, key, samples, width, height, pixels: null };
  const view =
    prepared &&
    !runIsOff(control, run) &&
    (unfolded
      ? unfoldedEye({ ...prepared.scene, camera }, unfolded)
      : cellEye(prepared.scene, block, letter, dress, width, height));
  if (!view) {
    reply(nothing);
    return;
  }
  tracer!.aim(prepared!, view);
  const film = createFilm(width, height);
  for (let s = 0; s < samples; s++) {
    if (runIsOff(control, run)) {
      reply(nothing);
      return;
    }
    tracer!.traceTile(film, 0, 0, width, height, s, s + 1, CELL_SEED);
  }
  cleaner ??= openCellCleaner();
  const clean = (await cleaner)(developed(film, samples), width, height);
  const pixels = toneMapped8(clean, grade);
  reply({ ...nothing, pixels }, [pixels.buffer]);
}

function mask({ camera, width, height }: TraceOrder & { type: 'mask' }): void {
  const { scene } = prepared!;
  const eye = shotEye({ ...scene, camera }, width, height);
  tracer!.aim(prepared!, eye);
  const seen = {
    mask: faceMask(tracer!, scene, eye),
    rows: rowsOf(scene).rows,
    widths: lobeWidths(scene),
    ...rowKinds(scene),
  };
  reply({ type: 'mask', seen: { ...seen, eye } });
}

function denoise({ job, denoiser: { module, memory } }: TraceOrder & { type: 'denoise' }): void {
  denoiser ??= new DenoiseWorker(module, memory, lane);
  reply({ type: 'denoised', whole: denoiser.share(job) });
}

self.onmessage = ({ data }: MessageEvent<TraceOrder>) => {
  if (data.type === 'scene') take(data);
  else if (data.type === 'pass') pass(data);
  else if (data.type === 'denoise') denoise(data);
  else if (data.type === 'mask') mask(data);
  else void cell(data);
};
