/** Models from .glb files (glTF 2.0): meshes where their nodes stand, skins as they stand, materials and pictures. */
import {
  Primitive,
  WebIO,
  type Accessor,
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

/** An accessor's elements as plain numbers, one after the other. */
function numbersOf(accessor: Accessor | null, size: number): Float32Array | null {
  if (!accessor) return null;
  const array = accessor.getArray();
  if (array instanceof Float32Array && !accessor.getSparse()) return array;
  const out = new Float32Array(accessor.getCount() * size);
  const scratch: number[] = [];
  for (let i = 0; i < accessor.getCount(); i++) {
    accessor.getElement(i, scratch);
    for (let k = 0; k < size; k++) out[i * size + k] = scratch[k];
  }
  return out;
}

/** Vertices of a primitive as they stand in the scene. */
interface Vertices {
  positions: Float32Array;
  normals: Float32Array | null;
  /** Three numbers each, along which pictures grow. */
  tangents: Float32Array | null;
  uv: Float32Array | null;
}

function verticesOf(primitive: Primitive, node: Node): Vertices | null {
  const position = numbersOf(primitive.getAttribute('POSITION'), 3);
  if (!position) return null;
  const [normal, tangent] = [
    numbersOf(primitive.getAttribute('NORMAL'), 3),
    numbersOf(primitive.getAttribute('TANGENT'), 4),
  ];
  const skin = skinning(node, primitive);
  const world = node.getWorldMatrix();
  const upright = normalMatrix(world);
  const count = position.length / 3;
  const positions = new Float32Array(count * 3);
  const normals = normal && new Float32Array(count * 3);
  const tangents = tangent && new Float32Array(count * 3);
  for (let i = 0; i < count; i++) {
    const m = skin ? skin(i) : world;
    positions.set(point(m, position.subarray(i * 3, i * 3 + 3)), i * 3);
    normals?.set(direction(skin ? normalMatrix(m) : upright, normal!.subarray(i * 3, i * 3 + 3)), i * 3);
    tangents?.set(direction(m, tangent!.subarray(i * 4, i * 4 + 3)), i * 3);
  }
  return { positions, normals, tangents, uv: numbersOf(primitive.getAttribute('TEXCOORD_0'), 2) };
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
    const vertices = verticesOf(primitive, node);
    if (!vertices) return;
    const { positions: p, tangents, uv } = vertices;
    const indices = primitive.getIndices()?.getArray() ?? null;
    const mirrored = !node.getSkin() && isMirrored(node.getWorldMatrix());
    const [second, third] = mirrored ? [2, 1] : [1, 2];
    const points = p.length / 3;
    const count = indices ? indices.length : points;
    for (let i = 0; i + 2 < count; i += 3) {
      const a = indices ? indices[i] : i;
      const b = indices ? indices[i + second] : i + second;
      const c = indices ? indices[i + third] : i + third;
      const last = Math.max(a, b, c);
      if (last >= points) throw new ModelError(`${where}: index ${last} points past its ${points} vertices`);
      const [ax, ay, az] = [p[a * 3], p[a * 3 + 1], p[a * 3 + 2]];
      const [x1, y1, z1] = [p[b * 3] - ax, p[b * 3 + 1] - ay, p[b * 3 + 2] - az];
      const [x2, y2, z2] = [p[c * 3] - ax, p[c * 3 + 1] - ay, p[c * 3 + 2] - az];
      const [nx, ny, nz] = [y1 * z2 - z1 * y2, z1 * x2 - x1 * z2, x1 * y2 - y1 * x2];
      const area = Math.sqrt(nx * nx + ny * ny + nz * nz);
      if (!Number.isFinite(ax + ay + az + area))
        throw new ModelError(`${where}: triangle ${i / 3} is not made of numbers`);
      if (!(area > 0)) continue;
      const face: Vec = [nx / area, ny / area, nz / area];
      const way = tangents || !uv ? null : growing([x1, y1, z1], [x2, y2, z2], uv, a, b, c);
      this.corner(0, a, vertices, face, way, aspect);
      this.corner(1, b, vertices, face, way, aspect);
      this.corner(2, c, vertices, face, way, aspect);
      this.count++;
    }
  }

  private corner(
    k: number,
    vertex: number,
    { positions, normals, tangents, uv }: Vertices,
    face: Vec,
    way: Vec | null,
    aspect: number,
  ): void {
    const [to, from] = [this.count * 9 + k * 3, vertex * 3];
    for (let i = 0; i < 3; i++) {
      this.positions[to + i] = positions[from + i];
      this.normals[to + i] = normals ? normals[from + i] : face[i];
    }
    const tangent =
      way ??
      (tangents
        ? tangents.subarray(from, from + 3)
        : plainTangents(this.normals.subarray(to, to + 3), [1, 0, 0], [0, 0, 1]));
    for (let i = 0; i < 3; i++) this.tangents[to + i] = tangent[i];
    // pictures of ours lie about their middle, and go up
    const at = this.count * 12 + k * 4;
    const [u, v] = uv ? [uv[vertex * 2] - 0.5, (0.5 - uv[vertex * 2 + 1]) / aspect] : [0, 0];
    this.uv[at] = this.uv[at + 2] = u;
    this.uv[at + 1] = this.uv[at + 3] = v;
  }
}

/** The way in which the first texture coordinate grows over a triangle; null where it does not. */
function growing(e1: Vec, e2: Vec, uv: Float32Array, a: number, b: number, c: number): Vec | null {
  const [s1, t1] = [uv[b * 2] - uv[a * 2], uv[b * 2 + 1] - uv[a * 2 + 1]];
  const [s2, t2] = [uv[c * 2] - uv[a * 2], uv[c * 2 + 1] - uv[a * 2 + 1]];
  const turn = s1 * t2 - s2 * t1;
  const grows = e1.map((v, i) => (v * t2 - e2[i] * t1) * Math.sign(turn)) as Vec;
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
  feed('relief', material.getNormalTexture(), material.getNormalTextureInfo(), 'normal', [
    material.getNormalScale(),
  ]);
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
  root.listAnimations().forEach(() => left('animations'));
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
