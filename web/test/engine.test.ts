// @vitest-environment jsdom
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { Engine } from '../src/engine/engine.ts';
import type { Draft } from '../src/engine/draft.ts';
import { useChoice } from '../src/state/choice.ts';
import { useShown } from '../src/state/shown.ts';
import type { SceneRequest } from '../src/workers/messages.ts';
import * as actions from './allActions.ts';
import { FakeWorker } from './fakeWorkers.ts';
import { goToFrame } from '../src/state/studio.ts';
import { now, openStudio } from './openStudio.ts';

const passed = (ms: number) => vi.advanceTimersByTimeAsync(ms);
const scenes = () => FakeWorker.of('scene.worker.ts')[0]!;
const requests = () => scenes().sent.filter((m) => 'seq' in (m as object)) as SceneRequest[];
/** A scene as the worker answers; nothing in it is looked at here. */
const reply = (seq: number) => ({
  seq,
  prepared: { scene: { things: [], groups: ['Key'], typeBox: { min: [0, 0, 0], max: [1, 1, 1] } } },
  rays: { version: seq },
  draft: { placements: [] },
  bounds: [],
  view: { number: 1 },
  blocks: [],
  findings: [],
  spent: {},
});

const draft = {
  setGrade: vi.fn(),
  setCamera: vi.fn(),
  setScene: vi.fn(),
  setLookedAt: vi.fn(),
  setAwaiting: vi.fn(),
};
let engine: Engine;
let pictures: number;
beforeEach(() => {
  vi.useFakeTimers();
  FakeWorker.install();
  FakeWorker.answers = (file, order: { type: string; run?: number; samples?: number }) => {
    if (file === 'scene.worker.ts') return undefined;
    if (order.type === 'scene') return { type: 'accepted', version: 1 };
    if (order.type === 'pass') return { type: 'pass', run: order.run, whole: true, rays: 1 };
    return {
      type: 'shown',
      samples: order.samples ?? 0,
      noise: 0.2,
      width: 8,
      height: 4,
      pixels: new Uint8ClampedArray(128),
    };
  };
  openStudio();
  useChoice.setState({ mode: 'traced', samples: 4 });
  useShown.setState({ state: 'idle', scene: null, fresh: false, failure: '' });
  pictures = 0;
  engine = new Engine(draft as unknown as Draft, () => void pictures++);
  engine.resize(80, 40);
});
afterEach(async () => {
  engine.end();
  await passed(1000);
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

describe('the engine', () => {
  it('asks for one scene at a time, and for the newest once the last has come', async () => {
    const first = requests().length;
    expect(first).toBe(1);
    for (const text of ['T', 'TI', 'TID']) actions.setText(now().blocks[0]!.id, text);
    expect(requests()).toHaveLength(1);
    scenes().say(reply(1));
    await passed(1);
    expect(requests()).toHaveLength(2);
    expect(requests()[1]!.project.blocks[0]!.text).toBe('TID');
    expect(draft.setScene).toHaveBeenCalled();
  });

  it('traces when the hands rest, to the samples asked for, and says when it is done', async () => {
    scenes().say(reply(1));
    await passed(1);
    scenes().say(reply(2));
    await passed(1);
    expect(useShown.getState().state).toBe('drafting');
    // the draft leaves the processor to the picture until it is there
    expect(draft.setAwaiting).toHaveBeenLastCalledWith(true);
    await passed(2000);
    expect(draft.setAwaiting).toHaveBeenLastCalledWith(false);
    expect(useShown.getState()).toMatchObject({ state: 'done', samples: 4, fresh: true });
    expect(pictures).toBeGreaterThan(0);
  });

  it('asks for no scene when only the camera or the grade changed, and draws and regrades instead', async () => {
    scenes().say(reply(1));
    await passed(1);
    scenes().say(reply(2));
    await passed(2000);
    const before = requests().length;
    actions.moveCamera('Orbit', (c) => ({ ...c, azimuth: 0.5 }));
    expect(useShown.getState()).toMatchObject({ state: 'drafting', fresh: false });
    expect(draft.setCamera.mock.lastCall![0].azimuth).toBe(0.5);
    await passed(2000);
    expect(useShown.getState().state).toBe('done');
    actions.setExposure(2);
    await passed(2000);
    expect(draft.setGrade.mock.lastCall![0].exposure).toBe(2);
    expect(requests()).toHaveLength(before);
    // a grade leaves the light as it was
    expect(useShown.getState()).toMatchObject({ state: 'done', fresh: true });
  });

  it('traces nothing in the draft mode, and says what went wrong when a scene fails', async () => {
    useChoice.setState({ mode: 'draft' });
    expect(draft.setLookedAt).toHaveBeenLastCalledWith(true);
    scenes().say(reply(1));
    await passed(1);
    scenes().say({ seq: 2, failed: 'the font is gone' });
    await passed(2000);
    expect(useShown.getState()).toMatchObject({ state: 'failed', failure: 'the font is gone' });
    expect(pictures).toBe(0);
  });

  describe('where what moves is blurred', () => {
    /** Answers the worker that makes scenes of moments until the engine is at rest. @returns moments asked for */
    const answered = async (until: () => boolean) => {
      for (let tries = 0, told = 0; tries < 200 && !until(); tries++) {
        await passed(20);
        const asked = FakeWorker.of('scene.worker.ts')[1]?.sent as SceneRequest[] | undefined;
        if (asked && asked.length > told) {
          told = asked.length;
          FakeWorker.of('scene.worker.ts')[1]!.say(reply(asked.at(-1)!.seq));
        }
      }
      return (FakeWorker.of('scene.worker.ts')[1]?.sent ?? []) as SceneRequest[];
    };
    const passes = () =>
      FakeWorker.of('trace.worker.ts')[0]!.sent.filter((m) => (m as { type: string }).type === 'pass') as {
        first: number;
        last: number;
        film: object;
        camera: { azimuth: number };
      }[];
    const done = () => useShown.getState().state === 'done';
    beforeEach(async () => {
      useChoice.setState({ samples: 32 });
      const shot = now().shots[0]!.id;
      actions.moveBy('turn', `shots/${shot}/camera/azimuth`);
      actions.set(`shots/${shot}/motion_blur`, true);
      goToFrame(12);
      for (let seq = 1; seq <= requests().length; seq++) {
        scenes().say(reply(seq));
        await passed(1);
      }
    });

    it('shares the samples out evenly over the moments of the open shutter, after a still picture', async () => {
      const moments = await answered(done);
      expect(useShown.getState()).toMatchObject({ state: 'done', samples: 32, fresh: true });
      // two rounds over sixteen moments, each turned a little further than the one before
      expect(moments).toHaveLength(32);
      const turns = moments.map((m) => m.project.shots[0]!.camera.azimuth);
      expect(turns.slice(16)).toEqual(turns.slice(0, 16));
      expect([...turns.slice(0, 16)].sort((a, b) => a - b)).toEqual(turns.slice(0, 16));
      const films = [...new Set(passes().map((p) => p.film))];
      const still = passes().filter((p) => p.film === films.at(-2));
      const blurred = passes().filter((p) => p.film === passes().at(-1)!.film);
      expect(still.at(-1)!.last).toBe(8);
      expect(blurred[0]!.first).toBe(0);
      expect(blurred.slice(1).map((p) => p.first)).toEqual(blurred.slice(0, -1).map((p) => p.last));
      const shares = turns
        .slice(0, 16)
        .map((turn) =>
          blurred.reduce((sum, p) => sum + (p.camera.azimuth === turn ? p.last - p.first : 0), 0),
        );
      expect(shares).toEqual(shares.map(() => 2));
    });

    it('begins anew, with the scene on the stage, when hands come between', async () => {
      const asked = () => (FakeWorker.of('scene.worker.ts')[1]?.sent.length ?? 0) >= 5;
      await answered(asked);
      actions.moveCamera('Dolly', (c) => ({ ...c, distance: 9 }));
      const stale = FakeWorker.of('scene.worker.ts')[1]!;
      const before = passes().length;
      // the scene on the stage is of another number than all of moments
      scenes().say(reply(requests().at(-1)!.seq + 1000));
      stale.say(reply((stale.sent.at(-1) as SceneRequest).seq));
      await passed(200);
      expect(passes()[before]).toMatchObject({ first: 0, camera: { distance: 9 } });
      const orders = FakeWorker.of('trace.worker.ts')[0]!.sent as {
        type: string;
        rays: { version: number };
      }[];
      const began = orders.indexOf(passes()[before] as never);
      const inHand = orders.slice(0, began).findLast((o) => o.type === 'scene')!;
      expect(inHand.rays.version).toBeGreaterThan(1000);
      await answered(done);
      expect(useShown.getState()).toMatchObject({ state: 'done', samples: 32 });
    });
  });

  it('answers questions in any order, and refuses in words', async () => {
    const { project } = { project: now() };
    const asked = [
      engine.ask({ ask: 'parting', block: project.blocks[0]! }),
      engine.ask({ ask: 'parting', block: project.blocks[0]! }),
    ];
    scenes().say({ number: 2, refused: 'no room' });
    scenes().say({ number: 1, answer: { tracking: 44 } });
    await expect(asked[0]).resolves.toEqual({ tracking: 44 });
    await expect(asked[1]).rejects.toThrow('no room');
  });
});
