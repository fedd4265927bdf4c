/** An interpreted surface as three.js draws it: the nearest physical material, for the draft view only. */
import { Color, DoubleSide, MeshPhysicalMaterial } from 'three';
import type { Optics } from '@wemlox/core/finish/optics';

/** Thickness glass is taken to have where the rasteriser cannot know it, metres. */
const GLASS_THICKNESS = 0.05;

/** Linear Rec.709 as it is: no conversion. */
const linear = (rgb: readonly number[]) => new Color().setRGB(rgb[0], rgb[1], rgb[2]);

export function draftMaterial(optics: Optics): MeshPhysicalMaterial {
  const { glass, thin, coat, glow } = optics;
  const deep = optics.depth < Infinity;
  // a metal, or what is no glass, has the colour it shows facing the viewer
  const facing = optics.metal > 0 && optics.measured ? optics.metalFacing : optics.body;
  return new MeshPhysicalMaterial({
    color: linear(glass > 0 ? optics.tint : facing),
    metalness: optics.metal,
    roughness: Math.max(0.02, optics.roughness),
    ior: Math.min(2.333, optics.ior),
    specularIntensity: optics.specularWeight,
    specularColor: linear(optics.specular),
    transmission: glass,
    thickness: glass > 0 && !thin ? GLASS_THICKNESS : 0,
    attenuationColor: linear(optics.depthColour),
    attenuationDistance: deep ? optics.depth : Infinity,
    clearcoat: coat.weight,
    clearcoatRoughness: coat.roughness,
    emissive: linear(glow.colour),
    emissiveIntensity: glow.luminance,
    side: DoubleSide,
  });
}
