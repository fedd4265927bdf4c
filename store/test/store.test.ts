import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { newProject, openDocument, openFinish, VERSION } from '@wemlox/core/document';
import { READY_FINISHES } from '@wemlox/core/finish/readyFinishes';
import {
  ConflictError,
  createProject,
  keepFinish,
  keepProof,
  listFinishes,
  listProjects,
  listProofs,
  migrate,
  MissingError,
  proofDocument,
  putAsset,
  readAsset,
  readProject,
  readRevision,
  saveProject,
  setDeleted,
  setFinishDeleted,
  setProofDeleted,
  sha256,
} from '../src/index.ts';
import type { ProjectLine, ProjectQuery } from '@wemlox/wire';
import { freshDatabase } from './freshDatabase.ts';

const project = (name: string) => newProject(name, 'WORD', structuredClone(READY_FINISHES.slice(0, 2)));
let db: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
  db = await freshDatabase();
});
afterAll(() => db.end());

describe('projects', () => {
  it('migrates again without harm', async () => {
    await migrate(db.url);
    expect(await listProjects(db.session)).toEqual({ total: 0, json: '[]' });
  });

  it('keeps every version, in order', async () => {
    const first = project('Hull');
    const { id } = await createProject(db.session, first);
    const second = { ...first, name: 'Hull, wider' };
    expect((await saveProject(db.session, id, 1, second)).version).toBe(2);
    expect(await readProject(db.session, id)).toEqual({ id, version: 2, document: second });
    const { rows } = await db.pool.query(
      'SELECT id, version, document FROM revisions WHERE project_id = $1 ORDER BY id',
      [id],
    );
    expect(rows.map((r) => [r.version, r.document.name])).toEqual([
      [1, 'Hull'],
      [2, 'Hull, wider'],
    ]);
    expect(await readRevision(db.session, id, rows[0].id)).toEqual(first);
  });

  it('tells the second of two savers, and loses neither version', async () => {
    const { id } = await createProject(db.session, project('Race'));
    await saveProject(db.session, id, 1, project('Theirs'));
    const conflict = await saveProject(db.session, id, 1, project('Mine')).catch((e: unknown) => e);
    expect(conflict).toBeInstanceOf(ConflictError);
    const { current, keptAs } = conflict as ConflictError;
    expect(openDocument(current.document).name).toBe('Theirs');
    expect(openDocument(await readRevision(db.session, id, keptAs)).name).toBe('Mine');
    expect(openDocument((await readProject(db.session, id)).document).name).toBe('Theirs');
  });

  it('lets exactly one of many simultaneous savers win', async () => {
    const { id } = await createProject(db.session, project('Crowd'));
    const results = await Promise.allSettled(
      Array.from({ length: 12 }, (_, i) => saveProject(db.session, id, 1, project(`Saver ${i}`))),
    );
    expect(results.filter((r) => r.status === 'fulfilled')).toHaveLength(1);
    const { rows } = await db.pool.query('SELECT count(*)::int AS n FROM revisions WHERE project_id = $1', [
      id,
    ]);
    expect(rows[0].n).toBe(13);
  });

  it('lists a page, in an order, of those that match, whatever the clock says', async () => {
    const names = ['Zander', 'anchor', 'Buoy 100%', 'buoy_2'];
    const ids: string[] = [];
    for (const name of names) ids.push((await createProject(db.session, project(name))).id);
    // the clock is put back: what was changed last still comes first
    await db.pool.query("UPDATE projects SET updated_at = updated_at - interval '1 hour' WHERE id = $1", [
      ids[3],
    ]);
    const list = async (query: ProjectQuery) => {
      const { total, json } = await listProjects(db.session, query);
      return [total, (JSON.parse(json) as ProjectLine[]).map((p) => p.name)];
    };
    const [all, changed] = (await list({ limit: 2 })) as [number, string[]];
    expect(changed).toEqual(['buoy_2', 'Buoy 100%']);
    expect(all).toBeGreaterThanOrEqual(4);
    expect(await list({ search: 'buoy', order: 'name', limit: 10 })).toEqual([2, ['Buoy 100%', 'buoy_2']]);
    expect(await list({ search: '0%', limit: 10 })).toEqual([1, ['Buoy 100%']]);
    expect(await list({ search: 'y_', limit: 10 })).toEqual([1, ['buoy_2']]);
    expect(await list({ search: 'buoy', limit: 10, offset: 50 })).toEqual([2, []]);
    // by the words in the type too
    expect((await list({ search: 'word', limit: 1 }))[0]).toBeGreaterThanOrEqual(4);
    const { updatedAt } = (JSON.parse((await listProjects(db.session)).json) as ProjectLine[])[0];
    expect(Math.abs(Date.now() - new Date(updatedAt).getTime())).toBeLessThan(3 * 3600_000);
  });

  it('hides a deleted project and brings it back', async () => {
    const { id } = await createProject(db.session, project('Gone'));
    await setDeleted(db.session, id, true);
    await expect(readProject(db.session, id)).rejects.toBeInstanceOf(MissingError);
    await expect(saveProject(db.session, id, 1, project('No'))).rejects.toBeInstanceOf(MissingError);
    await setDeleted(db.session, id, false);
    expect(openDocument((await readProject(db.session, id)).document).name).toBe('Gone');
    await expect(setDeleted(db.session, 'nowhere', true)).rejects.toBeInstanceOf(MissingError);
  });
});

