import { readFileSync } from 'node:fs';
import { zipSync } from 'fflate';
import { encode as encodePng } from 'fast-png';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import {
  newFeed,
  newLight,
  newPiece,
  newPlayback,
  unpackProject,
  VERSION,
  type Project,
} from '@wemlox/core/document';
import { READY_FINISHES } from '@wemlox/core/finish/readyFinishes';
import { encodeExr, encodeHdr } from '@wemlox/core/picture/files';
import { sha256 } from '@wemlox/store';
import { bollard } from '../../core/test/model/bollard.ts';
import { openApp, project, type TestApp } from './openApp.ts';

let app: TestApp;
let call: TestApp['call'];
let base: string;
beforeAll(async () => {
  app = await openApp();
  ({ call, base } = app);
});
afterAll(() => app.end());

/** A small float environment with one pixel of choice. */
const environment = (pixel: number[] = [1, 1, 1]) => {
  const data = new Float32Array(32 * 16 * 4).fill(0.5);
  data.set([...pixel, 1], 4 * 5);
  return { width: 32, height: 16, data };
};
const font = new Uint8Array(
  readFileSync(
    new URL('../../node_modules/@fontsource/anton/files/anton-latin-400-normal.woff2', import.meta.url),
  ),
);

describe('projects', () => {
  it('makes, reads, saves and refuses stale versions as problem details', async () => {
    const made = await call('POST', '/projects', { document: project() });
    expect(made.status).toBe(201);
    const path = `/projects/${made.json.id}`;
    expect((await call('PUT', path, { version: 1, document: project('Two') })).json).toEqual({
      id: made.json.id,
      version: 2,
    });
    const stale = await call('PUT', path, { version: 1, document: project('Late') });
    expect(stale.status).toBe(409);
    expect(stale.type).toContain('application/problem+json');
    expect(stale.json.current).toMatchObject({ version: 2, document: { name: 'Two' } });
    expect((await call('GET', `${path}/revisions/${stale.json.keptAs}`)).json.name).toBe('Late');
  });

  it('names each field of a bad document', async () => {
    const bad = project() as Project & { looks: { grade: { exposure: unknown } }[] };
    bad.looks[0].grade.exposure = 'bright' as never;
    bad.blocks[0].depth = -1;
    const refused = await call('POST', '/projects', { document: bad });
    expect(refused.status).toBe(422);
    expect(refused.json.problems.join('\n')).toMatch(/blocks\[0\]\.depth/);
    expect(refused.json.problems.join('\n')).toMatch(/looks\[0\]\.grade\.exposure/);
  });

  it('keeps fields it does not know', async () => {
    const document = { ...project(), later: { kept: true } };
    const { json } = await call('POST', '/projects', { document });
    expect((await call('GET', `/projects/${json.id}`)).json.document.later).toEqual({ kept: true });
  });

  it('answers what is not there, not JSON, or not an API with problem details', async () => {
    expect((await call('GET', '/projects/nowhere')).status).toBe(404);
    expect((await call('GET', '/nothing')).json).toMatchObject({ status: 404, title: 'Refused' });
    const broken = await fetch(`${base}/projects`, {
      method: 'POST',
      body: '{',
      headers: { 'Content-Type': 'application/json' },
    });
    expect(broken.status).toBe(400);
  });

  it('isolates the page', async () => {
    const { headers } = await call('GET', '/projects');
    expect(headers.get('cross-origin-opener-policy')).toBe('same-origin');
    expect(headers.get('cross-origin-embedder-policy')).toBe('require-corp');
    expect(headers.get('content-security-policy')).toMatch(/script-src 'self' 'wasm-unsafe-eval'/);
  });

  it('exports a .wemlox file with its assets and takes it back', async () => {
    const asset = (await call('POST', '/assets?kind=font&name=x', font)).json;
    const document = project('Travels');
    document.blocks[0].font = { source: 'asset', id: asset.hash, name: asset.name };
    const { json } = await call('POST', '/projects', { document });
    const file = new Uint8Array(await (await fetch(`${base}/projects/${json.id}/file`)).arrayBuffer());
    const unpacked = await unpackProject(file, async (b) => sha256(b));
    expect(unpacked.project).toEqual(document);
    expect(unpacked.assets.map((a) => a.hash)).toEqual([asset.hash]);
    const back = await call('POST', '/projects/file', file);
    expect(back.status).toBe(201);
    expect(back.json.document).toEqual(document);
  });

  it('refuses files that are no project, cut short, or missing an asset', async () => {
    const refusals = [new Uint8Array([1, 2, 3]), zipSync({ 'other.txt': new Uint8Array(4) })];
    const lacking = project();
    lacking.blocks[0].font = { source: 'asset', id: 'a'.repeat(64), name: 'Lost' };
    refusals.push(zipSync({ 'project.json': new TextEncoder().encode(JSON.stringify(lacking)) }));
    for (const file of refusals) {
      const { status, json } = await call('POST', '/projects/file', new Uint8Array(file));
      expect(status).toBe(422);
      expect(json.detail.length).toBeGreaterThan(10);
    }
  });
});

