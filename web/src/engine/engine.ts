/**
 * Keeps the picture up with the document: asks for scenes, draws the draft, and traces when the hands rest.
 * One engine lives as long as the studio is open.
 */
import { aspectOf, type Finish, type Grade, type Look, type Project, type Shot } from '@wemlox/core/document';
import { detailKey } from '@wemlox/core/scene/detail';
import { useChoice } from '../state/choice.ts';
import { drawnNow, lookOf, shotOf, useStudio } from '../state/studio.ts';
import type {
  Answered,
  Answers,
  EncodeKind,
  PictureSize,
  Question,
  SceneReply,
  SceneRequest,
} from '../workers/messages.ts';
import type { Stroke, Wished } from '@wemlox/core/trace/wish';
import { StagePicture } from './stagePicture.ts';
import { lanesHere, TracePool, type TraceProgress } from './tracePool.ts';
import * as cells from './cells.ts';
import { useTrial } from '../state/trial.ts';
import type { Draft } from './draft.ts';
import type { Picked } from './pick.ts';
import { gainsOf, isBalanced, sourcesOf, useBalance, useLightChart } from '../state/light.ts';
import { flipAt, useFlip } from '../state/flip.ts';
import { useShown } from '../state/shown.ts';
import { useTime } from '../state/time.ts';

/** Time without a change after which tracing starts, milliseconds. */
const REST = 60;
/** Time after the last weighing of sources at which a picture that is done is cleaned anew, milliseconds. */
const WEIGHED_REST = 350;
/** Samples of a cell: at first sight, and once the picture has found its shape. */
const CELL_FIRST = 4;
const CELL_FINE = 24;
/** Samples of the picture after which cells are refined. */
const REFINE_AT = 8;
/** Most pixels traced; a larger stage shows the picture enlarged. */
const MOST_PIXELS = 1_300_000;

/** What of the document the scene is made from; of the camera only the detail it asks for. */
const sceneInputs = (project: Project, look: Look, shot: Shot, width: number) => [
  project.blocks.map((b) => detailKey(b, shot.camera, width)).join(' '),
  project.blocks,
  project.finishes,
  project.pieces,
  look.id,
  look.chart,
  look.rig,
  look.surround,
  aspectOf(shot),
  shot.bounces,
  shot.scattered,
  shot.mirrored,
  shot.through,
];

const alike = (a: unknown[], b: unknown[]) => a.length === b.length && a.every((v, i) => v === b[i]);

export class Engine {
  private readonly pool: TracePool;
  private readonly picture: StagePicture;
  private readonly sceneWorker: Worker;
  private readonly unsubscribe: (() => void)[] = [];
  readonly draft: Draft;
  private readonly onPicture: (progress: TraceProgress) => void;
  private inputs: unknown[] = [];
  /** When the document was last changed. */
  private touched = 0;
  private camera: Shot['camera'] | null = null;
  private grade: Grade | null = null;
  private size: PictureSize = { width: 0, height: 0 };
  private wanted = false;
  /** Whether the scene that is wanted differs from the last only in what is tried; the same of the one asked for. */
  private onlyTried = false;
  private keeps = false;
  /** Takes up a scene that is at hand, before anything else is traced. */
  private swap: (() => Promise<void>) | null = null;
  /** What was tried of the scene asked for, and of the one at hand. */
  private tried: readonly Finish[] = [];
  private trial: readonly Finish[] = [];
  private asking = false;
  /** Number of the work under way. */
  private works = 0;
  /** When the last scene was asked for. */
  private asked = 0;
  private seq = 0;
  private questions = 0;
  private readonly open = new Map<number, (heard: Answered) => void>();
  private sceneVersion = 0;
  private rest: ReturnType<typeof setTimeout> | undefined;
  private weighed: ReturnType<typeof setTimeout> | undefined;

