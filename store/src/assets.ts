/** Files by their SHA-256, in chunks, written once. */
import { createHash } from 'node:crypto';
import { inTransaction, MissingError, type Pool } from './database.ts';

export type AssetKind = 'font' | 'surround' | 'drawing' | 'proof' | 'press';

export interface AssetLine {
  hash: string;
  kind: AssetKind;
  name: string;
  size: number;
}

const CHUNK = 1 << 20;

export const sha256 = (bytes: Uint8Array) => createHash('sha256').update(bytes).digest('hex');

/** Stores a file; the same bytes again are the same asset. */
export async function putAsset(
  pool: Pool,
  kind: AssetKind,
  name: string,
  bytes: Uint8Array,
): Promise<AssetLine> {
  const hash = sha256(bytes);
  const line: AssetLine = { hash, kind, name, size: bytes.length };
  await inTransaction(pool, async (client) => {
    const { rowCount } = await client.query(
      'INSERT INTO assets (hash, kind, name, size) VALUES ($1, $2, $3, $4) ON CONFLICT (hash) DO NOTHING',
      [hash, kind, name, bytes.length],
    );
    if (rowCount === 0) return;
    for (let n = 0; n * CHUNK < bytes.length; n++) {
      await client.query('INSERT INTO asset_chunks (hash, n, data) VALUES ($1, $2, $3)', [
        hash,
        n,
        Buffer.from(bytes.subarray(n * CHUNK, (n + 1) * CHUNK)),
      ]);
    }
  });
  return line;
}

/** @throws MissingError */
export async function findAsset(pool: Pool, hash: string): Promise<AssetLine> {
  const { rows } = await pool.query('SELECT hash, kind, name, size FROM assets WHERE hash = $1', [hash]);
  if (rows.length === 0) throw new MissingError(`no asset ${hash}`);
  return { ...rows[0], size: Number(rows[0].size) };
}

/** The file, chunk by chunk. */
export async function* assetChunks(pool: Pool, hash: string): AsyncGenerator<Buffer> {
  for (let n = 0; ; n++) {
    const { rows } = await pool.query('SELECT data FROM asset_chunks WHERE hash = $1 AND n = $2', [hash, n]);
    if (rows.length === 0) return;
    yield rows[0].data;
  }
}

/** The whole file. @throws MissingError */
export async function readAsset(pool: Pool, hash: string): Promise<AssetLine & { bytes: Uint8Array }> {
  const line = await findAsset(pool, hash);
  const chunks: Buffer[] = [];
  for await (const chunk of assetChunks(pool, hash)) chunks.push(chunk);
  return { ...line, bytes: new Uint8Array(Buffer.concat(chunks)) };
}

/** Assets of a kind, by name. */
export async function listAssets(pool: Pool, kind: AssetKind): Promise<AssetLine[]> {
  const { rows } = await pool.query(
    'SELECT hash, kind, name, size FROM assets WHERE kind = $1 ORDER BY lower(name), hash',
    [kind],
  );
  return rows.map((r) => ({ ...r, size: Number(r.size) }));
}
