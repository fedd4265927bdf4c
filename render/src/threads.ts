/** Traces a scene with worker threads on one shared film; the same picture whatever their number. */
import { readFileSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import { catchesShadow, type RenderScene } from '@wemlox/core/scene/renderScene';
import { createFilm, groupsWithin, isFinished, type Film } from '@wemlox/core/trace/film';
import { kernelMemory } from '@wemlox/core/trace/kernel';
import { prepared as prepare } from '@wemlox/core/trace/prepare';
import { SceneMemory } from '@wemlox/core/trace/sceneMemory';
import { createControl, nextRun, rewind } from '@wemlox/core/trace/tiles';
import { shotEye, type Eye } from '@wemlox/core/trace/eye';
import { withThreads, type ThreadOrder } from './crew.ts';

const KERNELS = new URL('../../core/kernel/build/', import.meta.url);

/** The kernel's bytes, over shared memory or over private memory, and the denoiser's. */
export const kernelBytes = (
  name: 'kernel-shared.wasm' | 'kernel.wasm' | 'denoise-shared.wasm' = 'kernel-shared.wasm',
) => readFileSync(new URL(name, KERNELS));

const compiled = new Map<string, WebAssembly.Module>();

/** The compiled kernel over shared memory, or the denoiser; compiled once, for every picture after the first. */
export function kernelModule(name: 'kernel-shared.wasm' | 'denoise-shared.wasm'): WebAssembly.Module {
  const module = compiled.get(name) ?? new WebAssembly.Module(kernelBytes(name));
  compiled.set(name, module);
  return module;
}

/** Bytes of the sources' light by themselves. */
const MOST_SHARES = 2 ** 30;

export interface TraceOptions {
  width: number;
  height: number;
  samples: number;
  seed: number;
  threads?: number;
  /** Where it is seen from, when not through the scene's own camera. */
  view?: Eye;
  /** Gather albedo, normal and depth as well, and the light of each source by itself. */
  layers?: boolean;
  /** Noise at which squares of pixels stop; 0: never. */
  target?: number;
  /** A film of the same order to go on with, and the samples it holds. */
  from?: { samples: number; state: Float32Array };
  /** Moments that the picture is traced at, and the scene of each; the one given alone when there are none. */
  moments?: { count: number; at: (moment: number) => Promise<RenderScene> };
  /** Called after each pass; true stops. */
  onPass?: (done: number, film: Film) => boolean | void | Promise<boolean | void>;
}

export interface Traced {
  film: Film;
  samples: number;
  rays: number;
  /** Processor seconds of the whole process while it traced (process.cpuUsage), and seconds by the clock. */
  cpuSeconds: number;
  wallSeconds: number;
}

/** Sample ranges a picture is traced in: short first, so that something can be seen and stopped early. */
export function* passes(samples: number, from = 0): Generator<[number, number]> {
  for (let first = from, length = 1; first < samples; first += length, length = Math.min(16, length * 2)) {
    yield [first, Math.min(samples, first + length)];
  }
}

/** A pass at a moment of the picture. */
interface TimedPass {
  first: number;
  last: number;
  moment: number;
  /** All moments have as many samples after it. */
  even: boolean;
}

/** Passes in rounds through all moments, so that a picture may stop after any of the rounds; in the order of samples. */
export function* timedPasses(samples: number, moments: number, from = 0): Generator<TimedPass> {
  if (moments === 1) {
    for (const [first, last] of passes(samples, from)) yield { first, last, moment: 0, even: true };
    return;
  }
  let done = 0;
  for (let length = 1; done < samples; length = Math.min(16, length * 2))
    for (let moment = 0; moment < moments && done < samples; moment++) {
      // what is left is shared out to the last round's moments
      const left = samples - done;
      const last = done + Math.min(length, Math.ceil(left / (moments - moment)));
      if (last > from)
        yield { first: Math.max(from, done), last, moment, even: moment === moments - 1 || last === samples };
      done = last;
    }
}

export async function traceScene(scene: RenderScene, options: TraceOptions): Promise<Traced> {
  const { width, height, samples, seed } = options;
  const threads = Math.max(1, options.threads ?? availableParallelism());
  const module = kernelModule('kernel-shared.wasm');
  const memory = kernelMemory(true);
  const scenes = new SceneMemory(module, memory, threads);
  const prepared = prepare(scenes, scene);
  const film = createFilm(width, height, {
    shared: true,
    layers: options.layers,
    groups: options.layers ? groupsWithin(scene.groups.length, width * height, MOST_SHARES) : 0,
    target: options.target,
    catches: catchesShadow(scene),
  });
  // a film of another layout, from before an update, is begun anew
  const from = options.from?.state.length === film.state.length ? options.from : null;
  const done = from?.samples ?? 0;
  if (from) film.state.set(from.state);
  const control = createControl();
  const view = options.view ?? shotEye(scene, width, height);
  const traced: Traced = { film, samples: done, rays: 0, cpuSeconds: 0, wallSeconds: 0 };
  return withThreads(threads, async (crew) => {
    const all = (order: (lane: number) => ThreadOrder) =>
      Promise.all(crew.map((thread, lane) => thread.ask(order(lane))));
    await all((lane) => ({ do: 'open', module, memory, lane, prepared, view, film, control }));
    const started = performance.now();
    const used = process.cpuUsage();
    let shown = options.moments ? -1 : 0;
    for (const { first, last, moment, even } of timedPasses(samples, options.moments?.count ?? 1, done)) {
      if (moment !== shown) {
        const own = await options.moments!.at(moment);
        const prepared = prepare(scenes, own);
        await all(() => ({ do: 'aim', prepared, view: options.view ?? shotEye(own, width, height) }));
        shown = moment;
      }
      rewind(control);
      const run = nextRun(control);
      for (const rays of await all(() => ({ do: 'pass', run, first, last, seed }))) traced.rays += rays;
      traced.samples = last;
      traced.wallSeconds = (performance.now() - started) / 1000;
      const { user, system } = process.cpuUsage(used);
      traced.cpuSeconds = (user + system) / 1e6;
      if ((await options.onPass?.(last, film)) || (even && isFinished(film))) break;
    }
    return traced;
  });
}
