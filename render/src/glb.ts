/** glTF 2.0 binary files as scenes: meshes, cameras, punctual lights and the material extensions OpenPBR knows. */
import { NodeIO, Primitive, type Document, type Material, type mat4, type Node } from '@gltf-transform/core';
import {
  KHRLightsPunctual,
  type Anisotropy,
  type Clearcoat,
  type Dispersion,
  type EmissiveStrength,
  type IOR,
  type Iridescence,
  type Light,
  type Sheen,
  type Specular,
  type Transmission,
  type Volume,
} from '@gltf-transform/extensions';
import { openPbrAnisotropy } from '@wemlox/core/finish/gltf';
import { newShot, plainSurface, type Surface } from '@wemlox/core/document';
import type { SurroundPicture } from '@wemlox/core/light/surround';
import { GLTF_EXTENSIONS } from '@wemlox/core/scene/gltfMaterials';
import { plainTangents } from '@wemlox/core/scene/tangents';
import { finishOptics } from '@wemlox/core/finish/optics';
import { SceneBuilder } from '@wemlox/core/scene/sceneBuilder';
import { IDENTITY } from '@wemlox/core/scene/transform';
import type { RenderScene, SceneLight } from '@wemlox/core/scene/renderScene';
import { fitted, type Box } from '@wemlox/core/stage/camera';
import type { Eye } from '@wemlox/core/trace/eye';

/** A file that cannot be rendered; the message says what and where. */
class GlbError extends Error {}

interface GlbScene {
  scene: RenderScene;
  /** The file's own camera, for a picture of a size; null when it has none. */
  view: ((width: number, height: number) => Eye) | null;
  /** What of the file was left out, in words. */
  leftOut: string[];
}

type Vec = [number, number, number];

const EXTENSIONS = [KHRLightsPunctual, ...GLTF_EXTENSIONS];

const point = (m: mat4, v: ArrayLike<number>): Vec =>
  [0, 1, 2].map((r) => m[r] * v[0] + m[4 + r] * v[1] + m[8 + r] * v[2] + m[12 + r]) as Vec;

const direction = (m: mat4, v: ArrayLike<number>): Vec => {
  const d = [0, 1, 2].map((r) => m[r] * v[0] + m[4 + r] * v[1] + m[8 + r] * v[2]);
  const l = Math.hypot(...d) || 1;
  return d.map((x) => x / l) as Vec;
};

const isMirrored = (m: mat4) =>
  m[0] * (m[5] * m[10] - m[6] * m[9]) -
    m[4] * (m[1] * m[10] - m[2] * m[9]) +
    m[8] * (m[1] * m[6] - m[2] * m[5]) <
  0;

/** Normals go by the inverse transpose: the matrix of cofactors does, up to scale. */
function normalMatrix(m: mat4): mat4 {
  const c = [
    m[5] * m[10] - m[6] * m[9],
    m[6] * m[8] - m[4] * m[10],
    m[4] * m[9] - m[5] * m[8],
    0,
    m[2] * m[9] - m[1] * m[10],
    m[0] * m[10] - m[2] * m[8],
    m[1] * m[8] - m[0] * m[9],
    0,
    m[1] * m[6] - m[2] * m[5],
    m[2] * m[4] - m[0] * m[6],
    m[0] * m[5] - m[1] * m[4],
    0,
  ];
  // of a mirrored matrix the cofactors point the other way
  const sign = isMirrored(m) ? -1 : 1;
  return [...c.map((v) => v * sign), 0, 0, 0, 1] as mat4;
}

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
    transmission_dispersion_scale: dispersion > 0 ? 1 : 0,
    transmission_dispersion_abbe_number: dispersion > 0 ? Math.min(91, Math.max(9, 20 / dispersion)) : 20,
    geometry_opacity: opacityOf(material),
    emission_color: peak > 0 ? unit(glow.map((v) => v / peak)) : [1, 1, 1],
    emission_luminance: peak * strength,
  });
}

function lightOf(node: Node, light: Light, group: number): SceneLight {
  const m = node.getWorldMatrix();
  const colour = light.getColor().map((v) => v * light.getIntensity()) as Vec;
  const placed = {
    position: point(m, [0, 0, 0]),
    forward: direction(m, [0, 0, -1]),
    right: direction(m, [1, 0, 0]),
    up: direction(m, [0, 1, 0]),
    colour,
  };
  const name = light.getName() || node.getName();
  const any = { id: `light-${group}`, name, placed, shadow: true, group };
  const type = light.getType();
  const range = light.getRange() ?? undefined;
  if (type === 'spot') {
    const cosInner = Math.cos(light.getInnerConeAngle());
    return { ...any, kind: 'spot', cosInner, cosOuter: Math.cos(light.getOuterConeAngle()), range };
  }
  return type === 'point' ? { ...any, kind: 'point', range } : { ...any, kind: 'directional' };
}

