import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { KEPT } from '@wemlox/core/ceilings';
import { newFeed, newLight, newProject, plainFinish, VERSION } from '@wemlox/core/document';
import {
  createProject,
  keepFinish,
  findAsset,
  keepRig,
  listAssets,
  MissingError,
  putAsset,
  QuotaError,
  removeUnused,
  saveProject,
  setFinishDeleted,
  sweepAssets,
  unusedAssets,
} from '../src/index.ts';
import { freshDatabase } from './freshDatabase.ts';

let db: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
  db = await freshDatabase();
});
afterAll(() => db.end());

describe('unused files', () => {
  it('are seen and removed; used ones never, even when only an older version used them', async () => {
    const used = await putAsset(db.session, 'surround', 'used', new Uint8Array([1]));
    const idle = await putAsset(db.session, 'surround', 'idle', new Uint8Array([2, 2]));
    const document = newProject('Uses', 'WORD', []);
    const plain = structuredClone(document);
    document.looks[0].surround = { ...document.looks[0].surround, source: 'picture', id: used.hash };
    const { id } = await createProject(db.session, document);
    await saveProject(db.session, id, 1, plain);
    expect((await unusedAssets(db.session)).map((a) => a.name)).toEqual(['idle']);
    await expect(removeUnused(db.session, used.hash)).rejects.toBeInstanceOf(MissingError);
    expect(await sweepAssets(db.session)).toBe(0);
    await db.pool.query('UPDATE assets SET created_at = now() - make_interval(days => $1)', [
      KEPT.unusedDays + 1,
    ]);
    expect(await sweepAssets(db.session)).toBe(1);
    await expect(removeUnused(db.session, idle.hash)).rejects.toBeInstanceOf(MissingError);
  });

  it('taken in as two kinds are listed as both', async () => {
    const bytes = new Uint8Array([42, 43]);
    await putAsset(db.session, 'picture', 'dusk.exr', bytes);
    const facts = {
      mean: 1,
      peak: 2,
      stops: 3,
      peakDirection: [0, 1, 0],
      small: { width: 0, height: 0, rgb: '' },
    };
    const { hash } = await putAsset(db.session, 'surround', 'dusk.exr', bytes, facts);
    await putAsset(db.session, 'surround', 'dusk.exr', bytes, facts);
    for (const kind of ['picture', 'surround'] as const)
      expect((await listAssets(db.session, kind)).filter((a) => a.hash === hash)).toHaveLength(1);
    expect((await findAsset(db.session, hash)).facts).toEqual(facts);
    await removeUnused(db.session, hash);
  });

  it('are no files that a light of a project or of the library leans on', async () => {
    const [thrown, kept, idle] = await Promise.all(
      [15, 16, 17].map((v) => putAsset(db.session, 'profile', `profile ${v}`, new Uint8Array([v, v, v]))),
    );
    const lamp = (id: string) =>
      newLight('point', 'Lantern', {
        profile: { source: 'asset', id, name: 'deck.ies', candela: 9, lumens: 3 },
      });
    const document = newProject('Lit', 'WORD', []);
    document.looks[0].rig.push(lamp(thrown.hash));
    await createProject(db.session, document);
    await keepRig(db.session, { name: 'Kept', size: 1, lights: [lamp(kept.hash)] }, VERSION);
    const unused = (await unusedAssets(db.session)).map((a) => a.hash);
    expect(unused).toContain(idle.hash);
    expect(unused).not.toContain(thrown.hash);
    expect(unused).not.toContain(kept.hash);
    await removeUnused(db.session, idle.hash);
  });

  it('are no pictures that a finish of a project or of the library is fed from', async () => {
    const [worn, kept, idle] = await Promise.all(
      [5, 6, 7].map((v) => putAsset(db.session, 'picture', `picture ${v}`, new Uint8Array([v, v]))),
    );
    const fedFrom = (id: string) =>
      plainFinish({
        id: 'f',
        name: 'Hull',
        feeds: [
          {
            ...newFeed('feed', 'base_color', [1, 1, 1]),
            source: 'picture',
            picture: { source: 'asset', id, name: 'Scan' },
          },
        ],
      });
    await createProject(db.session, newProject('Pictured', 'WORD', [fedFrom(worn.hash)]));
    const { finish } = await keepFinish(db.session, fedFrom(kept.hash), VERSION);
    expect((finish as { feeds: { picture: { id: string } }[] }).feeds[0].picture.id).toBe(kept.hash);
    const unused = (await unusedAssets(db.session)).map((a) => a.hash);
    expect(unused).toContain(idle.hash);
    expect(unused).not.toContain(worn.hash);
    expect(unused).not.toContain(kept.hash);
    // a finish taken out may be brought back, with its picture
    await setFinishDeleted(db.session, (finish as { id: string }).id, true);
    await expect(removeUnused(db.session, kept.hash)).rejects.toBeInstanceOf(MissingError);
  });

  it('a project takes so many bytes of files, and no more', async () => {
    const big = await putAsset(db.session, 'surround', 'big', new Uint8Array([3]));
    await db.pool.query('UPDATE assets SET size = $2 WHERE hash = $1', [big.hash, KEPT.projectBytes + 1]);
    const document = newProject('Too much', 'WORD', []);
    document.looks[0].surround = { ...document.looks[0].surround, source: 'picture', id: big.hash };
    await expect(createProject(db.session, document)).rejects.toBeInstanceOf(QuotaError);
    await db.pool.query('UPDATE assets SET size = $2 WHERE hash = $1', [big.hash, KEPT.bytes + 1]);
    await expect(putAsset(db.session, 'font', 'more', new Uint8Array([4]))).rejects.toThrow(/100 GB/);
  });
});
