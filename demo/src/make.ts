/** Writes the demo's documents and traces its proofs: npm run proofs -- [samples] [project …] */
import 'reflect-metadata';
import { mkdir, writeFile } from 'node:fs/promises';
import { RENDERER } from '@wemlox/core/document';
import { encodePng } from '@wemlox/core/picture/files';
import { SceneMaker } from '@wemlox/core/scene/sceneMaker';
import { developed } from '@wemlox/core/trace/developing';
import { diskSources } from '@wemlox/render/sources';
import { traceScene } from '@wemlox/render/threads';
import { demoProjects, LONG_SIDE } from './compose.ts';
import { DATA, type DemoProject } from './loadDemo.ts';

const samples = Number(process.argv[2] ?? 192);
/** Projects to make; all when none is named. */
const only = process.argv.slice(3);
const SEED = 1;

const maker = new SceneMaker(
  diskSources(async (hash) => {
    throw new Error(`the demo has no asset ${hash}`);
  }),
  true,
);
await mkdir(DATA, { recursive: true });
for (const [id, project] of Object.entries(await demoProjects(maker))) {
  if (only.length > 0 && !only.includes(id)) continue;
  const proofs: DemoProject['proofs'] = [];
  for (const look of project.looks) {
    // the first proof of a look is a darker try, the second the state the project is in
    const earlier = structuredClone(project);
    const tried = earlier.looks.find((l) => l.id === look.id)!;
    tried.grade.exposure -= 0.8;
    tried.surround.turn += 0.9;
    for (const [name, document] of [
      [`${look.name}, first try`, earlier],
      [look.name, project],
    ] as const) {
      const { scene } = await maker.make(document, look.id, project.shots[0].id, LONG_SIDE);
      const wide = scene.aspect >= 1;
      const width = wide ? LONG_SIDE : Math.round(LONG_SIDE * scene.aspect);
      const height = wide ? Math.round(LONG_SIDE / scene.aspect) : LONG_SIDE;
      const n = document === project ? samples : Math.ceil(samples / 3);
      const traced = await traceScene(scene, { width, height, samples: n, seed: SEED });
      const file = `${id}-${look.id}${document === project ? '' : '-first'}.png`;
      const grade = document.looks.find((l) => l.id === look.id)!.grade;
      await writeFile(
        new URL(file, DATA),
        encodePng({ width, height, data: developed(traced.film, n) }, grade),
      );
      proofs.push({
        name,
        look: look.id,
        file,
        width,
        height,
        samples: n,
        seed: SEED,
        renderer: RENDERER,
        document: document === project ? null : document,
      });
      process.stdout.write(`${file}: ${traced.wallSeconds.toFixed(0)} s\n`);
    }
  }
  await writeFile(
    new URL(`${id}.json`, DATA),
    JSON.stringify({ project, proofs } satisfies DemoProject, null, 1),
  );
}
