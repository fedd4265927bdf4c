/**
 * Fills the flip-book: makes and traces the pictures of the shot one by one, in workers of its own, coarse to fine and
 * spread over the shot, while the hands rest. Pictures are kept by all that they depend on.
 */
import { aspectOf, type Project } from '@wemlox/core/document';
import { momentsOf } from '@wemlox/core/motion/shutter';
import { framesOf } from '@wemlox/core/motion/span';
import { shownAt } from '@wemlox/core/motion/shown';
import { useChoice } from '../state/choice.ts';
import { flipEnds, useFlip, type FlipPicture } from '../state/flip.ts';
import { lookOf, shotOf, useStudio } from '../state/studio.ts';
import { useTime } from '../state/time.ts';
import { ShotPictures, sizeWithin } from './shotPictures.ts';

/** Longer side of its pictures, pixels. */
const SIDE = 320;
/** Samples of a picture at first, and once all have that. */
const LEVELS = [4, 32];
/** Most moments by which it is told whether a picture that is blurred by motion stays the same. */
const TOLD_BY = 3;
/** Time without a hand after which it goes on, ms. */
const REST = 500;
/** Time after a failure until it tries again, ms. */
const AGAIN = 2000;
/** Most pictures that are kept: some 230 kB each. */
const MOST_FLIPPED = 1000;

const delay = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

/** The document at the moments of a picture: one, or those at which light falls while the shutter is open. */
const momentsShown = (
  project: Project,
  lookId: string,
  shotId: string,
  frame: number,
  most: number,
): Project[] =>
  momentsOf(project, shotId, frame, most).map((moment) => shownAt(project, lookId, shotId, moment));

/** Names all that a picture of a shot depends on. */
async function keyOf(moments: readonly Project[], lookId: string, shotId: string): Promise<string> {
  const text = JSON.stringify(
    moments.map((shown) => {
      const look = { ...lookOf(shown, lookId), name: '' };
      const shot = shown.shots.find((s) => s.id === shotId)!;
      const { camera, bounces, scattered, mirrored, through } = shot;
      return [
        shown.blocks,
        shown.finishes,
        shown.pieces,
        look,
        camera,
        aspectOf(shot),
        [bounces, scattered, mirrored, through],
      ];
    }),
  );
  const digest = new Uint8Array(await crypto.subtle.digest('SHA-256', new TextEncoder().encode(text)));
  return [...digest.subarray(0, 12)].map((b) => b.toString(16).padStart(2, '0')).join('');
}

/** Numbers from first to last, spread: each half of what is left between two comes after both. */
function spread(first: number, last: number): number[] {
  const out: number[] = [];
  const seen = new Set<number>();
  const count = last - first + 1;
  let step = 1;
  while (step < count) step *= 2;
  for (; step >= 1; step /= 2)
    for (let f = first; f <= last; f += step)
      if (!seen.has(f)) {
        seen.add(f);
        out.push(f);
      }
  return out;
}

export class FlipBook {
  private shots = new ShotPictures();
  /** Keys of the pictures of one document, look and shot. */
  private keys: { of: readonly unknown[]; known: Map<number, string> } = { of: [], known: new Map() };
  private ended = false;
  private touched = performance.now();
  private readonly unsubscribe: (() => void)[] = [];

  constructor() {
    const touch = () => this.touch();
    for (const event of ['pointerdown', 'pointermove', 'keydown', 'wheel'] as const) {
      window.addEventListener(event, touch, { passive: true });
      this.unsubscribe.push(() => window.removeEventListener(event, touch));
    }
    // pictures are of one project, look and shot
    const forget = () => useFlip.setState({ pictures: new Map() });
    this.unsubscribe.push(
      useStudio.subscribe((now, before) => {
        if (now.id !== before.id) forget();
        if (now.project !== before.project) this.touch();
      }),
      useChoice.subscribe((now, before) => {
        if (now.lookId === before.lookId && now.shot === before.shot) return;
        forget();
        this.touch();
      }),
    );
    void this.run();
  }

  /** Hands are at work: what is traced is left for later. */
  private touch(): void {
    this.touched = performance.now();
    this.shots.callOff();
  }

