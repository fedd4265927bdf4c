// @vitest-environment jsdom
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { FlipBook } from '../src/engine/flipBook.ts';
import { ShotPictures, sizeWithin } from '../src/engine/shotPictures.ts';
import { useFlip } from '../src/state/flip.ts';
import type { SceneRequest } from '../src/workers/messages.ts';
import * as actions from './allActions.ts';
import { FakeWorker } from './fakeWorkers.ts';
import { now, openStudio } from './openStudio.ts';

interface Pass {
  type: string;
  run: number;
  first: number;
  last: number;
}

/** A scene as the worker answers; nothing in it is looked at here. */
const scene = (seq: number) => ({
  seq,
  prepared: { scene: { things: [], groups: ['Key'], typeBox: { min: [0, 0, 0], max: [1, 1, 1] } } },
  rays: { version: seq },
});
const SIZE = { width: 8, height: 4 };
const passes = () =>
  FakeWorker.of('trace.worker.ts')[0]!.sent.filter((m) => (m as Pass).type === 'pass') as Pass[];
const place = () => ({ project: now(), look: now().looks[0]!.id, shot: now().shots[0]!.id });

let shots: ShotPictures;
beforeEach(() => {
  FakeWorker.install();
  // pictures of the page are not there in a test
  vi.stubGlobal(
    'ImageData',
    class {
      constructor(
        readonly data: Uint8ClampedArray,
        readonly width: number,
        readonly height: number,
      ) {}
    },
  );
  FakeWorker.answers = (file, order: Pass & { seq: number; samples?: number }) => {
    if (file === 'scene.worker.ts') return scene(order.seq);
    if (order.type === 'scene') return { type: 'accepted', version: 1 };
    if (order.type === 'pass') return { type: 'pass', run: order.run, whole: true, rays: 1 };
    if (order.type === 'job') return { type: 'refused' };
    return { type: 'shown', samples: order.samples, noise: 0, ...SIZE, pixels: new Uint8ClampedArray(128) };
  };
  openStudio();
  shots = new ShotPictures();
});
afterEach(() => {
  shots.end();
  vi.unstubAllGlobals();
});

describe('the flip-book', () => {
  it('goes on with other workers once one has stopped', async () => {
    const { answers } = FakeWorker;
    FakeWorker.answers = () => undefined;
    useFlip.setState({ pictures: new Map(), failure: null });
    const book = new FlipBook();
    const own = FakeWorker.all.slice();
    await vi.waitFor(
      () => expect(own.some((w) => w.file === 'scene.worker.ts' && w.sent.length > 0)).toBe(true),
      5000,
    );
    FakeWorker.answers = answers;
    own
      .filter((w) => w.file === 'trace.worker.ts')
      .at(-1)!
      .fail('out of memory');
    await vi.waitFor(() => expect(useFlip.getState().failure).toBe('out of memory'), 5000);
    await vi.waitFor(() => expect(useFlip.getState().pictures.size).toBeGreaterThan(0), 8000);
    expect(useFlip.getState().failure).toBeNull();
    book.end();
  }, 20_000);
});

describe('pictures of a shot beside the stage', () => {
  it('have the shot’s shape within a side', () => {
    const { project, shot } = place();
    actions.set(`shots/${shot}/frame`, '9:16');
    expect(sizeWithin(now(), shot, 320)).toEqual({ width: 180, height: 320 });
    expect(sizeWithin(project, shot, 320)).toEqual({ width: 320, height: 180 });
  });

  it('are traced to all their samples at once, of the scene at their time', async () => {
    const picture = await shots.traced(place(), 3, SIZE, 12, () => true);
    expect(picture).toMatchObject(SIZE);
    expect(passes().at(-1)!.last).toBe(12);
    const asked = FakeWorker.of('scene.worker.ts')[0]!.sent as SceneRequest[];
    expect(asked).toHaveLength(1);
    expect(asked[0]!.width).toBe(8);
  });

  it('share their samples out over the moments of an open shutter', async () => {
    const { shot } = place();
    actions.moveBy('turn', `shots/${shot}/camera/azimuth`);
    actions.set(`shots/${shot}/motion_blur`, true);
    await shots.traced(place(), 12, SIZE, 32, () => true);
    const scenes = FakeWorker.of('scene.worker.ts')[0]!.sent as SceneRequest[];
    expect(scenes).toHaveLength(16);
    const angles = scenes.map((s) => s.project.shots[0]!.camera.azimuth);
    expect(new Set(angles).size).toBe(16);
    expect(passes().at(-1)!.last).toBe(32);
  });

  it('are none when they are called off, before or within', async () => {
    expect(await shots.traced(place(), 0, SIZE, 4, () => false)).toBeNull();
    expect(passes()).toHaveLength(0);
    const { answers } = FakeWorker;
    FakeWorker.answers = (file, order: never) => {
      if ((order as Pass).type === 'pass') shots.callOff();
      return answers(file, order);
    };
    expect(await shots.traced(place(), 0, SIZE, 4, () => true)).toBeNull();
    expect(passes()).toHaveLength(1);
  });

  it('say so when a scene cannot be made, or a worker stops', async () => {
    const { answers } = FakeWorker;
    FakeWorker.answers = (file, order: { seq: number }) =>
      file === 'scene.worker.ts' ? { seq: order.seq, failed: 'the font is gone' } : undefined;
    await expect(shots.traced(place(), 0, SIZE, 4, () => true)).rejects.toThrow('the font is gone');
    FakeWorker.answers = answers;
    const never = shots.traced(place(), 0, SIZE, 4, () => true);
    FakeWorker.of('trace.worker.ts')[0]!.fail('out of memory');
    await expect(never).rejects.toThrow('out of memory');
    expect(shots.broken).toBe(true);
    await expect(shots.traced(place(), 0, SIZE, 4, () => true)).rejects.toThrow('out of memory');
  });
});
