/** The HTTP application: API under /api, the page and its fonts beside it. */
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import express, { type Express } from 'express';
import helmet from 'helmet';
import type { Logger } from 'pino';
import { pinoHttp } from 'pino-http';
import type { Pool } from '@wemlox/store';
import { DOCUMENT } from '@wemlox/core/ceilings';
import { withActor } from './actor.ts';
import type { Readers } from './foreign/readers.ts';
import { problems, Refusal } from './problem.ts';
import { assetRoutes } from './routes/assets.ts';
import { finishRoutes } from './routes/finishes.ts';
import { pressRoutes } from './routes/press.ts';
import { projectRoutes } from './routes/projects.ts';
import { proofRoutes } from './routes/proofs.ts';
import { revisionRoutes } from './routes/revisions.ts';
import { rigRoutes } from './routes/rigs.ts';
import type { Settings } from './settings.ts';
import { knownHost, notTooMany, ownPages, withToken } from './strangers.ts';

/**
 * A worker answers to the policy of its own file. The polygon library binds its functions by evaluating text,
 * so the one worker that holds it may, and may then reach nothing but this server.
 */
const SCENE_WORKER = /scene\.worker-[^/]*\.js$/;
const SCENE_WORKER_POLICY =
  "default-src 'self'; script-src 'self' 'unsafe-eval' 'wasm-unsafe-eval'; connect-src 'self'";

export interface AppParts {
  pool: Pool;
  log: Logger;
  /** Folder of the built page. */
  page: string;
  readers: Readers;
  settings: Pick<Settings, 'hosts' | 'token'>;
}

export function createApp({ pool, log, page, readers, settings }: AppParts): Express {
  const app = express();
  app.disable('x-powered-by');
  app.use(pinoHttp({ logger: log, autoLogging: false }));
  app.use(
    helmet({
      contentSecurityPolicy: {
        useDefaults: false,
        directives: {
          defaultSrc: ["'self'"],
          scriptSrc: ["'self'", "'wasm-unsafe-eval'"],
          workerSrc: ["'self'"],
          // React and D3 set element styles through attributes
          styleSrc: ["'self'", "'unsafe-inline'"],
          imgSrc: ["'self'", 'blob:', 'data:'],
          fontSrc: ["'self'", 'data:'],
          connectSrc: ["'self'", 'blob:', 'data:'],
          objectSrc: ["'none'"],
          baseUri: ["'none'"],
          formAction: ["'none'"],
          frameAncestors: ["'none'"],
        },
      },
      crossOriginOpenerPolicy: { policy: 'same-origin' },
      crossOriginEmbedderPolicy: { policy: 'require-corp' },
      crossOriginResourcePolicy: { policy: 'same-origin' },
      strictTransportSecurity: false,
    }),
  );
  app.use(knownHost(settings), ownPages, withToken(settings));
  app.use('/api', notTooMany(), withActor);
  app.get('/api/health', async (_req, res) => {
    await pool.query('SELECT 1');
    res.json({ ok: true });
  });
  const json = express.json({ limit: DOCUMENT.bytes });
  app.use('/api/assets', assetRoutes(pool, readers));
  app.use('/api/finishes', json, finishRoutes(pool));
  app.use('/api/rigs', json, rigRoutes(pool));
  app.use('/api/projects/:id/revisions', revisionRoutes(pool));
  app.use('/api/projects/:id/proofs', json, proofRoutes(pool));
  app.use('/api/projects/:id/press', json, pressRoutes(pool));
  app.use('/api/projects', json, projectRoutes(pool, readers));
  app.use('/api/{*rest}', (req) => {
    throw new Refusal(404, `nothing answers ${req.method} ${req.originalUrl.slice(0, 200)}`);
  });
  app.use(
    '/built',
    express.static(join(page, 'built'), {
      immutable: true,
      maxAge: '1y',
      fallthrough: false,
      setHeaders: (res, path) => {
        if (SCENE_WORKER.test(path)) res.setHeader('Content-Security-Policy', SCENE_WORKER_POLICY);
      },
    }),
  );
  app.use(express.static(page, { index: false, maxAge: 0 }));
  app.get('/{*rest}', (_req, res) => {
    if (!existsSync(join(page, 'index.html'))) throw new Refusal(503, 'the page is not built');
    res.set('Cache-Control', 'no-cache').sendFile(join(page, 'index.html'));
  });
  app.use(problems);
  return app;
}
