/** The page's end of the tracing threads: one shared film, tiles claimed through shared memory. */
import type { Stroke, Wished } from '@wemlox/core/trace/wish';
import { newGrade, type Camera, type Grade } from '@wemlox/core/document';
import { callOff as stopDenoising, type DenoiseJob } from '@wemlox/core/picture/denoise/denoise';
import { catchesShadow, type RenderScene } from '@wemlox/core/scene/renderScene';
import { createFilm, groupsWithin, type Film } from '@wemlox/core/trace/film';
import { createControl, nextRun, rewind, runIsOff } from '@wemlox/core/trace/tiles';
import type { PreparedScene } from '@wemlox/core/trace/prepare';
import type {
  CellOrder,
  DisplayOrder,
  DisplayReply,
  EncodeKind,
  LightChart,
  PictureSize,
  RayMemory,
  SeenFaces,
  TraceOrder,
  TraceReply,
} from '../workers/messages.ts';

type Shown = DisplayReply & { type: 'shown' };
type ProofShown = DisplayReply & { type: 'proofs' };
export type CellPicture = TraceReply & { type: 'cell' };

/** A worker asked one thing at a time, in order. */
class Asked<Order, Reply> {
  private last: Promise<unknown> = Promise.resolve();
  private readonly worker: Worker;

  constructor(worker: Worker, onFailure: (message: string) => void) {
    this.worker = worker;
    worker.addEventListener('error', (event) => onFailure(event.message || 'a worker stopped'));
  }

  ask(order: Order): Promise<Reply> {
    const answer = this.last.then(
      () =>
        new Promise<Reply>((resolve) => {
          this.worker.addEventListener('message', ({ data }: MessageEvent<Reply>) => resolve(data), {
            once: true,
          });
          this.worker.postMessage(order);
        }),
    );
    this.last = answer;
    return answer;
  }

  /** When everything asked so far has been answered. */
  idle(): Promise<unknown> {
    return this.last;
  }

  end(): void {
    this.worker.terminate();
  }
}

export interface TraceProgress {
  samples: number;
  /** Relative standard error of the mean. */
  noise: number;
  /** Share of the light that limits on bounces lose; 0 where it is not worth a word. */
  loss: number;
  secondsLeft: number;
  /** Null when there is nothing new to be seen. */
  pixels: Uint8ClampedArray<ArrayBuffer> | null;
  size: PictureSize;
}

export interface TraceRequest {
  camera: Camera;
  size: PictureSize;
  samples: number;
  seed: number;
  /** Goes on with the picture so far, seen by another camera at another moment; the scene was swapped for it. */
  goesOn?: boolean;
  /** Others follow that go on with it: nothing is shown yet. */
  unfinished?: boolean;
  /** Only the picture that is done is wanted: no first look, nothing cleaned before, no light of each source apart. */
  plain?: boolean;
}

/** Bytes of the sources' light by themselves. */
const MOST_SHARES = 256 * 2 ** 20;
/** Longest time between two pictures, seconds. */
const LONGEST_PASS = 1.2;
/** Most and least pixels of the first look and its samples, and the seconds it may take: it is to stand within a blink. */
const FIRST_PIXELS = 10_000;
const FIRST_LEAST = 3000;
const FIRST_SAMPLES = 4;
const FIRST_SECONDS = 0.18;
/** Samples at which it is first cleaned at half its size, and at its whole. */
const FIRST_HALF = 2;
const LEAST_CLEANED = 4;
/** Share of the time that cleaning may take, and seconds it may take at first. */
const CLEANING = 0.2;
const CLEANING_FIRST = 3;
/** Seconds a pixel takes one thread to clean, until it has been measured. */
const CLEANING_PACE = 1.6e-5;

/** What of a picture has been cleaned: samples at whole and half size, and the seconds that took. */
interface Cleaned {
  whole: number;
  half: number;
  seconds: number;
}

/** Threads that trace a picture: as many as the machine has, within reason. */
export const lanesHere = (): number => Math.max(1, Math.min(16, navigator.hardwareConcurrency || 2));

export class TracePool {
  readonly lanes: number;
  private readonly tracers: Asked<TraceOrder, TraceReply>[];
  private readonly display: Asked<DisplayOrder, DisplayReply>;
  private readonly control = createControl();
  private run = 0;
  private grade: Grade = newGrade();
  /** Names of the scene's share groups. */
  private groups: string[] = [];
  /** Whether something leaves only shadow and reflection. */
  private catches = false;
  /** Whether pictures are shown without their noise. */
  private clean = true;
  /** The picture being cleaned. */
  private job: DenoiseJob | null = null;
  /** Seconds that cleaning a pixel took last; at first what a processor core of our day takes. */
  private cleaningPace: number;
  /** Pixels of the next first look: as many as this machine had time for in the last. */
  private firstPixels = FIRST_PIXELS;
  /** The film of the last request, to go on with; and what its places show, once that is asked for. */
  private film: { film: Film; request: TraceRequest; samples: number; seen: SeenFaces | null } | null = null;
  /** Who is told what lights what; nobody when null. */
  private onChart: ((chart: LightChart) => void) | null = null;
  private gains: number[] | null = null;

