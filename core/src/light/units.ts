/** A light's strength in other units than its own: what it sends out, straight ahead, and to what it aims at. */
import type { Light } from '../document/index.ts';
import { atan, atan2, cos, log, sin } from '../maths/reproducible.ts';
import { standingOf } from './placing.ts';

export const STRENGTH_UNITS = ['nits', 'candela', 'lumen', 'lux'] as const;
export type StrengthUnit = (typeof STRENGTH_UNITS)[number];

/**
 * Share of what a plane sees that is a rectangle w × h at a distance straight before it, facing it (Howell, A Catalog of
 * Radiation Heat Transfer Configuration Factors, B-3, four corners).
 */
function rectangleFactor(w: number, h: number, distance: number): number {
  const [x, y] = [w / 2 / distance, h / 2 / distance];
  const [rx, ry] = [Math.sqrt(1 + x * x), Math.sqrt(1 + y * y)];
  return (2 / Math.PI) * ((x / rx) * atan(y / rx) + (y / ry) * atan(x / ry));
}

/** The face of a light that is no rectangle, in shares of its width and height from its middle. */
export interface GlowingFace {
  /** Nine floats a triangle, in the plane z = 0. */
  positions: Float32Array;
  /** Share of width times height. */
  area: number;
}

/**
 * The same of triangles: half the sum over their edges of the angle they are seen under times how far the plane through
 * edge and eye leans (Lambert's formula; Arvo, Applications of Irradiance Tensors, 1995).
 */
function facesFactor({ positions: p }: GlowingFace, width: number, height: number, distance: number): number {
  let sum = 0;
  for (let t = 0; t < p.length; t += 9) {
    let around = 0;
    for (let k = 0; k < 3; k++) {
      const [i, j] = [t + k * 3, t + ((k + 1) % 3) * 3];
      const [ax, ay, bx, by] = [p[i]! * width, p[i + 1]! * height, p[j]! * width, p[j + 1]! * height];
      const [cx, cy, cz] = [(ay - by) * distance, (bx - ax) * distance, ax * by - ay * bx];
      const cross = Math.sqrt(cx * cx + cy * cy + cz * cz);
      if (cross > 0) around += (atan2(cross, ax * bx + ay * by + distance * distance) * cz) / cross;
    }
    // files wind as they like: all of it is before the eye
    sum += Math.abs(around);
  }
  return sum / (2 * Math.PI);
}

/** Lumens of a spot of one candela: its intensity over the cone, fading by the square between its edges. */
function coneOf(cone: number, edge: number): number {
  const [inner, outer] = [cos(cone * (1 - edge)), cos(cone)];
  return 2 * Math.PI * (1 - inner + (inner - outer) / 3);
}

/** What is thrown of a candela of strength through patterns and profiles: on the whole, and straight ahead in candela. */
export interface Beam {
  lumens: number;
  ahead: number;
}

/** What only the scene knows of a light: the face of one that is no rectangle, the beam of one thrown through something. */
export interface LightFacts {
  face?: GlowingFace | null;
  beam?: Beam | null;
}

/**
 * How much of a unit one of a light's own unit is; null where it has no such strength. Lux are what a plane at the
 * light's aim gets that faces it.
 * @param facts without its face an area light that is no rectangle is only known in nits; without its beam a light that
 * is thrown through something has neither lumens nor lux
 */
export function inUnit(
  light: Light,
  unit: StrengthUnit,
  { face = null, beam = null }: LightFacts = {},
): number | null {
  switch (light.kind) {
    case 'area':
    case 'card': {
      const { width, height, shape } = light;
      const { distance } = standingOf(light);
      const own = shape === 'outline' || shape === 'letters';
      // cards light nothing
      if (light.kind === 'card' || (own && !face)) return unit === 'nits' ? 1 : null;
      const area = width * height * (own ? face!.area : shape === 'round' ? Math.PI / 4 : 1);
      const r2 = (width * height) / 4;
      const seen = own
        ? facesFactor(face!, width, height, distance)
        : shape === 'round'
          ? r2 / (r2 + distance * distance)
          : rectangleFactor(width, height, distance);
      return { nits: 1, candela: area, lumen: Math.PI * area, lux: Math.PI * seen }[unit];
    }
    case 'point': {
      const area = Math.PI * light.radius * light.radius;
      const lux = 1 / standingOf(light).distance ** 2;
      if (light.profile)
        return { nits: null, candela: 1, lumen: light.profile.lumens, lux: beam && beam.ahead * lux }[unit];
      return { nits: area > 0 ? 1 / area : null, candela: 1, lumen: 4 * Math.PI, lux }[unit];
    }
    case 'spot': {
      const lux = 1 / standingOf(light).distance ** 2;
      if (light.pattern || light.profile)
        return { nits: null, candela: 1, lumen: beam && beam.lumens, lux: beam && beam.ahead * lux }[unit];
      return { nits: null, candela: 1, lumen: coneOf(light.cone, light.edge), lux }[unit];
    }
    case 'directional': {
      const sine = sin(Math.min(Math.PI / 2, light.size / 2));
      return { nits: sine > 0 ? 1 / (Math.PI * sine * sine) : null, candela: null, lumen: null, lux: 1 }[
        unit
      ];
    }
    case 'ambient':
      return { nits: 1, candela: null, lumen: null, lux: Math.PI }[unit];
    case 'array':
      return unit === 'nits' ? 1 : null;
  }
}

/**
 * Stops that a light gives its aim beyond what another gives its own; null where one of them gives no lux.
 * @param factsOf tells what the scene knows of them
 */
export function stopsAgainst(
  light: Light,
  key: Light,
  factsOf: (light: Light) => LightFacts = () => ({}),
): number | null {
  const [own, other] = [light, key].map((l) => (inUnit(l, 'lux', factsOf(l)) ?? 0) * l.strength);
  return own > 0 && other > 0 ? log(own / other) / Math.LN2 : null;
}
