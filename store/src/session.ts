/** Who works on which database: what every query of the store is given first. */
import { LOCAL_ARTIST, STUDIO, type Actor } from '@wemlox/wire';
import type { Pool } from './database.ts';

export interface Session {
  pool: Pool;
  actor: Actor;
}

/** The artist at this machine. */
export const artistAt = (pool: Pool): Session => ({ pool, actor: LOCAL_ARTIST });

/** The studio's own work: rendering, sweeping, loading the demo. */
export const studioAt = (pool: Pool): Session => ({ pool, actor: STUDIO });
