import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { newProject } from '@wemlox/core/document';
import { askPress, createProject, sayAlive, type Vigil } from '../src/index.ts';
import { freshDatabase } from './freshDatabase.ts';

let db: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
  db = await freshDatabase();
});
afterAll(() => db.end());

const locked = async () =>
  (await db.pool.query('SELECT locked_by FROM graphile_worker.jobs ORDER BY id')).rows.map(
    (r) => r.locked_by,
  );
const hold = (by: string) =>
  db.pool.query('UPDATE graphile_worker._private_jobs SET locked_by = $1, locked_at = now()', [by]);
/** The clock of the database jumps: what was noted is that much older or newer. */
const jump = (hours: number) =>
  db.pool.query(
    `UPDATE graphile_worker._private_jobs SET locked_at = locked_at - make_interval(hours => $1),
            run_at = run_at - make_interval(hours => $1)`,
    [hours],
  );

describe('render nodes', () => {
  it('lose their jobs only when they fall silent, wherever the clock jumps', async () => {
    const document = newProject('Pressed', 'WORD', []);
    const { id } = await createProject(db.session, document);
    await askPress(db.session, id, document, {
      name: 'a.png',
      look: document.looks[0].id,
      shot: document.shots[0].id,
      width: 8,
      height: 8,
      samples: 1,
      seed: 1,
      format: 'png8',
      alpha: true,
      layers: false,
      denoise: 0,
      noise: 0,
    });
    await hold('other');
    const [mine, theirs]: Vigil[] = [new Map(), new Map()];
    let watch = 0;
    const both = async (seconds: number) => {
      for (let s = 0; s < seconds; s += 3) {
        watch += 3;
        await sayAlive(db.session, ['mine'], mine, watch);
        await sayAlive(db.session, ['other'], theirs, watch);
      }
    };
    await both(30);
    expect(await locked()).toEqual(['other']);
    for (const hours of [1, -2, 1]) {
      await jump(hours);
      await both(30);
      expect(await locked()).toEqual(['other']);
    }
    for (let s = 0; s < 18; s += 3) await sayAlive(db.session, ['mine'], mine, (watch += 3));
    expect(await locked()).toEqual([null]);
    // one that died before it ever spoke
    await hold('mute');
    for (let s = 0; s < 18; s += 3) await sayAlive(db.session, ['mine'], mine, (watch += 3));
    expect(await locked()).toEqual([null]);
  });

  it('wait no hour for a job when the clock is put back by one', async () => {
    await db.pool.query("UPDATE graphile_worker._private_jobs SET run_at = now() + interval '1 hour'");
    await sayAlive(db.session, ['mine'], new Map(), 0);
    const { rows } = await db.pool.query('SELECT run_at <= now() AS due FROM graphile_worker.jobs');
    expect(rows).toEqual([{ due: true }]);
  });
});