  constructor(lanes: number, onFailure: (message: string) => void) {
    this.lanes = lanes;
    this.cleaningPace = CLEANING_PACE / lanes;
    this.tracers = Array.from(
      { length: lanes },
      () =>
        new Asked(
          new Worker(new URL('../workers/trace.worker.ts', import.meta.url), { type: 'module' }),
          onFailure,
        ),
    );
    this.display = new Asked(
      new Worker(new URL('../workers/display.worker.ts', import.meta.url), { type: 'module' }),
      onFailure,
    );
  }

  /** Calls off whatever runs. */
  callOff(): void {
    this.run = nextRun(this.control);
    if (this.job) stopDenoising(this.job);
  }

  /**
   * Leaves the picture so far: the next is of a scene that tracers are given when they trace it. Resolves when none of
   * them looks at the last one any more.
   */
  async leave(scene: RenderScene): Promise<void> {
    this.callOff();
    this.film = null;
    this.expect(scene);
    await Promise.all(this.tracers.map((t) => t.idle()));
  }

  private expect(scene: RenderScene): void {
    this.groups = scene.groups;
    this.catches = catchesShadow(scene);
  }

  /** Gives all tracers a new scene. Resolves when none of them looks at the last one any more. */
  async takeScene(prepared: PreparedScene, rays: RayMemory): Promise<void> {
    this.callOff();
    this.film = null;
    await this.swapScene(prepared, rays);
  }

  /** Gives all tracers a scene of which the picture so far is one too; not while they trace a pass. */
  async swapScene(prepared: PreparedScene, rays: RayMemory): Promise<void> {
    this.expect(prepared.scene);
    const { control } = this;
    await Promise.all(this.tracers.map((t, lane) => t.ask({ type: 'scene', prepared, rays, lane, control })));
  }

  /**
   * Traces until the samples are reached or the run is called off; goes on where the same request had stopped.
   * @param onProgress after each pass; what it returns is awaited before the next
   */
  async trace(
    request: TraceRequest,
    onProgress: (progress: TraceProgress) => void | Promise<void>,
  ): Promise<boolean> {
    this.callOff();
    const run = this.run;
    await Promise.all(this.tracers.map((t) => t.idle()));
    if (runIsOff(this.control, run)) return false;
    const { camera, size, seed, goesOn = false, unfinished = false, plain = false } = request;
    /** Samples at which its light was counted last. */
    let charted = this.film?.samples ?? 0;
    const known = this.film?.request;
    if (
      !known ||
      (known.camera !== camera && !goesOn) ||
      known.size.width !== size.width ||
      known.size.height !== size.height ||
      known.seed !== seed
    ) {
      this.film = {
        film: createFilm(size.width, size.height, {
          shared: true,
          layers: true,
          groups: plain ? 0 : this.groupsKept(size),
          catches: this.catches,
        }),
        request,
        samples: 0,
        seen: null,
      };
      charted = 0;
    } else if (goesOn) this.film!.request = request;
    const state = this.film!;
    const show = async (shown: Shown, samples: number, secondsLeft: number) => {
      const { noise, loss, pixels, width, height } = shown;
      await onProgress({ samples, noise, loss, secondsLeft, pixels, size: { width, height } });
      return !runIsOff(this.control, run);
    };
    if (this.clean && state.samples === 0 && !plain && !unfinished) {
      const look = await this.firstLook(request, run);
      if (runIsOff(this.control, run)) return false;
      if (look && !(await show(look, 0, Infinity))) return false;
    }
    const began = performance.now();
    const cleaning: Cleaned = { whole: 0, half: 0, seconds: 0 };
    let secondsPerSample = 0;
    while (state.samples < request.samples) {
      const first = state.samples;
      const fitting = secondsPerSample > 0 ? Math.floor(LONGEST_PASS / secondsPerSample) : 1;
      const last = Math.min(request.samples, first + Math.max(1, Math.min(fitting, first)));
      const started = performance.now();
      rewind(this.control);
      const order: TraceOrder = { type: 'pass', run, first, last, seed, camera, film: state.film };
      const done = await Promise.all(this.tracers.map((t) => t.ask(order)));
      if (runIsOff(this.control, run) || done.some((d) => d.type !== 'pass' || !d.whole)) {
        // a pass that was called off leaves some tiles ahead of others: this film cannot go on
        if (this.film === state) this.film = null;
        return false;
      }
      state.samples = last;
      secondsPerSample = (performance.now() - started) / 1000 / (last - first);
      if (unfinished || (plain && last < request.samples)) continue;
      const { clean, grade } = this;
      const left = (request.samples - last) * secondsPerSample;
      const developed: DisplayOrder = { type: 'film', film: state.film, samples: last, grade, clean };
      const shown = (await this.display.ask(developed)) as Shown;
      if (runIsOff(this.control, run) || !(await show(shown, last, left))) return false;
      if (last >= 2 * charted || last === request.samples) {
        charted = last;
        await this.tellChart();
      }
      if (runIsOff(this.control, run)) return false;
      if (!clean) continue;
      const elapsed = (performance.now() - began) / 1000;
      const shrink = this.shrinkFor(last, cleaning, request, elapsed);
      if (shrink === 0) continue;
      const before = performance.now();
      const cleaned = await this.cleaned(state.film, last, shrink);
      cleaning.seconds += (performance.now() - before) / 1000;
      if (runIsOff(this.control, run)) return false;
      cleaning[shrink === 1 ? 'whole' : 'half'] = last;
      if (cleaned && !(await show({ ...cleaned, noise: shown.noise, loss: shown.loss }, last, left)))
        return false;
    }
    return true;
  }

