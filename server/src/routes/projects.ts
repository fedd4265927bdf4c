/** Projects: list, make, read, save, delete and bring back, as .wemlox files in and out. */
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { Router } from 'express';
import { PROJECT_FILE } from '@wemlox/core/src/ceilings.ts';
import { assetsOf, checkProject, packProject } from '@wemlox/core/src/document/index.ts';
import {
  createProject,
  listProjects,
  putAsset,
  readAsset,
  readProject,
  saveProject,
  setDeleted,
  type Pool,
} from '@wemlox/store/src/index.ts';
import { checked, ListQuery, NewProjectBody, SaveBody } from '../bodies.ts';
import type { Readers } from '../foreign/readers.ts';
import { withUpload } from '../upload.ts';

export function projectRoutes(pool: Pool, readers: Readers): Router {
  const router = Router();

  /** All projects, or a page of them; how many there are in all is in the header X-Total. */
  router.get('/', async (req, res) => {
    const { total, json } = await listProjects(pool, checked(ListQuery, ListQuery.of(req.query)));
    res.set('X-Total', String(total)).type('json').end(json);
  });

  router.post('/', async (req, res) => {
    const { document, label } = checked(NewProjectBody, req.body);
    res.status(201).json(await createProject(pool, checkProject(document), undefined, label));
  });

  router.post('/file', async (req, res) => {
    const made = await withUpload(req, PROJECT_FILE.bytes, async ({ path, folder }) => {
      const { project, assets } = await readers.read({ kind: 'project', path, folder });
      for (const { kind, hash, name } of assets)
        await putAsset(pool, kind, name, new Uint8Array(await readFile(join(folder, hash))));
      return createProject(pool, project, undefined, 'Imported');
    });
    res.status(201).json(made);
  });

  router.get('/:id', async (req, res) => {
    const stored = await readProject(pool, req.params.id);
    res.json({ ...stored, document: checkProject(stored.document) });
  });

  router.put('/:id', async (req, res) => {
    const { version, document, save, step, label } = checked(SaveBody, req.body);
    const saved = await saveProject(pool, req.params.id, version, checkProject(document), {
      id: save,
      step,
      label,
    });
    res.json({ id: saved.id, version: saved.version });
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
    const document = checkProject((await readProject(pool, req.params.id)).document);
    const assets = await Promise.all(assetsOf(document).map((hash) => readAsset(pool, hash)));
    const name = document.name.replace(/[^\p{L}\p{N} _-]/gu, '').trim() || 'project';
    res
      .type('application/zip')
      .set('Content-Disposition', `attachment; filename*=UTF-8''${encodeURIComponent(name)}.wemlox`)
      .send(Buffer.from(packProject({ project: document, assets })));
  });

  return router;
}
