/**
 * A surface interpreted once: what light meets, with all that depends on names, switches and units resolved. The
 * tracer, the draft and files are made from this, never from the surface itself.
 */
import type { Finish, Surface } from '../document/index.ts';
import { linearOf, oklabOf } from '../maths/oklab.ts';
import { cos, log, sin } from '../maths/reproducible.ts';
import { luminance } from '../maths/colour.ts';
import { meanGlow, meanSurface, recipeOf, type Recipe } from './recipe.ts';
import { effectiveIor, metallic, type Rgb } from './reflectance.ts';

/** Entries of the metal's reflectance; entry i stands for the cosine (i / (ENTRIES − 1))². */
export const ENTRIES = 32;
/** Darkest glass: less light than this share is not told apart from none. */
const DARKEST = 1e-4;

export interface Optics {
  /** Alike keys, alike surfaces. */
  key: string;
  /** Shares of the surface; together 1. */
  metal: number;
  glass: number;
  opaque: number;
  /** A sheet without thickness. */
  thin: boolean;
  /** Roughness and anisotropy as OpenPBR has them, and the turn away from the outline's direction, radians. */
  roughness: number;
  anisotropy: number;
  turn: number;
  /** Index of the dielectric, and the one its weight makes of it. */
  ior: number;
  iorWeighted: number;
  specularWeight: number;
  specular: Rgb;
  /** Reflectance of the opaque body, and the weight in it. */
  body: Rgb;
  diffuseRoughness: number;
  /** The metal is a measured one, not given by its colour. */
  measured: boolean;
  /** Reflectance of the metal facing the viewer, and over the cosine: ENTRIES of red, then green, then blue. */
  metalFacing: Rgb;
  metalOver: Float32Array;
  /** Colour that glass gives light at its surface; white where its depth does. */
  tint: Rgb;
  /** Depth in metres at which white light has become `depthColour`; infinite where the surface tints. */
  depth: number;
  depthColour: Rgb;
  /** Absorbed a metre. */
  absorption: Rgb;
  coat: { weight: number; colour: Rgb; roughness: number; ior: number };
  /** Colour and luminance in nits of what it gives, and their product. */
  glow: { colour: Rgb; luminance: number; nits: Rgb };
  /** Coats and feeds; the rest then says what they come to on average. */
  recipe: Recipe | null;
}

const rgb = (v: readonly number[]): Rgb => [v[0], v[1], v[2]];

/** How far full warmth moves a white of lightness 1 towards red and yellow, in OKLab: about as gold is from silver. */
const WARM = [0.012, 0.14];

/** The grade that a surface's tint lays on what it reflects; null when it changes nothing. */
function tintOf({ tint_hue, tint_warmth, tint_strength }: Surface): ((colour: Rgb) => Rgb) | null {
  if (tint_hue === 0 && tint_warmth === 0 && tint_strength === 1) return null;
  const [c, s] = [cos(tint_hue) * tint_strength, sin(tint_hue) * tint_strength];
  return (colour) => {
    const [lightness, a, b] = oklabOf(colour);
    const warm = tint_warmth * lightness;
    const toned = linearOf([lightness, a * c - b * s + warm * WARM[0], a * s + b * c + warm * WARM[1]]);
    // nothing reflects more than it is lit by
    return rgb(toned.map((v) => Math.min(1, Math.max(0, v))));
  };
}

/** Interprets a surface. */
export function opticsOf(surface: Surface): Optics {
  const metal = surface.base_metalness;
  const glass = (1 - metal) * surface.transmission_weight;
  const thin = surface.geometry_thin_walled;
  const deep = surface.transmission_depth > 0 && !thin;
  const colour = rgb(surface.transmission_color);
  const tint = tintOf(surface) ?? ((v: Rgb) => v);
  const metalOver = new Float32Array(3 * ENTRIES);
  for (let i = 0; i < ENTRIES; i++) {
    const at = tint(metallic(surface, (i / (ENTRIES - 1)) ** 2));
    for (let c = 0; c < 3; c++) metalOver[c * ENTRIES + i] = at[c];
  }
  const lit = surface.emission_luminance > 0;
  return {
    key: JSON.stringify(surface),
    metal,
    glass,
    opaque: 1 - metal - glass,
    thin,
    roughness: surface.specular_roughness,
    anisotropy: surface.specular_roughness_anisotropy,
    turn: surface.specular_rotation,
    ior: surface.specular_ior,
    iorWeighted: effectiveIor(surface.specular_ior, surface.specular_weight),
    specularWeight: surface.specular_weight,
    specular: tint(rgb(surface.specular_color)),
    body: tint(rgb(surface.base_color.map((v) => v * surface.base_weight))),
    diffuseRoughness: surface.base_diffuse_roughness,
    measured: surface.base_metal !== 'none',
    metalFacing: tint(metallic(surface, 1)),
    metalOver,
    tint: deep ? [1, 1, 1] : colour,
    depth: deep ? surface.transmission_depth : Infinity,
    depthColour: deep ? colour : [1, 1, 1],
    absorption: deep
      ? rgb(colour.map((v) => -log(Math.max(DARKEST, v)) / surface.transmission_depth))
      : [0, 0, 0],
    coat: {
      weight: surface.coat_weight,
      colour: rgb(surface.coat_color),
      roughness: surface.coat_roughness,
      ior: surface.coat_ior,
    },
    glow: {
      colour: rgb(surface.emission_color),
      luminance: surface.emission_luminance,
      nits: lit ? rgb(surface.emission_color.map((v) => v * surface.emission_luminance)) : [0, 0, 0],
    },
    recipe: null,
  };
}

/** Interprets a finish with its coats and feeds. */
export function finishOptics({ surface, feeds, coats }: Pick<Finish, 'surface' | 'feeds' | 'coats'>): Optics {
  const recipe = recipeOf({ surface, feeds, coats });
  if (!recipe) return opticsOf(surface);
  const optics = opticsOf(meanSurface(recipe));
  const nits = rgb(meanGlow(recipe));
  const most = Math.max(...nits);
  return {
    ...optics,
    key: JSON.stringify([surface, feeds, coats]),
    glow: {
      colour: most > 0 ? rgb(nits.map((v) => v / most)) : optics.glow.colour,
      luminance: luminance(...nits),
      nits,
    },
    recipe,
  };
}
