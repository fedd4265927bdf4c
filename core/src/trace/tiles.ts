/** Sharing the pixels of a film between threads: tiles are claimed one at a time through shared memory. */
import type { Film } from './film.ts';
import type { TileTracer } from './waveTracer.ts';

/** Side of a tile, pixels. */
const TILE = 32;
const NEXT = 0;
const RUN = 1;

/** Memory through which threads share a film's tiles, and through which a run is called off. */
export const createControl = () => new Int32Array(new SharedArrayBuffer(8));

/** Calls off whatever runs, and names the next run; to be given to traceShare. */
export const nextRun = (control: Int32Array) => Atomics.add(control, RUN, 1) + 1;

/** Makes all tiles claimable again; only while no thread traces. */
export const rewind = (control: Int32Array) => Atomics.store(control, NEXT, 0);

/**
 * Traces samples [first, last) of tiles until none is left or the run is called off.
 * @returns whether this thread's share was finished
 */
export function traceShare(
  tracer: TileTracer,
  film: Film,
  control: Int32Array,
  run: number,
  first: number,
  last: number,
  seed: number,
): boolean {
  const across = Math.ceil(film.width / TILE);
  const count = across * Math.ceil(film.height / TILE);
  while (!runIsOff(control, run)) {
    const tile = Atomics.add(control, NEXT, 1);
    if (tile >= count) return true;
    const x = (tile % across) * TILE;
    const y = Math.floor(tile / across) * TILE;
    tracer.traceTile(
      film,
      x,
      y,
      Math.min(x + TILE, film.width),
      Math.min(y + TILE, film.height),
      first,
      last,
      seed,
    );
  }
  return false;
}

/** Whether a run has been called off. */
export const runIsOff = (control: Int32Array, run: number) => Atomics.load(control, RUN) !== run;
