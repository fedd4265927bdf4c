import * as fc from 'fast-check';
import { Matrix4, Ray, Vector3, type DataTexture, type MeshPhysicalMaterial } from 'three';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { MirroredRepeatWrapping } from 'three';
import {
  newCamera,
  newFeed,
  newLight,
  newLook,
  newPiece,
  newGrade,
  newShot,
  plainSurface,
  type Feed,
  type Surface,
} from '@wemlox/core/document';
import { textureOf } from '@wemlox/core/texture/texture';
import { onlyNearly } from '@wemlox/core/finish/rasterised';
import { finishOptics, opticsOf } from '@wemlox/core/finish/optics';
import { runsOf } from '@wemlox/core/scene/runs';
import { SceneBuilder } from '@wemlox/core/scene/sceneBuilder';
import { IDENTITY } from '@wemlox/core/scene/transform';
import type { RenderScene, SceneSolid } from '@wemlox/core/scene/renderScene';
import { pathOf, viewBoxOf } from '../src/band/glyph.ts';
import * as cells from '../src/engine/cells.ts';
import { PartPicker } from '../src/engine/pick.ts';
import { axisOf } from '@wemlox/core/stage/blockPlace';
import { cameraFrame } from '@wemlox/core/stage/camera';
import { inPlane, inWorld, onStage } from '../src/stage/projection.ts';
import { draftMaterial, DraftMaps, tellNear } from '../src/engine/draftMaterial.ts';
import { StageMirror } from '../src/engine/stageMirror.ts';
import { draftFinish } from '../src/workers/draft/shader.ts';
import { DraftPreparer, handedOver, mayBeThinned, MOST_DRAWN } from '../src/workers/draft/buffers.ts';
import { thin } from '../src/workers/draft/simplifier.ts';

const frame = { x: 24, y: 30, width: 900, height: 506 };
const number = (min: number, max: number) => fc.double({ min, max, noNaN: true });
const aCamera = fc
  .record({
    target: fc.tuple(number(-2, 2), number(-2, 2), number(-2, 2)),
    azimuth: number(-1.2, 1.2),
    elevation: number(-0.6, 0.9),
    distance: number(4, 40),
    focal: number(18, 120),
    roll: number(-3, 3),
    shift_x: number(-0.5, 0.5),
    shift_y: number(-0.5, 0.5),
    sensor: number(10, 60),
    view: fc.constantFrom('perspective' as const, 'parallel' as const),
  })
  .map((changes) => newCamera(changes));

describe('between the world and the stage', () => {
  it('the camera looks at the middle of the frame, a metre to its right is to its right', () => {
    const camera = newCamera({ target: [0, 0.5, 0], elevation: 0, distance: 10, focal: 36 });
    expect(onStage(camera, frame, [0, 0.5, 0])).toEqual([24 + 450, 30 + 253]);
    // focal length and frame are alike: at ten metres the frame is ten metres wide
    expect(onStage(camera, frame, [1, 0.5, 0])![0]).toBeCloseTo(24 + 450 + 90, 9);
    expect(onStage(camera, frame, [0, 1.5, 0])![1]).toBeCloseTo(30 + 253 - 90, 9);
    expect(onStage(camera, frame, [0, 0.5, 11])).toBeNull();
  });

  it('a point of a block comes back from where it is seen', () => {
    fc.assert(
      fc.property(
        aCamera,
        number(-1.2, 1.2),
        number(-1, 1),
        number(-3, 3),
        number(-1, 1),
        (camera, turn, lean, x, y) => {
          const position = [0.3, 0.2, -0.4] as [number, number, number];
          const block = { place: { position, turn, tilt: lean, roll: lean / 2 } };
          const { forward } = cameraFrame(camera, 1);
          const facing = axisOf(block.place, 2).reduce((s, v, k) => s + v * forward[k], 0);
          const at = onStage(camera, frame, inWorld(block, x, y));
          fc.pre(at !== null && Math.abs(facing) > 0.2);
          const back = inPlane(camera, frame, block, at![0], at![1]);
          expect(back![0]).toBeCloseTo(x, 6);
          expect(back![1]).toBeCloseTo(y, 6);
        },
      ),
    );
  });

  it('a plane seen edge on has no points', () => {
    const camera = newCamera({ target: [0, 0, 0], azimuth: Math.PI / 2, elevation: 0, distance: 5 });
    expect(
      inPlane(camera, frame, { place: { position: [0, 0, 0], turn: 0, tilt: 0, roll: 0 } }, 474, 283),
    ).toBeNull();
  });
});

