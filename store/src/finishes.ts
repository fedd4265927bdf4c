/** The library: finishes kept for every project to start from. */
import type { StoredFinish } from '@wemlox/wire';
import { newId, picturesOf, type Finish } from '@wemlox/core/document';
import { MissingError } from './database.ts';
import type { Session } from './session.ts';

/** A row as it is kept: its finish is plain JSON until it has passed the door. */
const finishOf = ({ id, finish, version }: Record<string, unknown>): StoredFinish => ({
  version: Number(version),
  // what lies within it belongs to a project
  finish: { ...(finish as object), id, within: null },
});

/**
 * Keeps a copy of a finish under an identifier of its own.
 * @param version of the document it is written in
 */
export async function keepFinish(
  { pool, actor }: Session,
  finish: Omit<Finish, 'id'>,
  version: number,
): Promise<StoredFinish> {
  const { rows } = await pool.query(
    `INSERT INTO finishes (id, finish, pictures, version, actor)
     VALUES ($1, $2, $3, $4, $5) RETURNING id, finish, version`,
    [newId(), JSON.stringify(finish), picturesOf(finish), version, actor.id],
  );
  return finishOf(rows[0]);
}

/** By name. */
export async function listFinishes({ pool }: Session): Promise<StoredFinish[]> {
  const { rows } = await pool.query(
    "SELECT id, finish, version FROM finishes WHERE deleted_at IS NULL ORDER BY lower(finish->>'name'), id",
  );
  return rows.map(finishOf);
}

/** Deletes or brings back. @throws MissingError */
export async function setFinishDeleted({ pool }: Session, id: string, deleted: boolean): Promise<void> {
  const { rowCount } = await pool.query(
    'UPDATE finishes SET deleted_at = CASE WHEN $2 THEN now() ELSE NULL END WHERE id = $1',
    [id, deleted],
  );
  if (rowCount === 0) throw new MissingError(`no finish ${id} in the library`);
}