/** Growing triangle lists of the whole file. */
class Triangles {
  readonly positions: number[] = [];
  readonly normals: number[] = [];
  readonly tangents: number[] = [];
  readonly uv: number[] = [];

  /** @throws GlbError for an index that points nowhere */
  add(primitive: Primitive, m: mat4, where: string): number {
    const position = primitive.getAttribute('POSITION');
    if (!position) return 0;
    const normal = primitive.getAttribute('NORMAL');
    const tangent = primitive.getAttribute('TANGENT');
    const texture = primitive.getAttribute('TEXCOORD_0');
    const indices = primitive.getIndices();
    const count = indices ? indices.getCount() : position.getCount();
    const nm = normalMatrix(m);
    const mirrored = isMirrored(m);
    const scratch: number[] = [];
    let made = 0;
    for (let i = 0; i + 2 < count; i += 3) {
      const ids = [i, i + (mirrored ? 2 : 1), i + (mirrored ? 1 : 2)].map((k) =>
        indices ? indices.getScalar(k) : k,
      );
      const bad = ids.find((id) => id >= position.getCount());
      if (bad !== undefined)
        throw new GlbError(`${where}: index ${bad} points past its ${position.getCount()} vertices`);
      const p = ids.map((id) => point(m, position.getElement(id, scratch)));
      if (p.flat().some((v) => !Number.isFinite(v)))
        throw new GlbError(`${where}: triangle ${i / 3} is not made of numbers`);
      const e1 = p[1].map((v, a) => v - p[0][a]);
      const e2 = p[2].map((v, a) => v - p[0][a]);
      const flat: Vec = [
        e1[1] * e2[2] - e1[2] * e2[1],
        e1[2] * e2[0] - e1[0] * e2[2],
        e1[0] * e2[1] - e1[1] * e2[0],
      ];
      const area = Math.hypot(...flat);
      if (!(area > 0)) continue;
      const face = flat.map((v) => v / area);
      const st = ids.map((id) => (texture ? [...texture.getElement(id, scratch)] : [0, 0]));
      // without tangents: the way in which the first texture coordinate grows
      const [s1, t1, s2, t2] = [
        st[1][0] - st[0][0],
        st[1][1] - st[0][1],
        st[2][0] - st[0][0],
        st[2][1] - st[0][1],
      ];
      const turn = s1 * t2 - s2 * t1;
      const grows = e1.map((v, a) => (v * t2 - e2[a] * t1) * Math.sign(turn));
      const size = Math.hypot(...grows);
      for (let k = 0; k < 3; k++) {
        const n = normal ? direction(nm, normal.getElement(ids[k], scratch)) : face;
        this.positions.push(...p[k]);
        this.normals.push(...n);
        if (tangent)
          this.tangents.push(...direction(m, tangent.getElement(ids[k], scratch).slice(0, 3) as Vec));
        else if (size > 0) this.tangents.push(...grows.map((v) => v / size));
        else this.tangents.push(...plainTangents(n, [1, 0, 0], [0, 0, 1]));
        this.uv.push(...st[k], ...st[k]);
      }
      made++;
    }
    return made;
  }
}

function boxOf(positions: number[]): Box {
  const box: Box = { min: [Infinity, Infinity, Infinity], max: [-Infinity, -Infinity, -Infinity] };
  positions.forEach((v, i) => {
    box.min[i % 3] = Math.min(box.min[i % 3], v);
    box.max[i % 3] = Math.max(box.max[i % 3], v);
  });
  return box;
}

function leftOutOf(document: Document): string[] {
  const root = document.getRoot();
  const out: string[] = [];
  const textures = root.listTextures().length;
  if (textures > 0) out.push(`${textures} textures (materials keep their factors)`);
  if (root.listAnimations().length > 0) out.push(`${root.listAnimations().length} animations`);
  if (root.listSkins().length > 0) out.push(`${root.listSkins().length} skins (meshes stand as modelled)`);
  return out;
}

/**
 * Reads a .glb file as a scene.
 * @param surround environment picture; null for a black one
 * @throws GlbError when it is not one, is damaged, or holds nothing to see
 */
