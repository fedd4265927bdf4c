/** Finishes as glTF materials, with the ratified extensions that say what they are. */
import type { Document, Material } from '@gltf-transform/core';
import {
  KHRMaterialsAnisotropy,
  KHRMaterialsClearcoat,
  KHRMaterialsDispersion,
  KHRMaterialsEmissiveStrength,
  KHRMaterialsIOR,
  KHRMaterialsIridescence,
  KHRMaterialsSheen,
  KHRMaterialsSpecular,
  KHRMaterialsTransmission,
  KHRMaterialsVolume,
} from '@gltf-transform/extensions';
import { encode } from 'fast-png';
import type { Optics } from '../finish/optics.ts';
import { gltfMaterial } from '../finish/gltf.ts';
import type { BakedPart, BakedPicture } from './exportKinds.ts';

/** Index of refraction a material has that says nothing of it (glTF 2.0). */
const PLAIN_IOR = 1.5;

/** A finish's material with the pictures of one part. @param of what the pictures are called after */
export function pictured(document: Document, plain: Material, of: string, baked: BakedPart): Material {
  const material = plain.clone().setName(`${plain.getName()}, ${of}`);
  const { base, gloss, light } = baked;
  const texture = (kind: string, picture: BakedPicture) =>
    document
      .createTexture(`${of} ${kind}`)
      .setMimeType('image/png')
      .setImage(encode({ ...picture, depth: 8, channels: 4 }) as Uint8Array<ArrayBuffer>);
  if (base)
    material
      .setBaseColorTexture(texture('colour', base))
      .setBaseColorFactor([1, 1, 1, 1])
      .setAlphaMode(baked.opaque ? 'OPAQUE' : 'BLEND');
  if (gloss)
    material.setMetallicRoughnessTexture(texture('gloss', gloss)).setMetallicFactor(1).setRoughnessFactor(1);
  if (light) {
    material.setEmissiveTexture(texture('light', light)).setEmissiveFactor([1, 1, 1]);
    material.setExtension(
      'KHR_materials_emissive_strength',
      document
        .createExtension(KHRMaterialsEmissiveStrength)
        .createEmissiveStrength()
        .setEmissiveStrength(light.strongest),
    );
  }
  return material;
}

/**
 * Makes materials of a document; an extension is used only where a finish needs it.
 * @param thickness of volumes, metres
 */
export function materialMaker(
  document: Document,
  thickness: number,
): (name: string, optics: Optics) => Material {
  return (name, optics) => {
    const said = gltfMaterial(optics);
    const material = document
      .createMaterial(name)
      .setBaseColorFactor([...said.baseColor, said.opacity])
      .setAlphaMode(said.opacity < 1 ? 'BLEND' : 'OPAQUE')
      .setMetallicFactor(said.metallic)
      .setRoughnessFactor(said.roughness)
      .setDoubleSided(optics.thin);
    if (said.ior !== PLAIN_IOR)
      material.setExtension(
        'KHR_materials_ior',
        document.createExtension(KHRMaterialsIOR).createIOR().setIOR(said.ior),
      );
    if (said.specular.weight !== 1 || said.specular.color.some((v) => v !== 1))
      material.setExtension(
        'KHR_materials_specular',
        document
          .createExtension(KHRMaterialsSpecular)
          .createSpecular()
          .setSpecularFactor(said.specular.weight)
          .setSpecularColorFactor(said.specular.color),
      );
    if (said.transmission > 0)
      material.setExtension(
        'KHR_materials_transmission',
        document
          .createExtension(KHRMaterialsTransmission)
          .createTransmission()
          .setTransmissionFactor(said.transmission),
      );
    if (said.volume)
      material.setExtension(
        'KHR_materials_volume',
        document
          .createExtension(KHRMaterialsVolume)
          .createVolume()
          .setThicknessFactor(thickness)
          .setAttenuationDistance(said.volume.distance)
          .setAttenuationColor(said.volume.color),
      );
    if (said.clearcoat.weight > 0)
      material.setExtension(
        'KHR_materials_clearcoat',
        document
          .createExtension(KHRMaterialsClearcoat)
          .createClearcoat()
          .setClearcoatFactor(said.clearcoat.weight)
          .setClearcoatRoughnessFactor(said.clearcoat.roughness),
      );
    if (said.anisotropy.strength > 0)
      material.setExtension(
        'KHR_materials_anisotropy',
        document
          .createExtension(KHRMaterialsAnisotropy)
          .createAnisotropy()
          .setAnisotropyStrength(said.anisotropy.strength)
          .setAnisotropyRotation(said.anisotropy.rotation),
      );
    if (said.sheen.color.some((v) => v > 0))
      material.setExtension(
        'KHR_materials_sheen',
        document
          .createExtension(KHRMaterialsSheen)
          .createSheen()
          .setSheenColorFactor(said.sheen.color)
          .setSheenRoughnessFactor(said.sheen.roughness),
      );
    if (said.iridescence.weight > 0)
      material.setExtension(
        'KHR_materials_iridescence',
        document
          .createExtension(KHRMaterialsIridescence)
          .createIridescence()
          .setIridescenceFactor(said.iridescence.weight)
          .setIridescenceIOR(said.iridescence.ior)
          .setIridescenceThicknessMaximum(said.iridescence.thickness),
      );
    if (said.dispersion > 0)
      material.setExtension(
        'KHR_materials_dispersion',
        document.createExtension(KHRMaterialsDispersion).createDispersion().setDispersion(said.dispersion),
      );
    if (said.emission.strength > 0) {
      material.setEmissiveFactor(said.emission.color);
      if (said.emission.strength !== 1)
        material.setExtension(
          'KHR_materials_emissive_strength',
          document
            .createExtension(KHRMaterialsEmissiveStrength)
            .createEmissiveStrength()
            .setEmissiveStrength(said.emission.strength),
        );
    }
    return material;
  };
}
