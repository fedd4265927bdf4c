/** How alike finishes look: what finds one by a colour, or by another finish. */
import type { Finish, Surface } from '../document/index.ts';
import { luminance } from '../maths/colour.ts';
import { oklabOf } from '../maths/oklab.ts';
import { glowOf } from './glow.ts';
import { recipeOf } from './recipe.ts';
import { meanSurface } from './recipeMeans.ts';
import { metallic } from './reflectance.ts';

/** What a finish is known by at a glance. */
interface Traits {
  /** OKLab of what it gives, or else sends back facing the viewer. */
  colour: readonly number[];
  /** Shares of metal and glass, whether it glows, roughness, brushing, clear coat, and how far it is fed: 0 … 1 each. */
  kind: readonly number[];
}

/** How much each trait counts beside a step from black to white. */
const WEIGHTS = [0.9, 0.9, 1, 0.5, 0.4, 0.3, 0.35];
/** Hue and chroma count more than lightness, as they do in names. */
const CHROMA = 4;

const known = new WeakMap<Finish, Traits>();

function colourOf(surface: Surface): number[] {
  const { nits } = glowOf(surface);
  const most = Math.max(...nits);
  if (most > 0) return nits.map((v) => v / most);
  const metal = surface.base_metalness;
  const glass = (1 - metal) * surface.transmission_weight;
  const facing = metallic(surface, 1);
  return [0, 1, 2].map(
    (c) =>
      metal * facing[c] +
      glass * surface.transmission_color[c] +
      (1 - metal - glass) * surface.base_color[c] * surface.base_weight,
  );
}

function traitsOf(finish: Finish): Traits {
  let traits = known.get(finish);
  if (!traits) {
    const recipe = recipeOf(finish);
    const surface = recipe ? meanSurface(recipe) : finish.surface;
    const fed = finish.feeds.length + finish.coats.reduce((n, c) => n + 1 + c.feeds.length, 0);
    traits = {
      colour: oklabOf(colourOf(surface)),
      kind: [
        surface.base_metalness,
        (1 - surface.base_metalness) * surface.transmission_weight,
        luminance(...glowOf(surface).nits) > 0 ? 1 : 0,
        surface.specular_roughness,
        surface.specular_roughness_anisotropy,
        surface.coat_weight,
        fed / (1 + fed),
      ],
    };
    known.set(finish, traits);
  }
  return traits;
}

const apart = (a: readonly number[], b: readonly number[]) =>
  Math.hypot(a[0] - b[0], CHROMA * (a[1] - b[1]), CHROMA * (a[2] - b[2]));

/** How far a finish is from a linear colour; 0 is that colour, 1 as far as black from white. */
export const fromColour = (finish: Finish, colour: readonly number[]): number =>
  apart(traitsOf(finish).colour, oklabOf(colour));

/** How far two finishes are from each other; 0 for what cannot be told apart at a glance. */
export function fromFinish(a: Finish, b: Finish): number {
  const [p, q] = [traitsOf(a), traitsOf(b)];
  return Math.hypot(apart(p.colour, q.colour), ...p.kind.map((v, i) => WEIGHTS[i] * (v - q.kind[i])));
}
