/** The library of rigs: lights kept for every project to start from. */
import type { StoredRig } from '@wemlox/wire';
import { filesOf, newId, type Rig } from '@wemlox/core/document';
import { MissingError } from './database.ts';
import type { Session } from './session.ts';

/** A row as it is kept: its rig is plain JSON until it has passed the door. */
const rigOf = ({ id, rig, version }: Record<string, unknown>): StoredRig => ({
  id: String(id),
  version: Number(version),
  rig,
});

/** Keeps a rig. @param version of the document it is written in */
export async function keepRig({ pool, actor }: Session, rig: Rig, version: number): Promise<StoredRig> {
  const files = [...new Set(rig.lights.flatMap(filesOf))];
  const { rows } = await pool.query(
    `INSERT INTO rigs (id, rig, version, files, actor)
     VALUES ($1, $2, $3, $4, $5) RETURNING id, rig, version`,
    [newId(), JSON.stringify(rig), version, files, actor.id],
  );
  return rigOf(rows[0]);
}

/** By name. */
export async function listRigs({ pool }: Session): Promise<StoredRig[]> {
  const { rows } = await pool.query(
    "SELECT id, rig, version FROM rigs WHERE deleted_at IS NULL ORDER BY lower(rig->>'name'), id",
  );
  return rows.map(rigOf);
}

/** Deletes or brings back. @throws MissingError */
export async function setRigDeleted({ pool }: Session, id: string, deleted: boolean): Promise<void> {
  const { rowCount } = await pool.query(
    'UPDATE rigs SET deleted_at = CASE WHEN $2 THEN now() ELSE NULL END WHERE id = $1',
    [id, deleted],
  );
  if (rowCount === 0) throw new MissingError(`no rig ${id} in the library`);
}
