import { createHash } from 'node:crypto';
import * as fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { RenderScene } from '../../src/scene/renderScene.ts';
import { SceneBuilder } from '../../src/scene/sceneBuilder.ts';
import { IDENTITY } from '../../src/scene/transform.ts';
import { Arena } from '../../src/trace/arena.ts';
import { developed } from '../../src/trace/developing.ts';
import { createFilm } from '../../src/trace/film.ts';
import { Kernel, kernelMemory } from '../../src/trace/kernel.ts';
import { FLOOR } from '../../src/trace/kernelLayout.ts';
import { prepared } from '../../src/trace/prepare.ts';
import { SceneMemory } from '../../src/trace/sceneMemory.ts';
import { halfBits } from '../../src/trace/surroundMap.ts';
import { WaveTracer } from '../../src/trace/waveTracer.ts';
import { OracleTracer } from '../oracle/rays.ts';
import { flattened } from '../../src/scene/flatScene.ts';
import { kernelModule, seeded } from './kernelFixture.ts';
import { flatSurround, quad, sceneOf } from './sceneFixture.ts';

describe('blocks of the kernel’s memory', () => {
  it('never overlap, lie in the memory, and are given back whole', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.boolean(), fc.nat(300_000)), { minLength: 1, maxLength: 60 }),
        (steps) => {
          const memory = kernelMemory(false);
          const arena = new Arena(memory);
          const held: [number, number][] = [];
          for (const [takes, n] of steps) {
            if (takes || held.length === 0) {
              const at = arena.allocate(n);
              expect(at % 64).toBe(0);
              expect(at).toBeGreaterThanOrEqual(FLOOR);
              expect(at + n).toBeLessThanOrEqual(memory.buffer.byteLength);
              for (const [from, length] of held) expect(at + n <= from || from + length <= at).toBe(true);
              held.push([at, Math.max(1, n)]);
            } else {
              arena.release(held.splice(n % held.length, 1)[0][0]);
            }
          }
          for (const [at] of held) arena.release(at);
          expect(arena.used).toBe(0);
          // all of it is one stretch again
          const all = memory.buffer.byteLength - FLOOR;
          expect(arena.allocate(all)).toBe(FLOOR);
        },
      ),
      { numRuns: 60 },
    );
    expect(() => new Arena(kernelMemory(false)).release(FLOOR)).toThrow(/nothing was taken/);
  });
});

/** Boxes of one solid in many places, turned and scaled, before a floor. */
function crowd(count: number, aside = 0): RenderScene {
  const scene = sceneOf([{ triangles: quad([-3, 0, 3], [6, 0, 0], [0, 0, -6]) }], {
    surround: { picture: flatSurround(1), gain: 1, turn: 0, seen: true },
  });
  const builder = new SceneBuilder();
  const random = seeded(4);
  const floor = { ...scene.solids[0], key: 'floor' };
  const box = sceneOf([
    {
      triangles: [
        ...quad([-1, 0, 1], [2, 0, 0], [0, 2, 0]),
        ...quad([1, 0, -1], [-2, 0, 0], [0, 2, 0]),
        ...quad([-1, 2, 1], [2, 0, 0], [0, 0, -2]),
        ...quad([1, 0, 1], [0, 0, -2], [0, 2, 0]),
        ...quad([-1, 0, -1], [0, 0, 2], [0, 2, 0]),
      ],
    },
  ]).solids[0];
  const part = (n: number) => ({ first: 0, triangles: n, zone: null, colour: null, finish: 0, group: null });
  builder.place('floor', IDENTITY);
  builder.add(floor, IDENTITY, { block: null, letter: null, piece: 'floor' }, [part(2)]);
  builder.place('boxes', [1, 0, 0, aside, 0, 1, 0, 0, 0, 0, 1, 0]);
  for (let i = 0; i < count; i++) {
    const [s, turn] = [0.02 + 0.2 * random(), 6 * random()];
    const [c, n] = [s * Math.cos(turn), s * Math.sin(turn)];
    const at = [4 * random() - 2, random(), 4 * random() - 2];
    builder.add(
      { ...box, key: 'box' },
      [c, -n, 0, at[0], n, c, 0, at[1], 0, 0, s, at[2]],
      { block: null, letter: null, piece: `b${i}` },
      [part(10)],
    );
  }
  return { ...scene, solids: builder.solids, things: builder.things, ...builder.built(false) };
}

