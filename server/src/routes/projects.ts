/** Projects: list, make, read, save, delete and bring back, as .wemlox files in and out. */
import { raw, Router } from 'express';
import { assetsOf, checkProject, packProject, unpackProject } from '@wemlox/core/src/document/index.ts';
import {
  createProject,
  listProjects,
  putAsset,
  readAsset,
  readProject,
  readRevision,
  saveProject,
  setDeleted,
  sha256,
  type Pool,
} from '@wemlox/store/src/index.ts';
import { checked, NewProjectBody, SaveBody } from '../bodies.ts';
import { Refusal } from '../problem.ts';

/** Largest .wemlox file taken. */
const LARGEST_FILE = 512 * 1024 * 1024;

export function projectRoutes(pool: Pool): Router {
  const router = Router();

  router.get('/', async (_req, res) => {
    res.json(await listProjects(pool));
  });

  router.post('/', async (req, res) => {
    const { document } = checked(NewProjectBody, req.body);
    res.status(201).json(await createProject(pool, checkProject(document)));
  });

  router.post('/file', raw({ type: () => true, limit: LARGEST_FILE }), async (req, res) => {
    if (!Buffer.isBuffer(req.body)) throw new Refusal(400, 'the file is empty');
    const { project, assets } = await unpackProject(new Uint8Array(req.body), async (b) => sha256(b));
    const fonts = new Set(project.blocks.map((b) => b.font.id));
    const drawings = new Set(project.blocks.map((b) => b.drawing?.id));
    const kindOf = (hash: string) => (fonts.has(hash) ? 'font' : drawings.has(hash) ? 'drawing' : 'surround');
    for (const asset of assets) {
      await putAsset(pool, kindOf(asset.hash), asset.name, asset.bytes);
    }
    res.status(201).json(await createProject(pool, project));
  });

  router.get('/:id', async (req, res) => {
    const stored = await readProject(pool, req.params.id);
    res.json({ ...stored, document: checkProject(stored.document) });
  });

  router.put('/:id', async (req, res) => {
    const { version, document } = checked(SaveBody, req.body);
    const saved = await saveProject(pool, req.params.id, version, checkProject(document));
    res.json({ id: saved.id, version: saved.version });
  });

  router.get('/:id/revisions/:revision', async (req, res) => {
    if (!/^\d{1,18}$/.test(req.params.revision)) throw new Refusal(400, 'a revision is a number');
    res.json(await readRevision(pool, req.params.id, req.params.revision));
  });

  router.delete('/:id', async (req, res) => {
    await setDeleted(pool, req.params.id, true);
    res.status(204).end();
  });

  router.post('/:id/restore', async (req, res) => {
    await setDeleted(pool, req.params.id, false);
    res.status(204).end();
  });

  router.get('/:id/file', async (req, res) => {
    const { document } = await readProject(pool, req.params.id);
    const assets = await Promise.all(assetsOf(document).map((hash) => readAsset(pool, hash)));
    const name = document.name.replace(/[^\p{L}\p{N} _-]/gu, '').trim() || 'project';
    res
      .type('application/zip')
      .set('Content-Disposition', `attachment; filename*=UTF-8''${encodeURIComponent(name)}.wemlox`)
      .send(Buffer.from(packProject({ project: document, assets })));
  });

  return router;
}
