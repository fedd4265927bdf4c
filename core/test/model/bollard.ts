/** A made-up model: an iron bollard with a painted band, its parts under a scaled and a mirrored node. */
import { Document, WebIO } from '@gltf-transform/core';
import { encode } from 'fast-png';

/** A solid of revolution about the upright axis; radii and heights from below, metres. */
function lathe(profile: readonly (readonly [number, number])[], around = 24) {
  const positions: number[] = [];
  const uv: number[] = [];
  const indices: number[] = [];
  for (let i = 0; i <= around; i++)
    profile.forEach(([r, y], k) => {
      const a = (2 * Math.PI * i) / around;
      positions.push(r * Math.sin(a), y, r * Math.cos(a));
      uv.push(i / around, 1 - k / (profile.length - 1));
    });
  const n = profile.length;
  for (let i = 0; i < around; i++)
    for (let k = 0; k + 1 < n; k++) {
      const [a, b] = [i * n + k, (i + 1) * n + k];
      indices.push(a, b, b + 1, a, b + 1, a + 1);
    }
  return { positions, uv, indices };
}

/** A picture of two halves: what is above in it, and what is below. */
const halves = (above: readonly number[], below: readonly number[]) =>
  encode({
    width: 2,
    height: 2,
    channels: 3,
    data: Uint8Array.from([...above, ...above, ...below, ...below]),
  });

/** @param more changes the document before it is written */
export async function bollard(more: (document: Document) => void = () => {}): Promise<Uint8Array> {
  const document = new Document();
  const buffer = document.createBuffer();
  const scene = document.createScene();
  const add = (name: string, shape: ReturnType<typeof lathe>) => {
    const accessor = (type: 'VEC3' | 'VEC2' | 'SCALAR', array: Float32Array | Uint16Array) =>
      document.createAccessor().setType(type).setArray(array).setBuffer(buffer);
    const primitive = document
      .createPrimitive()
      .setAttribute('POSITION', accessor('VEC3', Float32Array.from(shape.positions)))
      .setAttribute('TEXCOORD_0', accessor('VEC2', Float32Array.from(shape.uv)))
      .setIndices(accessor('SCALAR', Uint16Array.from(shape.indices)));
    const node = document.createNode(name).setMesh(document.createMesh(name).addPrimitive(primitive));
    scene.addChild(node);
    return { primitive, node };
  };
  const iron = document
    .createMaterial('iron')
    .setBaseColorFactor([0.05, 0.05, 0.06, 1])
    .setMetallicFactor(0)
    .setRoughnessFactor(0.6);
  const paint = document
    .createMaterial('paint')
    .setMetallicFactor(0)
    .setRoughnessFactor(0.9)
    .setBaseColorTexture(
      document
        .createTexture('band')
        .setMimeType('image/png')
        .setImage(halves([255, 0, 0], [255, 255, 255])),
    );
  const post = add(
    'post',
    lathe([
      [0, 0],
      [20, 0],
      [14, 6],
      [14, 60],
      [22, 66],
      [22, 74],
      [0, 78],
    ]),
  );
  post.primitive.setMaterial(iron);
  // the file counts in centimetres
  post.node.setScale([0.01, 0.01, 0.01]);
  const band = add(
    'band',
    lathe([
      [0.141, 0.3],
      [0.141, 0.4],
    ]),
  );
  band.primitive.setMaterial(paint);
  band.node.setScale([-1, 1, 1]);
  more(document);
  return new WebIO().writeBinary(document);
}
