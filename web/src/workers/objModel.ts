/** Models from .obj files, with the .mtl files and pictures beside them, as .glb files: what the studio keeps. */
import { Document, WebIO, type Material } from '@gltf-transform/core';
import { KHRMaterialsIOR } from '@gltf-transform/extensions';
import { Mesh, type BufferAttribute } from 'three';
import { MTLLoader } from 'three/addons/loaders/MTLLoader.js';
import { OBJLoader } from 'three/addons/loaders/OBJLoader.js';
import type { NamedFile } from './messages.ts';

const text = ({ bytes }: NamedFile) => new TextDecoder().decode(bytes);
const ends = (name: string, ...endings: string[]) => endings.some((e) => name.toLowerCase().endsWith(e));

/** A number as .mtl files write it; the otherwise where there is none. */
const numberOf = (value: unknown, otherwise: number): number => {
  const number = Number.parseFloat(String(value));
  return Number.isFinite(number) ? number : otherwise;
};

const colourOf = (value: unknown): [number, number, number] | null =>
  Array.isArray(value) && value.length >= 3
    ? (value.slice(0, 3).map((v) => Math.min(1, Math.max(0, numberOf(v, 0)))) as [number, number, number])
    : null;

type Said = Record<string, unknown>;

/** A material as .mtl says it: colours are taken as linear light; a Phong exponent as the GGX width of its highlight. */
function materialOf(
  document: Document,
  name: string,
  said: Said,
  pictureOf: (path: string) => NamedFile | null,
): Material {
  const material = document.createMaterial(name).setMetallicFactor(numberOf(said.pm, 0));
  const exponent = numberOf(said.ns, 20);
  // α² = 2 / (n + 2), and glTF's roughness is the root of α
  material.setRoughnessFactor(Math.min(1, numberOf(said.pr, (2 / (exponent + 2)) ** 0.25)));
  const opacity = Math.min(1, Math.max(0, numberOf(said.d, 1 - numberOf(said.tr, 0))));
  material.setBaseColorFactor([...(colourOf(said.kd) ?? [0.8, 0.8, 0.8]), opacity]);
  if (opacity < 1) material.setAlphaMode('BLEND');
  const glow = colourOf(said.ke);
  if (glow) material.setEmissiveFactor(glow);
  const index = numberOf(said.ni, 0);
  if (index > 1)
    material.setExtension(
      'KHR_materials_ior',
      document.createExtension(KHRMaterialsIOR).createIOR().setIOR(index),
    );
  const picture = typeof said.map_kd === 'string' ? pictureOf(said.map_kd) : null;
  if (picture) {
    const mime = ends(picture.name, '.png')
      ? 'image/png'
      : ends(picture.name, '.webp')
        ? 'image/webp'
        : 'image/jpeg';
    material.setBaseColorTexture(
      document.createTexture(picture.name).setImage(picture.bytes).setMimeType(mime),
    );
  }
  return material;
}

/**
 * @param files an .obj file with what it leans on
 * @returns a .glb file, and what was not read, in words
 * @throws Error naming what is wrong
 */
export async function objModel(
  files: readonly NamedFile[],
): Promise<{ bytes: Uint8Array<ArrayBuffer>; leftOut: string[] }> {
  const obj = files.find((f) => ends(f.name, '.obj'));
  if (!obj) throw new Error('there is no .obj file among them');
  const leftOut: string[] = [];
  const group = new OBJLoader().parse(text(obj));
  const document = new Document();
  const buffer = document.createBuffer();
  const scene = document.createScene();
  const pictureOf = (path: string) => {
    // options stand before the name, folders do not count
    const name = path
      .split(/[\\/\s]+/)
      .at(-1)!
      .toLowerCase();
    const found = files.find((f) => f.name.toLowerCase() === name) ?? null;
    if (!found) leftOut.push(`picture ${name}, which was not among the files`);
    return found;
  };
  const said = new Map<string, Said>();
  for (const file of files.filter((f) => ends(f.name, '.mtl')))
    for (const [name, of] of Object.entries(new MTLLoader().parse(text(file), '').materialsInfo))
      said.set(name, of as unknown as Said);
  const wanted = /^mtllib\s+(.+)$/m.exec(text(obj))?.[1]?.trim();
  if (wanted && said.size === 0)
    leftOut.push(`${wanted}, which was not among the files: its parts are plain`);
  for (const of of said.values())
    for (const key of Object.keys(of))
      if (/^(map_|bump|norm|disp|refl)/i.test(key) && key !== 'map_kd') leftOut.push(key);
  const materials = new Map<string, Material>();
  const dressed = (name: string) => {
    let material = materials.get(name);
    if (!material)
      materials.set(name, (material = materialOf(document, name, said.get(name) ?? {}, pictureOf)));
    return material;
  };
  group.traverse((child) => {
    if (!(child instanceof Mesh)) {
      if (child !== group) leftOut.push('lines or points');
      return;
    }
    const worn = (Array.isArray(child.material) ? child.material : [child.material]) as { name: string }[];
    const position = child.geometry.getAttribute('position') as BufferAttribute;
    const runs =
      child.geometry.groups.length > 0
        ? child.geometry.groups
        : [{ start: 0, count: position.count, materialIndex: 0 }];
    for (const { start, count, materialIndex } of runs) {
      const primitive = document.createPrimitive();
      for (const [name, semantic, type, size] of [
        ['position', 'POSITION', 'VEC3', 3],
        ['normal', 'NORMAL', 'VEC3', 3],
        ['uv', 'TEXCOORD_0', 'VEC2', 2],
      ] as const) {
        const attribute = child.geometry.getAttribute(name) as BufferAttribute | undefined;
        if (!attribute) continue;
        const numbers = Float32Array.from(attribute.array.subarray(start * size, (start + count) * size));
        // rows of pictures are counted from the top in glTF
        if (size === 2) for (let i = 1; i < numbers.length; i += 2) numbers[i] = 1 - numbers[i];
        primitive.setAttribute(
          semantic,
          document.createAccessor().setType(type).setArray(numbers).setBuffer(buffer),
        );
      }
      primitive.setMaterial(dressed(worn[materialIndex ?? 0]?.name ?? ''));
      const name =
        runs.length > 1 ? `${child.name} ${worn[materialIndex ?? 0]?.name ?? ''}`.trim() : child.name;
      scene.addChild(document.createNode(name).setMesh(document.createMesh(name).addPrimitive(primitive)));
    }
  });
  const bytes = await new WebIO().registerExtensions([KHRMaterialsIOR]).writeBinary(document);
  return { bytes: Uint8Array.from(bytes), leftOut: [...new Set(leftOut)] };
}
