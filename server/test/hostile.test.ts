import { VERSION } from '@wemlox/core/document';
/** What is sent to break the studio: the answer is a refusal in words, and the server goes on. */
import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { zipSync } from 'fflate';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { mutated, seeded } from '../../core/test/document/mutate.ts';
import { READING } from '@wemlox/core/ceilings';
import { Readers } from '../src/foreign/readers.ts';
import { openApp, project, type TestApp } from './openApp.ts';

let app: TestApp;
beforeAll(async () => {
  app = await openApp();
});
afterAll(() => app.end());

const demo = JSON.parse(readFileSync(new URL('../../demo/data/deck-5.json', import.meta.url), 'utf8')) as {
  project: object;
};
const old = [1, 2, 3].map(
  (v) =>
    JSON.parse(
      readFileSync(new URL(`../../core/test/document/versions/${v}.json`, import.meta.url), 'utf8'),
    ) as object,
);
const bytes = (text: string) => new TextEncoder().encode(text);

describe('documents', () => {
  it('any JSON is answered with 2xx or 4xx: 2,000 mutated documents', async () => {
    const random = seeded(8);
    const { json } = await app.call('POST', '/projects', { document: project() });
    const statuses = new Map<number, number>();
    for (let i = 0; i < 2000; i++) {
      const text = mutated([demo.project, project(), ...old][i % 5], random);
      const { status } =
        i % 2
          ? await app.call('POST', '/projects', `{"document":${text}}`)
          : await app.call('PUT', `/projects/${json.id}`, `{"version":1,"document":${text}}`);
      statuses.set(status, (statuses.get(status) ?? 0) + 1);
      expect(status, text.slice(0, 2000)).toBeLessThan(500);
    }
    expect(statuses.get(422)).toBeGreaterThan(500);
  });

  it('what was taken can be read again', async () => {
    for (const line of (await app.call('GET', '/projects')).json)
      expect([line.name, (await app.call('GET', `/projects/${line.id}`)).status]).toEqual([line.name, 200]);
  });

  it('bodies that are no objects, and whole bodies mutated, are refused', async () => {
    for (const body of ['null', '[]', '1', '"text"', 'true', '{}', '{"document":null}', '{"document":[]}'])
      for (const path of ['/projects', '/finishes', '/projects/x/proofs', '/projects/x/press']) {
        const { status } = await app.call('POST', path, body);
        expect([path, body, status >= 400 && status < 500]).toEqual([path, body, true]);
      }
  });

  it.each([1.5, 2 ** 31, 0, -1, '3', null, VERSION + 1])(
    'version %s is refused in words',
    async (version) => {
      const { status, json } = await app.call('POST', '/projects', { document: { ...project(), version } });
      expect(status).toBe(422);
      expect(json.problems[0]).toMatch(/^version: /);
    },
  );

  it('half characters and NUL are refused with their place', async () => {
    const half = project();
    half.looks[0].name = 'Dusk \ud83d';
    const refused = await app.call('POST', '/projects', { document: half });
    expect(refused.status).toBe(422);
    expect(refused.json.problems).toEqual([
      'document.looks[0].name: holds half a character, which cannot be kept',
    ]);
    const nul = project();
    nul.blocks[0].text = 'WO\0D';
    expect((await app.call('POST', '/projects', { document: nul })).json.problems[0]).toMatch(
      /blocks\[0\]\.text: holds a NUL/,
    );
    for (const path of [
      '/projects/a%00b',
      '/projects/a%00b/proofs',
      '/projects/a%00b/revisions',
      '/assets/%00',
      '/assets?kind=font&name=%00',
    ])
      expect((await app.call('GET', path)).status).toBeLessThan(500);
  });

  it('a million elements are refused before they are walked one by one', async () => {
    const document = project();
    (document.looks[0] as { chart: unknown[] }).chart = Array.from({ length: 1_000_000 }, () => ({}));
    const before = process.cpuUsage();
    const { status, json } = await app.call('POST', '/projects', { document });
    const { user } = process.cpuUsage(before);
    expect(status).toBe(422);
    expect(json.detail).toMatch(/more than 60000 objects|1000000 entries/);
    // reading three megabytes of JSON is most of it; walking them by rules takes minutes
    expect(user / 1e6).toBeLessThan(20);
  });

  it('a stored document that is broken is told, and the last good revision brings it back', async () => {
    const { id } = (await app.call('POST', '/projects', { document: project('Sound') })).json;
    await app.call('PUT', `/projects/${id}`, { version: 1, document: project('Later') });
    for (const table of ['projects WHERE id', 'revisions WHERE version = 2 AND project_id'])
      await app.db.pool.query(
        `UPDATE ${table.split(' ')[0]} SET document = '{"format": "wemlox-project"}' WHERE ${table.split('WHERE ')[1]} = $1`,
        [id],
      );
    const broken = await app.call('GET', `/projects/${id}`);
    expect(broken.status).toBe(422);
    expect(broken.json.problems[0]).toMatch(/version/);
    const good = (await app.call('GET', `/projects/${id}/revisions/good`)).json;
    expect(good.version).toBe(1);
    expect((await app.call('POST', `/projects/${id}/revisions/${good.id}/restore`)).status).toBe(200);
    expect((await app.call('GET', `/projects/${id}`)).json.document.name).toBe('Sound');
  });
});

describe('files', () => {
  it('a small zip of a huge document is refused at once, while the studio answers', async () => {
    const bomb = zipSync(
      { 'project.json': bytes(`{"blocks":[${'[],'.repeat(30_000_000)}[]]}`) },
      { level: 6 },
    );
    expect(bomb.length).toBeLessThan(1_000_000);
    // packing took so long that kept connections have been closed
    await app.call('GET', '/health').catch(() => {});
    const { status, json } = await app.call('POST', '/projects/file', new Uint8Array(bomb));
    expect(status).toBe(422);
    expect(json.detail).toBe('project.json is larger than 16 MB');
  });

  it.each([
    ['memory', { memory: 40 << 20 }, /more than 40 MB of memory/],
    ['computing', { cpuSeconds: 0.05 }, /more than 0.05 seconds of computing/],
    ['time', { seconds: 0.05 }, /more than 0.05 seconds/],
  ])(
    'a reader that passes its ceiling of %s is ended and told, and the next file is read',
    async (_, ceiling, why) => {
      const path = fileURLToPath(new URL('../../web/public/mark.svg', import.meta.url));
      const strict = new Readers(1, { ...READING, ...ceiling });
      const all = await Promise.allSettled([1, 2].map(() => strict.read({ kind: 'drawing', path })));
      strict.close();
      for (const one of all) {
        expect(one.status).toBe('rejected');
        expect((one as PromiseRejectedResult).reason.message).toMatch(why);
      }
      const readers = new Readers(1);
      expect(await readers.read({ kind: 'drawing', path })).toEqual({ ownName: null, facts: null });
      readers.close();
    },
  );

  it('drawings with extreme coordinates leave the next ones sound', async () => {
    const far = bytes(
      '<svg xmlns="http://www.w3.org/2000/svg"><path d="M0 0H1e30V1e30H0Z M5 5L1e-300 1e300 1e300 5Z"/></svg>',
    );
    for (let i = 0; i < 30; i++)
      expect((await app.call('POST', '/assets?kind=drawing&name=far.svg', far)).status).toBe(422);
    const sound = bytes('<svg xmlns="http://www.w3.org/2000/svg"><circle r="4"/></svg>');
    expect((await app.call('POST', '/assets?kind=drawing&name=b.svg', sound)).status).toBe(201);
  });
});