  constructor(draft: Draft, onPicture: (progress: TraceProgress) => void) {
    this.draft = draft;
    this.onPicture = onPicture;
    const lanes = lanesHere();
    const failed = (failure: string) => useShown.setState({ state: 'failed', failure });
    this.pool = new TracePool(lanes, failed);
    this.picture = new StagePicture(this.pool, failed);
    this.sceneWorker = new Worker(new URL('../workers/scene.worker.ts', import.meta.url), {
      type: 'module',
      name: String(lanes),
    });
    this.sceneWorker.onmessage = ({ data }: MessageEvent<SceneReply | Answered>) => {
      if ('number' in data) this.hear(data);
      else void this.take(data);
    };
    this.sceneWorker.onerror = (event) => failed(event.message || 'the scene worker stopped');
    this.unsubscribe.push(
      useStudio.subscribe(() => this.update()),
      useTrial.subscribe(() => this.tryOn()),
      useChoice.subscribe((now, before) => {
        if (now.lookId !== before.lookId || now.shot !== before.shot) this.update();
        if (now.mode !== before.mode) draft.setLookedAt(now.mode === 'draft');
        if (now.mode !== before.mode || now.samples !== before.samples) this.settle();
        if (now.clean !== before.clean) void this.setClean(now.clean);
      }),
    );
    this.unsubscribe.push(
      useTime.subscribe((now, before) => {
        if (now.playing === before.playing) return;
        draft.setPlaying(now.playing);
        if (!now.playing) this.update();
      }),
      useFlip.subscribe((now, before) => {
        if (now.on === before.on) return;
        this.pool.callOff();
        this.settle();
      }),
    );
    this.unsubscribe.push(
      useShown.subscribe(({ state, fresh }) =>
        draft.setAwaiting(
          useChoice.getState().mode === 'traced' &&
            !useFlip.getState().on &&
            state !== 'failed' &&
            // by software a draft in full holds the page for half a second, and little of it is seen beside the picture
            (draft.software || state === 'drafting' || (state === 'tracing' && !fresh)),
        ),
      ),
    );
    this.unsubscribe.push(useBalance.subscribe(() => void this.weigh()));
    cells.whenWanted(() => this.settle(false));
    void this.pool.setClean(useChoice.getState().clean);
    draft.setLookedAt(useChoice.getState().mode === 'draft');
    this.update();
  }

  /** The frame's size on screen, CSS pixels. */
  resize(width: number, height: number): void {
    const ratio = window.devicePixelRatio || 1;
    const scale = Math.min(1, Math.sqrt(MOST_PIXELS / Math.max(1, width * height * ratio * ratio)));
    const size = {
      width: Math.max(1, Math.round(width * ratio * scale)),
      height: Math.max(1, Math.round(height * ratio * scale)),
    };
    if (size.width === this.size.width && size.height === this.size.height) return;
    this.size = size;
    this.update();
    this.changed();
    this.pump();
  }

  private update(): void {
    if (!useStudio.getState().project) return;
    // the flip-book shows what is played, and the draft waits
    if (useTime.getState().playing && flipAt(useStudio.getState().frame)) return;
    const project = drawnNow();
    const look = lookOf(project, useChoice.getState().lookId);
    const shot = shotOf(project);
    const inputs = sceneInputs(project, look, shot, this.size.width);
    const sceneChanged = !alike(inputs, this.inputs);
    this.inputs = inputs;
    if (this.grade !== look.grade) {
      this.grade = look.grade;
      this.draft.setGrade(look.grade);
      void this.regrade(look.grade);
    }
    if (this.camera !== shot.camera) {
      this.camera = shot.camera;
      this.draft.setCamera(shot.camera);
      this.changed();
    }
    if (sceneChanged) {
      this.wanted = true;
      this.onlyTried = false;
      this.changed();
      this.pump();
    }
  }

  /** Makes the scene again with what is only tried: what is on the stage stays as it is, and goes on. */
  private tryOn(): void {
    // what is no longer tried goes with the next change
    if (useTrial.getState().finishes.length === 0 || this.wanted) return;
    this.wanted = true;
    this.onlyTried = true;
    this.pump();
  }

  /** What is on the stage is no longer what the document says. */
  private changed(): void {
    this.touched = performance.now();
    this.picture.changed();
    this.pool.callOff();
    void this.takeUp();
    if (useShown.getState().state !== 'failed')
      useShown.setState({ state: 'drafting', fresh: false, samples: 0 });
    this.settle();
  }

  private async regrade(grade: Grade): Promise<void> {
    this.sceneVersion++;
    const shown = await this.pool.regrade(grade);
    if (this.grade === grade) this.showAgain(shown);
    this.settle(false);
  }

  /** Counts what lights what, for the chart, until it is told not to. */
  watchLight(on: boolean): void {
    this.pool.watchLight(on ? (counted) => useLightChart.setState({ counted }) : null);
  }

  /** What lies at a place of the frame, 0 … 1 from its left and top. */
  pickInFrame(x: number, y: number): Picked | null {
    const { frame } = this.draft;
    return this.draft.pick(frame.x + x * frame.width, frame.y + y * frame.height);
  }

