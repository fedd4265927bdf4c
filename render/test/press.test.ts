import { readFile } from 'node:fs/promises';
import { decode } from 'fast-png';
import { readExr } from 'hdrify';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { newMove, type Project } from '@wemlox/core/document';
import { shownAt } from '@wemlox/core/motion/shown';
import { SceneMaker } from '@wemlox/core/scene/sceneMaker';
import { readTexture } from '@wemlox/core/texture/readTexture';
import { developed } from '@wemlox/core/trace/developing';
import {
  askPress,
  cancelPress,
  createProject,
  keptFilm,
  pressFrames,
  readAsset,
  readPress,
} from '@wemlox/store';
import type { PressOrder } from '@wemlox/wire';
import { freshDatabase } from '../../store/test/freshDatabase.ts';
import { decoders } from '../src/codecs.ts';
import { bindJob, pressJob } from '../src/press.ts';
import { diskSources } from '../src/sources.ts';
import { traceScene } from '../src/threads.ts';

let db: Awaited<ReturnType<typeof freshDatabase>>;
let document: Project;
let project: string;
beforeAll(async () => {
  db = await freshDatabase();
  const demo = await readFile(new URL('../../demo/data/deck-5.json', import.meta.url), 'utf8');
  document = (JSON.parse(demo) as { project: Project }).project;
  project = (await createProject(db.session, document)).id;
});
afterAll(() => db.end());

const order = (change: Partial<PressOrder> = {}): PressOrder => ({
  name: 'deck.exr',
  look: 'frosted',
  shot: 'front',
  width: 64,
  height: 36,
  samples: 12,
  seed: 5,
  format: 'exr-float',
  alpha: true,
  layers: false,
  denoise: 0,
  noise: 0,
  ...change,
});
const ask = (change: Partial<PressOrder> = {}) => askPress(db.session, project, document, order(change));

