/** Models from .glb files (glTF 2.0): meshes where their nodes stand, skins as they stand, materials and pictures. */
import {
  Primitive,
  WebIO,
  type Document,
  type Material,
  type mat4,
  type Node,
  type Texture,
  type TextureInfo,
} from '@gltf-transform/core';
import { inWords, MODEL } from '../ceilings.ts';
import { plainTangents } from '../maths/tangents.ts';
import { direction, isMirrored, normalMatrix, point } from './carrying.ts';
import { GLTF_EXTENSIONS } from './extensions.ts';
import {
  ModelError,
  type Channel,
  type Model,
  type ModelFeed,
  type ModelMaterial,
  type ModelPart,
} from './model.ts';
import { surfaceOf } from './surface.ts';

type Vec = [number, number, number];

/** Wraps of glTF. */
const MIRRORED = 33648;
const CLAMPED = 33071;

/** Opens a .glb file. @param more extensions besides those of surfaces @throws ModelError when it is not one */
export async function openGlb(
  bytes: Uint8Array,
  more: Parameters<WebIO['registerExtensions']>[0] = [],
): Promise<Document> {
  try {
    return await new WebIO().registerExtensions([...more, ...GLTF_EXTENSIONS]).readBinary(bytes);
  } catch (error) {
    throw new ModelError(`not a readable .glb file (${error instanceof Error ? error.message : 'damaged'})`);
  }
}

/** Nodes of the scene that is shown, each after those it hangs on. */
export function nodesOf(document: Document): Node[] {
  const root = document.getRoot();
  const nodes: Node[] = [];
  (root.getDefaultScene() ?? root.listScenes()[0])?.traverse((node) => void nodes.push(node));
  return nodes;
}

/** How each vertex of a skin is carried: by its joints, weighed. Null where a mesh has none. */
function skinning(node: Node, primitive: Primitive): ((vertex: number) => mat4) | null {
  const skin = node.getSkin();
  const joints = primitive.getAttribute('JOINTS_0');
  const weights = primitive.getAttribute('WEIGHTS_0');
  if (!skin || !joints || !weights) return null;
  const inverse = skin.getInverseBindMatrices();
  const carried = skin.listJoints().map((joint, j): mat4 => {
    const world = joint.getWorldMatrix();
    if (!inverse) return world;
    return times(world, inverse.getElement(j, []) as unknown as mat4);
  });
  const [ids, shares]: [number[], number[]] = [[], []];
  return (vertex) => {
    joints.getElement(vertex, ids);
    weights.getElement(vertex, shares);
    const out = new Array<number>(16).fill(0);
    for (let k = 0; k < 4; k++) {
      const m = carried[ids[k]];
      if (m && shares[k] > 0) for (let i = 0; i < 16; i++) out[i] += m[i] * shares[k];
    }
    return out as unknown as mat4;
  };
}

function times(a: mat4, b: mat4): mat4 {
  const out: number[] = [];
  for (let c = 0; c < 4; c++)
    for (let r = 0; r < 4; r++)
      out.push(
        a[r] * b[c * 4] + a[4 + r] * b[c * 4 + 1] + a[8 + r] * b[c * 4 + 2] + a[12 + r] * b[c * 4 + 3],
      );
  return out as unknown as mat4;
}

/** Triangles of a whole file, in room made once. */
class Soup {
  positions: Float32Array;
  normals: Float32Array;
  tangents: Float32Array;
  uv: Float32Array;
  count = 0;

  constructor(most: number) {
    this.positions = new Float32Array(most * 9);
    this.normals = new Float32Array(most * 9);
    this.tangents = new Float32Array(most * 9);
    this.uv = new Float32Array(most * 12);
  }

