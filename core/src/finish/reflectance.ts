/** What share of light a surface reflects at each angle: the curve in the desk and the tracer's own table. */
import type { Surface } from '../document/index.ts';
import { dielectric, f0OfIor, f82Tint } from './fresnel.ts';
import { filmedDielectric, filmedReflectance, metalReflectance } from './metals.ts';

export type Rgb = [number, number, number];

/** Reflectance of the metallic part at a cosine, under its film. */
export function metallic(surface: Surface, cosine: number): Rgb {
  const bare = bareMetal(surface, cosine);
  const { thin_film_weight: weight, thin_film_ior: ior, thin_film_thickness: thickness } = surface;
  if (weight === 0) return bare;
  const metal = surface.base_metal === 'none' ? bareMetal(surface, 1) : surface.base_metal;
  const filmed = filmedReflectance(metal, { ior, thickness }, cosine);
  return bare.map((v, c) => v + (filmed[c] - v) * weight) as Rgb;
}

function bareMetal(surface: Surface, cosine: number): Rgb {
  if (surface.base_metal !== 'none') return metalReflectance(surface.base_metal, cosine);
  return [0, 1, 2].map((c) =>
    f82Tint(cosine, surface.base_weight * surface.base_color[c], surface.specular_color[c]),
  ) as Rgb;
}

/** Index of refraction after specular_weight has scaled its facing reflectance (OpenPBR §3.5). */
export function effectiveIor(ior: number, weight: number): number {
  const root = Math.sqrt(Math.min(1, f0OfIor(ior) * weight));
  return root >= 1 ? 1e3 : (1 + root) / (1 - root);
}

/** Mirror-like reflectance of the whole surface at a cosine, coat on top: what the desk's curve shows. */
export function reflectanceAt(surface: Surface, cosine: number): Rgb {
  const metal = metallic(surface, cosine);
  const ior = effectiveIor(surface.specular_ior, surface.specular_weight);
  const bare = dielectric(cosine, ior);
  const { thin_film_weight: film, thin_film_ior, thin_film_thickness } = surface;
  const filmed =
    film > 0 && surface.base_metalness < 1
      ? filmedDielectric(ior, { ior: thin_film_ior, thickness: thin_film_thickness }, cosine)
      : [bare, bare, bare];
  const coat = surface.coat_weight * dielectric(cosine, surface.coat_ior);
  return [0, 1, 2].map((c) => {
    const base =
      surface.base_metalness * metal[c] +
      (1 - surface.base_metalness) * (bare + (filmed[c] - bare) * film) * surface.specular_color[c];
    const through = 1 - surface.coat_weight + surface.coat_weight * surface.coat_color[c];
    return coat + (1 - coat) * base * through;
  }) as Rgb;
}
