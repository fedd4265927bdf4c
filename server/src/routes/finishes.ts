/** The library of finishes. */
import { Router } from 'express';
import { keepFinish, listFinishes, setFinishDeleted, type Pool } from '@wemlox/store';
import { sessionOf } from '../actor.ts';
import { NewFinish } from '@wemlox/wire';
import { checkJson, openFinish, VERSION } from '@wemlox/core/document';

export function finishRoutes(pool: Pool): Router {
  const router = Router();

  router.get('/', async (_req, res) => {
    res.json(await listFinishes(sessionOf(pool, res)));
  });

  router.post('/', async (req, res) => {
    const { version, finish } = checkJson(NewFinish, req.body);
    res.status(201).json(await keepFinish(sessionOf(pool, res), openFinish(version, finish), VERSION));
  });

  router.delete('/:finish', async (req, res) => {
    await setFinishDeleted(sessionOf(pool, res), req.params.finish, true);
    res.status(204).end();
  });

  router.post('/:finish/restore', async (req, res) => {
    await setFinishDeleted(sessionOf(pool, res), req.params.finish, false);
    res.status(204).end();
  });

  return router;
}
