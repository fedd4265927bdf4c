/** Starts the server: migrations, demo data once, then serving on loopback. */
import 'reflect-metadata';
import { createServer } from 'node:http';
import { fileURLToPath } from 'node:url';
import pino from 'pino';
import { loadDemo } from '@wemlox/demo/src/loadDemo.ts';
import { migrate, openPool } from '@wemlox/store/src/index.ts';
import { createApp } from './app.ts';

const url = process.env.DATABASE_URL;
const port = Number(process.env.PORT ?? 4600);
const host = process.env.HOST ?? '127.0.0.1';
const page = fileURLToPath(new URL('../../web/dist', import.meta.url));
const log = pino({ level: process.env.LOG_LEVEL ?? 'warn' }, pino.destination(2));

/** One clear line, then the end. */
function giveUp(message: string): never {
  process.stderr.write(`wemlox: ${message}\n`);
  process.exit(1);
}

if (!url) giveUp('DATABASE_URL is not set; ./wemlox start sets it');
const pool = openPool(url, (error) => log.error(error, 'database connection lost'));
try {
  await migrate(url);
} catch (error) {
  giveUp(
    `the database cannot be used: ${error instanceof Error ? error.message || error.constructor.name : String(error)}`,
  );
}
if (process.env.WEMLOX_DEMO !== 'off') await loadDemo(pool);

const server = createServer(createApp(pool, log, page));
server.on('error', (error: NodeJS.ErrnoException) => {
  giveUp(error.code === 'EADDRINUSE' ? `port ${port} is taken; set PORT to another one` : error.message);
});
server.listen(port, host, () => {
  process.stdout.write(`Wemlox is at http://${host}:${port}\n`);
});

for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const) {
  process.on(signal, () => {
    server.closeAllConnections();
    server.close(() => void pool.end().then(() => process.exit(0)));
  });
}
