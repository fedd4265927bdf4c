/** Projects: list, make, read, save, delete and bring back, as .wemlox files in and out. */
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { Router } from 'express';
import { PROJECT_FILE } from '@wemlox/core/ceilings';
import { assetsOf, checkJson, openDocument, packProject } from '@wemlox/core/document';
import {
  createProject,
  listProjects,
  putAsset,
  readAsset,
  readProject,
  saveProject,
  setDeleted,
  type Pool,
} from '@wemlox/store';
import { sessionOf } from '../actor.ts';
import { NewProject, ProjectQuery, ProjectSave, type SavedProject } from '@wemlox/wire';
import type { Readers } from '../foreign/readers.ts';
import { withUpload } from '../upload.ts';

export function projectRoutes(pool: Pool, readers: Readers): Router {
  const router = Router();

  /** All projects, or a page of them; how many there are in all is in the header X-Total. */
  router.get('/', async (req, res) => {
    const { total, json } = await listProjects(
      sessionOf(pool, res),
      checkJson(ProjectQuery, ProjectQuery.of(req.query)),
    );
    res.set('X-Total', String(total)).type('json').end(json);
  });

  router.post('/', async (req, res) => {
    const { document, label } = checkJson(NewProject, req.body);
    res.status(201).json(await createProject(sessionOf(pool, res), openDocument(document), undefined, label));
  });

  router.post('/file', async (req, res) => {
    const made = await withUpload(req, PROJECT_FILE.bytes, async ({ path, folder }) => {
      const { project, assets } = await readers.read({ kind: 'project', path, folder });
      for (const { kind, hash, name, facts } of assets)
        await putAsset(
          sessionOf(pool, res),
          kind,
          name,
          new Uint8Array(await readFile(join(folder, hash))),
          facts,
        );
      return createProject(sessionOf(pool, res), project, undefined, 'Imported');
    });
    res.status(201).json(made);
  });

  router.get('/:id', async (req, res) => {
    const stored = await readProject(sessionOf(pool, res), req.params.id);
    res.json({ ...stored, document: openDocument(stored.document) });
  });

  router.put('/:id', async (req, res) => {
    const { version, document, save, step, label } = checkJson(ProjectSave, req.body);
    const saved = await saveProject(sessionOf(pool, res), req.params.id, version, openDocument(document), {
      id: save,
      step,
      label,
    });
    res.json({ id: saved.id, version: saved.version } satisfies SavedProject);
  });

  router.delete('/:id', async (req, res) => {
    await setDeleted(sessionOf(pool, res), req.params.id, true);
    res.status(204).end();
  });

  router.post('/:id/restore', async (req, res) => {
    await setDeleted(sessionOf(pool, res), req.params.id, false);
    res.status(204).end();
  });

  router.get('/:id/file', async (req, res) => {
    const document = openDocument((await readProject(sessionOf(pool, res), req.params.id)).document);
    const assets = await Promise.all(assetsOf(document).map((hash) => readAsset(sessionOf(pool, res), hash)));
    const name = document.name.replace(/[^\p{L}\p{N} _-]/gu, '').trim() || 'project';
    res
      .type('application/zip')
      .set('Content-Disposition', `attachment; filename*=UTF-8''${encodeURIComponent(name)}.wemlox`)
      .send(Buffer.from(packProject({ project: document, assets })));
  });

  return router;
}