describe('pictures of cells', () => {
  const grade = newGrade();
  const camera = newShot().camera;
  const cell = (key: string, finish: string | null = null) =>
    ({ key, block: 'b', letter: 'l', finish, unfolded: null, width: 4, height: 2 }) as const;
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
      cells.orders(version, samples, grade, camera, index).map((o) => [o.key, o.dress]);
    expect(keys(1, 4)).toEqual([
      ['a', -1],
      ['b', 2],
    ]);
    const order = (key: string) => cells.orders(1, 4, grade, camera, index).find((o) => o.key === key)!;
    cells.arrived(picture('a', 4), 1, order('a'));
    expect(keys(1, 4)).toEqual([['b', 2]]);
    expect(keys(1, 24)).toHaveLength(2);
    expect(keys(2, 4)).toHaveLength(2);
    drop();
    expect(keys(2, 4)).toEqual([['b', 2]]);
  });

  it('of unfolded letters are ordered anew for another camera and another unfolding, others are not', () => {
    const shape = () => ({ width: 1, height: 1, zones: new Uint8Array(1), surface: new Float32Array(6) });
    const unfolded = shape();
    const drops = [cells.want({ ...cell('u'), unfolded }), cells.want(cell('v'))];
    const ordered = (at: typeof camera) =>
      cells.orders(5, 4, grade, at, index).filter((o) => 'uv'.includes(o.key));
    for (const order of ordered(camera)) cells.arrived(picture(order.key, 4), 5, order);
    expect(ordered(camera)).toEqual([]);
    expect(ordered({ ...camera, azimuth: 1 }).map((o) => o.key)).toEqual(['u']);
    drops.push(cells.want({ ...cell('u'), unfolded: shape() }));
    expect(ordered(camera).map((o) => o.key)).toEqual(['u']);
    for (const drop of drops) drop();
  });

  it('wanted anew under the same name outlive the wish they replace', () => {
    const first = cells.want(cell('c'));
    const second = cells.want(cell('c', 'red'));
    first();
    expect(cells.orders(9, 1, grade, camera, index).filter((o) => o.key === 'c')).toMatchObject([
      { dress: 1 },
    ]);
    second();
    expect(cells.orders(9, 1, grade, camera, index).filter((o) => o.key === 'c')).toEqual([]);
  });
});

/** A square facing +z, as two triangles. */
const square = (x: number, y: number, z: number, size: number) => [
  ...[x, y, z, x + size, y, z, x + size, y + size, z],
  ...[x, y, z, x + size, y + size, z, x, y + size, z],
];

const solidOf = (key: string, positions: number[]): SceneSolid => ({
  key,
  triangles: positions.length / 9,
  // shared memory, as the worker has it
  positions: new Float32Array(new SharedArrayBuffer(positions.length * 4)).map((_, i) => positions[i]),
  normals: new Float32Array(positions.length).map((_, i) => (i % 3 === 2 ? 1 : 0)),
  tangents: new Float32Array(positions.length),
  uv: new Float32Array((positions.length / 3) * 4),
});

const SECOND = [2, 0, 0, 5, 0, 2, 0, 0, 0, 0, 2, 0];
/** Squares as letters of one block, each with the finish given; the second stands twice as large and aside. */
function squares(finishes: number[], at = 0, raised = 0): RenderScene {
  const builder = new SceneBuilder();
  builder.place('block/b', [1, 0, 0, at, 0, 1, 0, 0, 0, 0, 1, 0]);
  const solid = solidOf('square', square(0, 0, 0, 1));
  finishes.forEach((finish, i) =>
    builder.add(
      solid,
      i === 1 ? SECOND.map((v, k) => (k === 7 ? v + raised : v)) : [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0],
      { block: 'b', letter: `l${i}`, piece: null },
      [
        { first: 0, triangles: 1, zone: 'front', colour: null, finish, group: null },
        { first: 1, triangles: 1, zone: 'side', colour: null, finish: 0, group: null },
      ],
      i === 1 && raised > 0 ? SECOND : undefined,
    ),
  );
  const optics = opticsOf(plainSurface());
  return {
    solids: builder.solids,
    things: builder.things,
    ...builder.built(true),
    finishes: [optics, optics, optics],
    textures: [],
  } as unknown as RenderScene;
}

