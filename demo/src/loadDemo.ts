/** Puts the demo into an empty database, once. */
import { readdir, readFile } from 'node:fs/promises';
import { openDocument } from '@wemlox/core/document';
import { createProject, keepProof, putAsset, type Session } from '@wemlox/store';

/** A demo project as it lies on disk, its documents as plain JSON; a proof without one shows the project as it is. */
export interface DemoProject {
  project: unknown;
  proofs: {
    name: string;
    look: string;
    file: string;
    width: number;
    height: number;
    samples: number;
    seed: number;
    /** The renderer that traced it. */
    renderer: string;
    document: unknown;
  }[];
}

export const DATA = new URL('../../demo/data/', import.meta.url);

/** Loads the demo into a database that holds no projects; into any other it puts nothing. */
export async function loadDemo(session: Session): Promise<void> {
  const files = (await readdir(DATA)).filter((f) => f.endsWith('.json')).sort();
  const { rows } = await session.pool.query('SELECT count(*)::int AS n FROM projects');
  if (rows[0].n > 0) return;
  for (const file of files) {
    const demo = JSON.parse(await readFile(new URL(file, DATA), 'utf8')) as DemoProject;
    const project = openDocument(demo.project);
    const { id } = await createProject(session, project, file.replace('.json', ''));
    for (const proof of demo.proofs) {
      const bytes = new Uint8Array(await readFile(new URL(proof.file, DATA)));
      const picture = await putAsset(session, 'proof', proof.name, bytes);
      await keepProof(session, id, {
        ...proof,
        film: null,
        shot: project.shots[0].id,
        picture: picture.hash,
        document: openDocument(proof.document ?? project),
      });
    }
  }
}
