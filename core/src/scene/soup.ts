/** Loose triangles as a scene of one solid, for those who only send rays. */
import { opticsOf } from '../finish/optics.ts';
import { newCamera, plainSurface } from '../document/index.ts';
import type { RenderScene } from './renderScene.ts';
import { SceneBuilder } from './sceneBuilder.ts';
import { IDENTITY } from './transform.ts';

/** @param positions nine floats a triangle, metres */
export function soupScene(positions: Float32Array): RenderScene {
  const builder = new SceneBuilder();
  builder.place('soup', IDENTITY);
  const triangles = positions.length / 9;
  if (triangles > 0)
    builder.add(
      {
        key: 'soup',
        triangles,
        positions,
        normals: new Float32Array(positions.length),
        tangents: new Float32Array(positions.length),
        uv: new Float32Array(triangles * 12),
      },
      IDENTITY,
      { block: null, letter: null, piece: 'soup' },
      [{ first: 0, triangles, zone: null, colour: null, finish: 0, group: null }],
    );
  return {
    solids: builder.solids,
    things: builder.things,
    ...builder.built(false),
    textures: [],
    finishes: [opticsOf(plainSurface())],
    within: [0],
    lights: [],
    surround: {
      picture: { width: 2, height: 1, data: new Float32Array(6) },
      gain: 1,
      turn: 0,
      seen: false,
      group: 0,
    },
    groups: ['Surround'],
    typeBox: { min: [0, 0, 0], max: [1, 1, 1] },
    camera: newCamera({ target: [0, 0, 0], elevation: 0, distance: 1 }),
    aspect: 1,
    bounces: 1,
    limits: null,
    time: 0,
  };
}
