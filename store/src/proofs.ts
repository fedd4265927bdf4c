/** Kept proofs: a traced picture with the exact state that made it. */
import type { ProofFacts, ProofLine } from '@wemlox/wire';
import { newId, type Project } from '@wemlox/core/document';
import { useAssets } from './assets.ts';
import { inTransaction, MissingError } from './database.ts';
import type { Session } from './session.ts';
import { pictureRevision } from './revisions.ts';

/** A proof to be kept, its document from the door. */
export type ProofToKeep = ProofFacts & { document: Project };

const LINE =
  'id, name, look, shot, picture, film, width, height, samples, seed, renderer, frame, kept_at, actor';

const lineOf = (r: Record<string, unknown> & { kept_at: Date }): ProofLine => {
  const { kept_at, seed, ...rest } = r;
  return {
    ...(rest as Omit<ProofLine, 'keptAt' | 'seed'>),
    seed: Number(seed),
    keptAt: kept_at.toISOString(),
  };
};

/** What the project's row shows of its proofs. */
const SHOWN = `UPDATE projects p SET
    picture = (SELECT picture FROM proofs q WHERE q.project_id = p.id AND q.deleted_at IS NULL ORDER BY n DESC LIMIT 1),
    proofs  = (SELECT count(*) FROM proofs q WHERE q.project_id = p.id AND q.deleted_at IS NULL)
  WHERE p.id = $1`;

export async function keepProof(
  { pool, actor }: Session,
  project: string,
  proof: ProofToKeep,
): Promise<ProofLine> {
  const document = JSON.stringify(proof.document);
  return inTransaction(pool, async (client) => {
    const { rows } = await client.query(
      `INSERT INTO proofs (id, project_id, name, look, shot, picture, width, height, samples, seed, renderer,
              document, film, actor, frame)
       SELECT $1, p.id, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13, $14, $15 FROM projects p WHERE p.id = $2
       RETURNING ${LINE}`,
      [
        newId(),
        project,
        proof.name,
        proof.look,
        proof.shot,
        proof.picture,
        proof.width,
        proof.height,
        proof.samples,
        proof.seed,
        proof.renderer,
        document,
        proof.film ?? null,
        actor.id,
        proof.frame ?? 0,
      ],
    );
    if (rows.length === 0) throw new MissingError(`no project ${project}`);
    await useAssets(client, project, proof.document, proof.picture, ...(proof.film ? [proof.film] : []));
    await pictureRevision(client, project, document, proof.picture);
    await client.query(SHOWN, [project]);
    return lineOf(rows[0]);
  });
}

/** Oldest first. */
export async function listProofs({ pool }: Session, project: string): Promise<ProofLine[]> {
  const { rows } = await pool.query(
    `SELECT ${LINE} FROM proofs WHERE project_id = $1 AND deleted_at IS NULL ORDER BY n`,
    [project],
  );
  return rows.map(lineOf);
}

/** The state that made a proof, as it is kept. @throws MissingError */
export async function proofDocument({ pool }: Session, project: string, id: string): Promise<unknown> {
  const { rows } = await pool.query('SELECT document FROM proofs WHERE project_id = $1 AND id = $2', [
    project,
    id,
  ]);
  if (rows.length === 0) throw new MissingError(`no proof ${id}`);
  return rows[0].document;
}

/** Deletes or brings back. @throws MissingError */
export async function setProofDeleted(
  { pool }: Session,
  project: string,
  id: string,
  deleted: boolean,
): Promise<void> {
  await inTransaction(pool, async (client) => {
    const { rowCount } = await client.query(
      'UPDATE proofs SET deleted_at = CASE WHEN $3 THEN now() ELSE NULL END WHERE project_id = $1 AND id = $2',
      [project, id, deleted],
    );
    if (rowCount === 0) throw new MissingError(`no proof ${id}`);
    await client.query(SHOWN, [project]);
  });
}
