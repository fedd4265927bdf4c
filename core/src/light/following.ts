/** Lights that follow what glows, or another light: their strength is its, some stops more or less. */
import type { Light } from '../document/index.ts';
import { pow } from '../maths/reproducible.ts';

type Rig = readonly Light[];
/** What finishes glow with, by identifier: colour and nits; null for one that is not there (finish/glow.ts). */
export type Glows = (finish: string) => { colour: readonly number[]; luminance: number } | null;

/** What a light follows, in the number of its own unit, and its hue; null where it follows nothing that is there. */
export function followedBy(
  light: Light,
  rig: Rig,
  glows: Glows,
  passed: readonly string[] = [],
): { strength: number; hue: Pick<Light, 'hue' | 'kelvin' | 'colour'> } | null {
  const { follows } = light;
  if (!follows) return null;
  if (follows.source === 'finish') {
    const glow = glows(follows.id);
    return (
      glow && {
        strength: glow.luminance,
        hue: { hue: 'colour', kelvin: light.kelvin, colour: [...glow.colour] },
      }
    );
  }
  const of = rig.find((l) => l.id === follows.id);
  // around in a ring nothing leads
  if (!of || of.id === light.id || passed.includes(of.id)) return null;
  const { strength, hue, kelvin, colour } = resolved(of, rig, glows, [...passed, light.id]);
  return { strength: of.on ? strength : 0, hue: { hue, kelvin, colour: [...colour] } };
}

/** A light as it shines, with what it follows taken in. */
function resolved(light: Light, rig: Rig, glows: Glows, passed: readonly string[]): Light {
  const leads = followedBy(light, rig, glows, passed);
  if (!leads || !light.follows) return light;
  return {
    ...light,
    strength: leads.strength * pow(2, light.follows.offset),
    ...(light.follows.coloured ? leads.hue : {}),
  };
}

/** The rig as it shines. */
export const followed = (rig: Rig, glows: Glows): Light[] =>
  rig.map((light) => resolved(light, rig, glows, []));
