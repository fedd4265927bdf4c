/** The library: finishes kept for every project to start from. */
import { newId, type Finish } from '@wemlox/core/src/document/index.ts';
import { MissingError, type Pool } from './database.ts';

/** Keeps a copy of a finish under an identifier of its own. */
export async function keepFinish(pool: Pool, { name, family, surface }: Omit<Finish, 'id'>): Promise<Finish> {
  const { rows } = await pool.query(
    'INSERT INTO finishes (id, name, family, surface) VALUES ($1, $2, $3, $4) RETURNING id, name, family, surface',
    [newId(), name, family, JSON.stringify(surface)],
  );
  return rows[0];
}

/** By name. */
export async function listFinishes(pool: Pool): Promise<Finish[]> {
  const { rows } = await pool.query(
    'SELECT id, name, family, surface FROM finishes WHERE deleted_at IS NULL ORDER BY lower(name), id',
  );
  return rows;
}

/** Deletes or brings back. @throws MissingError */
export async function setFinishDeleted(pool: Pool, id: string, deleted: boolean): Promise<void> {
  const { rowCount } = await pool.query(
    'UPDATE finishes SET deleted_at = CASE WHEN $2 THEN now() ELSE NULL END WHERE id = $1',
    [id, deleted],
  );
  if (rowCount === 0) throw new MissingError(`no finish ${id} in the library`);
}
