import { Ray, Vector3 } from 'three';
import { describe, expect, it } from 'vitest';
import { newFeed, type Feed } from '@wemlox/core/document';
import type { RenderScene, SceneSolid } from '@wemlox/core/scene/renderScene';
import { runsOf } from '@wemlox/core/scene/runs';
import { SceneBuilder } from '@wemlox/core/scene/sceneBuilder';
import { PartPicker } from '../src/engine/pick.ts';
import { inPicture, sheetOf } from '../src/engine/sheets.ts';

/** A square front of a side of 1 with a side face 0.2 deep behind its right edge, rolled out beside it. */
const corners = [
  [0, 0, 0, 0, 0],
  [1, 0, 0, 1, 0],
  [1, 1, 0, 1, 1],
  [0, 0, 0, 0, 0],
  [1, 1, 0, 1, 1],
  [0, 1, 0, 0, 1],
  [1, 0, 0, 1, 0],
  [1, 0, -0.2, 1.2, 0],
  [1, 1, -0.2, 1.2, 1],
  [1, 0, 0, 1, 0],
  [1, 1, -0.2, 1.2, 1],
  [1, 1, 0, 1, 1],
] as const;
const numbers = (of: (corner: (typeof corners)[number]) => number[]) =>
  Float32Array.from(corners.flatMap(of));
const solid: SceneSolid = {
  key: 'block',
  triangles: 4,
  positions: numbers(([x, y, z]) => [x, y, z]),
  normals: numbers(() => [0, 0, 1]),
  tangents: numbers(() => [1, 0, 0]),
  uv: numbers(([x, y, , u, v]) => [x, y, u, v]),
};

/** In a letter's unit of 0.5 m, 0.3 m across and 0.1 m up in its block, which stands 5 m to the right. */
const scene = (() => {
  const builder = new SceneBuilder();
  builder.place('block/b', [1, 0, 0, 5, 0, 1, 0, 0, 0, 0, 1, 0]);
  builder.add(
    solid,
    [0.5, 0, 0, 0.3, 0, 0.5, 0, 0.1, 0, 0, 0.5, 0],
    { block: 'b', letter: 'l', piece: null },
    [
      { first: 0, triangles: 2, zone: 'front', colour: null, finish: 0, group: null },
      { first: 2, triangles: 2, zone: 'side', colour: null, finish: 0, group: null },
    ],
  );
  return {
    solids: builder.solids,
    things: builder.things,
    ...builder.built(false),
    lights: [],
  } as unknown as RenderScene;
})();
const picker = new PartPicker(
  scene,
  scene.solids.map((s) => runsOf(s, (bytes) => new ArrayBuffer(bytes))),
);
const feed = (more: Partial<Feed>): Feed => ({ ...newFeed('f', 'specular_roughness', 0.5), ...more });
const front = (x: number, y: number) =>
  picker.nearest(new Ray(new Vector3(5.3 + x, 0.1 + y, 3), new Vector3(0, 0, -1)))!;

describe('a place on a face, in the picture that lies on it', () => {
  it('is told for tiles from the middle of the block, by their size, shift and turn', () => {
    const tiles = feed({ lay: 'tiles', tile: 2, shift_x: 0.1 });
    const { at, width } = inPicture(scene, front(0.2, 0.3), tiles, 2);
    expect(width).toBe(2);
    expect(at[0]).toBeCloseTo((0.3 + 0.2) / 2 + 0.5 - 0.1, 5);
    expect(at[1]).toBeCloseTo((0.1 + 0.3) / 1 + 0.5, 5);
    const turned = inPicture(scene, front(0.2, 0.3), { ...tiles, turn: Math.PI / 2, shift_x: 0 }, 1).at;
    expect(turned[0]).toBeCloseTo(0.4 / 2 + 0.5, 5);
    expect(turned[1]).toBeCloseTo(-0.5 / 2 + 0.5, 5);
  });

  it('is told over the letter in shares of it, however large it stands', () => {
    const { at, width } = inPicture(scene, front(0.1, 0.4), feed({ lay: 'letter' }), 1);
    expect(width).toBeCloseTo(0.5, 5);
    expect(at[0]).toBeCloseTo(0.2, 5);
    expect(at[1]).toBeCloseTo(0.8, 5);
  });

  it('goes on over sides, which are rolled out beside the front', () => {
    const side = picker.nearest(new Ray(new Vector3(9, 0.35, -0.05), new Vector3(-1, 0, 0)))!;
    expect(side.zone).toBe('side');
    const { at } = inPicture(scene, side, feed({ lay: 'tiles', tile: 1 }), 1);
    // half the depth of 0.1 m beyond the right edge
    expect(at[0]).toBeCloseTo(0.3 + 0.5 + 0.05 + 0.5, 5);
  });

  it('lies within the sheet that is laid over a block, front and side', () => {
    const [x, y, w, h] = sheetOf(scene, 'b')!;
    expect([x, y]).toEqual([expect.closeTo(0.55, 5), expect.closeTo(0.35, 5)]);
    for (const px of [0.3, 0.8, 0.9]) expect(Math.abs(px - x)).toBeLessThan(w / 2);
    for (const py of [0.1, 0.6]) expect(Math.abs(py - y)).toBeLessThan(h / 2);
    expect(sheetOf(scene, 'none')).toBeNull();
  });
});
