/**
 * Small renders of the demo as hashes: they guard the renderer's version. When pictures are meant to change, raise
 * RENDERER, say why in CHANGELOG.md, and write them anew: npm run pin
 */
import 'reflect-metadata';
import { createHash } from 'node:crypto';
import { readdir, readFile, writeFile } from 'node:fs/promises';
import { fileURLToPath } from 'node:url';
import { openDocument, RENDERER } from '@wemlox/core/document';
import { SceneMaker } from '@wemlox/core/scene/sceneMaker';
import { diskSources } from '@wemlox/render/sources';
import { traceScene } from '@wemlox/render/threads';
import { DATA, type DemoProject } from './loadDemo.ts';

export const PINS = new URL('../test/pinned.json', import.meta.url);

export interface Pins {
  renderer: string;
  /** SHA-256 of the film's sums, by project and look. */
  pictures: Record<string, string>;
}

/** Longer side of a pinned picture, pixels, and its samples. */
const LONG_SIDE = 64;
const SAMPLES = 2;

/** Renders every look of the demo as it is now. @param counts of threads, once each: pictures do not depend on them */
export async function pinned(...counts: number[]): Promise<Pins[]> {
  const maker = new SceneMaker(
    diskSources(async (hash) => {
      throw new Error(`the demo has no asset ${hash}`);
    }),
    true,
  );
  const pins = counts.map((): Pins => ({ renderer: RENDERER, pictures: {} }));
  for (const file of (await readdir(DATA)).filter((f) => f.endsWith('.json')).sort()) {
    const demo = JSON.parse(await readFile(new URL(file, DATA), 'utf8')) as DemoProject;
    const project = openDocument(demo.project);
    for (const look of project.looks) {
      const { scene } = await maker.make(project, look.id, project.shots[0].id, LONG_SIDE);
      const [width, height] =
        scene.aspect >= 1
          ? [LONG_SIDE, Math.round(LONG_SIDE / scene.aspect)]
          : [Math.round(LONG_SIDE * scene.aspect), LONG_SIDE];
      for (const [i, threads] of counts.entries()) {
        const { film } = await traceScene(scene, { width, height, samples: SAMPLES, seed: 1, threads });
        const { buffer, byteOffset, byteLength } = film.sums;
        const bytes = new Uint8Array(buffer, byteOffset, byteLength).slice();
        const hash = createHash('sha256').update(bytes).digest('hex');
        pins[i]!.pictures[`${file.replace('.json', '')}/${look.id}`] = hash;
      }
    }
  }
  return pins;
}

if (process.argv[1] === fileURLToPath(import.meta.url))
  await writeFile(PINS, `${JSON.stringify((await pinned(2))[0], null, 2)}\n`);
