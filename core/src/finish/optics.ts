/**
 * A surface interpreted once: what light meets, with all that depends on names, switches and units resolved. The
 * tracer, the draft and files are made from this, never from the surface itself.
 */
import type { Finish, Surface } from '../document/index.ts';
import type { Brushing } from '../document/kinds.ts';
import { linearOf, oklabOf } from '../maths/oklab.ts';
import { cos, exp, log, sin } from '../maths/reproducible.ts';
import { glowOf, type Glow } from './glow.ts';
import { recipeOf, type Recipe } from './recipe.ts';
import { meanGlow, meanSurface, type PictureMeans } from './recipeMeans.ts';
import { dielectric } from './fresnel.ts';
import { filmedDielectric } from './metals.ts';
import { effectiveIor, metallic, type Rgb } from './reflectance.ts';

/** Entries of the metal's reflectance; entry i stands for the cosine (i / (ENTRIES − 1))². */
export const ENTRIES = 32;
/** Darkest glass: less light than this share is not told apart from none. */
const DARKEST = 1e-4;
/** Shortest way of a colour, as a share of the longest. */
const LEAST_WAY = 1e-3;

export interface Optics {
  /** Alike keys, alike surfaces. */
  key: string;
  /** Shares of the surface; together 1. */
  metal: number;
  glass: number;
  opaque: number;
  /** A sheet without thickness. */
  thin: boolean;
  /** Roughness and anisotropy as OpenPBR has them, which way strokes run, and the turn away from it, radians. */
  roughness: number;
  anisotropy: number;
  brushing: Brushing;
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
  /** How the index grows towards short wavelengths: Cauchy's second constant, square micrometres; 0 parts no colours. */
  dispersion: number;
  /** Scale of dispersion over the Abbe number. */
  abbeShare: number;
  /** Colour that glass gives light at its surface; white where its depth does. */
  tint: Rgb;
  /** Depth in metres at which white light has become `depthColour`; infinite where the surface tints. */
  depth: number;
  depthColour: Rgb;
  /** Absorbed a metre. */
  absorption: Rgb;
  /** Of the clear coat: what it leaves of light from under it, by channel, and its own lobe. */
  coat: { weight: number; colour: Rgb; roughness: number; anisotropy: number; ior: number };
  /** Fine fibres over all of it. */
  fuzz: { weight: number; colour: Rgb; roughness: number };
  /** Which of two overlapping solids of glass counts: the higher. */
  priority: number;
  /** Scattered a metre within the glass, and which way. */
  scatter: Rgb;
  scatterAhead: number;
  /** The share of the body that light seeps into, what it meets there a metre, what each meeting keeps, and which way it goes on. */
  beneath: { weight: number; colour: Rgb; extinction: Rgb; again: Rgb; ahead: number };
  /** The film as it is stated, thickness in micrometres. */
  film: { weight: number; ior: number; thickness: number };
  /** Reflectance of the interface under it over the cosine: ENTRIES of red, then green, then blue; null without. */
  filmOver: Float32Array | null;
  /** Less than one where not all of it is there. */
  opacity: number;
  /** What it gives. */
  glow: Glow;
  /** Coats and feeds; the rest then says what they come to on average. */
  recipe: Recipe | null;
}

const rgb = (v: readonly number[]): Rgb => [v[0], v[1], v[2]];

/** Lines F and C that Abbe numbers are counted between, micrometres. */
const LINE_F = 0.48613;
const LINE_C = 0.65627;

/** Cauchy's second constant of a solid glass, from its Abbe number (OpenPBR 1.1, "Dispersion"). */
function dispersionOf(surface: Surface): number {
  if (surface.geometry_thin_walled) return 0;
  const { transmission_dispersion_scale: scale, transmission_dispersion_abbe_number: abbe } = surface;
  return (scale * (surface.specular_ior - 1)) / (abbe * (1 / LINE_F ** 2 - 1 / LINE_C ** 2));
}

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

/**
 * What a clear coat leaves of light from under it: its colour, and darker by the light that its inside sends back
 * (OpenPBR 1.1, "Coat darkening": Δ = (1 − K) / (1 − E K)).
 */
function darkened(surface: Surface, tint: (colour: Rgb) => Rgb): Rgb {
  const colour = rgb(surface.coat_color);
  if (surface.coat_darkening === 0 || surface.coat_weight === 0) return colour;
  const n = surface.coat_ior;
  const facing = ((n - 1) / (n + 1)) ** 2;
  // a mirror under it sends back what the coat's own face reflects; a rough body all that is turned back inside
  const diffuse = 1 - (1 - averageFresnel(n)) / (n * n);
  const metal = surface.base_metalness;
  const rough = metal * surface.specular_roughness + (1 - metal) * (1 - surface.transmission_weight);
  const back = facing + (diffuse - facing) * rough;
  const body = tint(rgb(surface.base_color.map((v) => v * surface.base_weight)));
  const facingMetal = tint(metallic(surface, 1));
  const glass = (1 - metal) * surface.transmission_weight;
  return rgb(
    colour.map((v, c) => {
      const under = metal * facingMetal[c] + (1 - metal - glass) * body[c];
      const by = (1 - back) / (1 - Math.min(1, under) * back);
      return v * (1 + (by - 1) * surface.coat_darkening);
    }),
  );
}

/** Mean over the hemisphere of what a dielectric reflects from outside (d'Eon's fit, as OpenPBR 1.1 quotes it). */
const averageFresnel = (n: number) =>
  Math.max(0, log((10893 * n - 1438.2) / (-774.4 * n * n + 10212 * n + 1)));

