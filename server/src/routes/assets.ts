/** Uploaded files by hash: checked for what they claim to be before they are kept. */
import { raw, Router } from 'express';
import { LARGEST_PICTURE, PictureError, readSurroundPicture } from '@wemlox/core/src/picture/files.ts';
import { openDrawing } from '@wemlox/core/src/type/drawing.ts';
import { drawingKindOf } from '@wemlox/core/src/type/painted.ts';
import { OpenFont } from '@wemlox/core/src/type/font.ts';
import { loadRegions } from '@wemlox/core/src/type/region.ts';
import { assetChunks, findAsset, listAssets, putAsset, type Pool } from '@wemlox/store/src/index.ts';
import { AssetQuery, checked } from '../bodies.ts';
import { Refusal } from '../problem.ts';

const PNG = [0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a];

/** Checks an upload; the name to keep it under. */
async function nameOf(
  kind: AssetQuery['kind'],
  given: string | undefined,
  bytes: Uint8Array,
): Promise<string> {
  if (kind === 'font') return (await OpenFont.open(bytes)).name;
  if (kind === 'surround') readSurroundPicture(bytes);
  else if (kind === 'drawing') {
    await loadRegions();
    openDrawing(bytes, drawingKindOf(bytes));
  } else if (!PNG.every((v, i) => bytes[i] === v)) throw new PictureError('the proof is not a PNG picture');
  return given ?? kind;
}

export function assetRoutes(pool: Pool): Router {
  const router = Router();

  router.get('/', async (req, res) => {
    res.json(await listAssets(pool, checked(AssetQuery, { ...req.query }).kind));
  });

  router.post('/', raw({ type: () => true, limit: LARGEST_PICTURE }), async (req, res) => {
    const { kind, name } = checked(AssetQuery, { ...req.query });
    if (!Buffer.isBuffer(req.body) || req.body.length === 0) throw new Refusal(400, 'the file is empty');
    const bytes = new Uint8Array(req.body);
    res.status(201).json(await putAsset(pool, kind, await nameOf(kind, name, bytes), bytes));
  });

  router.get('/:hash', async (req, res) => {
    const { hash, size, kind, name } = await findAsset(pool, req.params.hash);
    if (kind === 'press') res.attachment(name);
    res.set({
      'Content-Type': kind === 'proof' ? 'image/png' : 'application/octet-stream',
      'Content-Length': String(size),
      'Cache-Control': 'public, max-age=31536000, immutable',
      ETag: `"${hash}"`,
    });
    for await (const chunk of assetChunks(pool, hash)) {
      if (!res.write(chunk))
        await new Promise((resolve) => res.once('drain', resolve).once('close', resolve));
      if (res.destroyed) return;
    }
    res.end();
  });

  return router;
}
