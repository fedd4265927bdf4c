/** What a spot throws, as a picture across its cone, for views that lay pictures before lamps. */
import { encodeSrgb } from '../maths/colour.ts';
import { SOFTEST, throughOf } from './beam.ts';
import type { RenderScene, SceneLight } from './renderScene.ts';

/** Pixels of a side: made while a lamp is pushed about, so no more than a page has time for. */
export const BEAM_SIDE = 128;
/** Cosine of the widest cone that a picture lies across. */
const WIDEST = 0.08;

/**
 * Four sRGB bytes a pixel, its lowest row first; null for lights that are thrown through nothing, and for cones too
 * wide for a picture across them.
 */
export function beamPicture(light: SceneLight, scene: Pick<RenderScene, 'textures'>): Uint8Array | null {
  if (light.kind !== 'spot' || light.cosOuter < WIDEST) return null;
  const through = throughOf(light, scene, Math.round((light.pattern?.soft ?? 0) * SOFTEST), BEAM_SIDE);
  if (!through) return null;
  // half the picture's width a metre before the light
  const half = Math.sqrt(1 - light.cosOuter * light.cosOuter) / light.cosOuter;
  const out = new Uint8Array(BEAM_SIDE * BEAM_SIDE * 4).fill(255);
  const rgb = [0, 0, 0];
  for (let y = 0; y < BEAM_SIDE; y++)
    for (let x = 0; x < BEAM_SIDE; x++) {
      const a = (((x + 0.5) / BEAM_SIDE) * 2 - 1) * half;
      const b = (((y + 0.5) / BEAM_SIDE) * 2 - 1) * half;
      const l = Math.sqrt(a * a + b * b + 1);
      through(a / l, b / l, 1 / l, rgb);
      for (let c = 0; c < 3; c++)
        out[(y * BEAM_SIDE + x) * 4 + c] = Math.round(encodeSrgb(Math.min(1, rgb[c])) * 255);
    }
  return out;
}
