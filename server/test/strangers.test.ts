import { request } from 'node:http';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { readSettings } from '../src/settings.ts';
import { openApp, type TestApp } from './openApp.ts';

let app: TestApp;
let guarded: TestApp;
beforeAll(async () => {
  app = await openApp();
  guarded = await openApp({ HOST: '0.0.0.0', WEMLOX_TOKEN: 'sea-buckthorn' });
});
afterAll(async () => {
  await app.end();
  await guarded.end();
});

/** A request with headers that fetch would not let us set. */
const ask = (port: number, method: string, path: string, headers: Record<string, string>) =>
  new Promise<{ status: number; body: string; cookie: string }>((resolve, reject) => {
    const asked = request({ host: '127.0.0.1', port, method, path, headers, agent: false }, (res) => {
      let body = '';
      res.on('data', (d) => (body += d));
      res.on('end', () =>
        resolve({ status: res.statusCode!, body, cookie: String(res.headers['set-cookie'] ?? '') }),
      );
    });
    asked.on('error', reject);
    asked.end(method === 'GET' ? undefined : '{}');
  });

/** Every route that changes something. */
const CHANGES = [
  ['POST', '/api/projects'],
  ['POST', '/api/projects/file'],
  ['PUT', '/api/projects/x'],
  ['DELETE', '/api/projects/x'],
  ['POST', '/api/projects/x/restore'],
  ['POST', '/api/projects/x/revisions/1/restore'],
  ['POST', '/api/projects/x/proofs'],
  ['DELETE', '/api/projects/x/proofs/y'],
  ['POST', '/api/projects/x/proofs/y/restore'],
  ['POST', '/api/projects/x/press'],
  ['POST', '/api/projects/x/press/y/cancel'],
  ['POST', '/api/assets?kind=font'],
  ['DELETE', '/api/assets/x'],
  ['POST', '/api/finishes'],
  ['DELETE', '/api/finishes/x'],
  ['POST', '/api/finishes/x/restore'],
];
const READS = [
  '/api/projects',
  '/api/health',
  '/api/finishes',
  '/api/assets?kind=font',
  '/api/assets/unused',
  '/',
  '/p/x',
];

describe('strangers', () => {
  it('a host name that was rebound to this address gets nothing, on every route', async () => {
    for (const [method, path] of [...CHANGES, ...READS.map((r) => ['GET', r])]) {
      const { status } = await ask(app.port, method, path, { Host: `ferry.example:${app.port}` });
      expect([path, status]).toEqual([path, 421]);
    }
    for (const host of ['localhost', '127.0.0.1', '[::1]'])
      expect((await ask(app.port, 'GET', '/api/health', { Host: `${host}:${app.port}` })).status).toBe(200);
  });

  it('pages of others change nothing, on every route and however the browser says so', async () => {
    const Host = `127.0.0.1:${app.port}`;
    const foreign: Record<string, string>[] = [
      { Host, Origin: 'http://ferry.example' },
      { Host, Origin: `http://127.0.0.1:${app.port + 1}` },
      { Host, Origin: 'null' },
      { Host, 'Sec-Fetch-Site': 'cross-site' },
      { Host, 'Sec-Fetch-Site': 'same-site' },
    ];
    for (const [method, path] of CHANGES)
      for (const headers of foreign) {
        const { status } = await ask(app.port, method, path, { ...headers, 'Content-Type': 'text/plain' });
        expect([path, headers, status]).toEqual([path, headers, 403]);
      }
  });

  it('its own pages do', async () => {
    const Host = `127.0.0.1:${app.port}`;
    const own = { Host, Origin: `http://${Host}`, 'Sec-Fetch-Site': 'same-origin' };
    for (const [method, path] of CHANGES)
      expect((await ask(app.port, method, path, own)).status).not.toBe(403);
  });

  it('a studio that others can reach wants its token, once as a link', async () => {
    const Host = `127.0.0.1:${guarded.port}`;
    for (const [method, path] of [...CHANGES, ...READS.map((r) => ['GET', r])]) {
      expect((await ask(guarded.port, method, path, { Host })).status).toBe(401);
      expect((await ask(guarded.port, method, path, { Host, Cookie: 'wemlox=wrong' })).status).toBe(401);
    }
    expect((await ask(guarded.port, 'GET', '/?token=wrong', { Host })).status).toBe(401);
    const { status, cookie } = await ask(guarded.port, 'GET', '/?token=sea-buckthorn', { Host });
    expect(status).toBe(200);
    expect(cookie).toMatch(/HttpOnly/);
    expect(cookie).toMatch(/SameSite=Strict/);
    const Cookie = cookie.split(';')[0];
    expect((await ask(guarded.port, 'GET', '/api/projects', { Host, Cookie })).status).toBe(200);
    const bearer = { Host, Authorization: 'Bearer sea-buckthorn' };
    expect((await ask(guarded.port, 'GET', '/api/projects', bearer)).status).toBe(200);
  });

  it('no answer holds a path of this machine', async () => {
    for (const path of [
      '/built/../../package.json',
      '/built/none.js',
      '/mark%00.svg',
      '/%E0%A4%A',
      '/api/projects/%00',
      '/fonts/none.woff2',
    ]) {
      const { body, status } = await ask(app.port, 'GET', path, { Host: `127.0.0.1:${app.port}` });
      expect(status).toBeLessThan(504);
      expect(body).not.toMatch(/\/(work|home|root|tmp|usr|nowhere)\b/);
      expect([path, status === 500]).toEqual([path, false]);
    }
  });
});

describe('settings', () => {
  it.each([
    [{ PORT: 'abc' }, /PORT is "abc"/],
    [{ PORT: '0' }, /1 to 65535/],
    [{ PORT: '99999' }, /1 to 65535/],
    [{ HOST: '0.0.0.0' }, /WEMLOX_TOKEN/],
    [{ HOST: '192.168.1.5' }, /WEMLOX_TOKEN/],
    [{ HOST: '::' }, /WEMLOX_TOKEN/],
  ])('%j is refused in one line', (env, why) => {
    expect(() => readSettings(env)).toThrow(why);
  });

  it('loopback needs no token', () => {
    for (const HOST of ['127.0.0.1', 'localhost', '::1', '127.0.0.2'])
      expect(readSettings({ HOST }).token).toBeNull();
  });
});
