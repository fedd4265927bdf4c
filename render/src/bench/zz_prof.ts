import 'reflect-metadata';
import { chromeWord, FIGURE } from './word.ts';
import { readFileSync } from 'node:fs';
import { ScenePreparer, PathTracer } from '/work/main/core/src/trace/pathTracer.ts';
import { buildRayScene, Kernel, kernelMemory } from '/work/main/core/src/trace/kernel.ts';
import { createFilm } from '/work/main/core/src/trace/film.ts';
import * as view from '/work/main/core/src/trace/view.ts';
const { scene } = await chromeWord();
console.log(
  'picture',
  scene.surround.picture.width,
  scene.surround.picture.height,
  'tris',
  scene.geometryTriangles,
  'lights',
  scene.lights.length,
);
const prepared = new ScenePreparer().prepare(scene);
const module = new WebAssembly.Module(readFileSync('/work/main/core/kernel/build/kernel.wasm'));
const memory = kernelMemory(false);
const layout = buildRayScene(module, memory, scene.positions, scene.geometryTriangles, 1);
const kernel = new Kernel(module, memory, layout, 0);
const { width, height } = FIGURE;
const v = view.shotView(scene, width, height);
const tracer = new PathTracer(prepared, kernel, v);
const film = createFilm(width, height);
tracer.traceTile(film, 0, 0, width, height, 0, 2, 1);
const t = process.cpuUsage();
const r0 = tracer.rays;
const N = Number(process.argv[2] ?? 10);
tracer.traceTile(film, 0, 0, width, height, 2, 2 + N, 1);
const c = process.cpuUsage(t);
const s = (c.user + c.system) / 1e6;
console.log(
  's/sample',
  s / N,
  'rays/s',
  (tracer.rays - r0) / s / 1e6,
  'M rays/path',
  (tracer.rays - r0) / N / width / height,
  film.sums.reduce((a, b) => a + b, 0),
);
