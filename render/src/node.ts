/** A render node: takes pictures from the press queue, one at a time, with all its threads. */
import 'reflect-metadata';
import { run, type Runner } from 'graphile-worker';
import pino from 'pino';
import { openPool, PRESS_TASK, sayAlive, sayGoodbye } from '@wemlox/store/src/index.ts';
import { pressJob } from './press.ts';

const log = pino({ level: process.env.LOG_LEVEL ?? 'warn' }, pino.destination(2));
const url = process.env.DATABASE_URL;
if (!url) {
  process.stderr.write('wemlox: DATABASE_URL is not set; ./wemlox start sets it\n');
  process.exit(1);
}
const HEARTBEAT = 4000;
const pool = openPool(url, (error) => log.error(error, 'database connection lost'));
const workers: string[] = [];
let ending = false;

const runner: Runner = await run({
  pgPool: pool,
  concurrency: 1,
  noHandleSignals: true,
  noPreparedStatements: false,
  taskList: {
    [PRESS_TASK]: (payload) => pressJob(pool, (payload as { id: string }).id, () => ending),
  },
});
runner.events.on('worker:getJob:start', ({ worker }) => {
  if (!workers.includes(worker.workerId)) workers.push(worker.workerId);
});

/** Says that this node lives, and frees the work of those that do not. */
async function beat(): Promise<void> {
  const silent = await sayAlive(pool, workers);
  if (silent.length > 0)
    await pool.query('SELECT graphile_worker.force_unlock_workers($1::text[])', [silent]);
}
const timer = setInterval(() => void beat().catch((error) => log.error(error, 'heartbeat')), HEARTBEAT);
await beat();

for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const) {
  process.on(signal, () => {
    if (ending) return;
    ending = true;
    clearInterval(timer);
    void runner
      .stop()
      .then(() => sayGoodbye(pool, workers))
      .then(() => pool.end())
      .finally(() => process.exit(0));
  });
}
