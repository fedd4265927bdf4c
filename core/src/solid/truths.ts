/** What must hold of a bevelled letter, whatever its outline: measured on the solid as it is made. */
import { newBevel, type Profile } from '../document/index.ts';
import { diagramOf } from '../plane/diagram.ts';
import type { Contour } from '../plane/flatten.ts';
import { bevelLimits } from './limits.ts';
import { areaOf, grown } from '../plane/region.ts';
import { buildSolid } from './solid.ts';
import { crossings, openEdges, thinnest, volume, type Queries } from './soundness.ts';

const DEPTH = 150;
const HEIGHT = 60;
const SMALL = 8;
const SEGMENTS = 5;
const PROFILES: readonly Profile[] = ['straight', 'round', 'cove', 'step'];
/** Volumes and areas agree within this share. */
const EXACT = 1e-3;
/** No triangle is lower, thousandths of an em: a hundredth of a nanometre on a capital of a centimetre. */
const THINNEST = 1e-6;

export interface Tried {
  width: number;
  profile: Profile;
}

/** Bevels to try on a region: none, a small one, the widest that leaves a flat front, one past the ridge. */
export function bevelsFor(region: Contour[]): Tried[] {
  const diagram = diagramOf(region);
  if (!diagram) return [];
  const { flat, ridge } = bevelLimits(diagram);
  return [
    { width: 0, profile: 'straight' },
    ...[SMALL, flat * 0.98, ridge * 1.2].flatMap((width) => PROFILES.map((profile) => ({ width, profile }))),
  ];
}

/**
 * What is wrong with a region's solid: whether it is closed, has no triangle without area, the volume and the flat
 * front it must have, and crosses itself nowhere.
 * @param over the queries over a solid's triangles
 * @returns null when it is sound
 */
export function faultOf(
  region: Contour[],
  { width, profile }: Tried,
  over: (positions: Float32Array) => Queries,
): string | null {
  const none = newBevel({ width: 0, height: 0, profile: 'straight', segments: 1 });
  const front = width > 0 ? newBevel({ width, height: HEIGHT, profile, segments: SEGMENTS }) : none;
  const { positions, zoneStarts } = buildSolid(region, { depth: DEPTH, front, back: none });
  const open = openEdges(positions);
  if (open > 0) return `${open} open edges`;
  const thin = thinnest(positions);
  if (thin < THINNEST) return `a triangle ${thin} high`;
  const whole = volume(positions);
  const prism = areaOf(region) * DEPTH;
  if (width === 0 ? Math.abs(whole / prism - 1) > EXACT : !(whole > 0 && whole < prism * (1 + EXACT)))
    return `volume ${whole / prism}`;
  let twice = 0;
  for (let t = 0; t < zoneStarts[1] * 9; t += 9) {
    const p = positions;
    twice += (p[t + 3] - p[t]) * (p[t + 7] - p[t + 1]) - (p[t + 6] - p[t]) * (p[t + 4] - p[t + 1]);
  }
  // the exact flat front: the outline moved inward, its reflex corners round
  const flat = width > 0 ? areaOf(grown(region, -width, 'round')) : areaOf(region);
  if (Math.abs(twice / 2 - flat) > EXACT * areaOf(region)) return `front ${twice / 2 / flat}`;
  const crossed = crossings(positions, over(positions));
  return crossed > 0 ? `${crossed} crossings` : null;
}
