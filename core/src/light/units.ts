/** A light's strength in other units than its own: what it sends out, straight ahead, and to what it aims at. */
import type { Light } from '../document/index.ts';
import { atan, cos, log, sin } from '../maths/reproducible.ts';
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

/** Lumens of a spot of one candela: its intensity over the cone, fading by the square between its edges. */
function coneOf(cone: number, edge: number): number {
  const [inner, outer] = [cos(cone * (1 - edge)), cos(cone)];
  return 2 * Math.PI * (1 - inner + (inner - outer) / 3);
}

/**
 * How much of a unit one of a light's own unit is; null where it has no such strength. Lux are what a plane at the
 * light's aim gets that faces it.
 */
export function inUnit(light: Light, unit: StrengthUnit): number | null {
  switch (light.kind) {
    case 'area':
    case 'card': {
      const { width, height, shape } = light;
      const { distance } = standingOf(light);
      const area = width * height * (shape === 'round' ? Math.PI / 4 : 1);
      // cards light nothing, and what faces of their own give is not reckoned
      if (light.kind === 'card' || shape === 'outline' || shape === 'letters')
        return unit === 'nits' ? 1 : null;
      const r2 = (width * height) / 4;
      const seen =
        shape === 'round' ? r2 / (r2 + distance * distance) : rectangleFactor(width, height, distance);
      return { nits: 1, candela: area, lumen: Math.PI * area, lux: Math.PI * seen }[unit];
    }
    case 'point': {
      const area = Math.PI * light.radius * light.radius;
      const lux = 1 / standingOf(light).distance ** 2;
      if (light.profile) return { nits: null, candela: 1, lumen: light.profile.lumens, lux }[unit];
      return { nits: area > 0 ? 1 / area : null, candela: 1, lumen: 4 * Math.PI, lux }[unit];
    }
    case 'spot':
      return {
        nits: null,
        candela: 1,
        // what patterns and profiles hold back within the cone is not reckoned
        lumen: light.pattern || light.profile ? null : coneOf(light.cone, light.edge),
        lux: 1 / standingOf(light).distance ** 2,
      }[unit];
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

/** Stops that a light gives its aim beyond what another gives its own; null where one of them gives no lux. */
export function stopsAgainst(light: Light, key: Light): number | null {
  const [own, other] = [light, key].map((l) => (inUnit(l, 'lux') ?? 0) * l.strength);
  return own > 0 && other > 0 ? log(own / other) / Math.LN2 : null;
}
