/** The dome of directions laid flat: straight up in the middle, the horizon a ring, a little below it outside. */

/** Of the map's square, and of the ring of its horizon. */
export const DOME_SIZE = 232;
export const DOME_RADIUS = 92;
/** How far beyond the ring directions below the horizon are drawn, in radii. */
const BEYOND = 1.15;

export interface Bearing {
  azimuth: number;
  elevation: number;
}

export function onMap({ azimuth, elevation }: Bearing): [number, number] {
  const r = DOME_RADIUS * Math.min(BEYOND, 1 - elevation / (Math.PI / 2));
  return [DOME_SIZE / 2 + r * Math.sin(azimuth), DOME_SIZE / 2 + r * Math.cos(azimuth)];
}

/** The direction at a place of the map; null outside of what it shows. */
export function fromMap(x: number, y: number): Bearing | null {
  const r = radiusAt(x, y);
  return r > BEYOND ? null : bearingAt(x, y, r);
}

/** The direction at a place of the map, or at the nearest it shows. */
export const nearestFromMap = (x: number, y: number): Bearing =>
  bearingAt(x, y, Math.min(BEYOND, radiusAt(x, y)));

const radiusAt = (x: number, y: number) => Math.hypot(x - DOME_SIZE / 2, y - DOME_SIZE / 2) / DOME_RADIUS;

const bearingAt = (x: number, y: number, r: number): Bearing => ({
  azimuth: Math.atan2(x - DOME_SIZE / 2, y - DOME_SIZE / 2),
  elevation: (1 - r) * (Math.PI / 2),
});
