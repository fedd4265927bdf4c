/** Uploaded files by hash: checked for what they claim to be before they are kept. */
import { readFile } from 'node:fs/promises';
import { json, Router } from 'express';
import {
  BITMAP,
  DRAWING,
  FILM,
  FONT,
  FOOTAGE,
  KEPT,
  MODEL,
  PROFILE,
  SURROUND,
  TEXTURE,
} from '@wemlox/core/ceilings';
import {
  assetChunks,
  findAsset,
  listAssets,
  putAsset,
  readAsset,
  removeUnused,
  tagAsset,
  unusedAssets,
  type Pool,
} from '@wemlox/store';
import { frameOf } from '@wemlox/render/footage';
import { Refusal } from '../problem.ts';
import { sessionOf } from '../actor.ts';
import { AssetQuery, AssetTags, type UploadKind } from '@wemlox/wire';
import { checkJson } from '@wemlox/core/document';
import type { Readers } from '../foreign/readers.ts';
import { withUpload } from '../upload.ts';

const LARGEST: Record<UploadKind, number> = {
  font: FONT.bytes,
  surround: SURROUND.bytes,
  drawing: Math.max(DRAWING.bytes, BITMAP.bytes),
  picture: TEXTURE.bytes,
  painting: TEXTURE.bytes,
  profile: PROFILE.bytes,
  model: MODEL.bytes,
  footage: FOOTAGE.bytes,
  proof: SURROUND.bytes,
  film: FILM.bytes,
};

export function assetRoutes(pool: Pool, readers: Readers): Router {
  const router = Router();

  router.get('/', async (req, res) => {
    res.json(await listAssets(sessionOf(pool, res), checkJson(AssetQuery, { ...req.query }).kind));
  });

  router.get('/unused', async (_req, res) => {
    res.json({ days: KEPT.unusedDays, assets: await unusedAssets(sessionOf(pool, res)) });
  });

  router.delete('/:hash', async (req, res) => {
    await removeUnused(sessionOf(pool, res), req.params.hash);
    res.status(204).end();
  });

  router.post('/', async (req, res) => {
    const { kind, name } = checkJson(AssetQuery, { ...req.query });
    const kept = await withUpload(req, LARGEST[kind], async ({ path }) => {
      const { ownName, facts } = await readers.read({ kind, path });
      return putAsset(
        sessionOf(pool, res),
        kind,
        ownName ?? name ?? kind,
        new Uint8Array(await readFile(path)),
        facts,
      );
    });
    res.status(201).json(kept);
  });

  router.put('/:hash/tags', json(), async (req, res) => {
    const { tags } = checkJson(AssetTags, req.body);
    res.json(await tagAsset(sessionOf(pool, res), req.params.hash, tags));
  });

  router.get('/:hash/pictures/:frame', async (req, res) => {
    const session = sessionOf(pool, res);
    const { hash, kind } = await findAsset(session, req.params.hash);
    if (kind !== 'footage' || !/^\d{1,6}$/.test(req.params.frame))
      throw new Refusal(404, 'there is no such picture');
    const bytes = await frameOf(
      hash,
      Number(req.params.frame),
      async () => (await readAsset(session, hash)).bytes,
    );
    res.set({
      'Content-Type': 'application/octet-stream',
      'Cache-Control': 'public, max-age=31536000, immutable',
    });
    res.end(bytes);
  });

  router.get('/:hash', async (req, res) => {
    const { hash, size, kind, name } = await findAsset(sessionOf(pool, res), req.params.hash);
    if (kind === 'press') res.attachment(name);
    res.set({
      'Content-Type': kind === 'proof' ? 'image/png' : 'application/octet-stream',
      'Content-Length': String(size),
      'Cache-Control': 'public, max-age=31536000, immutable',
      ETag: `"${hash}"`,
    });
    for await (const chunk of assetChunks(sessionOf(pool, res), hash)) {
      if (!res.write(chunk))
        await new Promise((resolve) => res.once('drain', resolve).once('close', resolve));
      if (res.destroyed) return;
    }
    res.end();
  });

  return router;
}
