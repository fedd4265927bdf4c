/** Starts the server: migrations, demo data once, then serving on loopback. */
import 'reflect-metadata';
import { createServer } from 'node:http';
import { fileURLToPath } from 'node:url';
import pino from 'pino';
import { loadDemo } from '@wemlox/demo/loadDemo';
import { migrate, openPool, studioAt, sweepAssets } from '@wemlox/store';
import { createApp } from './app.ts';
import { Readers } from './foreign/readers.ts';
import { readSettings, SettingsError, type Settings } from './settings.ts';
import { watchDatabase } from './watchDatabase.ts';

const url = process.env.DATABASE_URL;
const page = fileURLToPath(new URL('../../web/dist', import.meta.url));
const log = pino({ level: process.env.LOG_LEVEL ?? 'warn' }, pino.destination(2));

const say = (message: string) => process.stderr.write(`wemlox: ${message}\n`);

/** One clear line, then the end. */
function giveUp(message: string): never {
  say(message);
  process.exit(1);
}

function settingsOrEnd(): Settings {
  try {
    return readSettings(process.env);
  } catch (error) {
    if (error instanceof SettingsError) return giveUp(error.message);
    throw error;
  }
}

const settings = settingsOrEnd();
const { host, port, token } = settings;

if (!url) giveUp('DATABASE_URL is not set; ./wemlox start sets it');
const pool = openPool(url, (error) => log.info(`database connection lost: ${error.message}`));
try {
  await migrate(url);
} catch (error) {
  giveUp(
    `the database cannot be used: ${error instanceof Error ? error.message || error.constructor.name : String(error)}`,
  );
}
if (process.env.WEMLOX_DEMO !== 'off') await loadDemo(studioAt(pool));

const readers = new Readers();
readers.warm();
const DAY = 86_400_000;
const sweep = () =>
  sweepAssets(studioAt(pool)).catch((error: unknown) => log.error(error, 'sweep of unused files'));
void sweep();
setInterval(() => void sweep(), DAY).unref();
watchDatabase(pool, say);

const server = createServer(createApp({ pool, log, page, readers, settings }));
server.on('error', (error: NodeJS.ErrnoException) => {
  giveUp(error.code === 'EADDRINUSE' ? `port ${port} is taken; set PORT to another one` : error.message);
});
server.listen(port, host, () => {
  process.stdout.write(
    `Wemlox is at http://${host}:${port}${token ? '/?token=…, with the token of WEMLOX_TOKEN' : ''}\n`,
  );
});

for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const) {
  process.on(signal, () => {
    readers.close();
    server.closeAllConnections();
    server.close(() => void pool.end().then(() => process.exit(0)));
  });
}