describe('assets', () => {
  it('returns what was put, across chunk borders', async () => {
    const bytes = new Uint8Array(2_500_000);
    for (let i = 0; i < bytes.length; i++) bytes[i] = (i * 31 + (i >> 8)) & 255;
    const line = await putAsset(db.session, 'surround', 'big', bytes);
    expect(line.hash).toBe(sha256(bytes));
    const back = await readAsset(db.session, line.hash);
    expect(sha256(back.bytes)).toBe(line.hash);
    expect(back.size).toBe(bytes.length);
  });

  it('keeps the same bytes once', async () => {
    const bytes = new Uint8Array([1, 2, 3]);
    await putAsset(db.session, 'font', 'a', bytes);
    await putAsset(db.session, 'font', 'b', bytes);
    const { rows } = await db.pool.query('SELECT name FROM assets WHERE hash = $1', [sha256(bytes)]);
    expect(rows).toEqual([{ name: 'a' }]);
  });
});

describe('proofs', () => {
  it('keeps the exact state with the picture, hides and restores', async () => {
    const document = project('Proofed');
    const { id } = await createProject(db.session, document);
    const { hash } = await putAsset(db.session, 'proof', 'p', new Uint8Array([9, 9]));
    const kept = await keepProof(db.session, id, {
      name: 'One',
      look: document.looks[0].id,
      shot: document.shots[0].id,
      picture: hash,
      width: 10,
      height: 5,
      samples: 64,
      seed: 4294967295,
      renderer: 'test',
      document,
    });
    expect(kept.seed).toBe(4294967295);
    expect(await proofDocument(db.session, id, kept.id)).toEqual(document);
    const lines = JSON.parse((await listProjects(db.session)).json) as ProjectLine[];
    expect(lines.find((p) => p.id === id)).toMatchObject({
      picture: hash,
      proofs: 1,
    });
    await setProofDeleted(db.session, id, kept.id, true);
    expect(await listProofs(db.session, id)).toEqual([]);
    await setProofDeleted(db.session, id, kept.id, false);
    expect(await listProofs(db.session, id)).toEqual([kept]);
    await expect(keepProof(db.session, 'nowhere', { ...kept, document })).rejects.toBeInstanceOf(
      MissingError,
    );
  });
});

describe('the library of finishes', () => {
  it('keeps copies under their own identifiers, takes them out and brings them back', async () => {
    const [chrome, gold] = READY_FINISHES;
    const kept = await keepFinish(db.session, gold, VERSION);
    await keepFinish(db.session, chrome, VERSION);
    const finish = openFinish(kept.version, kept.finish);
    expect(finish.id).not.toBe(gold.id);
    expect(finish.surface).toEqual(gold.surface);
    // whatever a finish has is kept
    const whole = { ...READY_FINISHES.find((f) => f.coats.length > 0)!, tags: ['hull', 'harbour'] };
    const back = await keepFinish(db.session, whole, VERSION);
    expect(openFinish(back.version, back.finish)).toEqual({
      ...whole,
      id: (back.finish as { id: string }).id,
    });
    await setFinishDeleted(db.session, (back.finish as { id: string }).id, true);
    const names = async () =>
      (await listFinishes(db.session)).map((f) => openFinish(f.version, f.finish).name);
    expect(await names()).toEqual([chrome.name, gold.name]);
    await setFinishDeleted(db.session, finish.id, true);
    expect(await names()).toEqual([chrome.name]);
    await setFinishDeleted(db.session, finish.id, false);
    expect(await listFinishes(db.session)).toHaveLength(2);
    await expect(setFinishDeleted(db.session, 'none', true)).rejects.toThrow(MissingError);
  });
});
