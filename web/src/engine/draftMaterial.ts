/** An OpenPBR surface as three.js draws it: the nearest physical material, for the draft view only. */
import { Color, DoubleSide, MeshPhysicalMaterial } from 'three';
import type { Surface } from '@wemlox/core/document';
import { metallic } from '@wemlox/core/finish/reflectance';

/** Thickness glass is taken to have where the rasteriser cannot know it, metres. */
const GLASS_THICKNESS = 0.05;

/** Linear Rec.709 as it is: no conversion. */
const linear = (rgb: readonly number[]) => new Color().setRGB(rgb[0], rgb[1], rgb[2]);

export function draftMaterial(surface: Surface): MeshPhysicalMaterial {
  const measured = surface.base_metal !== 'none' && surface.base_metalness > 0;
  const body = surface.base_color.map((v) => v * surface.base_weight);
  const facing = measured ? metallic(surface, 1) : body;
  const glass = surface.transmission_weight * (1 - surface.base_metalness);
  const thin = surface.geometry_thin_walled;
  const deep = surface.transmission_depth > 0 && !thin;
  return new MeshPhysicalMaterial({
    color: linear(glass > 0 && !deep ? surface.transmission_color : glass > 0 ? [1, 1, 1] : facing),
    metalness: surface.base_metalness,
    roughness: Math.max(0.02, surface.specular_roughness),
    ior: Math.min(2.333, surface.specular_ior),
    specularIntensity: surface.specular_weight,
    specularColor: linear(surface.specular_color),
    transmission: glass,
    thickness: glass > 0 && !thin ? GLASS_THICKNESS : 0,
    attenuationColor: linear(deep ? surface.transmission_color : [1, 1, 1]),
    attenuationDistance: deep ? surface.transmission_depth : Infinity,
    clearcoat: surface.coat_weight,
    clearcoatRoughness: surface.coat_roughness,
    emissive: linear(surface.emission_color),
    emissiveIntensity: surface.emission_luminance,
    side: DoubleSide,
  });
}
