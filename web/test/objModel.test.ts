import { describe, expect, it } from 'vitest';
import { readModel } from '@wemlox/core/model/readModel';
import { objModel } from '../src/workers/objModel.ts';

const file = (name: string, text: string) => ({ name, bytes: new TextEncoder().encode(text) });

/** A crate's two faces, one of each material. */
const CRATE = file(
  'crate.obj',
  `mtllib crate.mtl
o crate
v 0 0 0
v 1 0 0
v 1 1 0
v 0 1 0
vt 0 0
vt 1 0
vt 1 1
vt 0 1
usemtl slats
f 1/1 2/2 3/3
usemtl iron
f 1/1 3/3 4/4
`,
);
const PAINTS = file(
  'crate.mtl',
  `newmtl slats
Kd 0.4 0.3 0.2
Ns 6
newmtl iron
Kd 0.1 0.1 0.1
Pm 1
d 0.5
Ke 2 0 0
map_Bump scratches.png
map_Kd -s 1 1 1 rust.png
`,
);

describe('an .obj file', () => {
  it('becomes a model with its parts and materials, and says what was not read', async () => {
    const { bytes, leftOut } = await objModel([PAINTS, CRATE]);
    const { parts, materials, triangles, box } = await readModel(bytes);
    expect(triangles).toBe(2);
    expect(box.max).toEqual([1, 1, 0]);
    expect(parts.map((p) => p.name)).toEqual(['crate slats', 'crate iron']);
    const [slats, iron] = parts.map((p) => materials[p.material]!);
    expect(slats!.surface.base_color[0]).toBeCloseTo(0.4, 6);
    // an exponent of 6: α² = 1/4
    expect(slats!.surface.specular_roughness).toBeCloseTo(Math.SQRT1_2, 4);
    expect(iron!.surface).toMatchObject({
      base_metalness: 1,
      geometry_opacity: 0.5,
      emission_color: [1, 0, 0],
    });
    expect(leftOut.sort()).toEqual(['map_bump', 'picture rust.png, which was not among the files']);
  });

  it('without its materials is plain, and says so', async () => {
    const { bytes, leftOut } = await objModel([CRATE]);
    expect((await readModel(bytes)).triangles).toBe(2);
    expect(leftOut).toEqual(['crate.mtl, which was not among the files: its parts are plain']);
  });

  it('that is none is refused', async () => {
    await expect(objModel([PAINTS])).rejects.toThrow('no .obj file');
    const { bytes } = await objModel([file('no.obj', 'this is no model')]);
    await expect(readModel(bytes)).rejects.toThrow('no triangles');
  });
});
