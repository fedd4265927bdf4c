/** The server over a fresh database, and how tests call it. */
import type { AddressInfo } from 'node:net';
import pino from 'pino';
import { newProject } from '@wemlox/core/document';
import { READY_FINISHES } from '@wemlox/core/finish/readyFinishes';
import { freshDatabase } from '../../store/test/freshDatabase.ts';
import { createApp } from '../src/app.ts';
import { Readers } from '../src/foreign/readers.ts';
import { readSettings } from '../src/settings.ts';

export const project = (name = 'Hull') =>
  newProject(name, 'WORD', structuredClone(READY_FINISHES.slice(0, 2)));

/** @param env settings, as the environment gives them */
export async function openApp(env: Record<string, string> = {}) {
  const db = await freshDatabase();
  const readers = new Readers();
  const app = createApp({
    pool: db.pool,
    log: pino({ level: 'silent' }),
    page: '/nowhere',
    readers,
    settings: readSettings(env),
  });
  const server = app.listen(0, '127.0.0.1');
  await new Promise((resolve) => server.once('listening', resolve));
  const { port } = server.address() as AddressInfo;
  const base = `http://127.0.0.1:${port}/api`;
  return {
    db,
    port,
    base,
    /** Sends JSON, bytes, or a text as it stands. */
    call: async (method: string, path: string, body?: unknown) => {
      const bytes = body instanceof Uint8Array;
      const response = await fetch(base + path, {
        method,
        body:
          body === undefined
            ? undefined
            : bytes
              ? (body as Uint8Array<ArrayBuffer>)
              : typeof body === 'string'
                ? body
                : JSON.stringify(body),
        headers:
          body === undefined
            ? {}
            : { 'Content-Type': bytes ? 'application/octet-stream' : 'application/json' },
      });
      const text = await response.text();
      return {
        status: response.status,
        type: response.headers.get('content-type') ?? '',
        headers: response.headers,
        json: text ? JSON.parse(text) : null,
      };
    },
    end: async () => {
      readers.close();
      server.closeAllConnections();
      await new Promise((resolve) => server.close(resolve));
      await db.end();
    },
  };
}

export type TestApp = Awaited<ReturnType<typeof openApp>>;
