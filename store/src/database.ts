/** The connection pool, the migrations, and what "nothing there" and "someone was faster" look like. */
import { fileURLToPath } from 'node:url';
import { runMigrations } from 'graphile-worker';
import { runner } from 'node-pg-migrate';
import pg from 'pg';

export type Pool = pg.Pool;
export type Client = pg.PoolClient;

/** The row asked for does not exist, or has been deleted. */
export class MissingError extends Error {}

/** More than the studio keeps; the message says of what. */
export class QuotaError extends Error {}

/** Opens a pool. Errors of idle connections go to `onError`: they must not end the process. */
export function openPool(url: string, onError: (error: Error) => void): Pool {
  const pool = new pg.Pool({ connectionString: url, max: 10, connectionTimeoutMillis: 10_000 });
  pool.on('error', onError);
  pool.on('connect', (client) => {
    client.on('error', onError);
  });
  return pool;
}

/** Brings the database, and the queue in it, to the newest schema. */
export async function migrate(url: string): Promise<void> {
  await runner({
    databaseUrl: url,
    dir: fileURLToPath(new URL('../../store/migrations', import.meta.url)),
    migrationsTable: 'migrations',
    direction: 'up',
    log: () => {},
  });
  await runMigrations({ connectionString: url });
}

/** Runs `work` in one transaction. */
export async function inTransaction<T>(pool: Pool, work: (client: Client) => Promise<T>): Promise<T> {
  const client = await pool.connect();
  try {
    await client.query('BEGIN');
    const result = await work(client);
    await client.query('COMMIT');
    return result;
  } catch (error) {
    await client.query('ROLLBACK').catch(() => {});
    throw error;
  } finally {
    client.release();
  }
}

/** SQLSTATE classes and system errors of a database that is away for now: it may be back the next moment. */
const AWAY =
  /^(08...|57P0[1-5]|53[123]00|ECONNREFUSED|ECONNRESET|EPIPE|ETIMEDOUT|ENOTFOUND|EAI_AGAIN|ENETUNREACH|EHOSTUNREACH)$/;

/** Whether an error means that the database is away, ending or starting, not that the request is wrong. */
export function isAway(error: unknown): boolean {
  if (!(error instanceof Error)) return false;
  const { code } = error as { code?: string };
  if (error instanceof AggregateError) return error.errors.some(isAway);
  return (
    (typeof code === 'string' && AWAY.test(code)) ||
    /^(Connection terminated|Client has encountered a connection error|timeout exceeded when trying to connect)/.test(
      error.message,
    )
  );
}

/** Whether an error is the database's refusal of a value (SQLSTATE class 22: bad text, number or time). */
export const isUnstorable = (error: unknown): boolean =>
  error instanceof pg.DatabaseError && error.code !== undefined && error.code.startsWith('22');