describe('what the draft is handed', () => {
  it('has each triangle once, those of one finish together, where its letter stands in the block', () => {
    const { placements } = new DraftPreparer().prepare(squares([2, 1]), null);
    expect(placements).toHaveLength(1);
    const [{ drawn, corners, name }] = placements;
    expect(name).toBe('block/b');
    expect(drawn!.groups).toEqual([
      { start: 0, count: 6, finish: 0 },
      { start: 6, count: 3, finish: 1 },
      { start: 9, count: 3, finish: 2 },
    ]);
    expect([...drawn!.index]).toEqual([3, 4, 5, 9, 10, 11, 6, 7, 8, 0, 1, 2]);
    expect(corners!.position.buffer).toBeInstanceOf(ArrayBuffer);
    expect([...corners!.position.subarray(18, 27)]).toEqual([5, 0, 0, 7, 0, 0, 7, 2, 0]);
    expect([...corners!.normal.subarray(18, 21)]).toEqual([0, 0, 1]);
  });

  it('leaves out corners the page has, also when the block has moved, and hands over all it made', () => {
    const preparer = new DraftPreparer();
    // corners, normals, index, and numbers of the one finish that all three are
    expect(handedOver(preparer.prepare(squares([2, 1]), null))).toHaveLength(4);
    const moved = preparer.prepare(squares([1, 1], 9), null);
    expect(moved.placements[0].corners).toBeNull();
    expect(moved.placements[0].matrix[3]).toBe(9);
    expect(handedOver(moved)).toEqual([moved.placements[0].drawn!.index.buffer]);
    // what wears the same is in the same order
    expect(handedOver(preparer.prepare(squares([1, 1], 7), null))).toEqual([]);
    expect(preparer.prepare(squares([1, 1, 1]), null).placements[0].corners).not.toBeNull();
    preparer.forget();
    expect(preparer.prepare(squares([1, 1, 1]), null).placements[0].corners).not.toBeNull();
  });
});

