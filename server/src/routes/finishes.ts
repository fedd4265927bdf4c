/** The library of finishes. */
import { Router } from 'express';
import { keepFinish, listFinishes, setFinishDeleted, type Pool } from '@wemlox/store/src/index.ts';
import { checked, FinishBody } from '../bodies.ts';

export function finishRoutes(pool: Pool): Router {
  const router = Router();

  router.get('/', async (_req, res) => {
    res.json(await listFinishes(pool));
  });

  router.post('/', async (req, res) => {
    res.status(201).json(await keepFinish(pool, checked(FinishBody, req.body).finish));
  });

  router.delete('/:finish', async (req, res) => {
    await setFinishDeleted(pool, req.params.finish, true);
    res.status(204).end();
  });

  router.post('/:finish/restore', async (req, res) => {
    await setFinishDeleted(pool, req.params.finish, false);
    res.status(204).end();
  });

  return router;
}
