/** glTF materials in the terms of OpenPBR. */
import type { Material } from '@gltf-transform/core';
import type {
  Anisotropy,
  Clearcoat,
  Dispersion,
  EmissiveStrength,
  IOR,
  Iridescence,
  Sheen,
  Specular,
  Transmission,
  Volume,
} from '@gltf-transform/extensions';
import { plainSurface, type Surface } from '../document/index.ts';
import { dispersing, openPbrAnisotropy } from '../finish/gltf.ts';

/** How much of a material is there: alpha counts where its mode says so. */
function opacityOf(material: Material): number {
  const alpha = Math.min(1, Math.max(0, material.getBaseColorFactor()[3] ?? 1));
  const mode = material.getAlphaMode();
  if (mode === 'OPAQUE') return 1;
  return mode === 'BLEND' ? alpha : alpha < material.getAlphaCutoff() ? 0 : 1;
}

/** A glTF material in OpenPBR's terms; null stands for the default material. */
export function surfaceOf(material: Material | null): Surface {
  if (!material) return plainSurface({ base_color: [1, 1, 1], base_metalness: 1, specular_roughness: 1 });
  const ior = material.getExtension<IOR>('KHR_materials_ior');
  const specular = material.getExtension<Specular>('KHR_materials_specular');
  const coat = material.getExtension<Clearcoat>('KHR_materials_clearcoat');
  const transmission = material.getExtension<Transmission>('KHR_materials_transmission');
  const volume = material.getExtension<Volume>('KHR_materials_volume');
  const anisotropy = material.getExtension<Anisotropy>('KHR_materials_anisotropy');
  const sheen = material.getExtension<Sheen>('KHR_materials_sheen');
  const film = material.getExtension<Iridescence>('KHR_materials_iridescence');
  const dispersion = material.getExtension<Dispersion>('KHR_materials_dispersion')?.getDispersion() ?? 0;
  const fibres = sheen?.getSheenColorFactor() ?? [0, 0, 0];
  const fuzz = Math.min(1, Math.max(...fibres));
  const strength =
    material.getExtension<EmissiveStrength>('KHR_materials_emissive_strength')?.getEmissiveStrength() ?? 1;
  const base = material.getBaseColorFactor().slice(0, 3);
  const glow = material.getEmissiveFactor();
  const peak = Math.max(...glow);
  const unit = (v: readonly number[]) => v.map((x) => Math.min(1, Math.max(0, x)));
  const distance = volume && volume.getThicknessFactor() > 0 ? volume.getAttenuationDistance() : Infinity;
  const deep = Number.isFinite(distance);
  const brushed = openPbrAnisotropy(material.getRoughnessFactor(), anisotropy?.getAnisotropyStrength() ?? 0);
  const through = transmission?.getTransmissionFactor() ?? 0;
  return plainSurface({
    base_color: unit(base),
    base_metalness: material.getMetallicFactor(),
    specular_roughness: brushed.roughness,
    specular_ior: Math.min(3, Math.max(1, ior?.getIOR() || 1.5)),
    specular_weight: specular?.getSpecularFactor() ?? 1,
    specular_color: unit(specular?.getSpecularColorFactor() ?? [1, 1, 1]),
    specular_roughness_anisotropy: brushed.anisotropy,
    specular_rotation: anisotropy?.getAnisotropyRotation() ?? 0,
    transmission_weight: through,
    // without a volume the surface is a wall without thickness (KHR_materials_transmission)
    geometry_thin_walled: through > 0 && !(volume && volume.getThicknessFactor() > 0),
    transmission_color: unit(deep ? volume!.getAttenuationColor() : base),
    transmission_depth: deep ? distance : 0,
    coat_weight: coat?.getClearcoatFactor() ?? 0,
    coat_roughness: coat?.getClearcoatRoughnessFactor() ?? 0,
    coat_ior: 1.5,
    // glTF's coat knows no darkening
    coat_darkening: 0,
    fuzz_weight: fuzz,
    fuzz_color: fuzz > 0 ? unit(fibres.map((v) => v / fuzz)) : [1, 1, 1],
    fuzz_roughness: sheen?.getSheenRoughnessFactor() ?? 0,
    thin_film_weight: film?.getIridescenceFactor() ?? 0,
    thin_film_ior: Math.min(3, Math.max(1, film?.getIridescenceIOR() ?? 1.3)),
    thin_film_thickness: Math.min(3, (film?.getIridescenceThicknessMaximum() ?? 400) / 1000),
    ...dispersing(dispersion > 0 ? 20 / dispersion : 0),
    geometry_opacity: opacityOf(material),
    emission_color: peak > 0 ? unit(glow.map((v) => v / peak)) : [1, 1, 1],
    emission_luminance: peak * strength,
  });
}