describe('what is too much for a driver without a graphics card', () => {
  /** A wavy sheet of two triangles a square, one half of each finish, in metres. */
  const SIDE = 240;
  const height = (x: number, y: number) => 0.05 * Math.sin(9 * x) * Math.sin(7 * y);
  const corner = (i: number, j: number) => [i / SIDE, j / SIDE, height(i / SIDE, j / SIDE)];
  const sheet = Array.from({ length: SIDE * SIDE }, (_, k) => {
    const [i, j] = [k % SIDE, Math.floor(k / SIDE)];
    const [a, b, c, d] = [corner(i, j), corner(i + 1, j), corner(i, j + 1), corner(i + 1, j + 1)];
    return [...a, ...b, ...d, ...a, ...d, ...c];
  }).flat();
  const solid = solidOf('sheet', sheet);
  const half = SIDE * SIDE;
  const builder = new SceneBuilder();
  builder.place('piece/p', IDENTITY);
  builder.add(solid, IDENTITY, { block: null, letter: null, piece: 'p' }, [
    { first: 0, triangles: half, zone: 'front', colour: null, finish: 0, group: null },
    { first: half, triangles: half, zone: 'front', colour: null, finish: 1, group: null },
  ]);
  const fed = finishOptics({
    surface: plainSurface(),
    feeds: [{ ...newFeed('f', 'base_weight', 1), source: 'up', of: 'letter' }],
    coats: [],
  });
  const scene = {
    ...squares([1]),
    solids: builder.solids,
    things: builder.things,
    ...builder.built(true),
    finishes: [opticsOf(plainSurface()), fed],
  };

  it('is drawn with fewer triangles in the same places, with what its feeds are laid over', () => {
    expect(mayBeThinned(scene)).toBe(true);
    const preparer = new DraftPreparer();
    const [{ drawn, corners, places }] = preparer.prepare(scene, thin).placements;
    const { index, groups } = drawn!;
    expect(index.length / 3).toBeLessThanOrEqual(1.02 * MOST_DRAWN);
    expect(index.length / 3).toBeGreaterThan(MOST_DRAWN / 4);
    expect(groups.map((g) => g.finish)).toEqual([0, 1]);
    expect(groups[1].start).toBe(groups[0].count);
    expect(groups[1].start + groups[1].count).toBe(index.length);
    const { position, normal } = corners!;
    expect(Math.max(...index.subarray(0, 99999))).toBeLessThan(position.length / 3);
    expect(normal).toHaveLength(position.length);
    let area = 0;
    for (let t = 0; t < index.length; t += 3) {
      const at = [0, 1, 2].map((k) => [...position.subarray(index[t + k] * 3, index[t + k] * 3 + 3)]);
      for (const [x, y, z] of at) expect(Math.abs(z - height(x, y))).toBeLessThan(1e-6);
      const [u, v] = [1, 2].map((k) => at[k].map((w, c) => w - at[0][c]));
      area += Math.abs(u[0] * v[1] - u[1] * v[0]) / 2;
    }
    expect(area).toBeGreaterThan(0.97);
    expect(area).toBeLessThan(1.05);
    const box = places!.fedBoxLetter!;
    expect(box).toHaveLength(position.length);
    for (let c = 0; c < box.length; c += 300) expect(box[c + 1]).toBeCloseTo(position[c + 1], 5);
    // nothing of it is sent again while it stays
    const [again] = preparer.prepare(scene, thin).placements;
    expect([again.drawn, again.corners, again.places]).toEqual([null, null, null]);
  });

  it('is drawn whole by others', () => {
    expect(mayBeThinned(squares([1]))).toBe(false);
    const [{ drawn, corners }] = new DraftPreparer().prepare(scene, null).placements;
    expect(drawn!.index).toHaveLength(6 * SIDE * SIDE);
    expect(corners!.position).toHaveLength(sheet.length);
  });
});

describe('letters that move by themselves, in the draft', () => {
  it('are drawn apart, under transforms of their own: their corners are sent once, as they are laid', () => {
    const preparer = new DraftPreparer();
    const [, own] = preparer.prepare(squares([2, 1], 9, 3), null).placements;
    expect(own.name).toBe('block/b/1');
    // nine aside with the block, three up by itself
    own.matrix.forEach((v, k) => expect(v).toBeCloseTo([1, 0, 0, 9, 0, 1, 0, 3, 0, 0, 1, 0][k], 6));
    expect([...own.corners!.position.subarray(0, 9)]).toEqual([5, 0, 0, 7, 0, 0, 7, 2, 0]);
    const [block, higher] = preparer.prepare(squares([2, 1], 9, 4), null).placements;
    expect([block.corners, higher.corners]).toEqual([null, null]);
    expect(higher.matrix[7]).toBeCloseTo(4, 6);
    // at rest it is of the block again
    expect(preparer.prepare(squares([2, 1], 9), null).placements.map((p) => p.name)).toEqual(['block/b']);
  });
});

describe('distances in the draft', () => {
  it('are told to the boxes of what is looked to, and to none that a thing is of itself', () => {
    const near = finishOptics({
      surface: plainSurface(),
      feeds: [{ ...newFeed('a', 'base_weight', 1), source: 'near', toward: 'type', scale: 2 }],
      coats: [],
    });
    const scene = { ...squares([2, 1], 9), finishes: [near, near, near] };
    const { near: boxes } = new DraftPreparer().prepare(scene, null);
    expect(boxes.type.map((v) => Number(v.toFixed(6)))).toEqual([9, 0, 0, 10, 1, 0, 14, 0, 0, 16, 2, 0]);
    expect(boxes.stage).toEqual([]);
    const material = draftMaterial(near, draftFinish(near, []), [], new DraftMaps());
    tellNear(material, boxes);
    const uniforms = uniformsOf(material) as unknown as Record<string, { value: unknown }>;
    expect(uniforms.fedTypeCount.value).toBe(2);
    expect((uniforms.fedType.value as { x: number }[])[3].x).toBe(16);
    expect(uniforms.fedStageCount.value).toBe(0);
    tellNear(material, { type: [], stage: [] });
    expect(uniforms.fedTypeCount.value).toBe(0);
    // nothing is counted where nobody asks
    expect(new DraftPreparer().prepare(squares([2, 1]), null).near).toEqual({ type: [], stage: [] });
  });
});