  private async run(): Promise<void> {
    while (!this.ended) {
      const playing = useTime.getState().playing;
      if (playing || performance.now() - this.touched < REST) {
        await delay(100);
        continue;
      }
      try {
        await this.next();
      } catch (error) {
        useFlip.setState({ failure: error instanceof Error ? error.message : String(error) });
        await delay(AGAIN);
        if (this.ended || !this.shots.broken) continue;
        this.shots.end();
        this.shots = new ShotPictures();
      }
    }
  }

  /** Makes the picture that is wanted most. */
  private async next(): Promise<void> {
    const { project } = useStudio.getState();
    const look = lookOf(project, useChoice.getState().lookId).id;
    const shot = shotOf(project);
    const { first, last } = flipEnds();
    const order = spread(first, Math.min(last, first + MOST_FLIPPED - 1));
    const isCurrent = () =>
      !this.ended &&
      useStudio.getState().project === project &&
      lookOf(project, useChoice.getState().lookId).id === look &&
      shotOf(project).id === shot.id;
    await this.check(project, look, shot.id, order);
    for (const samples of LEVELS)
      for (const frame of order) {
        const key = await this.keyAt(project, look, shot.id, frame);
        if (!isCurrent()) return;
        const known = useFlip.getState().pictures.get(frame);
        if (known?.key === key && known.samples >= samples) continue;
        // what was made for another picture is as good where it is alike
        const alike = [...useFlip.getState().pictures.values()].find(
          (p) => p.key === key && p.samples >= samples,
        );
        if (alike) {
          this.keep(frame, { ...alike, of: project });
          continue;
        }
        if (known && known.key !== key) this.drop(frame);
        const began = performance.now();
        const image = await this.shots.traced(
          { project, look, shot: shot.id },
          frame,
          sizeWithin(project, shot.id, SIDE),
          samples,
          () => performance.now() - this.touched >= REST,
        );
        if (!image || !isCurrent()) return;
        this.keep(frame, { key, samples, image, of: project });
        useFlip.setState({ pace: 60_000 / (performance.now() - began), failure: null });
        return;
      }
    this.forgetBeyond(framesOf(shot));
    await delay(300);
  }

  /** Finds the pictures that are still of the document, and lets go of those that are not. */
  private async check(project: Project, look: string, shot: string, order: readonly number[]): Promise<void> {
    const { pictures } = useFlip.getState();
    const unsure = order.filter((f) => pictures.has(f) && pictures.get(f)!.of !== project);
    if (unsure.length === 0) return;
    const left = new Map(pictures);
    for (const frame of unsure) {
      const picture = pictures.get(frame)!;
      if ((await this.keyAt(project, look, shot, frame)) === picture.key)
        left.set(frame, { ...picture, of: project });
      else left.delete(frame);
    }
    if (useStudio.getState().project === project) useFlip.setState({ pictures: left });
  }

  private async keyAt(project: Project, look: string, shot: string, frame: number): Promise<string> {
    const of = [project, look, shot];
    if (this.keys.of.some((v, i) => v !== of[i]) || this.keys.of.length === 0)
      this.keys = { of, known: new Map() };
    const { known } = this.keys;
    let key = known.get(frame);
    if (key === undefined) {
      key = await keyOf(momentsShown(project, look, shot, frame, TOLD_BY), look, shot);
      known.set(frame, key);
    }
    return key;
  }

  private keep(frame: number, picture: FlipPicture): void {
    useFlip.setState(({ pictures }) => ({ pictures: new Map(pictures).set(frame, picture) }));
  }

  private drop(frame: number): void {
    useFlip.setState(({ pictures }) => {
      const left = new Map(pictures);
      left.delete(frame);
      return { pictures: left };
    });
  }

  /** Lets go of what a shot that was made shorter no longer has. */
  private forgetBeyond(frames: number): void {
    for (const frame of useFlip.getState().pictures.keys()) if (frame >= frames) this.drop(frame);
  }

  end(): void {
    this.ended = true;
    for (const off of this.unsubscribe) off();
    this.shots.end();
  }
}
