import { describe, expect, it } from 'vitest';
import type { Surface } from '../../src/document/index.ts';
import { box, flatSurround, meanOf, sceneOf, spotView, traced } from './sceneFixture.ts';

const OUTER = box([-1, -1, -1], [1, 1, 1]);
const INNER = box([-0.4, -0.4, -0.5], [0.4, 0.4, 0.3]);
const glass = (changes: Partial<Surface>): Partial<Surface> => ({
  transmission_weight: 1,
  specular_roughness: 0,
  transmission_depth: 1,
  ...changes,
});

/** What is seen straight through pieces, in a white surround, red and blue. */
function through(pieces: { triangles: number[]; surface: Partial<Surface> }[]) {
  const scene = sceneOf(pieces, {
    surround: { picture: flatSurround(1), gain: 1, turn: 0, seen: true },
    bounces: 40,
  });
  const picture = traced(scene, { ...spotView([0.1, 0.13, 4], [0, 0, -1]), bounces: 40 }, 600);
  return [meanOf(picture, 0), meanOf(picture, 2)];
}

const RED = [0.9, 0.6, 0.3];
const BLUE = [0.2, 0.5, 0.8];

describe('glass within glass', () => {
  it('absorbs by the way in each, the inner in place of the outer', () => {
    const clear = { specular_ior: 1 };
    const got = through([
      { triangles: OUTER, surface: glass({ ...clear, transmission_color: RED }) },
      { triangles: INNER, surface: glass({ ...clear, transmission_color: BLUE }) },
    ]);
    // two metres, of which 0.8 are the inner's
    [0, 2].forEach((c, i) => expect(got[i]).toBeCloseTo(RED[c] ** 1.2 * BLUE[c] ** 0.8, 2));
  });

  it('is not seen where both are the same', () => {
    const same = glass({ specular_ior: 1.5, transmission_color: RED });
    const alone = through([{ triangles: OUTER, surface: same }]);
    const nested = through([
      { triangles: OUTER, surface: same },
      { triangles: INNER, surface: same },
    ]);
    nested.forEach((v, i) => expect(v).toBeCloseTo(alone[i], 2));
  });

  it('mirrors as little as their indices differ', () => {
    // all light is let through or mirrored: what the inner mirrors is seen as the dark surround behind the camera
    const half = (() => {
      const data = new Float32Array(64 * 32 * 3).fill(0);
      for (let y = 0; y < 32; y++)
        for (let x = 0; x < 64; x++) if (x < 32) data.set([1, 1, 1], (y * 64 + x) * 3);
      return { width: 64, height: 32, data };
    })();
    const seen = (inner: Partial<Surface>[]) => {
      const scene = sceneOf(
        [
          { triangles: OUTER, surface: glass({ specular_ior: 1.5 }) },
          ...inner.map((surface) => ({ triangles: INNER, surface: glass(surface) })),
        ],
        { surround: { picture: half, gain: 1, turn: 0, seen: true }, bounces: 40 },
      );
      return meanOf(traced(scene, { ...spotView([0.1, 0.13, 4], [0, 0, -1]), bounces: 40 }, 3000), 1);
    };
    const [none, some] = [seen([]), seen([{ specular_ior: 1.9 }])];
    const face = (a: number, b: number) => ((a - b) / (a + b)) ** 2;
    // faces in a row, incoherent: T of each adds as (1 − T) / T
    const total = (faces: number[]) => 1 / (1 + faces.reduce((sum, r) => sum + r / (1 - r), 0));
    const [want, wanted] = [
      total([face(1, 1.5), face(1, 1.5)]),
      total([face(1, 1.5), face(1.5, 1.9), face(1.5, 1.9), face(1, 1.5)]),
    ];
    const lit = Math.max(none, 1 - none);
    expect(Math.abs(lit - want)).toBeLessThan(0.01);
    expect(Math.abs(Math.max(some, 1 - some) - wanted)).toBeLessThan(0.01);
  });
});

describe('glass that overlaps', () => {
  const near = box([-1, -1, 0], [1, 1, 1]);
  const far = box([-1, -1, -1], [1, 1, 0.5]);
  const clear = { specular_ior: 1 };

  it('is of higher priority where both are', () => {
    const [low, high] = [
      { triangles: near, surface: glass({ ...clear, transmission_color: RED }) },
      {
        triangles: far,
        surface: glass({ ...clear, transmission_color: BLUE, transmission_priority: 3 }),
      },
    ];
    // half a metre of the first, one and a half of the second
    [0, 2].forEach((c, i) => {
      expect(through([low, high])[i]).toBeCloseTo(RED[c] ** 0.5 * BLUE[c] ** 1.5, 2);
      expect(through([high, low])[i]).toBeCloseTo(RED[c] ** 0.5 * BLUE[c] ** 1.5, 2);
    });
    const turned = [
      { ...low, surface: { ...low.surface, transmission_priority: 3 } },
      { ...high, surface: { ...high.surface, transmission_priority: 1 } },
    ];
    [0, 2].forEach((c, i) => expect(through(turned)[i]).toBeCloseTo(RED[c] * BLUE[c], 2));
  });

  it('of one kind is one piece', () => {
    const same = glass({ specular_ior: 1.5, transmission_color: RED });
    const whole = through([{ triangles: OUTER, surface: same }]);
    const parts = through([
      { triangles: near, surface: same },
      { triangles: far, surface: same },
    ]);
    parts.forEach((v, i) => expect(v).toBeCloseTo(whole[i], 2));
  });
});
