import { plainSurface, type Surface } from '../../src/document/index.ts';
import type { Vec } from '../../src/light/placing.ts';
import type { SurroundPicture } from '../../src/light/surround.ts';
import { opticsOf } from '../../src/finish/optics.ts';
import type { RenderScene, SceneLight, SceneSurround } from '../../src/scene/renderScene.ts';
import { SceneBuilder } from '../../src/scene/sceneBuilder.ts';
import { IDENTITY } from '../../src/scene/transform.ts';
import { plainTangents } from '../../src/scene/tangents.ts';
import { buildRayScene, Kernel, kernelMemory } from '../../src/trace/kernel.ts';
import { createFilm, developed } from '../../src/trace/film.ts';
import { PathTracer } from '../../src/trace/pathTracer.ts';
import { ScenePreparer } from '../../src/trace/prepare.ts';
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

type Loose<T> = T extends unknown ? Omit<T, 'id' | 'group'> : never;

/** A light without the numbers that follow from its place in the scene. */
export type TestLight = Loose<SceneLight>;

/** A scene's changes, without the numbers that only follow from their place. */
export type SceneChanges = Omit<Partial<RenderScene>, 'lights' | 'surround'> & {
  lights?: TestLight[];
  surround?: Loose<SceneSurround>;
};

/** A scene of flat-shaded triangle lists, one part each. */
export function sceneOf(
  pieces: { triangles: number[]; surface?: Partial<Surface> }[],
  changes: SceneChanges = {},
): RenderScene {
  const builder = new SceneBuilder();
  builder.place('fixture', IDENTITY);
  pieces.forEach(({ triangles: all }, i) => {
    const normals: number[] = [];
    for (let t = 0; t < all.length; t += 9) {
      const e1 = [0, 1, 2].map((k) => all[t + 3 + k] - all[t + k]);
      const e2 = [0, 1, 2].map((k) => all[t + 6 + k] - all[t + k]);
      const n = [e1[1] * e2[2] - e1[2] * e2[1], e1[2] * e2[0] - e1[0] * e2[2], e1[0] * e2[1] - e1[1] * e2[0]];
      const l = Math.hypot(...n);
      for (let k = 0; k < 3; k++) normals.push(...n.map((v) => v / l));
    }
    const triangles = all.length / 9;
    const solid = {
      key: `solid ${i}`,
      triangles,
      positions: Float32Array.from(all),
      normals: Float32Array.from(normals),
      tangents: Float32Array.from(plainTangents(normals, [1, 0, 0], [0, 0, 1])),
      uv: new Float32Array(triangles * 12),
    };
    const part = { first: 0, triangles, zone: null, colour: null, finish: i, group: null };
    builder.add(solid, IDENTITY, { block: null, letter: null, piece: `p${i}` }, [part]);
  });
  const { lights = [], surround, ...rest } = changes;
  return {
    solids: builder.solids,
    things: builder.things,
    ...builder.built(false),
    finishes: pieces.map((p) => opticsOf(plainSurface(p.surface))),
    lights: lights.map((l, i) => ({ ...l, id: `light-${i}`, group: i }) as SceneLight),
    surround: {
      ...(surround ?? { picture: flatSurround(0), gain: 1, turn: 0, seen: true }),
      group: lights.length,
    },
    groups: [...lights.map((l) => l.name), 'Surround'],
    typeBox: { min: [-1, -1, -1], max: [1, 1, 1] },
    camera: { target: [0, 0, 0], azimuth: 0, elevation: 0, distance: 1, focal: 50 },
    aspect: 1,
    bounces: 4,
    time: 0,
    ...rest,
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
  const prepared = new ScenePreparer().prepare(scene);
  const { positions, geometryTriangles } = prepared.flat;
  const layout = buildRayScene(kernelModule, memory, positions, geometryTriangles, 1);
  return new PathTracer(prepared, new Kernel(kernelModule, memory, layout, 0), view);
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