describe('uploads', () => {
  it('reads a font’s own name', async () => {
    const { status, json } = await call('POST', '/assets?kind=font&name=file.woff2', font);
    expect(status).toBe(201);
    expect(json.name).toBe('Anton');
    const back = await fetch(`${base}/assets/${json.hash}`);
    expect(sha256(new Uint8Array(await back.arrayBuffer()))).toBe(json.hash);
    expect(back.headers.get('cache-control')).toContain('immutable');
  });

  it('refuses what is not a font, and a font cut short', async () => {
    expect(
      (await call('POST', '/assets?kind=font', new TextEncoder().encode('hello, I am text'))).json.detail,
    ).toMatch(/not a TTF/);
    expect((await call('POST', '/assets?kind=font', font.slice(0, font.length / 2))).json.detail).toMatch(
      /cut short/,
    );
  });

  it('takes drawings that can be read, and says what is wrong with others', async () => {
    const svg = (inner: string) =>
      new TextEncoder().encode(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9">${inner}</svg>`);
    const taken = await call(
      'POST',
      '/assets?kind=drawing&name=buoy.svg',
      svg('<circle cx="4" cy="4" r="3"/>'),
    );
    expect(taken.status).toBe(201);
    expect(taken.json).toMatchObject({ kind: 'drawing', name: 'buoy.svg' });
    const empty = await call('POST', '/assets?kind=drawing&name=a.svg', svg(''));
    expect(empty.status).toBe(422);
    expect(empty.json.detail).toMatch(/nothing in the file/);
    const nested = svg('<g>'.repeat(200));
    expect((await call('POST', '/assets?kind=drawing&name=a.svg', nested)).status).toBe(422);
  });

  it('takes pictures that finishes are fed from, carries them in project files, and says what is wrong with others', async () => {
    const data = Uint8Array.from({ length: 8 * 4 * 4 }, (_, i) => (i * 7) % 256);
    const png = encodePng({ width: 8, height: 4, channels: 4, depth: 8, data });
    const taken = await call('POST', '/assets?kind=picture&name=hull.png', png);
    expect(taken.status).toBe(201);
    expect(taken.json).toMatchObject({ kind: 'picture', name: 'hull.png', size: png.length });
    expect((await call('POST', '/assets?kind=picture&name=light.exr', encodeExr(environment()))).status).toBe(
      201,
    );
    const wrong: [Uint8Array, RegExp][] = [
      [new TextEncoder().encode('no picture'), /no PNG, JPEG, WebP or OpenEXR/],
      [png.slice(0, png.length / 2), /damaged or cut short/],
    ];
    const wide = png.slice();
    new DataView(wide.buffer, wide.byteOffset).setUint32(16, 60_000);
    wrong.push([wide, /largest side read is 8192/]);
    for (const [bytes, said] of wrong) {
      const { status, json } = await call('POST', '/assets?kind=picture&name=x.png', bytes);
      expect(status).toBe(422);
      expect(json.detail).toMatch(said);
    }
    const document = project('Pictured');
    document.finishes[0].feeds = [
      {
        ...newFeed('feed', 'base_color', [1, 1, 1]),
        source: 'picture',
        picture: { source: 'asset', id: taken.json.hash, name: 'hull.png' },
      },
    ];
    const { id } = (await call('POST', '/projects', { document })).json;
    const file = new Uint8Array(await (await fetch(`${base}/projects/${id}/file`)).arrayBuffer());
    const { assets } = await unpackProject(file, async (b) => sha256(b));
    expect(assets.map((a) => [a.hash, a.name])).toEqual([[taken.json.hash, 'hull.png']]);
    expect((await call('POST', '/projects/file', file)).status).toBe(201);
    const listed = await (await fetch(`${base}/assets?kind=picture`)).json();
    expect(listed.map((a: { name: string }) => a.name)).toEqual(['hull.png', 'light.exr']);
  });

  it('takes .hdr and .exr environments, says what they are like, and finds them by words', async () => {
    for (const bytes of [encodeHdr(environment([2, 3, 4])), encodeExr(environment([2, 3, 4]))]) {
      const { status, json } = await call('POST', '/assets?kind=surround&name=env', bytes);
      expect(status).toBe(201);
      expect(json.facts.mean).toBeGreaterThan(0);
      expect(json.facts.peak).toBeGreaterThanOrEqual(json.facts.mean);
      const { width, height, rgb } = json.facts.small;
      expect(Buffer.from(rgb, 'base64')).toHaveLength(width * height * 3);
      const tagged = await call('PUT', `/assets/${json.hash}/tags`, { tags: ['harbour', 'dusk'] });
      expect(tagged.json.tags).toEqual(['harbour', 'dusk']);
      const listed = await (await fetch(`${base}/assets?kind=surround`)).json();
      expect(listed.find((a: { hash: string }) => a.hash === json.hash)).toMatchObject({
        tags: ['harbour', 'dusk'],
        facts: json.facts,
      });
      expect((await call('PUT', `/assets/${json.hash}/tags`, { tags: ['x'.repeat(41)] })).status).toBe(422);
    }
    expect((await call('PUT', `/assets/${'0'.repeat(64)}/tags`, { tags: [] })).status).toBe(404);
  });

  it('takes models and moving pictures, says what they are like, and carries them in project files', async () => {
    const taken = await call('POST', '/assets?kind=model&name=bollard.glb', await bollard());
    expect(taken.status).toBe(201);
    expect(taken.json.facts).toMatchObject({ triangles: 288, parts: ['post', 'band'], leftOut: [] });
    expect(taken.json.facts.sides[1]).toBeCloseTo(0.78, 5);
    const wrong = await call('POST', '/assets?kind=model&name=x.glb', new Uint8Array(40));
    expect(wrong.status).toBe(422);
    expect(wrong.json.title).toBe('Not a usable model');

    const png = (v: number) =>
      encodePng({ width: 2, height: 2, channels: 3, data: new Uint8Array(12).fill(v) });
    const zip = zipSync({ 'a1.png': png(1), 'a2.png': png(2), 'a10.png': png(10) });
    const film = await call('POST', '/assets?kind=footage&name=lamps.zip', zip);
    expect(film.json.facts).toMatchObject({ frames: 3, rate: 25 });
    const frame = async (n: string) => fetch(`${base}/assets/${film.json.hash}/pictures/${n}`);
    expect(new Uint8Array(await (await frame('2')).arrayBuffer())).toEqual(new Uint8Array(png(10)));
    // behind the last there is the last
    expect(new Uint8Array(await (await frame('9')).arrayBuffer())).toEqual(new Uint8Array(png(10)));
    for (const n of ['-1', 'x', '1e3']) expect((await frame(n)).status).toBe(404);
    expect((await fetch(`${base}/assets/${taken.json.hash}/pictures/0`)).status).toBe(404);
    const refused = await call('POST', '/assets?kind=footage&name=x.webm', new Uint8Array(40));
    expect(refused.status).toBe(422);
    expect(refused.json.title).toBe('Not a usable moving picture');

    const document = project('Staged');
    const model = { id: taken.json.hash, name: 'bollard.glb' };
    const picture = {
      source: 'asset' as const,
      id: film.json.hash,
      name: 'lamps.zip',
      plays: newPlayback(3, 25),
    };
    document.pieces.push(newPiece('model', { model }), newPiece('plate', { picture }));
    const { id } = (await call('POST', '/projects', { document })).json;
    const file = new Uint8Array(await (await fetch(`${base}/projects/${id}/file`)).arrayBuffer());
    const { assets } = await unpackProject(file, async (b) => sha256(b));
    expect(assets.map((a) => a.name).sort()).toEqual(['bollard.glb', 'lamps.zip']);
    expect((await call('POST', '/projects/file', file)).status).toBe(201);
  });

  it('takes photometric files, carries them in project files, and says what is wrong with others', async () => {
    const ies = (angles: string) =>
      new TextEncoder().encode(
        `IESNA:LM-63-2002\n[TEST] made up\nTILT=NONE\n1 900 1 3 1 1 2 0 0 0\n1 1 12\n${angles}\n0\n300 150 0\n`,
      );
    const taken = await call('POST', '/assets?kind=profile&name=deck-lamp.ies', ies('0 45 90'));
    expect(taken.status).toBe(201);
    const wrong = await call('POST', '/assets?kind=profile&name=x.ies', ies('0 90 45'));
    expect(wrong.status).toBe(422);
    expect(wrong.json.title).toBe('Not a usable photometric file');
    expect(wrong.json.detail).toMatch(/line 6: vertical angles rise/);
    const document = project('Profiled');
    document.looks[0].rig.push(
      newLight('spot', 'Deck lamp', {
        profile: { source: 'asset', id: taken.json.hash, name: 'deck-lamp.ies', candela: 300, lumens: 2 },
      }),
    );
    const { id } = (await call('POST', '/projects', { document })).json;
    const file = new Uint8Array(await (await fetch(`${base}/projects/${id}/file`)).arrayBuffer());
    const { assets } = await unpackProject(file, async (b) => sha256(b));
    expect(assets.map((a) => a.name)).toEqual(['deck-lamp.ies']);
    expect((await call('POST', '/projects/file', file)).status).toBe(201);
  });

  it('keeps rigs for other projects, whole and in the newest version, with their files', async () => {
    const lights = [newLight('area', 'Key'), newLight('array', 'Ring', { form: 'ring' })];
    const kept = await call('POST', '/rigs', { version: VERSION, rig: { name: 'Quay', size: 0.8, lights } });
    expect(kept.status).toBe(201);
    expect(kept.json).toMatchObject({ version: VERSION, rig: { name: 'Quay', size: 0.8 } });
    expect(kept.json.rig.lights).toHaveLength(2);
    const none = await call('POST', '/rigs', {
      version: VERSION,
      rig: { name: 'Quay', size: 0.8, lights: [] },
    });
    expect(none.status).toBe(422);
    const newer = await call('POST', '/rigs', { version: VERSION + 1, rig: { name: 'Q', size: 1, lights } });
    expect(newer.json.detail ?? newer.json.problems?.join()).toMatch(/newer Wemlox/);
    const names = async () =>
      (await (await fetch(`${base}/rigs`)).json()).map((r: { rig: { name: string } }) => r.rig.name);
    expect(await names()).toEqual(['Quay']);
    expect((await call('DELETE', `/rigs/${kept.json.id}`)).status).toBe(204);
    expect(await names()).toEqual([]);
    expect((await call('POST', `/rigs/${kept.json.id}/restore`)).status).toBe(204);
    expect(await names()).toEqual(['Quay']);
    expect((await call('DELETE', '/rigs/nowhere')).status).toBe(404);
  });

  it('refuses environments with pixels that are not numbers, of the wrong shape or cut short, saying where', async () => {
    const nan = await call('POST', '/assets?kind=surround', encodeExr(environment([NaN, 1, 1])));
    expect(nan.status).toBe(422);
    expect(nan.json.detail).toBe('pixel 5, 0 is not a number');
    const square = { width: 16, height: 16, data: new Float32Array(16 * 16 * 4) };
    expect((await call('POST', '/assets?kind=surround', encodeExr(square))).json.detail).toMatch(
      /twice as wide/,
    );
    const whole = encodeExr(environment());
    expect((await call('POST', '/assets?kind=surround', whole.slice(0, whole.length / 2))).status).toBe(422);
    expect(
      (await call('POST', '/assets?kind=surround', new Uint8Array([0x25, 0x50, 0x44, 0x46]))).json.detail,
    ).toMatch(/no Radiance \.hdr, OpenEXR, PNG, JPEG or WebP/);
    const png = (height: number) =>
      encodePng({
        width: 16,
        height,
        channels: 3,
        depth: 8,
        data: new Uint8Array(16 * height * 3).fill(200),
      });
    expect((await call('POST', '/assets?kind=surround&name=plain.png', png(8))).status).toBe(201);
    expect((await call('POST', '/assets?kind=surround', png(16))).json.detail).toMatch(/twice as wide/);
  });
});

describe('proofs', () => {
  it('keeps a PNG with the state that made it', async () => {
    const document = project('Proofed');
    const { id } = (await call('POST', '/projects', { document })).json;
    const png = new Uint8Array([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a, 1]);
    const picture = (await call('POST', '/assets?kind=proof&name=p', png)).json.hash;
    const proof = {
      name: 'First',
      look: document.looks[0].id,
      shot: document.shots[0].id,
      picture,
      width: 4,
      height: 2,
      samples: 8,
      seed: 1,
      renderer: 'r',
      document,
    };
    const kept = await call('POST', `/projects/${id}/proofs`, proof);
    expect(kept.status).toBe(201);
    expect((await call('GET', `/projects/${id}/proofs`)).json).toHaveLength(1);
    expect((await call('GET', `/projects/${id}/proofs/${kept.json.id}/document`)).json).toEqual(document);
    expect((await call('POST', `/projects/${id}/proofs`, { ...proof, samples: 0 })).json.problems[0]).toMatch(
      /samples/,
    );
    for (const gone of [{ picture: 'b'.repeat(64) }, { film: 'b'.repeat(64) }])
      expect((await call('POST', `/projects/${id}/proofs`, { ...proof, ...gone })).status).toBe(404);
  });

  it('keeps the linear film beside the picture, and takes nothing else for one', async () => {
    const document = project('Linear');
    const { id } = (await call('POST', '/projects', { document })).json;
    const picture = (
      await call('POST', '/assets?kind=proof&name=p', new Uint8Array([137, 80, 78, 71, 13, 10, 26, 10, 2]))
    ).json.hash;
    const exr = encodeExr({ width: 3, height: 2, data: new Float32Array(24).fill(0.25) }, 'half');
    const film = (await call('POST', '/assets?kind=film&name=p', exr)).json.hash;
    expect((await call('POST', '/assets?kind=film&name=p', exr.slice(0, 200))).status).toBe(422);
    const facts = {
      name: 'A',
      look: document.looks[0].id,
      shot: document.shots[0].id,
      picture,
      renderer: 'r',
    };
    const size = { width: 3, height: 2, samples: 8, seed: 1 };
    const kept = await call('POST', `/projects/${id}/proofs`, { ...facts, ...size, film, document });
    expect(kept.json).toMatchObject({ film, actor: 'local' });
    // what a proof keeps is not swept away with what nobody uses
    expect(
      (await call('GET', '/assets/unused')).json.assets.map((a: { hash: string }) => a.hash),
    ).not.toContain(film);
  });
});

describe('the library of finishes', () => {
  it('takes a finish, and refuses one that is not, naming the field', async () => {
    const [finish] = READY_FINISHES;
    const kept = await call('POST', '/finishes', { version: VERSION, finish });
    expect(kept.status).toBe(201);
    expect((await call('GET', '/finishes')).json).toEqual([kept.json]);
    const wrong = await call('POST', '/finishes', {
      version: VERSION,
      finish: { ...finish, surface: { ...finish.surface, coat_ior: 'thick' } },
    });
    expect(wrong.status).toBe(422);
    expect(JSON.stringify(wrong.json)).toContain('finish.surface.coat_ior');
    expect((await call('DELETE', `/finishes/${kept.json.finish.id}`)).status).toBe(204);
    expect((await call('GET', '/finishes')).json).toEqual([]);
    expect((await call('DELETE', '/finishes/nothing')).status).toBe(404);
  });
});