const uniformsOf = (material: MeshPhysicalMaterial) => {
  const shader = {
    uniforms: {} as Record<string, { value: DataTexture }>,
    vertexShader: '',
    fragmentShader: '',
  };
  material.onBeforeCompile(shader as never, null as never);
  return shader.uniforms;
};

describe('a finish in the draft', () => {
  const fed = (more: Partial<Feed>) =>
    finishOptics({
      surface: plainSurface(),
      feeds: [{ ...newFeed('a', 'specular_roughness', [0.2, 0.4, 0.6]), ...more }],
      coats: [],
    });

  it('is drawn by the same program while its numbers alone change', () => {
    const codeOf = (more: Partial<Feed>) => draftFinish(fed(more), []).code;
    expect(codeOf({ source: 'noise', scale: 0.2, seed: 3, turn: 1 })).toBe(codeOf({ source: 'noise' }));
    expect(codeOf({ source: 'cells' })).not.toBe(codeOf({ source: 'noise' }));
  });

  it('has each of its surfaces as a row, whose numbers are the surface’s', () => {
    const surface = plainSurface({
      base_color: [0.2, 0.4, 0.6],
      specular_roughness: 0.5,
      specular_ior: 1.5,
      emission_color: [1, 0.5, 0],
      emission_luminance: 3,
    });
    const { data, code } = draftFinish(opticsOf(surface), []);
    // one number of the coat's cover, then the row
    const row = [...data.subarray(4, 32)].map((v) => Number(v.toFixed(4)));
    expect(row.slice(0, 4)).toEqual([0.2, 0.4, 0.6, 0.5]);
    expect(row.slice(4, 8)).toEqual([0, 0, 0, 0]);
    expect(row.slice(8, 12)).toEqual([0.04, 0.04, 0.04, 1]);
    expect(row.slice(12, 16)).toEqual([3, 1.5, 0, 0]);
    expect(code).not.toContain('fedNoise');
    expect(code).not.toContain('FED_FILM');
  });

  it('mirrors a filmed metal by the angle, as its table says', () => {
    const optics = opticsOf(
      plainSurface({ base_metalness: 1, thin_film_weight: 1, thin_film_ior: 1.4, thin_film_thickness: 0.4 }),
    );
    const { data, code } = draftFinish(optics, []);
    expect(code).toContain('FED_FILM');
    const over = data.subarray(4 + 28, 4 + 28 + 128);
    for (const [entry, at] of [
      [0, 0],
      [15, 31],
    ])
      for (let c = 0; c < 3; c++) expect(over[entry * 4 + c]).toBeCloseTo(optics.metalOver[c * 32 + at], 6);
  });

  it('says what it only comes near', () => {
    const finish = (more: Partial<Surface>, feeds: Feed[] = []) => ({
      surface: plainSurface(more),
      coats: [],
      feeds,
    });
    const plain = newLook('Plain');
    const shot = newShot();
    const nearly = (finishes: Parameters<typeof onlyNearly>[0], look: Parameters<typeof onlyNearly>[1]) =>
      onlyNearly(finishes, look, shot, [newPiece('floor')]);
    const glass = finish({ transmission_weight: 1 });
    expect(nearly([finish({})], plain)).toEqual([]);
    expect(nearly([glass], plain)).toEqual(['glass']);
    expect(nearly([finish({ transmission_weight: 1, geometry_thin_walled: true })], plain)).toEqual([]);
    const near = { ...newFeed('a', 'base_color', [1, 1, 1]), source: 'near' as const };
    expect(nearly([finish({ subsurface_weight: 1 }, [near]), glass], plain)).toEqual([
      'glass',
      'bodies',
      'distances',
    ]);
    const lit = (light: Parameters<typeof newLight>) => ({ ...plain, rig: [newLight(...light)] });
    for (const kind of ['area', 'spot', 'point', 'directional'] as const)
      expect(nearly([], lit([kind, 'Lamp']))).toEqual([]);
    expect(nearly([], lit(['card', 'Card']))).toEqual(['lights']);
    expect(nearly([], lit(['point', 'Bulb', { radius: 0.02 }]))).toEqual(['lights']);
    expect(nearly([], lit(['area', 'Lamp', { mirrored: false }]))).toEqual(['lights']);
    expect(nearly([], lit(['area', 'Lamp', { mirrored: false, on: false }]))).toEqual([]);
    expect(nearly([], { ...plain, surround: { ...plain.surround, mirrored: false } })).toEqual(['lights']);
    const blurred = { ...shot, motion_blur: true, camera: newCamera({ blurs: true }) };
    expect(onlyNearly([], plain, blurred, [newPiece('floor', { catches: true })])).toEqual([
      'depth',
      'motion',
      'shadows',
    ]);
  });
});

