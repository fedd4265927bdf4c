/** An interpreted surface as three.js draws it: the nearest physical material, for the draft view only. */
import {
  ClampToEdgeWrapping,
  Color,
  DataTexture,
  DoubleSide,
  LinearFilter,
  LinearMipmapLinearFilter,
  MeshPhysicalMaterial,
  MirroredRepeatWrapping,
  NoColorSpace,
  RepeatWrapping,
  SRGBColorSpace,
} from 'three';
import { gltfMaterial } from '@wemlox/core/finish/gltf';
import type { Optics } from '@wemlox/core/finish/optics';
import { shownPicture, type ShownPicture } from '@wemlox/core/finish/recipeMeans';
import { previewOf, textureKey, type Texture } from '@wemlox/core/texture/texture';

/** Thickness glass is taken to have where the rasteriser cannot know it, metres. */
const GLASS_THICKNESS = 0.05;
/** Way through cloudy glass after which it is seen as what it scatters, metres. */
const CLOUD_DEPTH = 0.02;

/** Linear Rec.709 as it is: no conversion. */
const linear = (rgb: readonly number[]) => new Color().setRGB(rgb[0], rgb[1], rgb[2]);

/** Longer side of pictures in the draft, pixels. */
const MOST_PIXELS = 1024;
const EDGES = { repeat: RepeatWrapping, mirror: MirroredRepeatWrapping, once: ClampToEdgeWrapping };

/** A picture as the graphics card has it; WebGL takes no shared memory. */
function mapOf({ laid }: ShownPicture, texture: Texture): DataTexture {
  const { data, width, height } = previewOf(texture, MOST_PIXELS).small;
  const map = new DataTexture(data, width, height);
  map.colorSpace = laid.coding === 'colour' ? SRGBColorSpace : NoColorSpace;
  map.wrapS = map.wrapT = EDGES[laid.edges];
  map.magFilter = LinearFilter;
  map.minFilter = LinearMipmapLinearFilter;
  map.generateMipmaps = true;
  map.anisotropy = 4;
  map.needsUpdate = true;
  return map;
}

/** Pictures of scenes on the graphics card, kept while their scene has them: a finish that is moved keeps its own. */
export class DraftMaps {
  private readonly maps = new Map<string, { of: string; map: DataTexture }>();

  /** The picture with the edges it is laid with. */
  of(shown: ShownPicture, texture: Texture): DataTexture {
    const key = `${texture.key} ${shown.laid.edges}`;
    let known = this.maps.get(key);
    if (!known) {
      known = { of: texture.key, map: mapOf(shown, texture) };
      this.maps.set(key, known);
    }
    return known.map;
  }

  /** Gives back what no texture of a scene needs any more; all when there are none. */
  keep(textures: readonly Texture[]): void {
    for (const [key, { of, map }] of this.maps) {
      if (textures.some((t) => t.key === of)) continue;
      map.dispose();
      this.maps.delete(key);
    }
  }
}

/** The material with the picture its finish shows, where there is one. @param textures of the scene */
export function draftMaterial(
  optics: Optics,
  textures: readonly Texture[],
  maps: DraftMaps,
): MeshPhysicalMaterial {
  const material = plainMaterial(optics);
  const shown = optics.recipe && shownPicture(optics.recipe);
  const texture = shown && textures.find((t) => t.key === textureKey(shown.laid.picture, shown.laid.coding));
  if (!texture) return material;
  const map = maps.of(shown, texture);
  if (shown.parameter === 'emission_color') {
    material.emissiveMap = map;
    material.emissive.setRGB(1, 1, 1);
  } else if (shown.parameter === 'base_color' || shown.parameter === 'transmission_color') {
    material.map = map;
    material.color.setRGB(1, 1, 1);
  }
  return material;
}

function plainMaterial(optics: Optics): MeshPhysicalMaterial {
  const { thin, coat, glow, fuzz, beneath } = optics;
  const { iridescence, dispersion } = gltfMaterial(optics);
  // what cloudy glass scatters on its way is seen as a body of its own
  const clear = optics.scatter.map((v) => Math.exp(-v * CLOUD_DEPTH));
  const glass = optics.glass * Math.min(...clear);
  const deep = optics.depth < Infinity;
  // a metal, or what is no glass, has the colour it shows facing the viewer
  const facing =
    optics.metal > 0.5
      ? optics.metalFacing
      : optics.body.map((v, c) => v + (beneath.colour[c] - v) * beneath.weight);
  return new MeshPhysicalMaterial({
    color: linear(optics.glass > 0 ? optics.tint : facing),
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
    sheen: fuzz.weight,
    sheenColor: linear(fuzz.colour),
    sheenRoughness: fuzz.roughness,
    iridescence: iridescence.weight,
    iridescenceIOR: iridescence.ior,
    iridescenceThicknessRange: [0, iridescence.thickness],
    dispersion,
    opacity: optics.opacity,
    transparent: optics.opacity < 1,
    emissive: linear(glow.colour),
    emissiveIntensity: glow.luminance,
    side: DoubleSide,
  });
}
