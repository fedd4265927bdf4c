/** What a project has been: a list by time, each to read, and the way back. */
import { Router } from 'express';
import { openDocument, DocumentError } from '@wemlox/core/document';
import { listRevisions, readProjectVersion, readRevision, saveProject, type Pool } from '@wemlox/store';
import { sessionOf } from '../actor.ts';
import { Refusal } from '../problem.ts';

export function revisionRoutes(pool: Pool): Router {
  const router = Router({ mergeParams: true });
  const projectOf = (params: unknown) => (params as { id: string }).id;
  const numberOf = (revision: string) => {
    if (!/^\d{1,18}$/.test(revision)) throw new Refusal(400, 'a revision is a number');
    return revision;
  };

  router.get('/', async (req, res) => {
    res.json(await listRevisions(sessionOf(pool, res), projectOf(req.params)));
  });

  /** The newest revision that passes the document's door. */
  router.get('/good', async (req, res) => {
    const id = projectOf(req.params);
    for (const line of await listRevisions(sessionOf(pool, res), id)) {
      try {
        openDocument(await readRevision(sessionOf(pool, res), id, line.id));
      } catch (error) {
        if (error instanceof DocumentError) continue;
        throw error;
      }
      res.json(line);
      return;
    }
    throw new Refusal(404, 'no revision of this project can be opened');
  });

  router.get('/:revision', async (req, res) => {
    res.json(
      openDocument(
        await readRevision(sessionOf(pool, res), projectOf(req.params), numberOf(req.params.revision)),
      ),
    );
  });

  /** Goes back to a revision whatever the project is now, which stays among the revisions. */
  router.post('/:revision/restore', async (req, res) => {
    const id = projectOf(req.params);
    const document = openDocument(
      await readRevision(sessionOf(pool, res), id, numberOf(req.params.revision)),
    );
    const version = await readProjectVersion(sessionOf(pool, res), id);
    const saved = await saveProject(sessionOf(pool, res), id, version, document, {
      label: 'Back to an earlier revision',
    });
    res.json({ id, version: saved.version });
  });

  return router;
}