describe('what the type mirrors of its stage in the draft', () => {
  beforeEach(() => void vi.useFakeTimers());
  afterEach(() => void vi.useRealTimers());
  const staged = (at = 0) => {
    const builder = new SceneBuilder();
    builder.place('piece/floor', [1, 0, 0, at, 0, 1, 0, 0, 0, 0, 1, 0]);
    builder.add(
      solidOf('floor', square(0, 0, 0, 9)),
      [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0],
      { block: null, letter: null, piece: 'floor' } as never,
      [{ first: 0, triangles: 2, zone: 'front', colour: null, finish: 0, group: null }],
    );
    return {
      ...builder.built(true),
      finishes: [opticsOf(plainSurface())],
      typeBox: { min: [0, 0, 0], max: [2, 4, 6] },
      surround: { gain: 1, turn: 0 },
      lights: [],
    } as unknown as RenderScene;
  };

  it('is drawn from its middle once the stage rests, and is not drawn again for the same stage', () => {
    const places: number[][] = [];
    const gone: number[] = [];
    const told = vi.fn();
    const mirror = new StageMirror((middle) => {
      places.push(middle.toArray());
      const texture = { number: places.length };
      return { texture, dispose: () => gone.push(texture.number) } as never;
    }, told);
    mirror.look(staged(), '1');
    mirror.look(staged(1), '1');
    expect(mirror.texture).toBeNull();
    vi.advanceTimersByTime(1000);
    expect(places).toEqual([[1, 2, 3]]);
    expect(mirror.texture).toEqual({ number: 1 });
    mirror.look(staged(1), '1');
    vi.advanceTimersByTime(1000);
    expect(told).toHaveBeenCalledTimes(1);
    mirror.look(staged(1), '2');
    // another stage on its way, and back: nothing is drawn
    mirror.look(staged(1), '1');
    vi.advanceTimersByTime(1000);
    expect(told).toHaveBeenCalledTimes(1);
    mirror.look(staged(2), '1');
    vi.advanceTimersByTime(1000);
    expect(gone).toEqual([1]);
    mirror.look(squaresOn(), '1');
    expect([mirror.texture, gone]).toEqual([null, [1, 2]]);
  });
});

/** Type without a stage. */
const squaresOn = () =>
  ({
    ...squares([1, 2]),
    typeBox: { min: [0, 0, 0], max: [2, 4, 6] },
    surround: { gain: 1, turn: 0 },
    lights: [],
  }) as unknown as RenderScene;