export async function readGlb(
  bytes: Uint8Array,
  surround: SurroundPicture | null,
  bounces = 8,
): Promise<GlbScene> {
  let document: Document;
  try {
    document = await new NodeIO().registerExtensions(EXTENSIONS).readBinary(bytes);
  } catch (error) {
    throw new GlbError(`not a readable .glb file (${error instanceof Error ? error.message : 'damaged'})`);
  }
  const root = document.getRoot();
  const materials: (Material | null)[] = [null, ...root.listMaterials()];
  const triangles = new Triangles();
  const runs: { name: string; finish: number; first: number; triangles: number; twoSided: boolean }[] = [];
  const lights: SceneLight[] = [];
  const leftOut = leftOutOf(document);
  let view: GlbScene['view'] = null;
  let at = 0;
  (root.getDefaultScene() ?? root.listScenes()[0])?.traverse((node) => {
    const m = node.getWorldMatrix();
    const light = node.getExtension<Light>('KHR_lights_punctual');
    if (light) lights.push(lightOf(node, light, lights.length));
    const camera = node.getCamera();
    if (camera?.getType() === 'perspective' && !view) {
      const half = Math.tan(camera.getYFov() / 2);
      const scaled = (v: Vec, s: number) => v.map((x) => x * s) as Vec;
      view = (width, height) => ({
        width,
        height,
        orthographic: false,
        origin: point(m, [0, 0, 0]),
        forward: direction(m, [0, 0, -1]),
        right: scaled(direction(m, [1, 0, 0]), (half * width) / height),
        up: scaled(direction(m, [0, 1, 0]), half),
        visible: null,
        dress: null,
        bounces,
        limits: null,
      });
    }
    for (const primitive of node.getMesh()?.listPrimitives() ?? []) {
      const where = `mesh "${node.getMesh()!.getName() || node.getName()}"`;
      if (primitive.getMode() !== Primitive.Mode.TRIANGLES) {
        leftOut.push(`${where}: points, lines or strips`);
        continue;
      }
      const made = triangles.add(primitive, m, where);
      if (made === 0) continue;
      runs.push({
        name: node.getName(),
        finish: materials.indexOf(primitive.getMaterial()),
        twoSided: primitive.getMaterial()?.getDoubleSided() ?? false,
        first: at,
        triangles: made,
      });
      at += made;
    }
  });
  if (at === 0) throw new GlbError('the file holds no triangles');
  const finishes = materials.map((material) =>
    finishOptics({ surface: surfaceOf(material), feeds: [], coats: [] }),
  );
  const glows = (finish: number) => finishes[finish].glow.luminance > 0;
  if (!surround && lights.length === 0 && !runs.some((r) => glows(r.finish))) {
    throw new GlbError('the file holds no lights; give an environment with --surround');
  }
  const typeBox = boxOf(triangles.positions);
  const shared = (values: number[], from: number, to: number) => {
    const out = new Float32Array(new SharedArrayBuffer((to - from) * 4));
    for (let i = from; i < to; i++) out[i - from] = values[i];
    return out;
  };
  const groups = [...lights.map((l) => l.name), 'Surround'];
  const builder = new SceneBuilder();
  builder.place('file', IDENTITY);
  runs.forEach(({ name, finish, first, triangles: count, twoSided }, i) => {
    const [from, to] = [first * 9, (first + count) * 9];
    const solid = {
      key: `run ${i}`,
      triangles: count,
      positions: shared(triangles.positions, from, to),
      normals: shared(triangles.normals, from, to),
      tangents: shared(triangles.tangents, from, to),
      uv: shared(triangles.uv, first * 12, (first + count) * 12),
    };
    const group = glows(finish) ? groups.push(name) - 1 : null;
    builder.add(solid, IDENTITY, { block: null, letter: null, piece: name }, [
      { first: 0, triangles: count, zone: null, colour: null, finish, group, twoSided },
    ]);
  });
  return {
    leftOut,
    view,
    scene: {
      solids: builder.solids,
      things: builder.things,
      ...builder.built(true),
      finishes,
      within: finishes.map(() => 0),
      textures: [],
      lights,
      surround: {
        picture: surround ?? { width: 2, height: 1, data: new Float32Array(6) },
        gain: 1,
        turn: 0,
        seen: surround !== null,
        group: lights.length,
      },
      groups,
      typeBox,
      camera: fitted(newShot(), typeBox),
      aspect: 16 / 9,
      bounces,
      limits: null,
      time: 0,
    },
  };
}
