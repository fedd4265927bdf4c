/** Projects. Documents come in checked. */
import { KEPT } from '@wemlox/core/ceilings';
import type { ProjectQuery, StoredProject } from '@wemlox/wire';
import { newId, type Project } from '@wemlox/core/document';
import { useAssets } from './assets.ts';
import { inTransaction, MissingError, QuotaError } from './database.ts';
import type { Session } from './session.ts';
import { keepRevision, thinRevisions } from './revisions.ts';

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

const ORDERS = {
  changed: 'touched DESC',
  name: 'lower(name), touched DESC',
  words: 'lower(words), touched DESC',
} as const;

/** The query of a list; it reads no documents. With a page comes how many match in all, in one look. */
export function listSql({ search = '', order = 'changed', offset = 0, limit }: ProjectQuery): {
  text: string;
  values: string[];
} {
  const matching = search === '' ? '' : ' AND (name ILIKE $1 OR words ILIKE $1)';
  const page = limit === undefined ? '' : ` LIMIT ${Math.floor(limit)} OFFSET ${Math.floor(offset)}`;
  const total = limit === undefined ? '' : ', count(*) OVER () AS total';
  return {
    text: `SELECT id, name, version, updated_at AS "updatedAt", look, picture, proofs${total} FROM projects
            WHERE deleted_at IS NULL${matching} ORDER BY ${ORDERS[order]}${page}`,
    values: search === '' ? [] : [`%${search.replace(/[\\%_]/g, '\\$&')}%`],
  };
}

/**
 * A list of projects and how many match in all.
 * @returns the list as the text of a JSON array of ProjectLine: the database writes it, and nothing need take it apart
 */
export async function listProjects(
  session: Session,
  query: ProjectQuery = {},
): Promise<{ total: number; json: string }> {
  const { text, values } = listSql(query);
  const { rows } = await session.pool.query(
    `SELECT ${query.limit === undefined ? 'count(*)' : 'coalesce(max(total), 0)'}::int AS total,
            coalesce(json_agg(row_to_json(list)), '[]')::text AS json
       FROM (${text}) list`,
    values,
  );
  const found = rows[0] as { total: number; json: string };
  // beyond the last page
  if (found.json === '[]' && query.offset)
    return { total: (await listProjects(session, { ...query, offset: 0, limit: 1 })).total, json: '[]' };
  return found;
}

/** What of a document stands in its project's row. */
const rowOf = (document: Project) => [
  document.name,
  document.looks[0]!.id,
  document.blocks.map((b) => b.text).join(' '),
];

export async function createProject(
  { pool, actor }: Session,
  document: Project,
  id = newId(),
  label = 'Made',
): Promise<StoredProject> {
  return inTransaction(pool, async (client) => {
    const { rows } = await client.query('SELECT count(*)::int AS n FROM projects');
    if (rows[0].n >= KEPT.projects)
      throw new QuotaError(`there are ${KEPT.projects} projects, and no more are kept; delete some first`);
    await client.query(
      'INSERT INTO projects (id, version, document, name, look, words) VALUES ($1, 1, $2, $3, $4, $5)',
      [id, JSON.stringify(document), ...rowOf(document)],
    );
    await useAssets(client, id, document);
    await client.query(
      'INSERT INTO revisions (project_id, version, document, label, actor) VALUES ($1, 1, $2, $3, $4)',
      [id, JSON.stringify(document), label, actor.id],
    );
    return { id, version: 1, document };
  });
}

/** @throws MissingError */
export async function readProject({ pool }: Session, id: string): Promise<StoredProject> {
  const { rows } = await pool.query(
    'SELECT id, version, document FROM projects WHERE id = $1 AND deleted_at IS NULL',
    [id],
  );
  if (rows.length === 0) throw new MissingError(`no project ${id}`);
  return rows[0];
}

/** What a save says of itself. */
export interface Save {
  /** Names this save, so that sending it again is no second one. */
  id?: string;
  /** Step of history: saves of one step are one revision. */
  step?: string;
  /** Name of the edit. */
  label?: string;
}

/** Every so many versions a project's old revisions are thinned. */
const THIN_EVERY = 20;

/** The version a project is at. @throws MissingError */
export async function readProjectVersion({ pool }: Session, id: string): Promise<number> {
  const { rows } = await pool.query('SELECT version FROM projects WHERE id = $1 AND deleted_at IS NULL', [
    id,
  ]);
  if (rows.length === 0) throw new MissingError(`no project ${id}`);
  return rows[0].version;
}

/**
 * Saves a new version on top of `base`. The same save again is answered as the first time.
 * @throws ConflictError when the project has moved on; the document is kept as a revision all the same
 * @throws MissingError
 */
export async function saveProject(
  { pool, actor }: Session,
  id: string,
  base: number,
  document: Project,
  save: Save = {},
): Promise<StoredProject> {
  const outcome = await inTransaction(pool, async (client) => {
    const { rows } = await client.query(
      'SELECT id, version, document FROM projects WHERE id = $1 AND deleted_at IS NULL FOR UPDATE',
      [id],
    );
    if (rows.length === 0) throw new MissingError(`no project ${id}`);
    const current = rows[0] as StoredProject;
    const again = save.id
      ? await client.query('SELECT id, version FROM revisions WHERE project_id = $1 AND save_id = $2', [
          id,
          save.id,
        ])
      : null;
    if (again?.rows[0]?.version) return { saved: { id, version: again.rows[0].version as number, document } };
    if (again?.rows[0]) return { conflict: new ConflictError(current, String(again.rows[0].id)) };
    const text = JSON.stringify(document);
    await useAssets(client, id, document);
    const { step = null, label = '' } = save;
    if (current.version !== base) {
      const kept = await client.query(
        `INSERT INTO revisions (project_id, base, document, label, step, save_id, actor)
         VALUES ($1, $2, $3, $4, $5, $6, $7) RETURNING id`,
        [id, base, text, label, step, save.id ?? null, actor.id],
      );
      return { conflict: new ConflictError(current, String(kept.rows[0].id)) };
    }
    const version = base + 1;
    await client.query(
      `UPDATE projects SET version = $2, document = $3, name = $4, look = $5, words = $6, updated_at = now(),
              touched = nextval('project_touches') WHERE id = $1`,
      [id, version, text, ...rowOf(document)],
    );
    await keepRevision(client, id, version, text, { step, label, save: save.id ?? null, actor });
    if (version % THIN_EVERY === 0) await thinRevisions(client, id);
    return { saved: { id, version, document } };
  });
  if (outcome.conflict) throw outcome.conflict;
  return outcome.saved;
}

/** Deletes or brings back. @throws MissingError */
export async function setDeleted({ pool }: Session, id: string, deleted: boolean): Promise<void> {
  const { rowCount } = await pool.query(
    'UPDATE projects SET deleted_at = CASE WHEN $2 THEN now() ELSE NULL END WHERE id = $1',
    [id, deleted],
  );
  if (rowCount === 0) throw new MissingError(`no project ${id}`);
}