describe('a tree over trees', () => {
  it('meets what a walk over all triangles in the world meets', () => {
    const scene = crowd(60);
    const flat = flattened(scene);
    const memory = kernelMemory(false);
    const kernel = new Kernel(kernelModule, memory, new SceneMemory(kernelModule, memory, 1).take(scene), 0);
    const oracle = new OracleTracer(flat.positions);
    const firsts = Array.from(scene.parts.instance, (_, i) => flat.first[i]);
    const random = seeded(8);
    let hits = 0;
    for (let k = 0; k < 4000; k++) {
      const o = [6 * random() - 3, 2 * random(), 6 * random() - 3];
      const d = [random() - 0.5, random() - 0.5, random() - 0.5];
      const got = kernel.closest(o[0], o[1], o[2], 1e-4, d[0], d[1], d[2], 1e30);
      const want = oracle.closest(o[0], o[1], o[2], 1e-4, d[0], d[1], d[2], 1e30);
      // turned into a solid's frame a ray near an edge may fall on its other side
      if (got < 0 || want < 0) {
        if (got !== want) expect(Math.min(oracle.hit.b1, oracle.hit.b2, kernel.hit.b1)).toBeLessThan(1e-3);
        continue;
      }
      hits++;
      expect(kernel.hit.t / oracle.hit.t).toBeCloseTo(1, 3);
      if (Math.abs(kernel.hit.t - oracle.hit.t) < 1e-6 * oracle.hit.t)
        expect(firsts[kernel.hit.instance] + got).toBeTypeOf('number');
      const dark = kernel.occluded(o[0], o[1], o[2], 1e-4, d[0], d[1], d[2], oracle.hit.t * 1.001);
      expect(dark).toBe(true);
    }
    expect(hits).toBeGreaterThan(1500);
  });
});

const EYE = {
  width: 24,
  height: 16,
  orthographic: false,
  origin: [0, 1.5, 4] as [number, number, number],
  forward: [0, -0.3, -1] as [number, number, number],
  right: [0.6, 0, 0] as [number, number, number],
  up: [0, 0.4, 0] as [number, number, number],
  visible: null,
  dress: null,
  bounces: 4,
  limits: null,
};

describe('scenes one after the other', () => {
  const picture = (store: SceneMemory, scene: RenderScene, lane = 0) => {
    const tracer = new WaveTracer(kernelModule, store.memory, lane);
    tracer.aim(prepared(store, scene), EYE);
    const film = createFilm(EYE.width, EYE.height, { layers: true });
    tracer.traceTile(film, 0, 0, EYE.width, EYE.height, 0, 4, 1);
    return createHash('sha256').update(Buffer.from(film.sums.buffer)).digest('hex');
  };
  const store = () => new SceneMemory(kernelModule, kernelMemory(false), 2);

  it('look as they do alone, in whatever order they are taken, on any lane', () => {
    const scenes = [
      crowd(5),
      crowd(40),
      crowd(5, 0.3),
      sceneOf([{ triangles: quad([-1, 0, 0], [2, 0, 0], [0, 2, 0]) }]),
    ];
    const alone = scenes.map((scene) => picture(store(), scene));
    const one = store();
    for (const k of [0, 1, 2, 3, 1, 0, 2, 2, 3]) expect(picture(one, scenes[k], k % 2)).toBe(alone[k]);
    expect(new Set(alone).size).toBe(4);
  });

  it('show the surround alone where nothing stands, after others too', () => {
    const one = store();
    picture(one, crowd(5));
    const tracer = new WaveTracer(kernelModule, one.memory, 0);
    const nothing = sceneOf([], { surround: { picture: flatSurround(2), gain: 1, turn: 0, seen: true } });
    for (let k = 0; k < 3; k++) {
      tracer.aim(prepared(one, nothing), EYE);
      const film = createFilm(EYE.width, EYE.height);
      tracer.traceTile(film, 0, 0, EYE.width, EYE.height, 0, 2, 1);
      expect(developed(film, 2).every((v, i) => Math.abs(v - (i % 4 === 3 ? 1 : 2)) < 1e-3)).toBe(true);
    }
  });

  it('build alike solids once, and nothing when something only moves', () => {
    const one = store();
    picture(one, crowd(40));
    // the floor and the box
    expect(one.built).toBe(2);
    const before = one.used;
    for (let k = 1; k < 6; k++) picture(one, crowd(40, k * 0.1));
    expect(one.built).toBe(2);
    // two scenes stand side by side, no more
    expect(one.used).toBeLessThan(before * 2);
  });
});

describe('half floats', () => {
  it('are the nearest ones', () => {
    const value = (h: number) => {
      const [exponent, mantissa] = [h >> 10, h & 1023];
      return exponent === 0 ? mantissa * 2 ** -24 : (1 + mantissa / 1024) * 2 ** (exponent - 15);
    };
    for (let h = 0; h < 0x7c00; h += 7) expect(halfBits(value(h))).toBe(h);
    fc.assert(
      fc.property(fc.double({ min: 0, max: 65000, noNaN: true }), (v) => {
        const h = halfBits(Math.fround(v));
        const error = (k: number) => Math.abs(value(k) - Math.fround(v));
        expect(error(h)).toBeLessThanOrEqual(Math.min(error(Math.max(0, h - 1)), error(h + 1)));
      }),
    );
  });
});
