/** What patterns and profiles let through of a light's beam, on the whole and straight ahead. */
import type { Beam } from '../light/units.ts';
import { luminance } from '../maths/colour.ts';
import { cos, sin } from '../maths/reproducible.ts';
import { throughOf } from './beam.ts';
import type { RenderScene, SceneLight } from './renderScene.ts';

/** Steps from straight ahead to the edge of what is lit, and around. */
const RINGS = 96;
const AROUND = 192;

/**
 * The beam of a spot or point that is thrown through something, in lumens and candela for a candela of strength; null
 * for all other lights, and where its pictures are not at hand. A pattern out of focus counts as if it were in focus.
 */
export function beamOf(light: SceneLight, scene: Pick<RenderScene, 'textures'>): Beam | null {
  const through = throughOf(light, scene);
  if (!through) return null;
  const rgb = [1, 1, 1];
  /** Intensity in a direction right, up and ahead of the light. */
  const sent = (a: number, b: number, c: number): number => {
    through(a, b, c, rgb);
    const out = luminance(rgb[0], rgb[1], rgb[2]);
    if (light.kind !== 'spot') return out;
    const t = (c - light.cosOuter) / Math.max(1e-6, light.cosInner - light.cosOuter);
    return out * Math.min(1, Math.max(0, t)) ** 2;
  };
  const edge = light.kind === 'spot' ? light.cosOuter : -1;
  let sum = 0;
  for (let i = 0; i < RINGS; i++) {
    const c = 1 - ((i + 0.5) / RINGS) * (1 - edge);
    const s = Math.sqrt(1 - c * c);
    for (let k = 0; k < AROUND; k++) {
      const turn = ((k + 0.5) / AROUND) * 2 * Math.PI;
      sum += sent(s * cos(turn), s * sin(turn), c);
    }
  }
  return { lumens: (sum / (RINGS * AROUND)) * 2 * Math.PI * (1 - edge), ahead: sent(0, 0, 1) };
}
