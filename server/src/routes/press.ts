/** The press queue of a project. */
import { Router } from 'express';
import { assetsOf, checkJson, openDocument } from '@wemlox/core/document';
import { askPress, cancelPress, findAsset, listPress, type Pool } from '@wemlox/store';
import { sessionOf } from '../actor.ts';
import { NewPress } from '@wemlox/wire';
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

  router.post('/:job/cancel', async (req, res) => {
    await cancelPress(sessionOf(pool, res), projectOf(req.params), req.params.job);
    res.status(204).end();
  });

  return router;
}
