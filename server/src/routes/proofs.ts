/** Proofs of a project. */
import { Router } from 'express';
import { checkProject } from '@wemlox/core/src/document/index.ts';
import {
  findAsset,
  keepProof,
  listProofs,
  proofDocument,
  setProofDeleted,
  type Pool,
} from '@wemlox/store/src/index.ts';
import { checked, ProofBody } from '../bodies.ts';

export function proofRoutes(pool: Pool): Router {
  const router = Router({ mergeParams: true });
  const projectOf = (params: unknown) => (params as { id: string }).id;

  router.get('/', async (req, res) => {
    res.json(await listProofs(pool, projectOf(req.params)));
  });

  router.post('/', async (req, res) => {
    const body = checked(ProofBody, req.body);
    await findAsset(pool, body.picture);
    res
      .status(201)
      .json(await keepProof(pool, projectOf(req.params), { ...body, document: checkProject(body.document) }));
  });

  router.get('/:proof/document', async (req, res) => {
    res.json(checkProject(await proofDocument(pool, projectOf(req.params), req.params.proof)));
  });

  router.delete('/:proof', async (req, res) => {
    await setProofDeleted(pool, projectOf(req.params), req.params.proof, true);
    res.status(204).end();
  });

  router.post('/:proof/restore', async (req, res) => {
    await setProofDeleted(pool, projectOf(req.params), req.params.proof, false);
    res.status(204).end();
  });

  return router;
}
