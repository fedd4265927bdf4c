/** Letters that are moved, turned and sized from where their line has them. */
import { beforeAll, describe, expect, it } from 'vitest';
import {
  newProject,
  newPose,
  plainFinish,
  plainSurface,
  newFeed,
  type Block,
  type Project,
} from '../../src/document/index.ts';
import { flattened } from '../../src/scene/flatScene.ts';
import type { RenderScene } from '../../src/scene/renderScene.ts';
import { bothPoses, isThere, type Pose } from '../../src/stage/pose.ts';
import { developed } from '../../src/trace/developing.ts';
import { shotEye } from '../../src/trace/eye.ts';
import { testMaker } from '../scene/maker.ts';
import { tracedFilm } from '../trace/sceneFixture.ts';

const maker = testMaker();

/** A word of one finish, under a plain sky. */
function project(text: string, change: (block: Block) => void = () => undefined): Project {
  const noisy = plainFinish({
    id: 'noisy',
    name: 'Noisy',
    surface: plainSurface({ specular_weight: 0 }),
    feeds: [
      { ...newFeed('a', 'base_color', [0.9, 0.1, 0.1]), source: 'noise', scale: 0.01, contrast: 3 },
      { ...newFeed('b', 'base_weight', 1), source: 'along', of: 'block' } as ReturnType<typeof newFeed>,
    ],
  });
  const p = newProject('Ostrel', text, [noisy]);
  p.looks[0].chart = [{ finish: 'noisy' }];
  p.looks[0].rig = [];
  p.looks[0].surround = { ...p.looks[0].surround, source: 'painted', id: 'lamp-studio' };
  change(p.blocks[0]);
  return p;
}

const made = async (p: Project): Promise<RenderScene> =>
  (await maker.make(p, p.looks[0].id, p.shots[0].id, 256)).scene;

/** Corners of a letter in the world, and their middle. */
function cornersOf(scene: RenderScene, letter: string): number[][] {
  const flat = flattened(scene);
  const out: number[][] = [];
  for (let p = 0; p < scene.parts.count; p++) {
    if (scene.things[scene.parts.thing[p]].letter !== letter) continue;
    for (let t = flat.first[p]; t < flat.first[p] + scene.parts.triangles[p]; t++)
      for (let k = 0; k < 3; k++) out.push([...flat.positions.subarray(t * 9 + k * 3, t * 9 + k * 3 + 3)]);
  }
  return out;
}
const box = (corners: readonly number[][]) =>
  [0, 1, 2].map((k) => [Math.min(...corners.map((c) => c[k])), Math.max(...corners.map((c) => c[k]))]);

