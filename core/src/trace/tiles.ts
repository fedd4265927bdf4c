/** Sharing the pixels of a film between threads: tiles are claimed one at a time through shared memory. */
import type { Film } from './film.ts';
import type { TileTracer } from './waveTracer.ts';

/** Side of a tile, pixels. */
const TILE = 32;
/** Words of the shared memory: tiles claimed and done, photon waves claimed and done, maps sorted, the run's number. */
const NEXT = 0;
const RUN = 1;
const DONE = 2;
const SEND = 3;
const SENT = 4;
const SORTED = 5;
/** Longest wait for the other threads before it is looked whether the run is called off, ms. */
const WAIT = 20;

/** Memory through which threads share a film's tiles, and through which a run is called off. */
export const createControl = () => new Int32Array(new SharedArrayBuffer(24));

/** Calls off whatever runs, and names the next run; to be given to traceShare. */
export const nextRun = (control: Int32Array) => Atomics.add(control, RUN, 1) + 1;

/** Makes all tiles claimable again; only while no thread traces. */
export function rewind(control: Int32Array): void {
  for (const word of [NEXT, DONE, SEND, SENT, SORTED]) Atomics.store(control, word, 0);
}

/** Whether a run has been called off. */
export const runIsOff = (control: Int32Array, run: number) => Atomics.load(control, RUN) !== run;

/** Waits until a word is at least `least`. @returns false when the run is called off before */
function reached(control: Int32Array, word: number, least: number, run: number): boolean {
  for (;;) {
    const now = Atomics.load(control, word);
    if (now >= least) return true;
    if (runIsOff(control, run)) return false;
    Atomics.wait(control, word, now, WAIT);
  }
}

function advance(control: Int32Array, word: number): number {
  const now = Atomics.add(control, word, 1) + 1;
  Atomics.notify(control, word);
  return now;
}

/**
 * Traces samples [first, last) of tiles until none is left or the run is called off. Where light comes by photons, each
 * sample has a map of its own: its photons are sent by all threads, sorted by the one that sends the last, and no tile
 * is traced before; the next map waits until all tiles of a sample are done. A thread that has claimed work of a sample
 * that is not open yet keeps it until then.
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
  const tile = (number: number, from: number, to: number) => {
    const x = (number % across) * TILE;
    const y = Math.floor(number / across) * TILE;
    const [right, bottom] = [Math.min(x + TILE, film.width), Math.min(y + TILE, film.height)];
    tracer.traceTile(film, x, y, right, bottom, from, to, seed);
  };
  const { photons } = tracer;
  if (!photons) {
    while (!runIsOff(control, run)) {
      const claimed = Atomics.add(control, NEXT, 1);
      if (claimed >= count) return true;
      tile(claimed, first, last);
    }
    return false;
  }
  let open = -1;
  let wave = -1;
  /** Sends this thread's part of a sample's photons, and waits until they are sorted. */
  const map = (k: number) => {
    if (!reached(control, DONE, k * count, run)) return false;
    for (;;) {
      if (wave < 0) wave = Atomics.add(control, SEND, 1);
      if (wave >= (k + 1) * photons.waves) break;
      if (runIsOff(control, run)) return false;
      photons.send(wave - k * photons.waves, first + k, seed);
      wave = -1;
      if (advance(control, SENT) === (k + 1) * photons.waves) {
        photons.sort(first + k);
        advance(control, SORTED);
      }
    }
    return reached(control, SORTED, k + 1, run);
  };
  try {
    while (!runIsOff(control, run)) {
      const claimed = Atomics.add(control, NEXT, 1);
      const sample = Math.floor(claimed / count);
      // who finds no tile left may still hold a wave that others wait for
      while (open < Math.min(sample, last - first - 1)) {
        if (!map(open + 1)) return false;
        open++;
        photons.use(first + open);
      }
      if (sample >= last - first) return true;
      tile(claimed % count, first + sample, first + sample + 1);
      advance(control, DONE);
    }
    return false;
  } finally {
    photons.use(null);
  }
}
