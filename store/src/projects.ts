/** Projects and their append-only revisions. Documents come in checked. */
import { newId, type Project } from '@wemlox/core/src/document/index.ts';
import { inTransaction, MissingError, type Pool } from './database.ts';

export interface ProjectLine {
  id: string;
  name: string;
  version: number;
  updatedAt: string;
  /** First look, to open. */
  look: string;
  /** Picture of the latest proof, an asset's hash. */
  picture: string | null;
  proofs: number;
}

export interface StoredProject {
  id: string;
  version: number;
  document: Project;
}

/** Somebody saved a newer version first; ours was kept as a revision beside it. */
export class ConflictError extends Error {
  readonly current: StoredProject;
  readonly keptAs: string;
  constructor(current: StoredProject, keptAs: string) {
    super(`the project is at version ${current.version}`);
    this.current = current;
    this.keptAs = keptAs;
  }
}

export async function listProjects(pool: Pool): Promise<ProjectLine[]> {
  const { rows } = await pool.query(
    `SELECT p.id, p.name, p.version, p.updated_at, p.document #>> '{looks,0,id}' AS look,
            latest.picture, (SELECT count(*) FROM proofs q WHERE q.project_id = p.id AND q.deleted_at IS NULL) AS proofs
       FROM projects p
       LEFT JOIN LATERAL (
         SELECT picture FROM proofs q
          WHERE q.project_id = p.id AND q.deleted_at IS NULL
          ORDER BY kept_at DESC LIMIT 1) latest ON true
      WHERE p.deleted_at IS NULL
      ORDER BY p.updated_at DESC`,
  );
  return rows.map((r) => ({
    id: r.id,
    name: r.name,
    version: r.version,
    updatedAt: r.updated_at.toISOString(),
    look: r.look,
    picture: r.picture,
    proofs: Number(r.proofs),
  }));
}

export async function createProject(pool: Pool, document: Project, id = newId()): Promise<StoredProject> {
  return inTransaction(pool, async (client) => {
    await client.query('INSERT INTO projects (id, name, version, document) VALUES ($1, $2, 1, $3)', [
      id,
      document.name,
      JSON.stringify(document),
    ]);
    await client.query('INSERT INTO revisions (project_id, version, document) VALUES ($1, 1, $2)', [
      id,
      JSON.stringify(document),
    ]);
    return { id, version: 1, document };
  });
}

/** @throws MissingError */
export async function readProject(pool: Pool, id: string): Promise<StoredProject> {
  const { rows } = await pool.query(
    'SELECT id, version, document FROM projects WHERE id = $1 AND deleted_at IS NULL',
    [id],
  );
  if (rows.length === 0) throw new MissingError(`no project ${id}`);
  return rows[0];
}

/**
 * Saves a new version on top of `base`.
 * @throws ConflictError when the project has moved on; the document is kept as a revision all the same
 * @throws MissingError
 */
export async function saveProject(
  pool: Pool,
  id: string,
  base: number,
  document: Project,
): Promise<StoredProject> {
  const outcome = await inTransaction(pool, async (client) => {
    const { rows } = await client.query(
      'SELECT id, version, document FROM projects WHERE id = $1 AND deleted_at IS NULL FOR UPDATE',
      [id],
    );
    if (rows.length === 0) throw new MissingError(`no project ${id}`);
    const current = rows[0] as StoredProject;
    const text = JSON.stringify(document);
    if (current.version !== base) {
      const kept = await client.query(
        'INSERT INTO revisions (project_id, base, document) VALUES ($1, $2, $3) RETURNING id',
        [id, base, text],
      );
      return { conflict: new ConflictError(current, String(kept.rows[0].id)) };
    }
    const version = base + 1;
    await client.query(
      'UPDATE projects SET name = $2, version = $3, document = $4, updated_at = now() WHERE id = $1',
      [id, document.name, version, text],
    );
    await client.query('INSERT INTO revisions (project_id, version, document) VALUES ($1, $2, $3)', [
      id,
      version,
      text,
    ]);
    return { saved: { id, version, document } };
  });
  if (outcome.conflict) throw outcome.conflict;
  return outcome.saved;
}

/** A version of a project, or one that was kept beside it (by revision number). @throws MissingError */
export async function readRevision(pool: Pool, id: string, revision: string): Promise<Project> {
  const { rows } = await pool.query('SELECT document FROM revisions WHERE project_id = $1 AND id = $2', [
    id,
    revision,
  ]);
  if (rows.length === 0) throw new MissingError(`no revision ${revision} of project ${id}`);
  return rows[0].document;
}

/** Deletes or brings back. @throws MissingError */
export async function setDeleted(pool: Pool, id: string, deleted: boolean): Promise<void> {
  const { rowCount } = await pool.query(
    'UPDATE projects SET deleted_at = CASE WHEN $2 THEN now() ELSE NULL END WHERE id = $1',
    [id, deleted],
  );
  if (rowCount === 0) throw new MissingError(`no project ${id}`);
}
