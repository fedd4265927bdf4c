/** Shadows caught for laying a picture over another: laid over what was there, it is the picture that would have been. */
import { describe, expect, it } from 'vitest';
import { newCamera, type Surface } from '../../src/document/index.ts';
import { catchesShadow } from '../../src/scene/renderScene.ts';
import { developed } from '../../src/trace/developing.ts';
import { shotEye } from '../../src/trace/eye.ts';
import { box, flatSurround, quad, sceneOf, tracedFilm, type SceneChanges } from './sceneFixture.ts';

const SIDE = 32;
const SAMPLES = 512;
/** A floor, and a block that stands on it, half of it in the picture. */
const FLOOR = quad([-4, 0, 4], [8, 0, 0], [0, 0, -8]);
const BLOCK = box([-0.3, 0.05, -0.2], [0.3, 0.5, 0.2]);
const sky = { picture: flatSurround(0.3), gain: 1, turn: 0, seen: false };

interface Setting extends SceneChanges {
  floor?: Partial<Surface>;
  block?: Partial<Surface> | null;
  catches?: true;
  /** Behind all of it. */
  plate?: Partial<Surface>;
}

const matte = { base_color: [0.4, 0.4, 0.4], specular_weight: 0 };
const dark = { base_color: [0.02, 0.02, 0.02], specular_weight: 0 };

/** The floor from above at a slant, under a sky and a small bright one. */
function picture({ floor = matte, block = dark, catches, plate, ...changes }: Setting) {
  const things = [
    { triangles: FLOOR, surface: floor, catches },
    ...(block ? [{ triangles: BLOCK, surface: block }] : []),
    ...(plate
      ? [{ triangles: quad([-40, -40, -6], [80, 0, 0], [0, 80, 0]), surface: plate, stays: true as const }]
      : []),
  ];
  const camera = newCamera({ target: [0, 0.2, 0], elevation: 0.6, azimuth: 0.4, distance: 3, focal: 70 });
  const scene = sceneOf(things, { surround: sky, camera, bounces: 6, ...changes });
  const eye = shotEye(scene, SIDE, SIDE);
  const film = tracedFilm(scene, eye, SAMPLES, 1, { catches: catchesShadow(scene) });
  return developed(film, SAMPLES);
}

/** Greatest difference of means of 4 × 4 pixels, as a share of what there is at most. */
function furthest(a: Float32Array, b: Float32Array): number {
  let most = 0;
  let peak = 0;
  for (let y = 0; y < SIDE; y += 4)
    for (let x = 0; x < SIDE; x += 4)
      for (let c = 0; c < 3; c++) {
        let [p, q] = [0, 0];
        for (let v = y; v < y + 4; v++)
          for (let u = x; u < x + 4; u++) {
            p += a[(v * SIDE + u) * 4 + c] / 16;
            q += b[(v * SIDE + u) * 4 + c] / 16;
          }
        most = Math.max(most, Math.abs(p - q));
        peak = Math.max(peak, q);
      }
  return most / peak;
}

const over = (top: Float32Array, under: Float32Array) => top.map((v, i) => v + (1 - top[i | 3]) * under[i]);

describe('caught shadows', () => {
  it('laid over the empty floor are the floor with all that stands on it', () => {
    const caught = picture({ catches: true });
    const [whole, empty] = [picture({}), picture({ block: null })];
    expect(furthest(whole, empty)).toBeGreaterThan(0.5);
    expect(furthest(over(caught, empty), whole)).toBeLessThan(0.01);
  });

  it('are as right over a floor of another paint', () => {
    const caught = picture({ catches: true });
    const paint = { ...matte, base_color: [0.7, 0.35, 0.1] };
    const [whole, empty] = [picture({ floor: paint }), picture({ floor: paint, block: null })];
    expect(furthest(over(caught, empty), whole)).toBeLessThan(0.02);
  });

  it('hold what the floor mirrors, and the light that falls on it', () => {
    const glossy = { ...matte, specular_roughness: 0.1, specular_weight: 1 };
    const red = {
      base_color: [0, 0, 0],
      specular_weight: 0,
      emission_color: [1, 0, 0],
      emission_luminance: 2,
    };
    const caught = picture({ floor: glossy, block: red, catches: true });
    const of = (block: Partial<Surface> | null) => picture({ floor: glossy, block });
    expect(furthest(over(caught, of(null)), of(red))).toBeLessThan(0.015);
    // its light is seen even over nothing
    const bare = caught.slice();
    let lit = 0;
    for (let i = 0; i < bare.length; i += 4) if (bare[i + 3] < 0.3) lit = Math.max(lit, bare[i]);
    expect(lit).toBeGreaterThan(0.05);
  });

  it('leave the picture open where nothing is', () => {
    const caught = picture({ catches: true, block: null });
    expect(Math.max(...caught)).toBe(0);
  });

  it('let through what stands behind, in the picture itself', () => {
    const plate = {
      base_color: [0, 0, 0],
      specular_weight: 0,
      emission_color: [0.2, 0.5, 0.8],
      emission_luminance: 1,
    };
    // it is seen past the floor and neither lights nor is mirrored
    const alone = picture({ catches: true, block: null, plate });
    const first = [...alone.subarray(0, 4)];
    expect(first[3]).toBeCloseTo(1, 5);
    expect(first[2] / first[0]).toBeCloseTo(4, 2);
    const shadowed = picture({ catches: true, plate });
    for (let i = 3; i < shadowed.length; i += 4) expect(shadowed[i]).toBeCloseTo(1, 5);
    const darkest = Math.min(...shadowed.filter((_, i) => i % 4 === 2));
    expect(darkest).toBeLessThan(0.5 * first[2]);
  });
});
