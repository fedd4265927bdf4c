/** OpenPBR's numbers as glTF's and back, where the standards say the same in different ones. */
import type { Surface } from '../document/index.ts';
import { metallic, type Rgb } from './reflectance.ts';

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
}

/** @throws never; what glTF cannot say (coat colour and index, rough diffuse) is left out */
export function gltfMaterial(surface: Surface): GltfMaterial {
  const rgb = (v: number[]) => v.slice(0, 3) as Rgb;
  const metal = surface.base_metal !== 'none' || surface.base_metalness > 0.5;
  const { roughness, strength } = gltfAnisotropy(
    surface.specular_roughness,
    surface.specular_roughness_anisotropy,
  );
  const deep = surface.transmission_depth > 0 && !surface.geometry_thin_walled;
  const clear = surface.transmission_weight > 0.5;
  const tint: Rgb = deep ? [1, 1, 1] : rgb(surface.transmission_color);
  const base = rgb(surface.base_color).map((v) => v * surface.base_weight) as Rgb;
  return {
    // a metal's colour in glTF is its reflectance facing the viewer
    baseColor: metal ? metallic(surface, 1) : clear ? tint : base,
    metallic: surface.base_metalness,
    roughness,
    ior: surface.specular_ior,
    specular: { weight: surface.specular_weight, color: metal ? [1, 1, 1] : rgb(surface.specular_color) },
    transmission: surface.transmission_weight,
    volume:
      surface.transmission_weight > 0 && !surface.geometry_thin_walled
        ? {
            distance: deep ? surface.transmission_depth : Infinity,
            color: deep ? rgb(surface.transmission_color) : [1, 1, 1],
          }
        : null,
    clearcoat: { weight: surface.coat_weight, roughness: surface.coat_roughness },
    anisotropy: { strength, rotation: surface.specular_rotation },
    emission: { color: rgb(surface.emission_color), strength: surface.emission_luminance },
  };
}
