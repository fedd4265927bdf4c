/** What a surface gives by itself: colour and strength, or the light of a gas, as it is seen and as it is cast. */
import type { Finish, Surface } from '../document/index.ts';
import { luminance } from '../maths/colour.ts';
import { gasColour } from './gases.ts';
import type { Rgb } from './reflectance.ts';

export interface Glow {
  /** Colour, its largest channel at most 1, and the nits it stands for; and their product. */
  colour: Rgb;
  luminance: number;
  nits: Rgb;
  /** What falls on others, as a share of what is seen. */
  cast: number;
}

const rgb = (v: readonly number[]): Rgb => [v[0], v[1], v[2]];

/** Current at which a gas glows with the luminance that is stated, milliamperes. */
const STATED_CURRENT = 30;

/** The light of a surface. */
export function glowOf(surface: Surface): Glow {
  const { emission_color, emission_luminance: stated, emission_cast: cast, emission_gas: gas } = surface;
  if (gas === 'none' || !(stated > 0))
    return {
      colour: rgb(emission_color),
      luminance: stated,
      nits: rgb(emission_color.map((v) => v * Math.max(0, stated))),
      cast,
    };
  const clear = gasColour(gas, surface.emission_gas_second, surface.emission_gas_share);
  const powder = surface.emission_powder_color;
  const bright = luminance(powder[0], powder[1], powder[2]);
  const lit = (stated * surface.emission_current) / STATED_CURRENT;
  const nits = rgb(
    clear.map((v, c) => {
      const mixed = v + ((bright > 0 ? powder[c] / bright : 0) - v) * surface.emission_powder;
      return mixed * emission_color[c] * lit;
    }),
  );
  const most = Math.max(...nits);
  return {
    colour: most > 0 ? rgb(nits.map((v) => v / most)) : [0, 0, 0],
    luminance: most,
    nits,
    cast,
  };
}

/** What finishes glow with, by identifier; null for one that is not among them. */
export const glowsIn =
  (finishes: readonly Pick<Finish, 'id' | 'surface'>[]) =>
  (id: string): Glow | null => {
    const finish = finishes.find((f) => f.id === id);
    return finish ? glowOf(finish.surface) : null;
  };