describe('a letter that is moved by itself', () => {
  let rest: RenderScene;
  beforeAll(async () => {
    rest = await made(project('OST'));
  });
  const posedScene = async (each: Partial<Block['each']>, own: Partial<Pose> | null = null) => {
    const p = project('OST', (b) => {
      b.each = { ...b.each, ...each };
      if (own) b.poses = [newPose(b.letters[1], own)];
    });
    return { p, scene: await made(p), letters: p.blocks[0].letters };
  };
  const restLetters = () => [...new Set(rest.things.flatMap((t) => t.letter ?? []))];

  it('stands so far along, up and out as it says, and the others stay', async () => {
    const { scene, letters } = await posedScene({}, { shift: [0.01, 0.02, -0.03] });
    const before = restLetters();
    for (const [i, letter] of letters.entries()) {
      const [was, is] = [cornersOf(rest, before[i]), cornersOf(scene, letter)];
      const by = i === 1 ? [0.01, 0.02, -0.03] : [0, 0, 0];
      expect(is).toHaveLength(was.length);
      expect(
        Math.max(...is.map((c, n) => Math.max(...c.map((v, k) => Math.abs(v - was[n][k] - by[k]))))),
      ).toBeLessThan(1e-6);
    }
  });

  it('turns about its foot, its middle or its head, which stay where they are', async () => {
    const before = restLetters();
    for (const about of ['foot', 'middle', 'head'] as const) {
      const { scene, letters } = await posedScene({ about, roll: Math.PI / 2, tilt: 0, turn: 0 });
      const was = box(cornersOf(rest, before[2]));
      const is = box(cornersOf(scene, letters[2]));
      const middle = (was[0][0] + was[0][1]) / 2;
      const pivot = { foot: was[1][0], middle: (was[1][0] + was[1][1]) / 2, head: was[1][1] }[about];
      // a quarter turn takes (x, y) about the pivot to (−y, x)
      expect(is[0][0]).toBeCloseTo(middle - (was[1][1] - pivot), 5);
      expect(is[0][1]).toBeCloseTo(middle - (was[1][0] - pivot), 5);
      expect(is[1][0]).toBeCloseTo(pivot + (was[0][0] - middle), 5);
      expect(is[1][1]).toBeCloseTo(pivot + (was[0][1] - middle), 5);
      expect(is[2]).toEqual(was[2].map((v) => expect.closeTo(v, 5) as number));
    }
  });

  it('grows about what stays, is not there at nought, and comes twice where all and it are twice as large', async () => {
    const before = restLetters();
    const { scene, letters } = await posedScene({ about: 'foot', size: 2 }, { size: 2 });
    const [was, is] = [box(cornersOf(rest, before[1])), box(cornersOf(scene, letters[1]))];
    for (const k of [0, 1, 2]) expect(is[k][1] - is[k][0]).toBeCloseTo(4 * (was[k][1] - was[k][0]), 5);
    expect(is[1][0]).toBeCloseTo(was[1][0], 5);
    const gone = await posedScene({}, { size: 0 });
    expect(cornersOf(gone.scene, gone.letters[1])).toEqual([]);
    expect(cornersOf(gone.scene, gone.letters[0]).length).toBeGreaterThan(0);
    const off = await posedScene({ on: false });
    expect(off.letters.flatMap((l) => cornersOf(off.scene, l))).toEqual([]);
  });

  it('makes no solid anew', async () => {
    const p = project('OST');
    const of = (each: Partial<Block['each']>): Project => ({
      ...p,
      blocks: [{ ...p.blocks[0], each: { ...p.blocks[0].each, ...each } }],
    });
    await made(of({}));
    const { made: again } = await maker.make(of({ tilt: 1, size: 0.5 }), p.looks[0].id, p.shots[0].id, 256);
    expect(again).toEqual({ laidOut: 0, built: 0 });
  });

  it('takes its noise and its gradients along: the picture is that of the whole word moved so', async () => {
    const by = [0.03, -0.02, 0.05];
    const alone = project('OST', (b) => (b.each.shift = by));
    const whole = project('OST', (b) => (b.place.position = b.place.position.map((v, k) => v + by[k])));
    const camera = { ...alone.shots[0].camera, distance: alone.shots[0].camera.distance * 0.5 };
    const [a, b] = await Promise.all(
      [alone, whole].map(async (p) => {
        p.shots[0].camera = camera;
        const scene = await made(p);
        return developed(tracedFilm(scene, shotEye(scene, 48, 24), 16), 16);
      }),
    );
    const apart = (x: Float32Array, y: Float32Array) =>
      x.reduce((sum, v, i) => sum + Math.abs(v - y[i]), 0) / x.length;
    expect(apart(a, b)).toBeLessThan(0.001);
  });
});

describe('poses', () => {
  it('lie on top of each other in any order', () => {
    const a: Pose = { ...newPose('a'), shift: [1, 2, 3], turn: 0.5, size: 2, on: true };
    const b: Pose = { ...newPose('b'), shift: [-4, 0, 1], tilt: 1, roll: -2, size: 0.25, on: false };
    expect(bothPoses(a, b)).toEqual(bothPoses(b, a));
    expect(bothPoses(a, b)).toEqual({
      shift: [-3, 2, 4],
      turn: 0.5,
      tilt: 1,
      roll: -2,
      size: 0.5,
      on: false,
    });
    expect(isThere(bothPoses(a, b))).toBe(false);
    expect(isThere(a)).toBe(true);
  });
});