  /** Gains that grant what is painted on the picture; null while it keeps no shares. */
  wish(strokes: readonly Stroke[], isTinted: (group: number) => boolean): Promise<Wished | null> {
    const tinted = Array.from({ length: this.pool.groupsKept(this.size) }, (_, g) => isTinted(g));
    return this.pool.wish(strokes, tinted);
  }

  /** Shows the picture with its sources weighed as they are now. */
  private async weigh(): Promise<void> {
    const balance = useBalance.getState();
    const { seen: project } = useStudio.getState();
    const sources = isBalanced(balance)
      ? sourcesOf(project, lookOf(project, useChoice.getState().lookId), useShown.getState().scene)
      : [];
    const gains = gainsOf(balance, sources, this.pool.groupsKept(this.size));
    const shown = await this.pool.balance(gains);
    this.showAgain(shown);
    clearTimeout(this.weighed);
    // while it is traced, the next picture is cleaned as it is weighed
    if (shown)
      this.weighed = setTimeout(() => {
        if (useShown.getState().state === 'done') void this.pool.cleanAgain().then((s) => this.showAgain(s));
      }, WEIGHED_REST);
  }

  private async setClean(clean: boolean): Promise<void> {
    this.showAgain(await this.pool.setClean(clean));
    // what was traced so far may not have been cleaned yet
    if (clean) this.settle(false);
  }

  /** Puts the picture as far as it is on the stage once more. */
  private showAgain(shown: Awaited<ReturnType<TracePool['regrade']>>): void {
    const { fresh, samples, noise, loss, secondsLeft } = useShown.getState();
    if (!shown || !fresh) return;
    const { width, height, pixels } = shown;
    this.onPicture({ pixels, size: { width, height }, samples, noise, loss, secondsLeft });
  }

  /** Asks the scene's worker. @throws with what it says when it cannot answer */
  ask<A extends keyof Answers>(question: Extract<Question, { ask: A }>): Promise<Answers[A]> {
    return new Promise((resolve, reject) => {
      const number = ++this.questions;
      this.open.set(number, (heard) => {
        if ('refused' in heard) reject(new Error(heard.refused));
        else resolve(heard.answer as Answers[A]);
      });
      this.sceneWorker.postMessage({ number, question });
    });
  }

  private hear(heard: Answered): void {
    this.open.get(heard.number)?.(heard);
    this.open.delete(heard.number);
  }

  private pump(): void {
    // the memory of a scene that is still traced is not written to
    // nor is one made before it is known how finely it will be seen
    if (!this.wanted || this.asking || this.swap || this.size.width === 0) return;
    this.wanted = false;
    this.asking = true;
    this.asked = performance.now();
    const project = drawnNow();
    const look = lookOf(project, useChoice.getState().lookId);
    const request: SceneRequest = {
      seq: ++this.seq,
      project,
      look: look.id,
      shot: shotOf(project).id,
      width: this.size.width,
      trial: useTrial.getState().finishes,
      draft: this.draft.software ? 'thinned' : 'whole',
    };
    this.tried = request.trial;
    this.keeps = this.onlyTried;
    this.onlyTried = false;
    this.sceneWorker.postMessage(request);
  }

  private async take(reply: SceneReply): Promise<void> {
    if ('failed' in reply) {
      useShown.setState({ state: 'failed', failure: reply.failed });
    } else {
      const { prepared, rays, bounds, view, blocks, findings, spent } = reply;
      // what is only tried changes no small picture there is
      if (!this.keeps) this.sceneVersion++;
      const arrived = performance.now();
      performance.measure('wemlox:scene', { start: this.asked, end: arrived, detail: spent });
      this.draft.setScene(reply);
      performance.measure('wemlox:upload', { start: arrived });
      useShown.setState((v) => ({
        scene: prepared.scene,
        bounds,
        geometry: rays.version,
        surround: view,
        blocks,
        findings,
        state: v.state === 'failed' ? 'drafting' : v.state,
      }));
      const swap = async () => {
        this.trial = this.tried;
        await this.picture.swap(reply);
      };
      const { state } = useShown.getState();
      // the picture under way goes on: between two passes it takes up what is tried
      if (this.keeps && state === 'tracing') this.swap = swap;
      else if (this.keeps) await swap();
      else {
        this.swap = null;
        this.trial = this.tried;
        await this.picture.begin(reply);
        await this.weigh();
      }
      this.settle(!this.keeps || useChoice.getState().mode === 'draft');
    }
    this.asking = false;
    this.pump();
  }

