/** Lights in the world: where they stand, what they aim at, how bright they are. */
import type { Light } from '../document/index.ts';
import { blackBody } from '../maths/colour.ts';
import { cos, sin } from '../maths/reproducible.ts';

export type Vec = [number, number, number];

/** A light placed around its target. `forward` points from the light to the target. */
export interface PlacedLight {
  position: Vec;
  forward: Vec;
  right: Vec;
  up: Vec;
  /** Linear Rec.709 in the unit of the light's kind: nits, candela or lux. */
  colour: Vec;
}

/** Linear colour of luminance-weighted strength: strength times a hue of luminance one (or the plain colour). */
export function lightColour(light: Light): Vec {
  const hue = light.hue === 'temperature' ? blackBody(light.kelvin) : light.colour;
  return hue.map((v) => v * light.strength) as Vec;
}

/** Places a light around `centre` (the centre of the type), metres. */
export function placeLight(light: Light, centre: Vec): PlacedLight {
  const target = centre.map((v, i) => v + light.aim[i]) as Vec;
  const ce = cos(light.elevation);
  const away: Vec = [ce * sin(light.azimuth), sin(light.elevation), ce * cos(light.azimuth)];
  const right: Vec = [cos(light.azimuth), 0, -sin(light.azimuth)];
  const up: Vec = [
    away[1] * right[2] - away[2] * right[1],
    away[2] * right[0] - away[0] * right[2],
    away[0] * right[1] - away[1] * right[0],
  ];
  return {
    position: target.map((v, i) => v + away[i] * light.distance) as Vec,
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
