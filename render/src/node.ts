/** A render node: takes pictures from the press queue, one at a time, with all its threads. */
import 'reflect-metadata';
import { EventEmitter } from 'node:events';
import { Logger, run, type Runner, type WorkerEvents } from 'graphile-worker';
import pino from 'pino';
import { BIND_TASK, openPool, PRESS_TASK, sayAlive, sayGoodbye, studioAt, type Vigil } from '@wemlox/store';
import { bindJob, pressJob } from './press.ts';

const log = pino({ level: process.env.LOG_LEVEL ?? 'warn' }, pino.destination(2));
const url = process.env.DATABASE_URL;
if (!url) {
  process.stderr.write('wemlox: DATABASE_URL is not set; ./wemlox start sets it\n');
  process.exit(1);
}
const HEARTBEAT = 3000;
const pool = openPool(url, (error) => log.info(`database connection lost: ${error.message}`));
const workers: string[] = [];
const vigil: Vigil = new Map();
let ending = false;
/** Stops what is not worth keeping when the node ends. */
const leaving = new AbortController();

/** Says that this node lives, and frees the work of those that do not. */
const beat = () =>
  sayAlive(studioAt(pool), workers, vigil, performance.now() / 1000).catch((error: Error) =>
    log.warn(`no heartbeat: ${error.message}`),
  );

const events: WorkerEvents = new EventEmitter();
events.on('worker:create', ({ worker }) => {
  workers.push(worker.workerId);
  void beat();
});
const runner: Runner = await run({
  pgPool: pool,
  events,
  concurrency: 1,
  noHandleSignals: true,
  parsedCronItems: [],
  logger: new Logger(() => (level, message) => log[level === 'warning' ? 'warn' : level](message)),
  taskList: {
    [BIND_TASK]: (payload, { job }) =>
      bindJob(studioAt(pool), (payload as { id: string }).id, {
        signal: leaving.signal,
        last: job.attempts >= job.max_attempts,
      }),
    [PRESS_TASK]: (payload, { job }) =>
      pressJob(studioAt(pool), (payload as { id: string }).id, () => ending, {
        frame: (payload as { frame?: number }).frame,
        last: job.attempts >= job.max_attempts,
      }),
  },
});
const timer = setInterval(() => void beat(), HEARTBEAT);

for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const) {
  process.on(signal, () => {
    if (ending) return;
    ending = true;
    leaving.abort();
    clearInterval(timer);
    void runner
      .stop()
      .then(() => sayGoodbye(studioAt(pool), workers))
      .then(() => pool.end())
      .finally(() => process.exit(0));
  });
}