describe('the press', () => {
  it('makes the same pixels in one go, after a stop in the middle, and as the command line does', async () => {
    const whole = await ask();
    await pressJob(db.session, whole.id, () => false);
    const stopped = await ask();
    let passes = 0;
    // the node ends after two passes; the queue would give the job to the next
    await expect(pressJob(db.session, stopped.id, () => ++passes > 2)).rejects.toThrow('the node ends');
    const kept = await keptFilm(db.session, stopped.id, 0);
    expect(kept!.samples).toBeGreaterThan(0);
    expect(kept!.samples).toBeLessThan(12);
    await pressJob(db.session, stopped.id, () => false, { threads: 1 });
    const [a, b] = [await readPress(db.session, whole.id), await readPress(db.session, stopped.id)];
    expect(a).toMatchObject({ state: 'done', samplesDone: 12 });
    expect(b.result).toBe(a.result);
    expect(await keptFilm(db.session, stopped.id, 0)).toBeNull();
    const { scene } = await new SceneMaker(
      diskSources(() => Promise.reject(new Error('none'))),
      true,
    ).make(document, 'frosted', 'front', 64);
    const traced = await traceScene(scene, { width: 64, height: 36, samples: 12, seed: 5 });
    const alone = developed(traced.film, 12);
    const picture = await readAsset(db.session, a.result!);
    expect(readExr(picture.bytes, { sanitize: false }).data).toEqual(alone);
  });

  it('makes the pictures of a shot one by one, each the document at its time, whoever makes them', async () => {
    const moving = structuredClone(document);
    const [shot] = moving.shots;
    Object.assign(shot, { seconds: 0.25, rate: 24, loops: true });
    shot.moves.push(
      newMove('swing', `shots/${shot.id}/camera/azimuth`, { speed: 4, amount: 0.3, phase: 0.1 }),
    );
    const job = await askPress(db.session, project, moving, order({ samples: 2, first: 1, last: 4 }));
    expect(job).toMatchObject({ first: 1, last: 4, framesDone: 0, samplesDone: 0, result: null });
    // in any order, one of them stopped in the middle and gone on with
    await pressJob(db.session, job.id, () => false, { frame: 3 });
    await expect(pressJob(db.session, job.id, () => true, { frame: 1 })).rejects.toThrow('the node ends');
    for (const frame of [4, 1, 2]) {
      expect((await readPress(db.session, job.id)).state).toBe('tracing');
      await pressJob(db.session, job.id, () => false, { frame, threads: 1 });
    }
    expect(await readPress(db.session, job.id)).toMatchObject({
      state: 'done',
      framesDone: 4,
      samplesDone: 8,
    });
    const frames = await pressFrames(db.session, job.id);
    expect(frames.map((f) => f.frame)).toEqual([1, 2, 3, 4]);
    // swung to another place each
    expect(new Set(frames.map((f) => f.result)).size).toBe(4);
    const still = shownAt(moving, 'frosted', shot.id, 3);
    const alone = await askPress(
      db.session,
      project,
      { ...still, shots: [{ ...still.shots[0], moves: [] }] },
      order({ samples: 2 }),
    );
    await pressJob(db.session, alone.id, () => false);
    expect((await readPress(db.session, alone.id)).result).toBe(frames[2].result);
    // asked for as one file, they are bound once all are done
    const film = await askPress(
      db.session,
      project,
      moving,
      order({ samples: 1, first: 0, last: 2, format: 'webm-vp9', name: 'deck.webm' }),
    );
    for (const frame of [0, 1, 2]) await pressJob(db.session, film.id, () => false, { frame });
    expect(await readPress(db.session, film.id)).toMatchObject({
      state: 'tracing',
      framesDone: 3,
      result: null,
    });
    const queued = await db.pool.query(`SELECT FROM graphile_worker.jobs WHERE key = $1`, [
      `bind/${film.id}`,
    ]);
    expect(queued.rowCount).toBe(1);
    await bindJob(db.session, film.id);
    const bound = await readPress(db.session, film.id);
    expect(bound.state).toBe('done');
    expect((await readAsset(db.session, bound.result!)).name).toBe('deck.webm');
    // one that cannot be made ends the job, and says which
    const broken = await askPress(db.session, project, moving, order({ first: 0, last: 2 }));
    await db.pool.query(`UPDATE press_jobs SET look = 'gone' WHERE id = $1`, [broken.id]);
    await pressJob(db.session, broken.id, () => false, { frame: 1 });
    expect(await readPress(db.session, broken.id)).toMatchObject({
      state: 'failed',
      message: 'picture 1: the project has no look gone',
    });
  });

  it('cleans as much as asked, and stops at a noise before all samples', async () => {
    const pixels = async (change: Partial<PressOrder>) => {
      const { id } = await ask(change);
      await pressJob(db.session, id, () => false);
      const done = await readPress(db.session, id);
      expect(done).toMatchObject({ state: 'done', denoise: change.denoise ?? 0 });
      const { bytes } = await readAsset(db.session, done.result!);
      return { data: readExr(bytes, { sanitize: false }).data as Float32Array, bytes, done };
    };
    const [raw, clean, half] = await Promise.all([
      pixels({ samples: 4 }),
      pixels({ samples: 4, denoise: 1 }),
      pixels({ samples: 4, denoise: 0.5 }),
    ]);
    expect(clean.data).not.toEqual(raw.data);
    for (let i = 0; i < raw.data.length; i += 97)
      expect(half.data[i]).toBeCloseTo((raw.data[i] + clean.data[i]) / 2, 3);
    const early = await pixels({ samples: 4096, noise: 0.5, layers: true });
    expect(early.done.noise).toBeCloseTo(0.5, 6);
    expect(early.done.samplesDone).toBeLessThan(1024);
    // each light by itself, summing to the picture
    const names = new TextDecoder('latin1').decode(early.bytes).match(/light [^\0]+?\.R(?=\0)/g)!;
    expect(names.length).toBeGreaterThan(1);
  });

  it('writes PNG with or without alpha', async () => {
    for (const alpha of [true, false]) {
      const job = await ask({ format: 'png8', alpha, samples: 2, name: 'deck.png' });
      await pressJob(db.session, job.id, () => false);
      const png = decode((await readAsset(db.session, (await readPress(db.session, job.id)).result!)).bytes);
      const transparent = (png.data as Uint8Array).some((v, i) => i % 4 === 3 && v < 255);
      expect(transparent).toBe(alpha);
    }
  });

  it('writes JPEG, laid over black whatever is asked', async () => {
    const { width, height } = order();
    const job = await ask({ format: 'jpeg', alpha: true, samples: 2, name: 'deck.jpg' });
    await pressJob(db.session, job.id, () => false);
    const jpeg = await readAsset(db.session, (await readPress(db.session, job.id)).result!);
    expect(await readTexture(jpeg.bytes, 'colour', decoders)).toMatchObject({ width, height });
  });

  it('leaves cancelled jobs alone and stops cancelled ones', async () => {
    const early = await ask();
    await cancelPress(db.session, project, early.id);
    await pressJob(db.session, early.id, () => false);
    expect((await readPress(db.session, early.id)).state).toBe('cancelled');
    const late = await ask({ samples: 4096 });
    const work = pressJob(db.session, late.id, () => false);
    await new Promise((resolve) => setTimeout(resolve, 2500));
    await cancelPress(db.session, project, late.id);
    await work;
    expect(await readPress(db.session, late.id)).toMatchObject({ state: 'cancelled', result: null });
  });

  it('fails at once, in words, when it cannot succeed; is left to another try when it may', async () => {
    const broken = structuredClone(document) as unknown as { blocks: unknown };
    const malformed = await askPress(db.session, project, document, order());
    broken.blocks = 'none';
    await db.pool.query('UPDATE press_jobs SET document = $2 WHERE id = $1', [
      malformed.id,
      JSON.stringify(broken),
    ]);
    await pressJob(db.session, malformed.id, () => false);
    expect(await readPress(db.session, malformed.id)).toMatchObject({
      state: 'failed',
      message: expect.stringContaining('blocks: must be a list'),
    });
    const pictured = structuredClone(document);
    pictured.looks.find((l) => l.id === 'frosted')!.surround = {
      ...pictured.looks[0].surround,
      source: 'picture',
      id: '1'.repeat(64),
      name: 'Lost harbour',
    };
    const lost = await askPress(db.session, project, pictured, order());
    await pressJob(db.session, lost.id, () => false);
    expect(await readPress(db.session, lost.id)).toMatchObject({
      state: 'failed',
      message: expect.stringContaining('Lost harbour'),
    });
    // the node ends: another takes over, unless this was the last try
    const ended = await ask({ samples: 4096 });
    let passes = 0;
    await expect(pressJob(db.session, ended.id, () => ++passes > 1)).rejects.toThrow('the node ends');
    expect((await readPress(db.session, ended.id)).state).toBe('tracing');
    await pressJob(db.session, ended.id, () => true, { last: true });
    expect((await readPress(db.session, ended.id)).state).toBe('failed');
  });

  it('fails in words when the document leans on a font that is not there', async () => {
    const broken = structuredClone(document);
    broken.blocks[0].font = { source: 'asset', id: '0'.repeat(64), name: 'Lost Grotesque' };
    const job = await askPress(db.session, project, broken, order());
    await pressJob(db.session, job.id, () => false);
    expect(await readPress(db.session, job.id)).toMatchObject({
      state: 'failed',
      message: expect.stringContaining('Lost Grotesque'),
    });
  });
});
