/**
 * Arrangements: lamps that are set as one. Their places and sizes are shares of the size of the type, so that another
 * word, or a larger one, is lit alike.
 */
import { newLight, type Light, type LightOf } from '../document/index.ts';
import { atan2, cos, sin } from '../maths/reproducible.ts';
import { bearingOf, frameOf, type Vec } from './placing.ts';

/** A lamp of an arrangement: where it is across, up and out of the type, in sizes of it. */
interface Lamp {
  across: number;
  up: number;
  out: number;
  /** Sides of a panel along and across the arrangement; a ball of that diameter where there is none. */
  wide?: number;
  high?: number;
  /** Strength beside that of the others. */
  strength?: number;
  /** Whether it has the second colour. */
  other?: boolean;
}

/** Key, fill and rim: azimuth, elevation, strength beside the key's, and how wide they are beside it. */
const TRIAD = [
  [-0.7, 0.7, 1, 1],
  [0.85, 0.25, 0.22, 1.4],
  [2.6, 0.6, 1.3, 0.5],
] as const;

/** The lamps of an arrangement, about its own middle. */
function lampsOf({ form, count, rings, spread, size, away }: LightOf<'array'>): Lamp[] {
  switch (form) {
    case 'ring':
      return Array.from({ length: rings * count }, (_, i) => {
        const ring = Math.floor(i / count);
        const radius = (spread / 2) * ((rings - ring) / rings);
        // rings stand half a step apart
        const turn = (((i % count) + (ring % 2) / 2) / count) * 2 * Math.PI;
        return { across: radius * sin(turn), up: radius * cos(turn), out: away };
      });
    case 'row':
      return Array.from({ length: count }, (_, i) => ({
        across: count === 1 ? 0 : spread * (i / (count - 1) - 0.5),
        up: 0,
        out: away,
      }));
    case 'pair':
      return [1, -1].map((side) => ({
        across: 0,
        up: (side * spread) / 2,
        out: away,
        wide: 1.4,
        high: size,
        other: side < 0,
      }));
    case 'sides':
      return [-1, 1].map((side) => ({
        across: (side * spread) / 2,
        up: 0,
        out: away,
        wide: size,
        high: 1,
        other: side > 0,
      }));
    case 'tent':
      return [
        { across: -spread / 2, up: 0, out: away, wide: spread, high: spread },
        { across: spread / 2, up: 0, out: away, wide: spread, high: spread },
        { across: 0, up: spread / 2, out: away / 2, wide: spread, high: spread },
      ];
    case 'triad':
      return TRIAD.map(([azimuth, elevation, strength, wide]) => ({
        across: away * cos(elevation) * sin(azimuth),
        up: away * sin(elevation),
        out: away * cos(elevation) * cos(azimuth),
        wide: size * wide,
        high: size,
        strength,
      }));
  }
}

/**
 * An arrangement as single lights, each as it would stand by itself.
 * @param size of the type, metres: the longer side of its face
 */
export function arranged(light: LightOf<'array'>, size: number): Light[] {
  const { away, right, up } = frameOf(light);
  const [cr, sr] = [cos(light.slant), sin(light.slant)];
  const along = right.map((v, i) => v * cr + up[i] * sr) as Vec;
  const across = up.map((v, i) => v * cr - right[i] * sr) as Vec;
  return lampsOf(light).map((lamp, i) => {
    const place = away.map((v, k) => (v * lamp.out + along[k] * lamp.across + across[k] * lamp.up) * size);
    const distance = Math.max(1e-3, Math.sqrt(place.reduce((s, v) => s + v * v, 0)));
    const { azimuth, elevation } = bearingOf(place.map((v) => v / distance));
    const own = frameOf({ azimuth, elevation });
    const dot = (a: Vec, b: Vec) => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
    const { id, name, on, solo, hue, kelvin, colour, shadow, diffuse, mirrored, through, aim, only } = light;
    const any = {
      id: `${id}-${i}`,
      name: `${name} ${i + 1}`,
      on,
      solo,
      ...(lamp.other && light.second
        ? { hue: 'colour' as const, kelvin, colour: [...light.other] }
        : { hue, kelvin, colour: [...colour] }),
      shadow,
      diffuse,
      mirrored,
      through,
      aim: [...aim],
      only: [...only],
      azimuth,
      elevation,
      distance,
    };
    const strength = light.strength * (lamp.strength ?? 1);
    if (lamp.wide === undefined) {
      const radius = (light.size * size) / 2;
      // a ball of so many nits, in candela
      return newLight('point', any.name, { ...any, radius, strength: strength * Math.PI * radius * radius });
    }
    return newLight('area', any.name, {
      ...any,
      strength,
      width: lamp.wide * size,
      height: (lamp.high ?? lamp.wide) * size,
      turn: atan2(dot(along, own.up), dot(along, own.right)),
    });
  });
}