  /** Waits until the hands have rested. @param restart false keeps a running trace running */
  private settle(restart = true): void {
    if (!restart && useShown.getState().state === 'tracing') return;
    clearTimeout(this.rest);
    // a scene that comes later does not make hands rest longer
    const left = this.touched + REST - performance.now();
    this.rest = setTimeout(() => void this.work(), Math.max(0, left));
  }

  private cellOrders(samples: number) {
    const { finishes } = useStudio.getState().project;
    return cells.orders(this.sceneVersion, samples, this.grade!, this.camera!, (id) => {
      const own = finishes.findIndex((f) => f.id === id);
      if (own >= 0) return own + 1;
      const tried = this.trial.findIndex((f) => f.id === id);
      return tried < 0 ? null : useShown.getState().scene!.finishes.length - this.trial.length + tried;
    });
  }

  /** Takes up a scene that waits for the tracers to be at rest. */
  private async takeUp(): Promise<void> {
    const { swap } = this;
    if (!swap) return;
    await swap();
    if (this.swap === swap) this.swap = null;
    this.pump();
  }

  private async traceCells(samples: number): Promise<void> {
    await this.takeUp();
    await this.picture.takeOwn();
    const version = this.sceneVersion;
    const todo = this.cellOrders(samples);
    if (todo.length > 0) await this.pool.cells(todo, (cell, order) => cells.arrived(cell, version, order));
  }

  private async work(): Promise<void> {
    const { scene, state } = useShown.getState();
    // a scene that failed is told until one comes: the last one is not what the document says
    if (state === 'failed' || !scene || this.wanted || this.asking || !this.camera || this.size.width === 0)
      return;
    const { mode, samples } = useChoice.getState();
    if (mode === 'draft' || useFlip.getState().on) {
      this.pool.callOff();
      useShown.setState({ state: 'idle' });
      await this.traceCells(CELL_FIRST);
      await this.traceCells(CELL_FINE);
      return;
    }
    useShown.setState({ state: 'tracing' });
    this.pool.setGrade(this.grade!);
    const work = ++this.works;
    const { touched, size, camera } = this;
    const { project, frame } = useStudio.getState();
    const shown = {
      project,
      look: lookOf(project, useChoice.getState().lookId).id,
      shot: shotOf(project).id,
    };
    const isCurrent = () => work === this.works && touched === this.touched;
    const whole = await this.picture
      .trace({ shown, frame, camera, size, samples }, isCurrent, (progress, isOfStage) =>
        this.show(progress, isOfStage),
      )
      .catch((error: unknown) => {
        useShown.setState({
          state: 'failed',
          failure: error instanceof Error ? error.message : String(error),
        });
        return false;
      });
    if (!whole || work !== this.works) return;
    useShown.setState({ state: 'done', secondsLeft: 0 });
    await this.traceCells(CELL_FINE);
  }

  /** @param cellsToo whether tracers may look at the scene on the stage meanwhile */
  private async show(progress: TraceProgress, cellsToo: boolean): Promise<void> {
    const { samples, noise, loss, secondsLeft } = progress;
    useShown.setState({ samples, noise, loss, secondsLeft, fresh: true });
    this.onPicture(progress);
    // nothing comes between the first look and the picture
    if (samples === 0 || !cellsToo) return;
    await this.traceCells(samples >= REFINE_AT ? CELL_FINE : CELL_FIRST);
  }

  /** Encodes the traced picture as it stands; null when nothing has been traced yet. */
  encode<K extends EncodeKind>(...kinds: K[]) {
    return useShown.getState().fresh ? this.pool.encode(...kinds) : Promise.resolve(null);
  }

  /** Kept proofs on the screen. @throws Error naming what is wrong */
  proofs(order: Parameters<TracePool['proofs']>[0]) {
    return this.pool.proofs(order);
  }

  /** What of the scene lies at a place of the page; null outside the stage and where nothing is. */
  partAt(clientX: number, clientY: number): Picked | null {
    const box = this.draft.canvas.getBoundingClientRect();
    return this.draft.pick(clientX - box.left, clientY - box.top);
  }

  get pictureSize(): PictureSize {
    return this.size;
  }

  end(): void {
    clearTimeout(this.rest);
    clearTimeout(this.weighed);
    for (const off of this.unsubscribe) off();
    this.pool.end();
    this.picture.end();
    this.sceneWorker.terminate();
  }
}

/** The engine of the open studio. */
let open: Engine | null = null;
export const setEngine = (engine: Engine | null) => {
  open = engine;
};
export const engine = () => open;
