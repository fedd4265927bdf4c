import { artistAt, migrate, openPool, type Pool, type Session } from '../src/index.ts';
import { createDatabase } from './createDatabase.ts';

/** A migrated database with an open pool. */
export async function freshDatabase(): Promise<{
  pool: Pool;
  /** The local artist's. */
  session: Session;
  url: string;
  end: () => Promise<void>;
}> {
  const { url, drop } = await createDatabase();
  await migrate(url);
  const pool = openPool(url, () => {});
  return {
    pool,
    session: artistAt(pool),
    url,
    end: async () => {
      await pool.end();
      await drop();
    },
  };
}
