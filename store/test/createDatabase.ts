import { randomBytes } from 'node:crypto';
import pg from 'pg';

const base = () => {
  const url = process.env.DATABASE_URL;
  if (!url) throw new Error('DATABASE_URL is not set: run ./wemlox test');
  return new URL(url);
};

async function admin(sql: string): Promise<void> {
  const client = new pg.Client({ connectionString: base().href });
  await client.connect();
  try {
    await client.query(sql);
  } finally {
    await client.end();
  }
}

/** Sessions that end a moment after they are told to are waited for so often, and so long, milliseconds. */
const TRIES = 20;
const PAUSE = 250;

/**
 * Removes a database with whatever sessions of ours are left in it. WITH (FORCE) would end those of autovacuum as well,
 * which only a superuser may; without it PostgreSQL sees to autovacuum itself.
 */
async function drop(name: string): Promise<void> {
  for (let left = TRIES; ; left--) {
    await admin(
      `SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE datname = '${name}' AND usename = current_user`,
    );
    try {
      return await admin(`DROP DATABASE ${name}`);
    } catch (error) {
      // 55006: somebody is still in it
      if (left === 1 || (error as { code?: string }).code !== '55006') throw error;
      await new Promise((done) => setTimeout(done, PAUSE));
    }
  }
}

/** Makes an empty database beside the one of DATABASE_URL; `drop` removes it. */
export async function createDatabase(): Promise<{ url: string; drop: () => Promise<void> }> {
  const name = `test_${randomBytes(6).toString('hex')}`;
  await admin(`CREATE DATABASE ${name}`);
  const url = base();
  url.pathname = `/${name}`;
  return { url: url.href, drop: () => drop(name) };
}
