import * as fc from 'fast-check';
import { Ray, Vector3 } from 'three';
import { describe, expect, it } from 'vitest';
import { plainSurface, type Camera } from '@wemlox/core/document';
import type { Part, RenderScene } from '@wemlox/core/scene/renderScene';
import { pathOf, viewBoxOf } from '../src/band/glyph.ts';
import * as cells from '../src/engine/cells.ts';
import { PartPicker } from '../src/engine/pick.ts';
import { inPlane, inWorld, onStage } from '../src/stage/projection.ts';
import { draftBuffers, handedOver } from '../src/workers/draftBuffers.ts';

const frame = { x: 24, y: 30, width: 900, height: 506 };
const number = (min: number, max: number) => fc.double({ min, max, noNaN: true });
const aCamera = fc.record({
  target: fc.tuple(number(-2, 2), number(-2, 2), number(-2, 2)),
  azimuth: number(-1.2, 1.2),
  elevation: number(-0.6, 0.9),
  distance: number(4, 40),
  focal: number(18, 120),
}) as fc.Arbitrary<Camera>;

describe('between the world and the stage', () => {
  it('the camera looks at the middle of the frame, a metre to its right is to its right', () => {
    const camera = {
      target: [0, 0.5, 0],
      azimuth: 0,
      elevation: 0,
      distance: 10,
      focal: 36,
    } as unknown as Camera;
    expect(onStage(camera, frame, [0, 0.5, 0])).toEqual([24 + 450, 30 + 253]);
    // focal length and frame are alike: at ten metres the frame is ten metres wide
    expect(onStage(camera, frame, [1, 0.5, 0])![0]).toBeCloseTo(24 + 450 + 90, 9);
    expect(onStage(camera, frame, [0, 1.5, 0])![1]).toBeCloseTo(30 + 253 - 90, 9);
    expect(onStage(camera, frame, [0, 0.5, 11])).toBeNull();
  });

  it('a point of a block comes back from where it is seen', () => {
    fc.assert(
      fc.property(aCamera, number(-1.2, 1.2), number(-3, 3), number(-1, 1), (camera, turn, x, y) => {
        const block = { place: { position: [0.3, 0.2, -0.4] as [number, number, number], turn } };
        const at = onStage(camera, frame, inWorld(block, x, y));
        fc.pre(at !== null && Math.abs(Math.cos(camera.azimuth - turn)) > 0.2);
        const back = inPlane(camera, frame, block, at![0], at![1]);
        expect(back![0]).toBeCloseTo(x, 6);
        expect(back![1]).toBeCloseTo(y, 6);
      }),
    );
  });

  it('a plane seen edge on has no points', () => {
    const camera = {
      target: [0, 0, 0],
      azimuth: Math.PI / 2,
      elevation: 0,
      distance: 5,
      focal: 50,
    } as unknown as Camera;
    expect(inPlane(camera, frame, { place: { position: [0, 0, 0], turn: 0 } }, 474, 283)).toBeNull();
  });
});

describe('pictures of cells', () => {
  const grade = { exposure: 0, view: 'soft' } as const;
  const cell = (key: string, finish: string | null = null) =>
    ({ key, block: 'b', letter: 'l', zone: 'front', finish, width: 4, height: 2 }) as const;
  const index = (id: string) => ['red', 'gold'].indexOf(id) + 1;
  const picture = (key: string, samples: number) =>
    ({ key, samples, pixels: new Uint8ClampedArray(32), width: 4, height: 2 }) as never;

  it('are ordered while they are wanted and have too few samples of this scene', () => {
    let asked = 0;
    cells.whenWanted(() => asked++);
    globalThis.ImageData ??= class {
      constructor(
        readonly data: Uint8ClampedArray,
        readonly width: number,
        readonly height: number,
      ) {}
    } as never;
    const drop = cells.want(cell('a'));
    cells.want(cell('b', 'gold'));
    expect(asked).toBe(2);
    const keys = (version: number, samples: number) =>
      cells.orders(version, samples, grade, index).map((o) => [o.key, o.dress]);
    expect(keys(1, 4)).toEqual([
      ['a', -1],
      ['b', 2],
    ]);
    cells.arrived(picture('a', 4), 1);
    expect(keys(1, 4)).toEqual([['b', 2]]);
    expect(keys(1, 24)).toHaveLength(2);
    expect(keys(2, 4)).toHaveLength(2);
    drop();
    expect(keys(2, 4)).toEqual([['b', 2]]);
  });

  it('wanted anew under the same name outlive the wish they replace', () => {
    const first = cells.want(cell('c'));
    const second = cells.want(cell('c', 'red'));
    first();
    expect(cells.orders(9, 1, grade, index).filter((o) => o.key === 'c')).toMatchObject([{ dress: 1 }]);
    second();
    expect(cells.orders(9, 1, grade, index).filter((o) => o.key === 'c')).toEqual([]);
  });
});