  /**
   * How many pixels a side are made one before the picture is cleaned at so many samples; nought leaves it as it is.
   * The whole picture at each doubling, when that takes no more than its share of the time, and at the end; before that
   * at half its size, for a few seconds in all.
   * @param whole samples at which the whole picture was cleaned last, and `half` at half its size
   */
  private shrinkFor(
    samples: number,
    { whole, half, seconds }: Cleaned,
    { samples: all, size }: TraceRequest,
    elapsed: number,
  ): number {
    if (samples >= all) return 1;
    const needs = this.cleaningPace * size.width * size.height;
    const spent = Math.max(0, seconds - CLEANING_FIRST) + needs;
    if (samples >= Math.max(LEAST_CLEANED, 2 * whole) && spent <= CLEANING * (elapsed + needs)) return 1;
    const next = half === 0 ? FIRST_HALF : 4 * half;
    return whole === 0 && samples >= next && seconds + needs / 4 <= CLEANING_FIRST ? 2 : 0;
  }

  /** A small picture of few samples, cleaned; null when it cannot be. */
  private async firstLook({ camera, size, seed }: TraceRequest, run: number): Promise<Shown | null> {
    const scale = Math.min(1, Math.sqrt(this.firstPixels / (size.width * size.height)));
    const [width, height] = [size.width, size.height].map((v) => Math.max(1, Math.round(v * scale)));
    const started = performance.now();
    const film = createFilm(width, height, { shared: true, catches: this.catches });
    rewind(this.control);
    const order: TraceOrder = { type: 'pass', run, first: 0, last: FIRST_SAMPLES, seed, camera, film };
    const done = await Promise.all(this.tracers.map((t) => t.ask(order)));
    if (runIsOff(this.control, run) || done.some((d) => d.type !== 'pass' || !d.whole)) return null;
    const look = await this.cleaned(film, FIRST_SAMPLES, 1, true);
    const { duration } = performance.measure('wemlox:first-look', { start: started });
    const inTime = (width * height * FIRST_SECONDS * 1000) / Math.max(1, duration);
    this.firstPixels = Math.min(FIRST_PIXELS, Math.max(FIRST_LEAST, inTime));
    return look;
  }

  /** Cleans a film as it stands, on all tracers; null when it cannot be, or was called off. */
  private async cleaned(film: Film, samples: number, shrink: number, first = false): Promise<Shown | null> {
    const { run } = this;
    const threads = this.lanes;
    const set = await this.display.ask({ type: 'job', film, samples, shrink, threads, first });
    if (set.type !== 'job') {
      // without its files the picture is shown as it is traced
      this.clean = false;
      return null;
    }
    if (runIsOff(this.control, run)) return null;
    const { job, denoiser } = set;
    this.job = job;
    const started = performance.now();
    const done = await Promise.all(this.tracers.map((t) => t.ask({ type: 'denoise', job, denoiser })));
    performance.measure('wemlox:clean', { start: started, detail: { width: job.width, height: job.height } });
    this.job = null;
    if (!done.every((d) => d.type === 'denoised' && d.whole)) return null;
    // a first look is too small to tell
    if (!first) this.cleaningPace = (performance.now() - started) / 1000 / (job.width * job.height);
    return (await this.display.ask({ type: 'cleaned', job, samples, grade: this.grade })) as Shown;
  }

