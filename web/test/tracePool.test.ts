// @vitest-environment jsdom
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { newCamera, newGrade } from '@wemlox/core/document';
import { runIsOff } from '@wemlox/core/trace/tiles';
import { TracePool, type TraceRequest } from '../src/engine/tracePool.ts';
import type { DisplayOrder, TraceOrder } from '../src/workers/messages.ts';
import { FakeWorker } from './fakeWorkers.ts';

const request: TraceRequest = {
  camera: newCamera({ target: [0, 0, 0], elevation: 0, distance: 1 }),
  size: { width: 8, height: 4 },
  samples: 6,
  seed: 1,
};

/** Tracers that finish every pass that is not called off, and a display that shows what it is given. */
function answer(file: string, order: TraceOrder | DisplayOrder): unknown {
  const control = FakeWorker.of('trace.worker.ts')[0]!.sent.find(
    (o): o is TraceOrder & { type: 'scene' } => (o as TraceOrder).type === 'scene',
  )?.control;
  if (file === 'display.worker.ts') {
    const { type } = order as DisplayOrder;
    if (type === 'encode') return { type: 'encoded', files: { png: new Uint8Array(3) }, samples: 6 };
    if (type === 'proofs') return { type: 'refused', why: 'no such film' };
    if (type === 'job') {
      const { film, shrink } = order as DisplayOrder & { type: 'job' };
      const [width, height] = [film.width / shrink, film.height / shrink];
      const job = { width, height, control: new Int32Array(new SharedArrayBuffer(4)) };
      return withoutDenoiser ? { type: 'refused', why: 'away' } : { type: 'job', job, denoiser: {} };
    }
    if (type === 'chart') return { type: 'chart', chart: {}, rows: [], sight: null };
    const samples = 'samples' in order ? order.samples : 0;
    return { type: 'shown', samples, noise: 0.1, width: 8, height: 4, pixels: new Uint8ClampedArray(128) };
  }
  if (order.type === 'scene') return { type: 'accepted', version: 1 };
  if (order.type === 'mask') return { type: 'mask', seen: { mask: order.width } };
  if (order.type === 'denoise') return { type: 'denoised', whole: order.job.control[0] === 0 };
  if (order.type === 'pass')
    return { type: 'pass', run: order.run, whole: !runIsOff(control!, order.run), rays: 9 };
  return {
    type: 'cell',
    run: (order as TraceOrder & { type: 'cell' }).run,
    key: (order as TraceOrder & { type: 'cell' }).cell.key,
    samples: 4,
    width: 2,
    height: 2,
    pixels: null,
  };
}

let pool: TracePool;
let failures: string[];
let withoutDenoiser = false;
beforeEach(async () => {
  FakeWorker.install();
  failures = [];
  pool = new TracePool(2, (why) => failures.push(why));
  FakeWorker.answers = answer;
  await pool.takeScene(
    { scene: { things: [], groups: ['Key', 'Surround'] } } as never,
    { version: 1 } as never,
  );
  withoutDenoiser = false;
  await pool.setClean(false);
});
afterEach(() => {
  pool.end();
  vi.unstubAllGlobals();
});

const passes = () =>
  FakeWorker.of('trace.worker.ts')[0]!.sent.filter(
    (o) => (o as TraceOrder).type === 'pass',
  ) as (TraceOrder & {
    type: 'pass';
  })[];