describe('what the draft view is handed', () => {
  const part = (firstTriangle: number, triangles: number, finish: number) =>
    ({ firstTriangle, triangles, finish }) as Part;
  const scene = {
    geometryTriangles: 6,
    // shared memory, and an area light's triangle beyond the geometry
    positions: new Float32Array(new SharedArrayBuffer(7 * 9 * 4)).map((_, i) => i),
    normals: new Float32Array(6 * 9).fill(1),
    finishes: [plainSurface(), plainSurface(), plainSurface()],
    parts: [part(0, 1, 2), part(1, 2, 0), part(3, 1, 2), part(4, 2, 0)],
  } as unknown as RenderScene;

  it('has each triangle once, those of one finish together', () => {
    const { index, groups, corners } = draftBuffers(scene, true);
    expect(groups).toEqual([
      { start: 0, count: 12, finish: 0 },
      { start: 12, count: 6, finish: 2 },
    ]);
    expect([...index]).toEqual([3, 4, 5, 6, 7, 8, 12, 13, 14, 15, 16, 17, 0, 1, 2, 9, 10, 11]);
    expect(corners!.position).toHaveLength(54);
    expect(corners!.position.buffer).toBeInstanceOf(ArrayBuffer);
  });

  it('leaves out corners the page has, and hands over all it made', () => {
    const again = draftBuffers(scene, false);
    expect(again.corners).toBeNull();
    expect(handedOver(again)).toEqual([again.index.buffer]);
    expect(handedOver(draftBuffers(scene, true))).toHaveLength(3);
  });
});

describe('picking', () => {
  /** A square facing +z, as two triangles. */
  const square = (x: number, y: number, z: number, size: number) => [
    ...[x, y, z, x + size, y, z, x + size, y + size, z],
    ...[x, y, z, x + size, y + size, z, x, y + size, z],
  ];
  const picker = new PartPicker({
    positions: Float32Array.from([...square(0, 0, 0, 4), ...square(1, 1, 1, 1), ...square(9, 9, 5, 1)]),
    parts: ['far', 'near', 'aside'].map(
      (letter, i) => ({ letter, firstTriangle: i * 2, triangles: 2 }) as Part,
    ),
  });
  const along = (x: number, y: number, z: number, dz: number) =>
    picker.nearest(new Ray(new Vector3(x, y, z), new Vector3(0, 0, dz)));

  it('finds what is nearest, where it is met, from either side', () => {
    expect(along(1.5, 1.5, 10, -1)).toMatchObject({ part: { letter: 'near' }, point: [1.5, 1.5, 1] });
    expect(along(3, 3, 10, -1)).toMatchObject({ part: { letter: 'far' }, point: [3, 3, 0] });
    expect(along(1.5, 1.5, -10, 1)).toMatchObject({ part: { letter: 'far' } });
    expect(along(1.5, 1.5, 0.5, -1)).toMatchObject({ part: { letter: 'far' } });
    expect(along(5, 5, 10, -1)).toBeNull();
    expect(along(1.5, 1.5, 10, 1)).toBeNull();
  });

  it('agrees with a look at every part alone, for any ray', () => {
    fc.assert(
      fc.property(number(-2, 11), number(-2, 11), number(-0.3, 0.3), number(-0.3, 0.3), (x, y, dx, dy) => {
        const ray = new Ray(new Vector3(x, y, 12), new Vector3(dx, dy, -1).normalize());
        const where = (z: number) => {
          const t = (12 - z) / -ray.direction.z;
          return [x + ray.direction.x * t, y + ray.direction.y * t];
        };
        const on = (z: number, low: number, high: number) => where(z).every((v) => v > low && v < high);
        const expected = on(5, 9, 10) ? 'aside' : on(1, 1, 2) ? 'near' : on(0, 0, 4) ? 'far' : undefined;
        expect(picker.nearest(ray)?.part.letter).toBe(expected);
      }),
    );
  });
});

describe('outlines in the band', () => {
  const square = [Float64Array.from([0, 0, 10.25, 0, 10.25, 20, 0, 20])];

  it('are paths with y down, and boxes about them', () => {
    expect(pathOf(square)).toBe('M0.0 0.0L10.3 0.0L10.3 -20.0L0.0 -20.0Z');
    expect(viewBoxOf(square)).toEqual([0, -20, 10.25, 20]);
    expect(viewBoxOf([])).toEqual([0, -1, 1, 1]);
  });
});
