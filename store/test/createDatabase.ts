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
  await client.query(sql);
  await client.end();
}

/** Makes an empty database beside the one of DATABASE_URL; `drop` removes it. */
export async function createDatabase(): Promise<{ url: string; drop: () => Promise<void> }> {
  const name = `test_${randomBytes(6).toString('hex')}`;
  await admin(`CREATE DATABASE ${name}`);
  const url = base();
  url.pathname = `/${name}`;
  return { url: url.href, drop: () => admin(`DROP DATABASE ${name} WITH (FORCE)`) };
}
