/** Where a light must stand for its light to be caught at a place of the type. */
import type { Light } from '../document/index.ts';
import { asin, atan2, cos, sin } from '../maths/reproducible.ts';
import { bearingOf, standingOf, wrapped, type Vec } from './placing.ts';

/** A place on a face: where, its outward normal, and from where the camera looks at it. Metres. */
export interface CaughtAt {
  point: Vec;
  normal: Vec;
  eye: Vec;
  /** Whether the face mirrors, so that the highlight is meant; otherwise the brightest direction. */
  mirrors: boolean;
}

interface Bearing {
  azimuth: number;
  elevation: number;
}

const dot = (a: Vec, b: Vec) => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
const less = (a: Vec, b: Vec): Vec => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
const along = (a: Vec, d: Vec, t: number): Vec => [a[0] + d[0] * t, a[1] + d[1] * t, a[2] + d[2] * t];
const unit = (v: Vec): Vec => {
  const l = Math.sqrt(dot(v, v));
  return [v[0] / l, v[1] / l, v[2] / l];
};

/** Direction from a place in which its light comes; null where the camera does not see it. */
export function caughtFrom({ point, normal, eye, mirrors }: CaughtAt): Vec | null {
  const seen = unit(less(point, eye));
  const facing = dot(seen, normal);
  if (facing >= 0) return null;
  return mirrors ? along(seen, normal, -2 * facing) : normal;
}

/**
 * How a surround must be turned and tilted for a direction of its picture to come from one of the world; it keeps its
 * roll, and of two ways tilts less.
 * @returns null where no turn and tilt bring it there: it would have to be rolled
 */
export function caughtStance(roll: number, picture: Vec, world: Vec): { turn: number; tilt: number } | null {
  const [c, s] = [cos(roll), sin(roll)];
  const [wx, wy, wz] = [c * world[0] + s * world[1], c * world[1] - s * world[0], world[2]];
  const flat = Math.sqrt(picture[0] ** 2 + picture[2] ** 2);
  if (Math.abs(wx) > flat) return null;
  const from = atan2(picture[0], picture[2]);
  const way = flat > 0 ? asin(Math.min(1, Math.max(-1, wx / flat))) : 0;
  const tries = [way, Math.PI - way].map((to) => ({
    turn: wrapped(to - from),
    // from where it then stands, up and out, to where it shall
    tilt: wrapped(atan2(wz, wy) - atan2(flat * cos(to), picture[1])),
  }));
  return tries.sort((a, b) => Math.abs(a.tilt) - Math.abs(b.tilt))[0];
}

/**
 * Azimuth and elevation at which a light is caught at a place, at the distance from its aim that it has.
 * @param centre of the type
 * @returns null where the camera does not see the place
 */
export function caught(light: Light, centre: Vec, at: CaughtAt): Bearing | null {
  const from = caughtFrom(at);
  return from && standsAlong(light, centre, at.point, from);
}

/** Azimuth and elevation at which a light stands on a ray, at the distance from its aim that it has; null for nowhere. */
function standsAlong(light: Light, centre: Vec, from: Vec, way: Vec): Bearing | null {
  if (!('distance' in light)) return bearingOf(way);
  // where the ray leaves the sphere about the aim on which the light stands
  const { at: target, distance } = standingOf(light);
  const aim = centre.map((v, k) => v + target[k]) as Vec;
  const rel = less(from, aim);
  const b = dot(rel, way);
  const within = b * b - dot(rel, rel) + distance * distance;
  return within < 0 ? null : bearingOf(unit(along(rel, way, -b + Math.sqrt(within))));
}

/**
 * Azimuth and elevation at which a light throws the shadow of one place on another.
 * @param caster what stands in its way @param shadow where that is to fall
 * @returns null where it is too near to its aim for that
 */
export function throwing(light: Light, centre: Vec, caster: Vec, shadow: Vec): Bearing | null {
  const way = less(caster, shadow);
  return dot(way, way) > 0 ? standsAlong(light, centre, shadow, unit(way)) : null;
}
