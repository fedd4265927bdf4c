/** A finish as three.js draws it: a physical material whose numbers come from the finish's coats and feeds, place by place. */
import {
  ClampToEdgeWrapping,
  Color,
  DataTexture,
  DoubleSide,
  FloatType,
  LinearFilter,
  LinearMipmapLinearFilter,
  MeshPhysicalMaterial,
  MirroredRepeatWrapping,
  NoColorSpace,
  RepeatWrapping,
  ShaderChunk,
  SRGBColorSpace,
  Vector3,
  type WebGLProgramParametersWithUniforms,
} from 'three';
import { gltfMaterial } from '@wemlox/core/finish/gltf';
import type { Optics } from '@wemlox/core/finish/optics';
import { previewOf, textureKey, type Texture } from '@wemlox/core/texture/texture';
import { PLACES, type PlaceName } from '../workers/draft/places.ts';
import { GLASS_THICKNESS } from '../workers/draft/rows.ts';
import { DATA_WIDTH, MOST_BOXES, type DraftFinish } from '../workers/draft/shader.ts';

/** Linear Rec.709 as it is: no conversion. */
const linear = (rgb: readonly number[]) => new Color().setRGB(rgb[0], rgb[1], rgb[2]);

/** Longer side of pictures in the draft, pixels. */
const MOST_PIXELS = 1024;
const EDGES = { repeat: RepeatWrapping, mirror: MirroredRepeatWrapping, once: ClampToEdgeWrapping };

type Shown = DraftFinish['pictures'][number];