describe('what the draft is handed of pictures', () => {
  const texture = textureOf('asset:p:colour', { width: 2, height: 1, data: new Uint8Array(8) }, 'colour');
  /** The same squares, laid out as they lie, the first's front fed from a picture over the letter, or the block. */
  const pictured = (more: Partial<Feed>) => {
    const scene = squares([1, 2]);
    scene.solids.forEach(({ uv, positions }) => {
      for (let i = 0; i < uv.length; i++) uv[i] = positions[Math.floor(i / 4) * 3 + (i % 2)];
    });
    const feed: Feed = {
      ...newFeed('a', 'base_color', [1, 1, 1]),
      source: 'picture',
      picture: { source: 'asset', id: 'p', name: 'p' },
      ...more,
    };
    scene.finishes[1] = finishOptics({ surface: plainSurface(), feeds: [feed], coats: [] });
    scene.textures = [texture];
    return scene;
  };

  it('are their places on each corner, over the letter and over the block', () => {
    const [{ places }] = new DraftPreparer().prepare(pictured({ lay: 'letter' }), null).placements;
    // from the middle of the square, with its sides
    expect([...places!.fedPlaneLetter!.subarray(0, 8)]).toEqual([-0.5, -0.5, 1, 1, 0.5, -0.5, 1, 1]);
    // the block is seven metres wide and two high; the second square is twice as large, and five metres aside
    const [{ places: over }] = new DraftPreparer().prepare(pictured({ lay: 'block' }), null).placements;
    expect([...over!.fedPlaneBlock!.subarray(0, 4)]).toEqual([-3.5, -1, 7, 2]);
    expect([...over!.fedPlaneBlock!.subarray(28, 32)]).toEqual([3.5, -1, 7, 2]);
    expect(Object.keys(over!)).toEqual(['fedPlaneBlock']);
  });

  it('are sent anew when they lie over something else, and not when the picture is moved', () => {
    const preparer = new DraftPreparer();
    expect(preparer.prepare(pictured({}), null).placements[0].places).not.toBeNull();
    const moved = preparer.prepare(pictured({ shift_x: 0.25 }), null);
    expect([moved.placements[0].places, moved.placements[0].corners]).toEqual([null, null]);
    expect(moved.finishes[1]).not.toBeNull();
    expect(preparer.prepare(pictured({ shift_x: 0.25 }), null).finishes).toEqual([null, null, null]);
    expect(preparer.prepare(pictured({ lay: 'word' }), null).placements[0].places).not.toBeNull();
    // without a picture, what was there is taken away
    expect(preparer.prepare(squares([2, 1]), null).placements[0].places).toEqual({});
    expect(preparer.prepare(pictured({}), null).placements[0].places).not.toBeNull();
  });

  it('are a map of the material, with the edges asked for', () => {
    const maps = new DraftMaps();
    const mapOf = (more: Partial<Feed>) => {
      const { finishes, textures } = pictured(more);
      return uniformsOf(draftMaterial(finishes[1], draftFinish(finishes[1], textures), textures, maps))
        .fedPicture0.value;
    };
    const map = mapOf({ edges: 'mirror' });
    expect(map.image).toMatchObject({ width: 2, height: 1 });
    expect(map.wrapS).toBe(MirroredRepeatWrapping);
    // a finish that is moved keeps its picture; one that is gone gives it back
    expect(mapOf({ edges: 'mirror', shift_x: 0.2 })).toBe(map);
    maps.keep([]);
    expect(mapOf({ edges: 'mirror' })).not.toBe(map);
  });
});

const runsIn = ({ solids }: RenderScene) =>
  solids.map((solid) => runsOf(solid, (bytes) => new ArrayBuffer(bytes)));

describe('picking', () => {
  const builder = new SceneBuilder();
  builder.place('block/b', IDENTITY);
  for (const [letter, positions] of [
    ['far', square(0, 0, 0, 4)],
    ['near', square(1, 1, 1, 1)],
    ['aside', square(9, 9, 5, 1)],
  ] as const)
    builder.add(solidOf(letter, positions), IDENTITY, { block: 'b', letter, piece: null }, [
      { first: 0, triangles: 2, zone: 'front', colour: null, finish: 0, group: null },
    ]);
  const scene = {
    solids: builder.solids,
    things: builder.things,
    ...builder.built(false),
    lights: [],
  } as unknown as RenderScene;
  const picker = new PartPicker(scene, runsIn(scene));
  const along = (x: number, y: number, z: number, dz: number) =>
    picker.nearest(new Ray(new Vector3(x, y, z), new Vector3(0, 0, dz)));

  it('finds what is nearest, where it is met, from either side', () => {
    expect(along(1.5, 1.5, 10, -1)).toMatchObject({ letter: 'near', zone: 'front', point: [1.5, 1.5, 1] });
    expect(along(3, 3, 10, -1)).toMatchObject({ letter: 'far', point: [3, 3, 0] });
    expect(along(1.5, 1.5, -10, 1)).toMatchObject({ letter: 'far' });
    expect(along(1.5, 1.5, 0.5, -1)).toMatchObject({ letter: 'far' });
    expect(along(5, 5, 10, -1)).toBeNull();
    expect(along(1.5, 1.5, 10, 1)).toBeNull();
  });

  it('knows the bounds of a letter', () => {
    const { min, max } = picker.boxOf('b', 'near')!;
    [1, 1, 1].forEach((v, i) => expect(min[i]).toBeCloseTo(v, 4));
    [2, 2, 1].forEach((v, i) => expect(max[i]).toBeCloseTo(v, 4));
    expect(picker.boxOf('b', 'none')).toBeNull();
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
        // what passes along an edge may meet it or not
        fc.pre(
          [
            [5, 9, 10],
            [1, 1, 2],
            [0, 0, 4],
          ].every(([z, ...edges]) => where(z!).every((v) => edges.every((e) => Math.abs(v - e) > 1e-6))),
        );
        const expected = on(5, 9, 10) ? 'aside' : on(1, 1, 2) ? 'near' : on(0, 0, 4) ? 'far' : undefined;
        expect(picker.nearest(ray)?.letter).toBe(expected);
      }),
    );
  });
});

