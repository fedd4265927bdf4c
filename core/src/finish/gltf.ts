/** OpenPBR's numbers as glTF's and back, where the standards say the same in different ones. */
import type { Optics } from './optics.ts';
import type { Rgb } from './reflectance.ts';

/**
 * Roughness and anisotropy strength of glTF that give an OpenPBR surface's GGX widths, and the quarter turn that
 * goes with them. OpenPBR 1.1 (§ anisotropy): αx = α √(2 / (1 + (1 − a)²)), αy = (1 − a) αx.
 * KHR_materials_anisotropy: αt = α + (1 − α) s², αb = α.
 */
export function gltfAnisotropy(
  roughness: number,
  anisotropy: number,
): { roughness: number; strength: number } {
  const squash = 1 - anisotropy;
  const along = roughness * roughness * Math.sqrt(2 / (1 + squash * squash));
  const across = along * squash;
  // widths above one do not exist in glTF
  const wide = Math.min(1, along);
  return {
    roughness: Math.sqrt(across),
    strength: across < 1 ? Math.sqrt(Math.max(0, (wide - across) / (1 - across))) : 0,
  };
}

/** The inverse of `gltfAnisotropy`. */
export function openPbrAnisotropy(
  roughness: number,
  strength: number,
): { roughness: number; anisotropy: number } {
  const across = roughness * roughness;
  const along = across + (1 - across) * strength * strength;
  if (!(along > 0)) return { roughness: 0, anisotropy: 0 };
  const squash = across / along;
  return { roughness: Math.sqrt(along / Math.sqrt(2 / (1 + squash * squash))), anisotropy: 1 - squash };
}

/** Of a micrometre. */
const NANOMETRES = 1000;
/** Abbe number that glTF counts as one (KHR_materials_dispersion). */
const ABBE_UNIT = 20;

/**
 * OpenPBR's two numbers for a glass of an Abbe number; 0 is a glass that parts nothing. What parts less than the greatest
 * Abbe number does so by the scale.
 */
export function dispersing(abbe: number) {
  const [least, greatest] = [9, 91];
  return {
    transmission_dispersion_scale: abbe > 0 ? Math.min(1, greatest / abbe) : 0,
    transmission_dispersion_abbe_number: abbe > 0 ? Math.min(greatest, Math.max(least, abbe)) : ABBE_UNIT,
  };
}

/** A surface as the core of glTF and its ratified material extensions say it. */
export interface GltfMaterial {
  baseColor: Rgb;
  metallic: number;
  roughness: number;
  ior: number;
  specular: { weight: number; color: Rgb };
  transmission: number;
  /** Null for walls without thickness. */
  volume: { distance: number; color: Rgb } | null;
  clearcoat: { weight: number; roughness: number };
  anisotropy: { strength: number; rotation: number };
  /** Nits: colour and strength. */
  emission: { color: Rgb; strength: number };
  sheen: { color: Rgb; roughness: number };
  /** Thickness in nanometres. */
  iridescence: { weight: number; ior: number; thickness: number };
  /** Twenty over the Abbe number (KHR_materials_dispersion). */
  dispersion: number;
  opacity: number;
}

/** What glTF cannot say (coat colour and index, rough diffuse, light within bodies) is left out. */
export function gltfMaterial(optics: Optics): GltfMaterial {
  const { thin, coat, glow } = optics;
  const metal = optics.measured || optics.metal > 0.5;
  const { roughness, strength } = gltfAnisotropy(optics.roughness, optics.anisotropy);
  const transmission = optics.metal < 1 ? optics.glass / (1 - optics.metal) : 0;
  return {
    // a metal's colour in glTF is its reflectance facing the viewer
    baseColor: metal ? optics.metalFacing : transmission > 0.5 ? optics.tint : optics.body,
    metallic: optics.metal,
    roughness,
    ior: optics.ior,
    specular: { weight: optics.specularWeight, color: metal ? [1, 1, 1] : optics.specular },
    transmission,
    volume: transmission > 0 && !thin ? { distance: optics.depth, color: optics.depthColour } : null,
    clearcoat: { weight: coat.weight, roughness: coat.roughness },
    anisotropy: { strength, rotation: optics.turn },
    emission: { color: glow.colour, strength: glow.luminance },
    sheen: {
      color: optics.fuzz.colour.map((v) => v * optics.fuzz.weight) as Rgb,
      roughness: optics.fuzz.roughness,
    },
    iridescence: {
      // a metal's film is in its colour already
      weight: optics.film.weight * (1 - optics.metal),
      ior: optics.film.ior,
      thickness: optics.film.thickness * NANOMETRES,
    },
    dispersion: transmission > 0 && !thin ? ABBE_UNIT * optics.abbeShare : 0,
    opacity: optics.opacity,
  };
}