/** A picture as the graphics card has it; WebGL takes no shared memory. */
function mapOf({ coding, edges }: Shown, texture: Texture): DataTexture {
  const { data, width, height } = previewOf(texture, MOST_PIXELS).small;
  const map = new DataTexture(data, width, height);
  map.colorSpace = coding === 'colour' ? SRGBColorSpace : NoColorSpace;
  map.wrapS = map.wrapT = EDGES[edges];
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
  of(shown: Shown, texture: Texture): DataTexture {
    const key = `${texture.key} ${shown.edges}`;
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

/** Numbers of a finish as the graphics card has them. */
function numbersOf({ data }: DraftFinish): DataTexture {
  const numbers = new DataTexture(data, DATA_WIDTH, data.length / 4 / DATA_WIDTH);
  numbers.type = FloatType;
  numbers.needsUpdate = true;
  return numbers;
}

const vector = (name: PlaceName) => `vec${PLACES[name]} ${name}`;

/** The vertex shader with what feeds are laid along handed on. */
function vertexCode(code: string, places: readonly PlaceName[]): string {
  const handed = places.map((n) => [
    `attribute ${vector(n)};\nvarying ${vector(n).replace('fed', 'vFed')};`,
    `${n.replace('fed', 'vFed')} = ${n};`,
  ]);
  return code
    .replace(
      'void main() {',
      `varying vec3 vFedWorld;\nvarying vec3 vFedPlace;\nvarying vec3 vFedNormal;\n${handed.map(([d]) => d).join('\n')}\nvoid main() {`,
    )
    .replace(
      '#include <begin_vertex>',
      `#include <begin_vertex>\nvFedWorld = (modelMatrix * vec4(position, 1.)).xyz;\nvFedPlace = position;\nvFedNormal = normal;\n${handed.map(([, a]) => a).join('\n')}`,
    );
}

/** Leans the normal by the slope of the relief over the screen (Mikkelsen, "Bump mapping unparametrized surfaces", 2010). */
const LEAN = /* glsl */ `
{
  vec3 sx = dFdx(-vViewPosition), sy = dFdy(-vViewPosition);
  vec2 rise = vec2(dFdx(fedHeight), dFdy(fedHeight));
  vec3 r1 = cross(sy, normal), r2 = cross(normal, sx);
  float whole = dot(sx, r1);
  vec3 slope = sign(whole) * (rise.x * r1 + rise.y * r2);
  float steep = length(slope) / max(1e-12, abs(whole));
  normal = normalize(abs(whole) * normal - slope * min(1., 4. / max(1e-6, steep)));
}
#ifdef USE_CLEARCOAT
  clearcoatNormal = normal;
#endif
`;

/** Surface by surface, what the code of a finish came to. */
const WORN = /* glsl */ `
material.roughness = min(1., max(fedRow[0].a, .045) + geometryRoughness);
vec3 fedMirror = fedRow[1].rgb, fedGlass = fedRow[2].rgb;
material.specularF90 = fedRow[2].a;
#ifdef FED_FILM
  fedMirror = fedMetal.rgb;
  fedGlass = fedOther.rgb;
  material.specularF90 = fedMetal.a + fedOther.a;
#endif
material.metalness = fedRow[1].a;
material.diffuseColor = fedMirror / max(1e-4, material.metalness);
material.diffuseContribution = fedRow[0].rgb;
material.specularColor = fedGlass / max(1e-4, 1. - material.metalness);
material.specularColorBlended = fedMirror + fedGlass;
#ifdef USE_CLEARCOAT
  material.clearcoat = fedRow[4].x;
  material.clearcoatRoughness = min(1., max(fedRow[4].y, .045) + geometryRoughness);
  material.clearcoatF0 = vec3(fedRow[4].z);
#endif
#ifdef USE_SHEEN
  material.sheenColor = fedRow[5].rgb;
  material.sheenRoughness = max(fedRow[5].a, .0001);
#endif
`;

/** The fragment shader with a finish's own code in it. */
function fragmentCode(code: string, { code: own, places, relief }: DraftFinish): string {
  const handed = places.map(
    (n) => `varying ${vector(n).replace('fed', 'vFed')};\n#define ${n} ${n.replace('fed', 'vFed')}`,
  );
  const declared = `varying vec3 vFedWorld;\nvarying vec3 vFedPlace;\nvarying vec3 vFedNormal;\n#define fedPlace vFedPlace\n#define fedNormal vFedNormal\n${handed.join('\n')}\n${own}`;
  return code
    .replace('void main() {', `${declared}\nvoid main() {`)
    .replace(
      '#include <clearcoat_normal_fragment_maps>',
      `#include <clearcoat_normal_fragment_maps>
      fed(abs(dot(normalize(vViewPosition), normal)), inverseTransformDirection(normal, viewMatrix));
      diffuseColor.a *= 1. - fedNothing;
      totalEmissiveRadiance = fedRow[3].rgb;
      ${relief ? LEAN : ''}`,
    )
    .replace('#include <lights_physical_fragment>', `#include <lights_physical_fragment>\n${WORN}`)
    .replace(
      '#include <transmission_fragment>',
      ShaderChunk.transmission_fragment
        .replace('material.diffuseContribution', 'fedRow[6].rgb')
        .replace(
          'totalDiffuse = mix( totalDiffuse, transmitted.rgb, material.transmission );',
          'totalDiffuse += transmitted.rgb;',
        ),
    );
}

/** Uniforms of boxes that distances are told to. */
const noBoxes = () => ({
  fedType: { value: Array.from({ length: 2 * MOST_BOXES }, () => new Vector3()) },
  fedStage: { value: Array.from({ length: 2 * MOST_BOXES }, () => new Vector3()) },
  fedTypeCount: { value: 0 },
  fedStageCount: { value: 0 },
});

/**
 * Tells a material that is fed by distances where what it looks to is.
 * @param near six numbers a box, metres in the world
 */
export function tellNear(
  material: MeshPhysicalMaterial,
  near: Record<'type' | 'stage', readonly number[]>,
): void {
  const boxes = material.userData.near as ReturnType<typeof noBoxes> | undefined;
  if (!boxes) return;
  for (const [of, numbers] of [
    ['Type', near.type],
    ['Stage', near.stage],
  ] as const) {
    const corners = boxes[`fed${of}`].value;
    for (let i = 0; i < numbers.length / 3; i++) corners[i].fromArray(numbers, i * 3);
    boxes[`fed${of}Count`].value = numbers.length / 6;
  }
}

/** The material of a finish. @param textures of the scene */
export function draftMaterial(
  optics: Optics,
  finish: DraftFinish,
  textures: readonly Texture[],
  maps: DraftMaps,
): MeshPhysicalMaterial {
  const material = partsOf(optics, finish.holes);
  const numbers = numbersOf(finish);
  const uniforms: Record<string, { value: unknown }> = { fedData: { value: numbers } };
  if (finish.near) Object.assign(uniforms, (material.userData.near = noBoxes()));
  finish.pictures.forEach((shown, i) => {
    const texture = textures.find((t) => t.key === textureKey(shown.picture, shown.coding));
    uniforms[`fedPicture${i}`] = { value: texture ? maps.of(shown, texture) : null };
  });
  material.onBeforeCompile = (shader: WebGLProgramParametersWithUniforms) => {
    Object.assign(shader.uniforms, uniforms);
    shader.vertexShader = vertexCode(shader.vertexShader, finish.places);
    shader.fragmentShader = fragmentCode(shader.fragmentShader, finish);
  };
  material.customProgramCacheKey = () => finish.code + finish.places.join() + finish.relief;
  material.userData.program = programOf(material);
  material.addEventListener('dispose', () => numbers.dispose());
  return material;
}

/** Names what three compiles for a material, beside the lamps of its scene: alike names, alike programs. */
const programOf = (material: MeshPhysicalMaterial) =>
  [
    material.customProgramCacheKey(),
    ...[material.transmission, material.clearcoat, material.sheen, material.dispersion].map((v) => v > 0),
    material.transparent,
  ].join();

/** What of three's material the finish needs at all: its numbers come place by place. */
function partsOf(optics: Optics, holes: boolean): MeshPhysicalMaterial {
  const { thin, coat, fuzz } = optics;
  const through = optics.glass;
  const deep = optics.depth < Infinity;
  return new MeshPhysicalMaterial({
    ior: Math.min(2.333, optics.ior),
    transmission: through,
    thickness: through > 0 && !thin ? GLASS_THICKNESS : 0,
    attenuationColor: linear(optics.depthColour),
    attenuationDistance: deep ? optics.depth : Infinity,
    clearcoat: coat.weight,
    sheen: fuzz.weight,
    dispersion: gltfMaterial(optics).dispersion,
    transparent: holes,
    side: DoubleSide,
  });
}
