/** Proofs of a project. */
import { Router } from 'express';
import { checkJson, openDocument } from '@wemlox/core/document';
import { findAsset, keepProof, listProofs, proofDocument, setProofDeleted, type Pool } from '@wemlox/store';
import { sessionOf } from '../actor.ts';
import { NewProof } from '@wemlox/wire';

export function proofRoutes(pool: Pool): Router {
  const router = Router({ mergeParams: true });
  const projectOf = (params: unknown) => (params as { id: string }).id;

  router.get('/', async (req, res) => {
    res.json(await listProofs(sessionOf(pool, res), projectOf(req.params)));
  });

  router.post('/', async (req, res) => {
    const body = checkJson(NewProof, req.body);
    await findAsset(sessionOf(pool, res), body.picture);
    if (body.film) await findAsset(sessionOf(pool, res), body.film);
    res.status(201).json(
      await keepProof(sessionOf(pool, res), projectOf(req.params), {
        ...body,
        document: openDocument(body.document),
      }),
    );
  });

  router.get('/:proof/document', async (req, res) => {
    res.json(
      openDocument(await proofDocument(sessionOf(pool, res), projectOf(req.params), req.params.proof)),
    );
  });

  router.delete('/:proof', async (req, res) => {
    await setProofDeleted(sessionOf(pool, res), projectOf(req.params), req.params.proof, true);
    res.status(204).end();
  });

  router.post('/:proof/restore', async (req, res) => {
    await setProofDeleted(sessionOf(pool, res), projectOf(req.params), req.params.proof, false);
    res.status(204).end();
  });

  return router;
}