  /**
   * Adds a primitive's triangles that have an area.
   * @param aspect width over height of its picture @throws ModelError for an index that points nowhere
   */
  add(primitive: Primitive, node: Node, aspect: number, where: string): void {
    const position = primitive.getAttribute('POSITION');
    if (!position) return;
    const normal = primitive.getAttribute('NORMAL');
    const tangent = primitive.getAttribute('TANGENT');
    const texture = primitive.getAttribute('TEXCOORD_0');
    const indices = primitive.getIndices();
    const skin = skinning(node, primitive);
    const m = node.getWorldMatrix();
    const nm = normalMatrix(m);
    const mirrored = !skin && isMirrored(m);
    const count = indices ? indices.getCount() : position.getCount();
    const scratch: number[] = [];
    const p: Vec[] = [];
    for (let i = 0; i + 2 < count; i += 3) {
      const ids = [i, i + (mirrored ? 2 : 1), i + (mirrored ? 1 : 2)].map((k) =>
        indices ? indices.getScalar(k) : k,
      );
      const bad = ids.find((id) => id >= position.getCount());
      if (bad !== undefined)
        throw new ModelError(`${where}: index ${bad} points past its ${position.getCount()} vertices`);
      for (let k = 0; k < 3; k++) p[k] = point(skin ? skin(ids[k]) : m, position.getElement(ids[k], scratch));
      if (p.some((v) => !v.every(Number.isFinite)))
        throw new ModelError(`${where}: triangle ${i / 3} is not made of numbers`);
      const e1 = p[1].map((v, a) => v - p[0][a]) as Vec;
      const e2 = p[2].map((v, a) => v - p[0][a]) as Vec;
      const face: Vec = [
        e1[1] * e2[2] - e1[2] * e2[1],
        e1[2] * e2[0] - e1[0] * e2[2],
        e1[0] * e2[1] - e1[1] * e2[0],
      ];
      const area = Math.hypot(...face);
      if (!(area > 0)) continue;
      const st = ids.map((id) => (texture ? texture.getElement(id, scratch).slice(0, 2) : [0, 0]));
      const way = growing(e1, e2, st);
      for (let k = 0; k < 3; k++) {
        const at = this.count * 9 + k * 3;
        const own = skin ? normalMatrix(skin(ids[k])) : nm;
        const n = normal ? direction(own, normal.getElement(ids[k], scratch)) : face.map((v) => v / area);
        const t = tangent
          ? direction(skin ? skin(ids[k]) : m, tangent.getElement(ids[k], scratch).slice(0, 3))
          : (way ?? plainTangents(n, [1, 0, 0], [0, 0, 1]));
        this.positions.set(p[k], at);
        this.normals.set(n, at);
        this.tangents.set(t, at);
        // pictures of ours lie about their middle, and go up
        const [u, v] = [st[k][0] - 0.5, (0.5 - st[k][1]) / aspect];
        this.uv.set([u, v, u, v], this.count * 12 + k * 4);
      }
      this.count++;
    }
  }
}

/** The way in which the first texture coordinate grows; null where it does not. */
function growing(e1: Vec, e2: Vec, st: number[][]): Vec | null {
  const [s1, t1, s2, t2] = [
    st[1][0] - st[0][0],
    st[1][1] - st[0][1],
    st[2][0] - st[0][0],
    st[2][1] - st[0][1],
  ];
  const turn = s1 * t2 - s2 * t1;
  const grows = e1.map((v, a) => (v * t2 - e2[a] * t1) * Math.sign(turn)) as Vec;
  const size = Math.hypot(...grows);
  return size > 0 ? (grows.map((v) => v / size) as Vec) : null;
}

const edgesOf = (info: TextureInfo | null): ModelFeed['edges'] => {
  const wrap = info?.getWrapS();
  return wrap === MIRRORED ? 'mirror' : wrap === CLAMPED ? 'once' : 'repeat';
};

/** A material with what of its pictures can be read. @param left is told of what cannot */
function materialOf(
  material: Material | null,
  textures: readonly Texture[],
  left: (what: string) => void,
): ModelMaterial {
  if (!material) return { name: '', surface: surfaceOf(null), feeds: [] };
  const surface = surfaceOf(material);
  const feeds: ModelFeed[] = [];
  const feed = (
    parameter: ModelFeed['parameter'],
    texture: Texture | null,
    info: TextureInfo | null,
    channel: Channel,
    factor: readonly number[],
  ) => {
    const picture = texture ? textures.indexOf(texture) : -1;
    if (picture < 0) return;
    if (info && info.getTexCoord() !== 0) left('pictures laid by a second set of coordinates');
    feeds.push({ parameter, picture, channel, factor, edges: edgesOf(info) });
  };
  const base = material.getBaseColorTexture();
  feed(
    'base_color',
    base,
    material.getBaseColorTextureInfo(),
    'colour',
    material.getBaseColorFactor().slice(0, 3),
  );
  if (material.getAlphaMode() !== 'OPAQUE')
    feed('geometry_opacity', base, material.getBaseColorTextureInfo(), 'alpha', [
      material.getBaseColorFactor()[3],
    ]);
  const metal = material.getMetallicRoughnessTexture();
  const metalInfo = material.getMetallicRoughnessTextureInfo();
  feed('specular_roughness', metal, metalInfo, 'green', [material.getRoughnessFactor()]);
  feed('base_metalness', metal, metalInfo, 'blue', [material.getMetallicFactor()]);
  feed('emission_color', material.getEmissiveTexture(), material.getEmissiveTextureInfo(), 'colour', [
    ...surface.emission_color,
  ]);
  if (material.getNormalTexture()) left('normal maps');
  for (const extension of material.listExtensions())
    for (const [name, value] of Object.entries(extension as unknown as Record<string, unknown>))
      if (/Texture$/.test(name) && value) left(`pictures of ${extension.extensionName}`);
  return { name: material.getName(), surface, feeds };
}

