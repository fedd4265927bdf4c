/** Noises and patterns as pictures of a square of the block's plane, for formats that have others or none. */
import { newCamera, plainSurface } from '../document/index.ts';
import { opticsOf } from '../finish/optics.ts';
import type { Axis } from '../finish/recipe.ts';
import { SceneBuilder } from '../scene/sceneBuilder.ts';
import { IDENTITY } from '../scene/transform.ts';
import type { RenderScene } from '../scene/renderScene.ts';
import { AxisPlaces, UNLIT } from './axisPlaces.ts';

/** Pixels of a side. */
export const PATTERN_PIXELS = 1024;

/** A square that faces the viewer, dressed in a finish of one axis. */
function squareScene(axis: Axis, side: number): RenderScene {
  const surface = plainSurface({});
  const recipe = {
    axes: [axis],
    coats: [{ cover: 1, relief: null, surface, fed: [], added: [], grid: [] }],
  };
  const corners = [
    [0, 0],
    [side, 0],
    [side, side],
    [0, 0],
    [side, side],
    [0, side],
  ];
  const six = (v: readonly number[]) => Float32Array.from(corners.flatMap(() => v));
  const builder = new SceneBuilder();
  builder.place('block', IDENTITY);
  builder.add(
    {
      key: `square ${side}`,
      triangles: 2,
      positions: Float32Array.from(corners.flatMap(([x, y]) => [x, y, 0])),
      normals: six([0, 0, 1]),
      tangents: six([1, 0, 0]),
      uv: Float32Array.from(corners.flatMap(([x, y]) => [x, y, x, y])),
    },
    IDENTITY,
    { block: 'block', letter: 'square', piece: null },
    [{ first: 0, triangles: 2, zone: 'front', colour: null, finish: 0, group: null }],
  );
  return {
    solids: builder.solids,
    things: builder.things,
    ...builder.built(false),
    finishes: [{ ...opticsOf(surface), recipe }],
    within: [0],
    textures: [],
    ...UNLIT,
    groups: ['Surround'],
    typeBox: { min: [0, 0, 0], max: [side, side, 0] },
    camera: newCamera({ target: [0, 0, 0], elevation: 0, distance: 1 }),
    aspect: 1,
    bounces: 1,
    limits: null,
    time: 0,
  };
}

/**
 * Where on an axis of a noise or pattern each place of a square lies, 0 … 1 as 16 bits; rows from its top.
 * @param module over shared memory, or not, as `shared` says
 * @param side of the square, metres, from the block's origin to the right and up
 */
export function patternPicture(
  module: WebAssembly.Module,
  shared: boolean,
  axis: Axis,
  side: number,
): Uint16Array {
  const places = new AxisPlaces(module, shared);
  places.take(squareScene(axis, side));
  const room = places.room(1);
  const made = new Uint16Array(PATTERN_PIXELS * PATTERN_PIXELS);
  for (let first = 0; first < made.length; first += room) {
    const count = Math.min(room, made.length - first);
    for (let i = 0; i < count; i++) {
      const x = (((first + i) % PATTERN_PIXELS) + 0.5) / PATTERN_PIXELS;
      const y = 1 - (Math.floor((first + i) / PATTERN_PIXELS) + 0.5) / PATTERN_PIXELS;
      // the lower right triangle, or the upper left one
      if (y <= x) places.put(i, 0, 0, x - y, y, 0, 0, 1);
      else places.put(i, 0, 1, x, y - x, 0, 0, 1);
    }
    places
      .ask(0, 1, side / PATTERN_PIXELS, count)
      .forEach((v, i) => (made[first + i] = Math.round(v * 65_535)));
  }
  return made;
}
