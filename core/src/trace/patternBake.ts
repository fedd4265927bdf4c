/** Noises and patterns as pictures of a square of the block's plane, for formats that have others or none. */
import { newCamera, plainSurface } from '../document/index.ts';
import { opticsOf } from '../finish/optics.ts';
import type { Axis } from '../finish/recipe.ts';
import { SceneBuilder } from '../scene/sceneBuilder.ts';
import { IDENTITY } from '../scene/transform.ts';
import type { RenderScene } from '../scene/renderScene.ts';
import { instantiate, kernelMemory } from './kernel.ts';
import * as K from './kernelLayout.ts';
import { prepared } from './prepare.ts';
import { SceneMemory } from './sceneMemory.ts';

/** Pixels of a side. */
export const PATTERN_PIXELS = 1024;
/** Words of a place as the kernel takes it. */
const PLACE = 8;

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
    lights: [],
    surround: {
      picture: { width: 2, height: 1, data: new Float32Array(6) },
      gain: 0,
      turn: 0,
      seen: false,
      group: 0,
    },
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
  const memory = kernelMemory(shared);
  const { addresses } = prepared(new SceneMemory(module, memory, 1), squareScene(axis, side));
  const kernel = instantiate(module, memory);
  const { lanes } = addresses;
  kernel.init(addresses.top, addresses.instances, lanes);
  kernel.setScene(addresses.instances, addresses.finishes, addresses.sites, lanes);
  const placesAt = lanes + K.LANE_RAYS;
  const out = lanes + K.LANE_HITS;
  const room = K.BATCH_RAYS;
  const floats = new Float32Array(memory.buffer, placesAt, room * PLACE);
  const words = new Int32Array(memory.buffer, placesAt, room * PLACE);
  const found = new Float32Array(memory.buffer, out, room);
  const made = new Uint16Array(PATTERN_PIXELS * PATTERN_PIXELS);
  for (let first = 0; first < made.length; first += room) {
    for (let i = 0; i < room; i++) {
      const x = (((first + i) % PATTERN_PIXELS) + 0.5) / PATTERN_PIXELS;
      const y = 1 - (Math.floor((first + i) / PATTERN_PIXELS) + 0.5) / PATTERN_PIXELS;
      const to = i * PLACE;
      // the lower right triangle, or the upper left one
      const lower = y <= x;
      words[to] = 0;
      words[to + 1] = lower ? 0 : 1;
      floats[to + 2] = lower ? x - y : x;
      floats[to + 3] = lower ? y : y - x;
      floats.set([0, 0, 1], to + 4);
    }
    kernel.axesAt(0, 1, side / PATTERN_PIXELS, placesAt, room, out);
    for (let i = 0; i < room; i++) made[first + i] = Math.round(found[i] * 65_535);
  }
  return made;
}
