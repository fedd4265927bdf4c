/** The library of rigs. */
import { Router } from 'express';
import { keepRig, listRigs, setRigDeleted, type Pool } from '@wemlox/store';
import { sessionOf } from '../actor.ts';
import { NewRig } from '@wemlox/wire';
import { checkJson, openRig, VERSION } from '@wemlox/core/document';

export function rigRoutes(pool: Pool): Router {
  const router = Router();

  router.get('/', async (_req, res) => {
    res.json(await listRigs(sessionOf(pool, res)));
  });

  router.post('/', async (req, res) => {
    const { version, rig } = checkJson(NewRig, req.body);
    res.status(201).json(await keepRig(sessionOf(pool, res), openRig(version, rig), VERSION));
  });

  router.delete('/:rig', async (req, res) => {
    await setRigDeleted(sessionOf(pool, res), req.params.rig, true);
    res.status(204).end();
  });

  router.post('/:rig/restore', async (req, res) => {
    await setRigDeleted(sessionOf(pool, res), req.params.rig, false);
    res.status(204).end();
  });

  return router;
}
