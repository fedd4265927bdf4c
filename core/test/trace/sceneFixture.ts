import { plainSurface, type Surface } from '../../src/document/index.ts';
import type { Vec } from '../../src/light/placing.ts';
import type { SurroundPicture } from '../../src/light/surround.ts';
import type { Part, RenderScene, SceneLight } from '../../src/scene/renderScene.ts';
import { plainTangents } from '../../src/scene/tangents.ts';
import { buildRayScene, Kernel, kernelMemory } from '../../src/trace/kernel.ts';
import { createFilm, developed } from '../../src/trace/film.ts';
import { PathTracer, ScenePreparer } from '../../src/trace/pathTracer.ts';
import type { Eye } from '../../src/trace/eye.ts';
import { kernelModule } from './kernelFixture.ts';

/** Two triangles: corner and two edges; the normal is their cross product. */
export function quad(corner: Vec, a: Vec, b: Vec): number[] {
  const at = (s: number, t: number) => corner.map((v, i) => v + a[i] * s + b[i] * t);
  return [...at(0, 0), ...at(1, 0), ...at(1, 1), ...at(0, 0), ...at(1, 1), ...at(0, 1)];
}

export const flatSurround = (r: number, g = r, b = r): SurroundPicture => ({
  width: 8,
  height: 4,
  data: Float32Array.from({ length: 96 }, (_, i) => [r, g, b][i % 3]),
});

/** A scene of flat-shaded triangle lists, one part each. */
export function sceneOf(
  pieces: { triangles: number[]; surface?: Partial<Surface> }[],
  changes: Partial<RenderScene> = {},
): RenderScene {
  const lights: SceneLight[] = changes.lights ?? [];
  const all = pieces.flatMap((p) => p.triangles);
  const normals: number[] = [];
  for (let t = 0; t < all.length; t += 9) {
    const e1 = [0, 1, 2].map((i) => all[t + 3 + i] - all[t + i]);
    const e2 = [0, 1, 2].map((i) => all[t + 6 + i] - all[t + i]);
    const n = [e1[1] * e2[2] - e1[2] * e2[1], e1[2] * e2[0] - e1[0] * e2[2], e1[0] * e2[1] - e1[1] * e2[0]];
    const l = Math.hypot(...n);
    for (let k = 0; k < 3; k++) normals.push(...n.map((v) => v / l));
  }
  const parts: Part[] = [];
  const partOf: number[] = [];
  pieces.forEach((p, i) => {
    const triangles = p.triangles.length / 9;
    parts.push({
      block: null,
      letter: null,
      zone: null,
      colour: null,
      piece: `p${i}`,
      finish: i,
      firstTriangle: partOf.length,
      triangles,
      right: [1, 0, 0],
      out: [0, 0, 1],
    });
    for (let k = 0; k < triangles; k++) partOf.push(i);
  });
  const areas = lights.flatMap((light) => {
    if (light.kind !== 'area') return [];
    const { position, right, up } = light.placed;
    const corner = position.map(
      (v, i) => v - (right[i] * light.width) / 2 - (up[i] * light.height) / 2,
    ) as Vec;
    return quad(corner, right.map((v) => v * light.width) as Vec, up.map((v) => v * light.height) as Vec);
  });
  return {
    positions: Float32Array.from([...all, ...areas]),
    normals: Float32Array.from(normals),
    tangents: Float32Array.from(plainTangents(normals, [1, 0, 0], [0, 0, 1])),
    uv: new Float32Array(partOf.length * 12),
    partOf: Uint32Array.from(partOf),
    geometryTriangles: partOf.length,
    parts,
    finishes: pieces.map((p) => plainSurface(p.surface)),
    lights,
    surround: { picture: flatSurround(0), gain: 1, turn: 0, seen: true },
    typeBox: { min: [-1, -1, -1], max: [1, 1, 1] },
    camera: { target: [0, 0, 0], azimuth: 0, elevation: 0, distance: 1, focal: 50 },
    aspect: 1,
    bounces: 4,
    ...changes,
  };
}

/** A narrow look straight along a direction, so that the whole film sees one spot. */
export const spotView = (origin: Vec, forward: Vec, width = 8): Eye => ({
  width,
  height: width,
  orthographic: true,
  origin,
  forward,
  right: [1e-4, 0, 0],
  up: Math.abs(forward[1]) > 0.9 ? [0, 0, 1e-4] : [0, 1e-4, 0],
  visible: null,
  dress: null,
  bounces: 1,
});

export function tracerFor(scene: RenderScene, view: Eye): PathTracer {
  const memory = kernelMemory(false);
  const layout = buildRayScene(kernelModule, memory, scene.positions, scene.geometryTriangles, 1);
  return new PathTracer(
    new ScenePreparer().prepare(scene),
    new Kernel(kernelModule, memory, layout, 0),
    view,
  );
}

/** The developed film, r g b alpha a pixel. */
export function traced(scene: RenderScene, view: Eye, samples: number, seed = 1): Float32Array {
  const film = createFilm(view.width, view.height);
  tracerFor(scene, view).traceTile(film, 0, 0, view.width, view.height, 0, samples, seed);
  return developed(film, samples);
}

/** Mean of one channel over the film. */
export function meanOf(picture: Float32Array, channel: number): number {
  let sum = 0;
  for (let i = channel; i < picture.length; i += 4) sum += picture[i];
  return sum / (picture.length / 4);
}