  /** Counts what lights what from now on, at once and as the picture becomes finer; null stops. */
  watchLight(onChart: ((chart: LightChart) => void) | null): void {
    this.onChart = onChart;
    void this.tellChart();
  }

  private async tellChart(): Promise<void> {
    const state = this.film;
    if (!this.onChart || !state || state.samples === 0 || state.film.groups === 0) return;
    if (!state.seen) {
      const { camera, size } = state.request;
      const done = await this.tracers[0].ask({ type: 'mask', camera, ...size });
      if (done.type !== 'mask' || this.film !== state) return;
      state.seen = done.seen;
    }
    const { film, samples, seen } = state;
    const told = await this.display.ask({ type: 'chart', film, samples, seen });
    if (told.type === 'chart' && this.film === state) this.onChart?.(told);
  }

  /** Gains of the sources that grant wishes; null where the film keeps no shares. */
  async wish(strokes: readonly Stroke[], tinted: readonly boolean[]): Promise<Wished | null> {
    const { film } = this;
    if (!film || film.samples === 0 || film.film.groups === 0) return null;
    const told = await this.display.ask({
      type: 'wish',
      film: film.film,
      samples: film.samples,
      strokes,
      tinted,
    });
    return told.type === 'wished' ? told.wished : null;
  }

  /** Weighs the sources of the picture against each other; null when there is none. */
  async balance(gains: number[] | null): Promise<Shown | null> {
    if (JSON.stringify(gains) === JSON.stringify(this.gains)) return null;
    this.gains = gains;
    return (await this.display.ask({
      type: 'balance',
      gains,
      grade: this.grade,
      clean: this.clean,
    })) as Shown;
  }

  /** The picture as far as it is without its noise, cleaned again; null when there is none, or it is traced on. */
  async cleanAgain(): Promise<Shown | null> {
    const { film, run } = this;
    if (!this.clean || !film || film.samples < LEAST_CLEANED) return null;
    const cleaned = await this.cleaned(film.film, film.samples, 1);
    return runIsOff(this.control, run) ? null : cleaned;
  }

  /** Share groups that films of the picture's size keep apart. */
  groupsKept({ width, height }: PictureSize): number {
    return groupsWithin(this.groups.length, width * height, MOST_SHARES);
  }

  /** Shows pictures without their noise, or as they are traced. */
  setClean(clean: boolean): Promise<Shown | null> {
    this.clean = clean;
    return this.regrade(this.grade);
  }

  /** The picture so far under another grade; null when there is none. */
  async regrade(grade: Grade): Promise<Shown | null> {
    this.grade = grade;
    if (!this.film) return null;
    return (await this.display.ask({ type: 'grade', grade, clean: this.clean })) as Shown;
  }

  /** Sets the grade for what is traced from now on. */
  setGrade(grade: Grade): void {
    this.grade = grade;
  }

  /** Traces small pictures, sharing them out, while the present run lasts. */
  async cells(orders: CellOrder[], onCell: (picture: CellPicture, order: CellOrder) => void): Promise<void> {
    const { run } = this;
    const rest = [...orders];
    const work = async (tracer: Asked<TraceOrder, TraceReply>) => {
      for (let cell = rest.shift(); cell; cell = rest.shift()) {
        if (runIsOff(this.control, run)) return;
        const done = await tracer.ask({ type: 'cell', run, cell });
        if (done.type === 'cell' && !runIsOff(this.control, run)) onCell(done, cell);
      }
    };
    await Promise.all(this.tracers.map(work));
  }

  /**
   * Encodes the picture as it stands, in several ways of the same moment; null when there is none.
   * @throws Error in words when a file has no room for it
   */
  async encode<K extends EncodeKind>(
    ...kinds: K[]
  ): Promise<{ files: Record<K, Uint8Array<ArrayBuffer>>; samples: number } | null> {
    const { grade, clean, groups } = this;
    const done = await this.display.ask({ type: 'encode', kinds, grade, clean, groups });
    if (done.type === 'refused') throw new Error(done.why);
    if (done.type !== 'encoded' || !done.files) return null;
    return { files: done.files as Record<K, Uint8Array<ArrayBuffer>>, samples: done.samples };
  }

  /** Kept proofs on the screen: one under a grade, or how it differs from another. @throws Error naming what is wrong */
  async proofs(order: Omit<DisplayOrder & { type: 'proofs' }, 'type'>): Promise<ProofShown> {
    const done = await this.display.ask({ type: 'proofs', ...order });
    if (done.type === 'refused') throw new Error(done.why);
    return done as ProofShown;
  }

  end(): void {
    for (const t of this.tracers) t.end();
    this.display.end();
  }
}
