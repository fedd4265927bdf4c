/** The page's end of the tracing threads: one shared film, tiles claimed through shared memory. */
import type { Camera, Grade } from '@wemlox/core/document';
import { createFilm, type Film } from '@wemlox/core/trace/film';
import { createControl, nextRun, rewind, runIsOff } from '@wemlox/core/trace/tiles';
import type { PreparedScene } from '@wemlox/core/trace/prepare';
import type {
  CellOrder,
  DisplayOrder,
  DisplayReply,
  EncodeKind,
  PictureSize,
  RayMemory,
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
  secondsLeft: number;
  pixels: Uint8ClampedArray<ArrayBuffer>;
  size: PictureSize;
}

export interface TraceRequest {
  camera: Camera;
  size: PictureSize;
  samples: number;
  seed: number;
}

/** Longest time between two pictures, seconds. */
const LONGEST_PASS = 1.2;

export class TracePool {
  readonly lanes: number;
  private readonly tracers: Asked<TraceOrder, TraceReply>[];
  private readonly display: Asked<DisplayOrder, DisplayReply>;
  private readonly control = createControl();
  private run = 0;
  private grade: Grade = { exposure: 0, view: 'soft' };
  /** The film of the last request, to go on with. */
  private film: { film: Film; request: TraceRequest; samples: number } | null = null;

  constructor(lanes: number, onFailure: (message: string) => void) {
    this.lanes = lanes;
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
  }

  /** Gives all tracers a new scene. Resolves when none of them looks at the last one any more. */
  async takeScene(prepared: PreparedScene, rays: RayMemory): Promise<void> {
    this.callOff();
    this.film = null;
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
    const { camera, size, seed } = request;
    const known = this.film?.request;
    if (
      !known ||
      known.camera !== camera ||
      known.size.width !== size.width ||
      known.size.height !== size.height ||
      known.seed !== seed
    ) {
      this.film = { film: createFilm(size.width, size.height, true, true), request, samples: 0 };
    }
    const state = this.film!;
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
      const shown = (await this.display.ask({
        type: 'film',
        film: state.film,
        samples: last,
        grade: this.grade,
      })) as Shown;
      if (runIsOff(this.control, run)) return false;
      await onProgress({
        samples: last,
        noise: shown.noise,
        secondsLeft: (request.samples - last) * secondsPerSample,
        pixels: shown.pixels,
        size,
      });
      if (runIsOff(this.control, run)) return false;
    }
    return true;
  }

  /** The picture so far under another grade; null when there is none. */
  async regrade(grade: Grade): Promise<Shown | null> {
    this.grade = grade;
    if (!this.film || this.film.samples === 0) return null;
    return (await this.display.ask({ type: 'grade', grade })) as Shown;
  }

  /** Sets the grade for what is traced from now on. */
  setGrade(grade: Grade): void {
    this.grade = grade;
  }

  /** Traces small pictures, sharing them out, while the present run lasts. */
  async cells(orders: CellOrder[], onCell: (picture: CellPicture) => void): Promise<void> {
    const { run } = this;
    const rest = [...orders];
    const work = async (tracer: Asked<TraceOrder, TraceReply>) => {
      for (let cell = rest.shift(); cell; cell = rest.shift()) {
        if (runIsOff(this.control, run)) return;
        const done = await tracer.ask({ type: 'cell', run, cell });
        if (done.type === 'cell' && !runIsOff(this.control, run)) onCell(done);
      }
    };
    await Promise.all(this.tracers.map(work));
  }

  /** Encodes the picture as it stands, in several ways of the same moment; null when there is none. */
  async encode<K extends EncodeKind>(
    ...kinds: K[]
  ): Promise<{ files: Record<K, Uint8Array<ArrayBuffer>>; samples: number } | null> {
    const done = await this.display.ask({ type: 'encode', kinds, grade: this.grade });
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
