/** Pictures of the reference tracer. */
import { flattened } from '../../src/scene/flatScene.ts';
import type { RenderScene } from '../../src/scene/renderScene.ts';
import { FinishRecords } from '../../src/trace/finishRecords.ts';
import type { Eye } from '../../src/trace/eye.ts';
import { developed } from '../../src/trace/developing.ts';
import { createFilm } from '../../src/trace/film.ts';
import { surroundTable } from './environment.ts';
import { PathTracer } from './pathTracer.ts';
import { OracleTracer } from './rays.ts';

/** The developed film of the reference tracer, r g b alpha a pixel. */
export function referencePicture(scene: RenderScene, view: Eye, samples: number, seed = 1): Float32Array {
  const flat = flattened(scene);
  const records = new FinishRecords().compile(scene.finishes, () => ({ at: 0, peak: 0 })).records;
  const made = { scene, flat, records, table: surroundTable(scene.surround.picture) };
  const film = createFilm(view.width, view.height);
  const queries = new OracleTracer(flat.positions, flat.geometryTriangles);
  new PathTracer(made, queries, view).traceTile(film, 0, 0, view.width, view.height, 0, samples, seed);
  return developed(film, samples);
}