/** Names that no two parts share. */
function naming(): (wanted: string) => string {
  const taken = new Map<string, number>();
  return (wanted) => {
    const name = wanted.slice(0, 180) || 'Part';
    const count = (taken.get(name) ?? 0) + 1;
    taken.set(name, count);
    return count === 1 ? name : `${name} ${count}`;
  };
}

/**
 * Reads a model.
 * @throws ModelError when the file is not one, is damaged, too large, or holds no triangles
 */
export async function readModel(bytes: Uint8Array): Promise<Model> {
  if (bytes.length > MODEL.bytes)
    throw new ModelError(`the file has ${inWords(bytes.length)}, more than ${inWords(MODEL.bytes)}`);
  return modelOf(await openGlb(bytes));
}

/** The model in an open file. @throws ModelError when it is damaged, too large, or holds no triangles */
export function modelOf(document: Document): Model {
  const root = document.getRoot();
  const nodes = nodesOf(document);
  const leftOut = new Map<string, number>();
  const left = (what: string) => leftOut.set(what, (leftOut.get(what) ?? 0) + 1);
  const textures = root.listTextures().filter((t) => t.getImage() !== null);
  const materials = [null, ...root.listMaterials()];
  const made = materials.map((m) => materialOf(m, textures, left));
  const primitives = nodes.flatMap((node) =>
    (node.getMesh()?.listPrimitives() ?? []).map((primitive) => ({ node, primitive })),
  );
  const most = primitives.reduce((sum, { primitive }) => sum + trianglesOf(primitive), 0);
  if (most > MODEL.triangles)
    throw new ModelError(
      `the file has ${most.toLocaleString('en')} triangles, more than ${MODEL.triangles.toLocaleString('en')}`,
    );
  const soup = new Soup(most);
  const nameOf = naming();
  const parts: ModelPart[] = [];
  for (const { node, primitive } of primitives) {
    const mesh = node.getMesh()!.getName() || node.getName();
    if (primitive.getMode() !== Primitive.Mode.TRIANGLES) {
      left('points, lines or strips');
      continue;
    }
    const material = materials.indexOf(primitive.getMaterial());
    const [fed] = made[material].feeds;
    const [w, h] = (fed && textures[fed.picture].getSize()) ?? [1, 1];
    const first = soup.count;
    soup.add(primitive, node, w / h, `mesh "${mesh}"`);
    if (primitive.listTargets().length > 0) left('shapes that a mesh turns into');
    if (soup.count === first) continue;
    parts.push({
      name: nameOf(node.getName() || mesh || made[material].name),
      first,
      triangles: soup.count - first,
      material,
      twoSided: primitive.getMaterial()?.getDoubleSided() ?? false,
    });
  }
  if (soup.count === 0) throw new ModelError('the file holds no triangles');
  const { count } = soup;
  for (const _ of root.listAnimations()) left('animations');
  const positions = soup.positions.subarray(0, count * 9);
  return {
    positions,
    normals: soup.normals.subarray(0, count * 9),
    tangents: soup.tangents.subarray(0, count * 9),
    uv: soup.uv.subarray(0, count * 12),
    triangles: count,
    parts,
    materials: made,
    pictures: textures.map((t) => t.getImage()!),
    box: boxOf(positions),
    leftOut: [...leftOut].map(([what, times]) => (times > 1 ? `${what} (${times})` : what)),
  };
}

const trianglesOf = (primitive: Primitive): number => {
  const of = primitive.getIndices() ?? primitive.getAttribute('POSITION');
  return primitive.getMode() === Primitive.Mode.TRIANGLES && of ? Math.floor(of.getCount() / 3) : 0;
};

function boxOf(positions: Float32Array): Model['box'] {
  const min: Vec = [Infinity, Infinity, Infinity];
  const max: Vec = [-Infinity, -Infinity, -Infinity];
  for (let i = 0; i < positions.length; i++) {
    const [axis, v] = [i % 3, positions[i]];
    if (v < min[axis]) min[axis] = v;
    if (v > max[axis]) max[axis] = v;
  }
  return { min, max };
}
