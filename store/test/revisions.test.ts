import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { newProject, openDocument, type Project } from '@wemlox/core/document';
import { READY_FINISHES } from '@wemlox/core/finish/readyFinishes';
import {
  type ConflictError,
  createProject,
  inTransaction,
  keepProof,
  listRevisions,
  proofDocument,
  putAsset,
  readProject,
  readRevision,
  saveProject,
  thinRevisions,
} from '../src/index.ts';
import { freshDatabase } from './freshDatabase.ts';

const project = (name: string) => newProject(name, 'WORD', structuredClone(READY_FINISHES.slice(0, 2)));
let db: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
  db = await freshDatabase();
});
afterAll(() => db.end());

const named = (document: Project, name: string): Project => ({ ...document, name });
const labels = async (id: string) => (await listRevisions(db.session, id)).map((r) => [r.version, r.label]);

describe('saving', () => {
  it('answers the same save sent again as the first time, and keeps it once', async () => {
    const first = project('Lost answer');
    const { id } = await createProject(db.session, first);
    const save = { id: 'save-one-0001', step: 'step-one-0001', label: 'Depth' };
    expect((await saveProject(db.session, id, 1, named(first, 'Two'), save)).version).toBe(2);
    expect((await saveProject(db.session, id, 1, named(first, 'Two'), save)).version).toBe(2);
    expect(await labels(id)).toEqual([
      [2, 'Depth'],
      [1, 'Made'],
    ]);
    // even when somebody else has saved meanwhile: it was stored, and theirs on top of it
    await saveProject(db.session, id, 2, named(first, 'Theirs'));
    expect((await saveProject(db.session, id, 1, named(first, 'Two'), save)).version).toBe(2);
    expect(openDocument((await readProject(db.session, id)).document).name).toBe('Theirs');
  });

  it('keeps a lost race once, however often it is sent', async () => {
    const first = project('Race');
    const { id } = await createProject(db.session, first);
    await saveProject(db.session, id, 1, named(first, 'Theirs'));
    const mine = { id: 'save-mine-001' };
    const tries = await Promise.all(
      [1, 2, 3].map(() =>
        saveProject(db.session, id, 1, named(first, 'Mine'), mine).catch((e: unknown) => e as ConflictError),
      ),
    );
    expect(new Set(tries.map((t) => (t as ConflictError).keptAs)).size).toBe(1);
    expect(await listRevisions(db.session, id)).toHaveLength(3);
  });

  it('makes one revision of one drag, and another of the next', async () => {
    const first = project('Drag');
    const { id } = await createProject(db.session, first);
    for (let v = 1; v <= 5; v++)
      await saveProject(db.session, id, v, named(first, `A${v}`), { step: 'drag-one-001', label: 'Turn' });
    for (let v = 6; v <= 8; v++)
      await saveProject(db.session, id, v, named(first, `B${v}`), { step: 'drag-two-001', label: 'Turn' });
    const list = await listRevisions(db.session, id);
    expect(list.map((r) => r.version)).toEqual([9, 6, 1]);
    expect(openDocument(await readRevision(db.session, id, list[1].id)).name).toBe('A5');
  });
});

describe('revisions', () => {
  it('are thinned by the stated rule, and never one with a proof or one that lost a race', async () => {
    const first = project('Old');
    const { id } = await createProject(db.session, first);
    const { hash } = await putAsset(db.session, 'proof', 'p', new Uint8Array([7]));
    let version = 1;
    const proofs: string[] = [];
    for (; version < 600; version++) {
      const document = named(first, `v${version + 1}`);
      await saveProject(db.session, id, version, document, { step: `step-${version}-000` });
      // one a minute, up to now
      await db.pool.query(
        'UPDATE revisions SET saved_at = now() - make_interval(mins => 599 - $2) WHERE project_id = $1 AND version = $2 + 1',
        [id, version],
      );
      if (version % 150 === 0)
        proofs.push(
          (
            await keepProof(db.session, id, {
              name: 'P',
              look: first.looks[0].id,
              shot: first.shots[0].id,
              picture: hash,
              width: 1,
              height: 1,
              samples: 1,
              seed: 1,
              renderer: 'r',
              document,
            })
          ).id,
        );
    }
    await saveProject(db.session, id, 3, named(first, 'lost')).catch(() => {});
    // one a minute, backwards from now
    await inTransaction(db.pool, (client) => thinRevisions(client, id));
    const list = await listRevisions(db.session, id);
    const versions = list.flatMap((r) => r.version ?? []);
    // the newest 200 that are not held by something else are all there
    for (let v = 600; v > 400; v--) expect(versions).toContain(v);
    for (const v of [151, 301, 451]) expect(versions).toContain(v);
    expect(list.filter((r) => r.version === null)).toHaveLength(1);
    // before them one in ten minutes
    const older = versions.filter((v) => v <= 395 && ![151, 301].includes(v)).sort((a, b) => a - b);
    expect(older.length).toBeGreaterThan(30);
    expect(older.length).toBeLessThan(50);
    older.slice(1).forEach((v, i) => expect(v - older[i]).toBeLessThanOrEqual(20));
    for (const proof of proofs)
      expect(openDocument(await proofDocument(db.session, id, proof)).name).toMatch(/^v/);
    expect(list.filter((r) => r.picture === hash)).toHaveLength(proofs.length);
  });
});