describe('the pool of tracers', () => {
  it('counts the light as the picture becomes finer, by one mask of its faces', async () => {
    const charts: unknown[] = [];
    pool.watchLight((chart) => charts.push(chart));
    await pool.trace(request, () => {});
    // one, two, four and all of six samples
    expect(charts).toHaveLength(4);
    const masks = () =>
      FakeWorker.of('trace.worker.ts')[0]!.sent.filter((o) => (o as TraceOrder).type === 'mask');
    expect(masks()).toEqual([{ type: 'mask', camera: request.camera, ...request.size }]);
    pool.watchLight(null);
    await pool.trace({ ...request, samples: 12 }, () => {});
    expect(charts).toHaveLength(4);
    // who comes later is told of what stands there
    pool.watchLight((chart) => charts.push(chart));
    await vi.waitFor(() => expect(charts).toHaveLength(5));
    expect(masks()).toHaveLength(1);
  });

  it('takes a first look with as many pixels as the last one had time for', async () => {
    await pool.setClean(true);
    const size = { width: 400, height: 200 };
    /** Pixels of a first look that takes so long, ms. */
    const look = async (duration: number) => {
      vi.spyOn(performance, 'measure').mockReturnValue({ duration } as PerformanceMeasure);
      const before = passes().length;
      await pool.trace({ ...request, size, seed: before + 2, samples: 1 }, () => {});
      const { width, height } = passes()[before]!.film;
      return width * height;
    };
    const all = await look(360);
    expect(all).toBeGreaterThan(9500);
    // twice as slow as it may be, then faster than it has to be
    const half = await look(30);
    expect(half / all).toBeGreaterThan(0.45);
    expect(half / all).toBeLessThan(0.55);
    expect((await look(5000)) / half).toBeGreaterThan(1.8);
    // however slow, something is seen
    expect(await look(180)).toBeGreaterThan(2800);
    vi.restoreAllMocks();
  });

  it('has a balance shown once, and not again while it stays the same', async () => {
    await pool.trace(request, () => {});
    const orders = () =>
      FakeWorker.of('display.worker.ts')[0]!.sent.filter((o) => (o as DisplayOrder).type === 'balance');
    expect(await pool.balance([1, 1, 1, 0, 0, 0])).toMatchObject({ type: 'shown' });
    expect(await pool.balance([1, 1, 1, 0, 0, 0])).toBeNull();
    await pool.balance(null);
    expect(orders()).toMatchObject([{ gains: [1, 1, 1, 0, 0, 0] }, { gains: null }]);
    expect(pool.groupsKept({ width: 8, height: 4 })).toBe(2);
  });

  it('traces in passes until the samples are reached, and tells of each', async () => {
    const seen: number[] = [];
    expect(await pool.trace(request, ({ samples }) => void seen.push(samples))).toBe(true);
    expect(seen.at(-1)).toBe(6);
    expect(seen).toEqual([...seen].sort((a, b) => a - b));
    // each pass begins where the last ended, on all threads alike
    passes().forEach((p, i, all) => expect(p.first).toBe(i === 0 ? 0 : all[i - 1]!.last));
    expect(
      FakeWorker.of('trace.worker.ts')[1]!.sent.filter((o) => (o as TraceOrder).type === 'pass'),
    ).toHaveLength(passes().length);
  });

  it('goes on with the film when more samples of the same picture are asked for, and starts anew for another', async () => {
    await pool.trace(request, () => {});
    const before = passes().length;
    await pool.trace({ ...request, samples: 9 }, () => {});
    expect(passes()[before]!.first).toBe(6);
    expect(passes()[before]!.film).toBe(passes()[0]!.film);
    await pool.trace({ ...request, size: { width: 4, height: 4 } }, () => {});
    expect(passes().find((p) => p.film.width === 4)!.first).toBe(0);
  });

  it('spreads the samples of a picture over moments, each seen by its own camera, and shows it once they are done', async () => {
    const seen: number[] = [];
    const camera = { ...request.camera };
    const show = ({ samples }: { samples: number }) => void seen.push(samples);
    await pool.trace({ ...request, samples: 2, unfinished: true, plain: true }, show);
    expect(seen).toEqual([]);
    await pool.trace({ ...request, camera, samples: 5, goesOn: true, plain: true }, show);
    expect(seen).toEqual([5]);
    const [first] = passes();
    expect(passes().every((p) => p.film === first!.film)).toBe(true);
    expect(passes().at(-1)!.last).toBe(5);
    expect(
      passes()
        .filter((p) => p.first < 2)
        .map((p) => p.camera),
    ).not.toContain(camera);
    expect(
      passes()
        .filter((p) => p.first >= 2)
        .every((p) => p.camera === camera),
    ).toBe(true);
    expect(first!.film.groups).toBe(0);
    // another camera without that begins anew
    await pool.trace({ ...request, samples: 1 }, show);
    expect(passes().at(-1)!.film).not.toBe(first!.film);
  });

  it('goes on with the film when a scene is swapped for one that shows the same, and starts anew with another scene', async () => {
    const scene = { scene: { things: [], groups: ['Key', 'Surround'] } } as never;
    await pool.trace(request, async ({ samples }) => {
      if (samples === 2) await pool.swapScene(scene, { version: 1 } as never);
    });
    const order = FakeWorker.of('trace.worker.ts')[0]!.sent.map((o) => (o as TraceOrder).type);
    // between two passes, not in one
    expect(order.indexOf('scene', 1)).toBeGreaterThan(order.indexOf('pass'));
    passes().forEach((p, i, all) => expect(p.first).toBe(i === 0 ? 0 : all[i - 1]!.last));
    expect(new Set(passes().map((p) => p.film)).size).toBe(1);
    await pool.takeScene(scene, { version: 1 } as never);
    const before = passes().length;
    await pool.trace(request, () => {});
    expect(passes()[before]!.first).toBe(0);
  });

  it('ends without a word more once it is called off, and that film does not go on', async () => {
    const seen: number[] = [];
    const done = await pool.trace(request, ({ samples }) => {
      seen.push(samples);
      pool.callOff();
    });
    expect([done, seen]).toEqual([false, [1]]);
    expect(await pool.trace(request, () => {})).toBe(true);
  });

  it('gives no progress of a pass that some thread left unfinished', async () => {
    FakeWorker.answers = (file, order: TraceOrder | DisplayOrder) =>
      file === 'trace.worker.ts' && order.type === 'pass'
        ? { type: 'pass', run: order.run, whole: false, rays: 0 }
        : answer(file, order);
    const seen: number[] = [];
    expect(await pool.trace(request, ({ samples }) => void seen.push(samples))).toBe(false);
    expect(seen).toEqual([]);
  });

  it('shows a small clean picture first, then clean ones as samples come, and the whole one at the end', async () => {
    await pool.setClean(true);
    const seen: [number, number | undefined][] = [];
    const jobs = () =>
      FakeWorker.of('display.worker.ts')[0]!.sent.filter(
        (o) => (o as DisplayOrder).type === 'job',
      ) as (DisplayOrder & {
        type: 'job';
      })[];
    const size = { width: 400, height: 200 };
    await pool.trace({ ...request, size, samples: 8 }, ({ samples, pixels }) => {
      seen.push([samples, pixels ? 1 : undefined]);
    });
    // the first look is of few pixels, and of its own film
    expect(jobs()[0]).toMatchObject({ first: true, shrink: 1, samples: 4 });
    const { width, height } = jobs()[0]!.film;
    expect(width * height).toBeLessThan(20_000);
    expect(width / height).toBeCloseTo(2, 1);
    expect(seen[0]).toEqual([0, 1]);
    expect(jobs().at(-1)).toMatchObject({ first: false, shrink: 1, samples: 8 });
    expect(jobs().at(-1)!.film.width).toBe(400);
    // every tracer had its hand in each
    for (const worker of FakeWorker.of('trace.worker.ts'))
      expect(worker.sent.filter((o) => (o as TraceOrder).type === 'denoise')).toHaveLength(jobs().length);
    // asked for more, it goes on without another first look
    await pool.trace({ ...request, size, samples: 12 }, () => {});
    expect(jobs().filter((j) => j.first)).toHaveLength(1);
  });

  it('calls off what is being cleaned, and says nothing of it', async () => {
    await pool.setClean(true);
    let job: { control: Int32Array } | undefined;
    FakeWorker.answers = (file, order: TraceOrder | DisplayOrder) => {
      if (order.type === 'denoise') {
        job = order.job;
        pool.callOff();
      }
      return answer(file, order);
    };
    const seen: number[] = [];
    expect(await pool.trace(request, ({ samples }) => void seen.push(samples))).toBe(false);
    expect(seen).toEqual([]);
    expect(job!.control[0]).toBe(1);
  });

  it('shows pictures as they are traced when there is nothing to clean them with', async () => {
    withoutDenoiser = true;
    await pool.setClean(true);
    const seen: number[] = [];
    expect(await pool.trace(request, ({ samples }) => void seen.push(samples))).toBe(true);
    expect(seen.at(-1)).toBe(6);
  });

  it('shares cells out, each once, and tells of none after a call-off', async () => {
    const orders = ['a', 'b', 'c', 'd', 'e'].map((key) => ({ key }) as never);
    const keys: string[] = [];
    await pool.cells(orders, ({ key }) => keys.push(key));
    expect(keys.sort()).toEqual(['a', 'b', 'c', 'd', 'e']);
    const late: string[] = [];
    await pool.cells(orders, ({ key }) => {
      late.push(key);
      pool.callOff();
    });
    expect(late).toHaveLength(1);
  });

  it('encodes what there is, and throws what the display says of a proof', async () => {
    expect((await pool.encode('png'))!.files.png).toHaveLength(3);
    await expect(pool.proofs({ film: 'f', grade: newGrade() })).rejects.toThrow('no such film');
  });

  it('tells of workers that stop, and ends them all', () => {
    FakeWorker.of('trace.worker.ts')[0]!.fail('out of memory');
    expect(failures).toEqual(['out of memory']);
    pool.end();
    expect(FakeWorker.all.every((w) => w.ended)).toBe(true);
  });
});
