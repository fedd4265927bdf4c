/** The press queue of a project. */
import { Router } from 'express';
import { assetsOf, checkJson, openDocument } from '@wemlox/core/document';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { ZipFile } from 'yazl';
import {
  askPress,
  assetChunks,
  cancelPress,
  findAsset,
  findPress,
  listPress,
  pressFrames,
  type Pool,
} from '@wemlox/store';
import { sessionOf } from '../actor.ts';
import { frameName, NewPress } from '@wemlox/wire';
import { Refusal } from '../problem.ts';

export function pressRoutes(pool: Pool): Router {
  const router = Router({ mergeParams: true });
  const projectOf = (params: unknown) => (params as { id: string }).id;

  router.get('/', async (req, res) => {
    res.json(await listPress(sessionOf(pool, res), projectOf(req.params)));
  });

  router.post('/', async (req, res) => {
    const { document: body, ...order } = checkJson(NewPress, req.body);
    const document = openDocument(body);
    for (const [kind, id, all] of [
      ['look', order.look, document.looks],
      ['shot', order.shot, document.shots],
    ] as const) {
      if (!all.some((x) => x.id === id)) throw new Refusal(422, `the document has no ${kind} ${id}`);
    }
    for (const hash of assetsOf(document)) await findAsset(sessionOf(pool, res), hash);
    res.status(201).json(await askPress(sessionOf(pool, res), projectOf(req.params), document, order));
  });

  // the pictures that are done, as one file, whose parts come out of the database as they are sent
  router.get('/:job/pictures.zip', async (req, res) => {
    const session = sessionOf(pool, res);
    const job = await findPress(session, projectOf(req.params), req.params.job);
    const frames = (await pressFrames(session, job.id)).filter((f) => f.result !== null);
    if (frames.length === 0) throw new Refusal(404, 'none of its pictures is done yet');
    const zip = new ZipFile();
    for (const { frame, result } of frames)
      // pictures are compressed already
      zip.addReadStreamLazy(frameName(job, frame), { compress: false }, (take) =>
        take(null, Readable.from(assetChunks(session, result!))),
      );
    zip.end();
    res.attachment(`${job.name.replace(/\.[^.]*$/, '')}.zip`).type('application/zip');
    await pipeline(zip.outputStream, res);
  });

  router.post('/:job/cancel', async (req, res) => {
    await cancelPress(sessionOf(pool, res), projectOf(req.params), req.params.job);
    res.status(204).end();
  });

  return router;
}
