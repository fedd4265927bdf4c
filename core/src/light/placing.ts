/** Lights in the world: where they stand, what they aim at, how bright they are. */
import type { Light } from '../document/index.ts';
import { blackBody } from '../maths/colour.ts';
import { acos, asin, atan2, cos, sin } from '../maths/reproducible.ts';

export type Vec = [number, number, number];

/** An angle brought to between −π and π. */
export const wrapped = (v: number) => v - 2 * Math.PI * Math.round(v / (2 * Math.PI));

/** Azimuth and elevation of a unit direction, as lights and panels have them. */
export const bearingOf = ([x, y, z]: readonly number[]): { azimuth: number; elevation: number } => ({
  azimuth: atan2(x, z),
  elevation: asin(Math.min(1, Math.max(-1, y))),
});

/** A light placed around its target. `forward` points from the light to the target. */
export interface PlacedLight {
  position: Vec;
  forward: Vec;
  right: Vec;
  up: Vec;
  /** Linear Rec.709 in the unit of the light's kind: nits, candela or lux. */
  colour: Vec;
}

/** Linear hue of luminance one, or the plain colour. */
export const hueOf = ({ hue, kelvin, colour }: Pick<Light, 'hue' | 'kelvin' | 'colour'>): Vec =>
  (hue === 'temperature' ? blackBody(kelvin) : [...colour]) as Vec;

/** Linear colour of a light's strength behind its gel, which keeps back what it does. */
export const lightColour = (light: Light): Vec =>
  hueOf(light).map((v, c) => v * light.strength * light.gel[c]) as Vec;

/** The way to a light from what it aims at, and its own sides; an area light is turned about that way. */
export function frameOf({
  azimuth,
  elevation,
  turn = 0,
}: Pick<Light, 'azimuth' | 'elevation'> & { turn?: number }): Record<'away' | 'right' | 'up', Vec> {
  const ce = cos(elevation);
  const away: Vec = [ce * sin(azimuth), sin(elevation), ce * cos(azimuth)];
  const flat: Vec = [cos(azimuth), 0, -sin(azimuth)];
  const steep: Vec = [
    away[1] * flat[2] - away[2] * flat[1],
    away[2] * flat[0] - away[0] * flat[2],
    away[0] * flat[1] - away[1] * flat[0],
  ];
  const [c, s] = [cos(turn), sin(turn)];
  return {
    away,
    right: turn === 0 ? flat : (flat.map((v, i) => v * c + steep[i] * s) as Vec),
    up: turn === 0 ? steep : (steep.map((v, i) => v * c - flat[i] * s) as Vec),
  };
}

/** How a light stands to what it looks at: `at` is that, from the centre of the type; the distance of what has none is 1. */
export interface Standing {
  at: Vec;
  azimuth: number;
  elevation: number;
  distance: number;
}

/** Light is never nearer to what it looks at than this, metres. */
const NEAREST = 1e-4;

export function standingOf(light: Light): Standing {
  const { azimuth, elevation, aim } = light;
  const at = [...aim] as Vec;
  // what is infinitely far away stands at any distance
  if (!('stands' in light)) return { at, azimuth, elevation, distance: 1 };
  if (light.stands === 'around') return { at, azimuth, elevation, distance: light.distance };
  const [x, y, z] = light.place;
  if (light.stands === 'facing')
    return {
      at: [x, y, 0],
      azimuth: z < 0 ? Math.PI : 0,
      elevation: 0,
      distance: Math.max(NEAREST, Math.abs(z)),
    };
  const way = [x - at[0], y - at[1], z - at[2]];
  const distance = Math.sqrt(way[0] * way[0] + way[1] * way[1] + way[2] * way[2]);
  if (distance < NEAREST) return { at, azimuth, elevation, distance: NEAREST };
  return { at, ...bearingOf(way.map((v) => v / distance)), distance };
}

/** Places a light around `centre` (the centre of the type), metres. */
export function placeLight(light: Light, centre: Vec): PlacedLight {
  const standing = standingOf(light);
  const target = centre.map((v, i) => v + standing.at[i]) as Vec;
  const { away, right, up } = frameOf({ ...standing, turn: 'turn' in light ? light.turn : 0 });
  return {
    position: target.map((v, i) => v + away[i] * standing.distance) as Vec,
    forward: away.map((v) => -v) as Vec,
    right,
    up,
    colour: lightColour(light),
  };
}

/** Lights that shine: switched on, and if any is solo only those. */
export function shining(rig: readonly Light[]): Light[] {
  const solo = rig.some((l) => l.solo && l.on);
  return rig.filter((l) => l.on && (!solo || l.solo));
}

/** Lights nearer to each other than this, as seen from the type, stand in each other's way, radians. */
const IN_THE_WAY = 0.3;
const STEP_ASIDE = 0.35;

/** Angle between two directions given by azimuth and elevation. */
function angleBetween(
  a: Pick<Light, 'azimuth' | 'elevation'>,
  b: Pick<Light, 'azimuth' | 'elevation'>,
): number {
  const cosine =
    sin(a.elevation) * sin(b.elevation) + cos(a.elevation) * cos(b.elevation) * cos(a.azimuth - b.azimuth);
  return acos(Math.min(1, Math.max(-1, cosine)));
}

/**
 * A place for a light at which none of the rig stands: the wanted one, or the nearest aside that is free, to either
 * side in turn, then higher.
 * @param apart least angle from any of them, radians
 */
export function freePlace(
  rig: readonly Pick<Light, 'azimuth' | 'elevation'>[],
  wanted: Pick<Light, 'azimuth' | 'elevation'>,
  apart = IN_THE_WAY,
): { azimuth: number; elevation: number } {
  const turns = Math.floor((2 * Math.PI) / STEP_ASIDE);
  for (const raised of [0, 0.4, -0.4, 0.8]) {
    const elevation = Math.min(1.5, Math.max(-1.5, wanted.elevation + raised));
    for (let k = 0; k <= turns; k++) {
      const turned = wanted.azimuth + Math.ceil(k / 2) * STEP_ASIDE * (k % 2 ? 1 : -1);
      const azimuth = atan2(sin(turned), cos(turned));
      const place = { azimuth: k === 0 ? wanted.azimuth : azimuth, elevation };
      if (rig.every((l) => angleBetween(l, place) > apart)) return place;
    }
  }
  return { azimuth: wanted.azimuth, elevation: wanted.elevation };
}
