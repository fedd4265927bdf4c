/** Files by their SHA-256, in chunks, written once. */
import { createHash } from 'node:crypto';
import type { AssetKind, AssetLine, UnusedAsset } from '@wemlox/wire';
import { inWords, KEPT } from '@wemlox/core/ceilings';
import { assetsOf, type Project } from '@wemlox/core/document';
import { inTransaction, MissingError, QuotaError, type Client } from './database.ts';
import type { Session } from './session.ts';

const CHUNK = 1 << 20;

export const sha256 = (bytes: Uint8Array) => createHash('sha256').update(bytes).digest('hex');

/**
 * Notes which files a project leans on.
 * @throws QuotaError when they take more than one project may
 */
export async function useAssets(
  client: Client,
  project: string,
  document: Project,
  ...more: string[]
): Promise<void> {
  const hashes = [...assetsOf(document), ...more];
  if (hashes.length === 0) return;
  const { rowCount } = await client.query(
    `INSERT INTO asset_uses (project_id, hash) SELECT $1, hash FROM assets WHERE hash = ANY($2)
     ON CONFLICT DO NOTHING`,
    [project, hashes],
  );
  if (rowCount === 0) return;
  const { rows } = await client.query(
    `SELECT sum(a.size)::bigint AS size FROM asset_uses u JOIN assets a USING (hash) WHERE u.project_id = $1`,
    [project],
  );
  if (Number(rows[0].size) > KEPT.projectBytes)
    throw new QuotaError(
      `the fonts, pictures and drawings of this project take more than ${inWords(KEPT.projectBytes)}`,
    );
}

/** Nothing leans on it: no project, no proof, no job of the press, no revision, nothing of the library. */
const UNUSED = `NOT EXISTS (SELECT FROM asset_uses u WHERE u.hash = a.hash)
  AND NOT EXISTS (SELECT FROM proofs p WHERE a.hash IN (p.picture, p.film))
  AND NOT EXISTS (SELECT FROM press_frames j WHERE j.result = a.hash)
  AND NOT EXISTS (SELECT FROM press_jobs j WHERE j.bound = a.hash)
  AND NOT EXISTS (SELECT FROM revisions r WHERE r.picture = a.hash)
  AND NOT EXISTS (SELECT FROM finishes f WHERE f.pictures @> ARRAY[a.hash])
  AND NOT EXISTS (SELECT FROM rigs g WHERE g.files @> ARRAY[a.hash])`;

/** What of a file is told. */
const LINE = 'hash, kind, name, size, tags, facts';
const lineOf = (row: Record<string, unknown>) => ({ ...row, size: Number(row.size) }) as AssetLine;

/** Files that nothing uses, the largest first. */
export async function unusedAssets({ pool }: Session): Promise<UnusedAsset[]> {
  const { rows } = await pool.query(
    `SELECT ${LINE}, created_at FROM assets a WHERE ${UNUSED} ORDER BY size DESC, hash`,
  );
  return rows.map(({ created_at, ...r }) => ({ ...lineOf(r), uploadedAt: created_at.toISOString() }));
}

/** Removes a file that nothing uses. @throws MissingError when there is none of that hash, or it is in use */
export async function removeUnused({ pool }: Session, hash: string): Promise<void> {
  const { rowCount } = await pool.query(`DELETE FROM assets a WHERE hash = $1 AND ${UNUSED}`, [hash]);
  if (rowCount === 0) throw new MissingError(`no unused asset ${hash}`);
}

/** Removes files that have gone unused for the stated time; how many. */
export async function sweepAssets({ pool }: Session): Promise<number> {
  const { rowCount } = await pool.query(
    `DELETE FROM assets a WHERE created_at < now() - make_interval(days => $1) AND ${UNUSED}`,
    [KEPT.unusedDays],
  );
  return rowCount ?? 0;
}

/** Stores a file; the same bytes again are the same asset. */
export async function putAsset(
  { pool, actor }: Session,
  kind: AssetKind,
  name: string,
  bytes: Uint8Array,
  facts: AssetLine['facts'] = null,
): Promise<AssetLine> {
  const hash = sha256(bytes);
  await inTransaction(pool, async (client) => {
    const { rowCount } = await client.query(
      `INSERT INTO assets (hash, kind, name, size, actor, facts) VALUES ($1, $2, $3, $4, $5, $6)
       ON CONFLICT (hash) DO NOTHING`,
      [hash, kind, name, bytes.length, actor.id, facts && JSON.stringify(facts)],
    );
    if (rowCount === 0) {
      await client.query(
        `UPDATE assets SET facts = coalesce(facts, $3),
           also = CASE WHEN kind = $2 OR $2 = ANY(also) THEN also ELSE array_append(also, $2) END
         WHERE hash = $1`,
        [hash, kind, facts && JSON.stringify(facts)],
      );
      return;
    }
    const { rows } = await client.query('SELECT coalesce(sum(size), 0)::bigint AS size FROM assets');
    if (Number(rows[0].size) > KEPT.bytes)
      throw new QuotaError(
        `files take the ${inWords(KEPT.bytes)} that are kept in all; remove unused ones first`,
      );
    for (let n = 0; n * CHUNK < bytes.length; n++) {
      await client.query('INSERT INTO asset_chunks (hash, n, data) VALUES ($1, $2, $3)', [
        hash,
        n,
        Buffer.from(bytes.subarray(n * CHUNK, (n + 1) * CHUNK)),
      ]);
    }
  });
  return { hash, kind, name, size: bytes.length, tags: [], facts };
}

/** Gives a file the words it is found by. @throws MissingError */
export async function tagAsset({ pool }: Session, hash: string, tags: readonly string[]): Promise<AssetLine> {
  const { rows } = await pool.query(`UPDATE assets SET tags = $2 WHERE hash = $1 RETURNING ${LINE}`, [
    hash,
    tags,
  ]);
  if (rows.length === 0) throw new MissingError(`no asset ${hash}`);
  return lineOf(rows[0]);
}

/** @throws MissingError */
export async function findAsset({ pool }: Session, hash: string): Promise<AssetLine> {
  const { rows } = await pool.query(`SELECT ${LINE} FROM assets WHERE hash = $1`, [hash]);
  if (rows.length === 0) throw new MissingError(`no asset ${hash}`);
  return lineOf(rows[0]);
}

/** The file, chunk by chunk. */
export async function* assetChunks({ pool }: Session, hash: string): AsyncGenerator<Buffer> {
  for (let n = 0; ; n++) {
    const { rows } = await pool.query('SELECT data FROM asset_chunks WHERE hash = $1 AND n = $2', [hash, n]);
    if (rows.length === 0) return;
    yield rows[0].data;
  }
}

/** The whole file. @throws MissingError */
export async function readAsset(session: Session, hash: string): Promise<AssetLine & { bytes: Uint8Array }> {
  const line = await findAsset(session, hash);
  const chunks: Buffer[] = [];
  for await (const chunk of assetChunks(session, hash)) chunks.push(chunk);
  return { ...line, bytes: new Uint8Array(Buffer.concat(chunks)) };
}

/** Assets of a kind, by name. */
export async function listAssets({ pool }: Session, kind: AssetKind): Promise<AssetLine[]> {
  const { rows } = await pool.query(
    `SELECT ${LINE} FROM assets WHERE kind = $1 OR $1 = ANY(also) ORDER BY lower(name), hash`,
    [kind],
  );
  return rows.map(lineOf);
}