/**
 * What light that seeps in meets: the single-scattering albedo that gives the colour back from a thick piece (Chiang,
 * Kutz & Burley, "Practical and Controllable Subsurface Scattering for Production Path Tracing", 2016), and the free
 * way of each channel as OpenPBR 1.1 has it.
 */
function beneathOf(surface: Surface, tint: (colour: Rgb) => Rgb): Optics['beneath'] {
  const weight = surface.geometry_thin_walled ? 0 : surface.subsurface_weight;
  const colour = tint(rgb(surface.subsurface_color));
  return {
    weight,
    colour,
    extinction: rgb(
      surface.subsurface_radius_scale.map((v) => 1 / (surface.subsurface_radius * Math.max(LEAST_WAY, v))),
    ),
    again: rgb(colour.map((a) => 1 - exp(-5.09406 * a + 2.61188 * a * a - 4.31805 * a * a * a))),
    ahead: surface.subsurface_scatter_anisotropy,
  };
}

/** What a dielectric interface reflects under its film, over the cosine; null without one. */
function filmOf(surface: Surface): Float32Array | null {
  const { thin_film_weight: weight, thin_film_ior: ior, thin_film_thickness: thickness } = surface;
  if (weight === 0 || surface.base_metalness === 1) return null;
  const n = effectiveIor(surface.specular_ior, surface.specular_weight);
  const out = new Float32Array(3 * ENTRIES);
  for (let i = 0; i < ENTRIES; i++) {
    const cosine = (i / (ENTRIES - 1)) ** 2;
    const bare = dielectric(cosine, Math.max(1.0001, n));
    const filmed = filmedDielectric(n, { ior, thickness }, cosine);
    for (let c = 0; c < 3; c++) out[c * ENTRIES + i] = bare + (filmed[c] - bare) * weight;
  }
  return out;
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
  // a film is counted through the spectrum, which nobody asks of a metal that is not there
  const ofMetal = metal === 0 ? { ...surface, thin_film_weight: 0 } : surface;
  for (let i = 0; i < ENTRIES; i++) {
    const at = tint(metallic(ofMetal, (i / (ENTRIES - 1)) ** 2));
    for (let c = 0; c < 3; c++) metalOver[c * ENTRIES + i] = at[c];
  }
  return {
    key: JSON.stringify(surface),
    metal,
    glass,
    opaque: 1 - metal - glass,
    thin,
    roughness: surface.specular_roughness,
    anisotropy: surface.specular_roughness_anisotropy,
    brushing: surface.specular_brushing,
    turn: surface.specular_rotation,
    ior: surface.specular_ior,
    iorWeighted: effectiveIor(surface.specular_ior, surface.specular_weight),
    specularWeight: surface.specular_weight,
    specular: tint(rgb(surface.specular_color)),
    body: tint(rgb(surface.base_color.map((v) => v * surface.base_weight))),
    diffuseRoughness: surface.base_diffuse_roughness,
    measured: surface.base_metal !== 'none',
    metalFacing: tint(metallic(ofMetal, 1)),
    metalOver,
    dispersion: dispersionOf(surface),
    abbeShare: surface.transmission_dispersion_scale / surface.transmission_dispersion_abbe_number,
    tint: deep ? [1, 1, 1] : colour,
    depth: deep ? surface.transmission_depth : Infinity,
    depthColour: deep ? colour : [1, 1, 1],
    absorption: deep
      ? rgb(colour.map((v) => -log(Math.max(DARKEST, v)) / surface.transmission_depth))
      : [0, 0, 0],
    coat: {
      weight: surface.coat_weight,
      colour: darkened(surface, tint),
      roughness: surface.coat_roughness,
      anisotropy: surface.coat_roughness_anisotropy,
      ior: surface.coat_ior,
    },
    fuzz: {
      weight: surface.fuzz_weight,
      colour: rgb(surface.fuzz_color),
      roughness: surface.fuzz_roughness,
    },
    priority: surface.transmission_priority,
    scatter: deep ? rgb(surface.transmission_scatter.map((v) => v / surface.transmission_depth)) : [0, 0, 0],
    scatterAhead: surface.transmission_scatter_anisotropy,
    beneath: beneathOf(surface, tint),
    film: {
      weight: surface.thin_film_weight,
      ior: surface.thin_film_ior,
      thickness: surface.thin_film_thickness,
    },
    filmOver: filmOf(surface),
    opacity: surface.geometry_opacity,
    glow: glowOf(surface),
    recipe: null,
  };
}

/** Share of white light a surface sends back facing the viewer, mirrored, scattered or through the glass. */
export const facingAlbedo = (optics: Optics): Rgb =>
  [0, 1, 2].map(
    (c) =>
      optics.metal * optics.metalFacing[c] +
      optics.glass * (optics.depth < Infinity ? optics.depthColour[c] : optics.tint[c]) +
      optics.opaque * (optics.body[c] + (optics.beneath.colour[c] - optics.body[c]) * optics.beneath.weight),
  ) as Rgb;

/** Interprets a finish with its coats and feeds. @param means of the pictures it is fed from */
export function finishOptics(
  { surface, feeds, coats }: Pick<Finish, 'surface' | 'feeds' | 'coats'>,
  means?: PictureMeans,
): Optics {
  const recipe = recipeOf({ surface, feeds, coats });
  if (!recipe) return opticsOf(surface);
  const optics = opticsOf(meanSurface(recipe, means));
  const nits = rgb(meanGlow(recipe, means));
  const most = Math.max(...nits);
  return {
    ...optics,
    key: JSON.stringify([surface, feeds, coats]),
    glow: {
      ...optics.glow,
      colour: most > 0 ? rgb(nits.map((v) => v / most)) : optics.glow.colour,
      luminance: most,
      nits,
    },
    recipe,
  };
}
