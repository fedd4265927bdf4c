import { migrate, openPool, type Pool } from '../src/index.ts';
import { createDatabase } from './createDatabase.ts';

/** A migrated database with an open pool. */
export async function freshDatabase(): Promise<{ pool: Pool; url: string; end: () => Promise<void> }> {
  const { url, drop } = await createDatabase();
  await migrate(url);
  const pool = openPool(url, () => {});
  return {
    pool,
    url,
    end: async () => {
      await pool.end();
      await drop();
    },
  };
}
