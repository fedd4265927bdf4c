/** Revisions: what a project has been, by the edits that made it. */
import type { Actor, RevisionLine } from '@wemlox/wire';
import { MissingError, type Client } from './database.ts';
import type { Session } from './session.ts';

/** Most revisions a list shows. */
const LISTED = 1000;

/** Keeps a version: saves of one step that follow each other are one revision. */
export async function keepRevision(
  client: Client,
  project: string,
  version: number,
  document: string,
  { step, label, save, actor }: { step: string | null; label: string; save: string | null; actor: Actor },
): Promise<void> {
  if (step !== null) {
    const { rowCount } = await client.query(
      `UPDATE revisions SET version = $3, document = $4, label = $5, save_id = $6, actor = $7, saved_at = now()
        WHERE project_id = $1 AND step = $2 AND version = $3 - 1 AND picture IS NULL`,
      [project, step, version, document, label, save, actor.id],
    );
    if (rowCount === 1) return;
  }
  await client.query(
    `INSERT INTO revisions (project_id, version, document, label, step, save_id, actor)
     VALUES ($1, $2, $3, $4, $5, $6, $7)`,
    [project, version, document, label, step, save, actor.id],
  );
}

/**
 * Thins a project's revisions with age. The newest 200 stay, those a proof was kept at, and those that lost a
 * race; of the rest, one in ten minutes of the last day, one in two hours of the last thirty days, one a day before.
 */
export async function thinRevisions(client: Client, project: string): Promise<void> {
  await client.query(
    `WITH old AS (
       SELECT id, saved_at, now() - saved_at AS age, extract(epoch FROM saved_at) AS at
         FROM revisions
        WHERE project_id = $1 AND version IS NOT NULL AND picture IS NULL
        ORDER BY id DESC OFFSET 200),
     spans AS (
       SELECT id, CASE WHEN age < interval '1 day' THEN 600 WHEN age < interval '30 days' THEN 7200 ELSE 86400 END AS span, at
         FROM old),
     ranked AS (
       SELECT id, row_number() OVER (PARTITION BY span, floor(at / span) ORDER BY id DESC) AS nth FROM spans)
     DELETE FROM revisions WHERE id IN (SELECT id FROM ranked WHERE nth > 1)`,
    [project],
  );
}

/** Newest first. */
export async function listRevisions({ pool }: Session, project: string): Promise<RevisionLine[]> {
  const { rows } = await pool.query(
    'SELECT id, version, label, saved_at, picture, actor FROM revisions WHERE project_id = $1 ORDER BY id DESC LIMIT $2',
    [project, LISTED],
  );
  return rows.map((r) => ({
    id: String(r.id),
    version: r.version,
    label: r.label,
    savedAt: r.saved_at.toISOString(),
    picture: r.picture,
    actor: r.actor,
  }));
}

/** What a project was at a revision, as it is kept. @throws MissingError */
export async function readRevision({ pool }: Session, project: string, revision: string): Promise<unknown> {
  const { rows } = await pool.query('SELECT document FROM revisions WHERE project_id = $1 AND id = $2', [
    project,
    revision,
  ]);
  if (rows.length === 0) throw new MissingError(`no revision ${revision} of project ${project}`);
  return rows[0].document;
}

/** How far back a proof's own revision is looked for. */
const RECENT = 5;

/** Notes the picture of a proof at the revision whose document it shows, if that is among the last. */
export async function pictureRevision(
  client: Client,
  project: string,
  document: string,
  picture: string,
): Promise<void> {
  await client.query(
    `UPDATE revisions SET picture = $3 WHERE id = (
       SELECT id FROM (
         SELECT id, document FROM revisions WHERE project_id = $1 AND version IS NOT NULL ORDER BY id DESC LIMIT ${RECENT}) recent
        WHERE document = $2::jsonb ORDER BY id DESC LIMIT 1)`,
    [project, document, picture],
  );
}