describe('picking among many triangles', () => {
  const count = 700;
  const lots = Float32Array.from({ length: count * 9 }, (_, i) => {
    const triangle = Math.floor(i / 9);
    // small ones, strewn in the order of their places along x
    return (i % 3 === 0 ? triangle / 350 - 1 : 0) + 0.4 * Math.sin(i * 12.9898 + Math.floor(i / 3) * 78.233);
  });
  const turned = new Matrix4()
    .makeRotationY(0.7)
    .scale(new Vector3(2, 2, 2))
    .setPosition(0.3, -0.2, 0.1);
  const rows = turned.clone().transpose().elements.slice(0, 12);
  const builder = new SceneBuilder();
  builder.place('block/b', rows);
  // parts begin and end within runs
  builder.add(solidOf('lots', Array.from(lots)), IDENTITY, { block: 'b', letter: 'lots', piece: null }, [
    { first: 50, triangles: 217, zone: 'front', colour: null, finish: 0, group: null },
    { first: 267, triangles: 400, zone: 'side', colour: null, finish: 1, group: null },
  ]);
  const scene = {
    solids: builder.solids,
    things: builder.things,
    ...builder.built(false),
    lights: [],
  } as unknown as RenderScene;
  const picker = new PartPicker(scene, runsIn(scene));

  it('meets what a look at every triangle meets', () => {
    let hits = 0;
    fc.assert(
      fc.property(number(-2.5, 2.5), number(-1, 1), number(-0.2, 0.2), number(-0.2, 0.2), (x, y, dx, dy) => {
        const ray = new Ray(new Vector3(x, y, 6), new Vector3(dx, dy, -1).normalize());
        let least = Infinity;
        const met = new Vector3();
        for (let t = 50; t < 667; t++) {
          const [a, b, c] = [0, 3, 6].map((k) =>
            new Vector3().fromArray(lots, t * 9 + k).applyMatrix4(turned),
          );
          if (ray.intersectTriangle(a!, b!, c!, false, met))
            least = Math.min(least, met.distanceTo(ray.origin));
        }
        const hit = picker.nearest(ray);
        if (least === Infinity) expect(hit).toBeNull();
        else expect(new Vector3().fromArray(hit!.point).distanceTo(ray.origin)).toBeCloseTo(least, 4);
        if (hit) hits++;
      }),
      { numRuns: 300 },
    );
    expect(hits).toBeGreaterThan(50);
  });
});

describe('outlines in the band', () => {
  const outline = [Float64Array.from([0, 0, 10.25, 0, 10.25, 20, 0, 20])];

  it('are paths with y down, and boxes about them', () => {
    expect(pathOf(outline)).toBe('M0.0 0.0L10.3 0.0L10.3 -20.0L0.0 -20.0Z');
    expect(viewBoxOf(outline)).toEqual([0, -20, 10.25, 20]);
    expect(viewBoxOf([])).toEqual([0, -1, 1, 1]);
  });
});
