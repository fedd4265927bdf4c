/** Says when the database goes away and when it is back: the studio does not run on without it in silence. */
import type { Pool } from '@wemlox/store';

/** Milliseconds between looks. */
const LOOK = 2000;

export function watchDatabase(pool: Pool, say: (message: string) => void): void {
  let away = false;
  const look = async () => {
    try {
      await pool.query('SELECT 1');
      if (away) say('the server has the database again');
      away = false;
    } catch (error) {
      if (!away && !pool.ending)
        say(
          `the server has lost the database (${error instanceof Error ? error.message || 'no answer' : 'no answer'}); it is tried again`,
        );
      away = true;
    }
    if (!pool.ending) setTimeout(() => void look(), LOOK).unref();
  };
  void look();
}
