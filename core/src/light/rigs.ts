/** Rigs that stand by themselves: sized to the type they stood around, and brought to the size of another. */
import type { Light, Rig } from '../document/index.ts';

const MOST = 1000;
const length = (v: number, by: number, [low, high]: readonly [number, number]) =>
  Math.min(high, Math.max(low, v * by));
const place = (at: readonly number[], by: number) => at.map((v) => length(v, by, [-MOST, MOST]));

/**
 * A light around type of another size, of the same character there: its places, its own size and its reach grow with
 * the type, and points grow stronger as the square, so that what falls on the type is the same.
 */
export function resized(light: Light, by: number): Light {
  const out = { ...light, aim: place(light.aim, by) };
  if ('place' in out)
    Object.assign(out, { place: place(out.place, by), distance: length(out.distance, by, [0.01, MOST]) });
  switch (out.kind) {
    case 'area':
    case 'card':
      return {
        ...out,
        width: length(out.width, by, [0.001, 100]),
        height: length(out.height, by, [0.001, 100]),
      };
    case 'point':
    case 'spot':
      return {
        ...out,
        radius: length(out.radius, by, [0, 10]),
        near: length(out.near, by, [0.01, 100]),
        strength: length(out.strength, by * by, [0, 10_000_000]),
      };
    default:
      return out;
  }
}

/** Lights as a rig of their own: what of them belongs to their project is left behind. @param size of the type, metres */
export function rigOf(name: string, size: number, lights: readonly Light[]): Rig {
  const own = new Set(lights.map((l) => l.id));
  return {
    name,
    size,
    lights: lights.map((light) => ({
      ...light,
      only: [],
      follows: light.follows?.source === 'light' && own.has(light.follows.id) ? light.follows : null,
    })),
  };
}

/**
 * The lights of a rig for type of a size.
 * @param newId gives each an identifier of its own
 */
export function lightsOf({ lights, size: from }: Rig, size: number, newId: () => string): Light[] {
  const ids = new Map(lights.map((l) => [l.id, newId()]));
  return lights.map((light) => {
    const made = resized(light, size / from);
    const { follows } = made;
    const leads = follows && ids.get(follows.id);
    return { ...made, id: ids.get(light.id)!, follows: leads ? { ...follows, id: leads } : null };
  });
}
