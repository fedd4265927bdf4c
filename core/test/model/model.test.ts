import { Document, WebIO } from '@gltf-transform/core';
import { describe, expect, it } from 'vitest';
import { newPiece, newProject } from '../../src/document/index.ts';
import { READY_FINISHES } from '../../src/finish/readyFinishes.ts';
import { modelFinishes, takenPixels } from '../../src/model/finishes.ts';
import { ModelError } from '../../src/model/model.ts';
import { readModel } from '../../src/model/readModel.ts';
import { loadModel } from '../../src/model/textures.ts';
import { findingText } from '../../src/preflight/words.ts';
import { shotEye } from '../../src/trace/eye.ts';
import { testMaker } from '../scene/maker.ts';
import { traced } from '../trace/sceneFixture.ts';
import { bollard } from './bollard.ts';

const HASH = 'b'.repeat(64);
const decoders = {
  jpeg: () => Promise.reject(new Error('none')),
  webp: () => Promise.reject(new Error('none')),
};
const corner = (values: Float32Array, i: number) => [...values.subarray(i * 3, i * 3 + 3)];

describe('a model', () => {
  it('stands as its nodes say, mirrored ones too, with faces that look outward', async () => {
    const { positions, normals, tangents, parts, box, triangles } = await readModel(await bollard());
    expect(parts.map((p) => p.name)).toEqual(['post', 'band']);
    expect(parts.at(-1)!.first + parts.at(-1)!.triangles).toBe(triangles);
    expect(box.max[1] - box.min[1]).toBeCloseTo(0.78, 5);
    expect(box.max[0]).toBeCloseTo(0.22, 3);
    for (let i = 0; i < triangles * 3; i++) {
      const [p, n, t] = [corner(positions, i), corner(normals, i), corner(tangents, i)];
      expect(Math.hypot(...n)).toBeCloseTo(1, 5);
      expect(Math.abs(n.reduce((s, v, k) => s + v * t[k], 0))).toBeLessThan(0.2);
      // away from the axis, or along it
      if (Math.abs(n[1]) < 0.5) expect(n[0] * p[0] + n[2] * p[2]).toBeGreaterThan(0);
    }
  });

  it('has pictures in their colours, with the file’s own factors', async () => {
    const bytes = await bollard((d) => d.getRoot().listMaterials()[1]!.setBaseColorFactor([0.5, 1, 1, 1]));
    const { model, textures } = await loadModel(HASH, bytes, decoders);
    expect(model.leftOut).toEqual([]);
    expect(textures).toHaveLength(1);
    // half the light of full red is 188 in sRGB
    expect([...textures[0]!.data.subarray(0, 4)]).toEqual([188, 0, 0, 255]);
    const [, , paint] = modelFinishes(HASH, model, 1);
    expect(paint!.feeds.map((f) => f.parameter)).toEqual(['base_color']);
    const data = Uint8Array.of(10, 20, 30, 40);
    const taken = (channel: 'green' | 'alpha') => [
      ...takenPixels({ width: 1, height: 1, data }, { channel, factor: [0.5] }).data,
    ];
    expect(taken('green')).toEqual([10, 10, 10, 255]);
    expect(taken('alpha')).toEqual([20, 20, 20, 255]);
  });

  it('with a skin stands as its joints do', async () => {
    const bytes = await bollard((d) => {
      const node = d.getRoot().listNodes()[0]!;
      const primitive = node.getMesh()!.listPrimitives()[0]!;
      const count = primitive.getAttribute('POSITION')!.getCount();
      const fill = (v: number[]) => Array.from({ length: count }, () => v).flat();
      const buffer = d.getRoot().listBuffers()[0]!;
      primitive
        .setAttribute(
          'JOINTS_0',
          d
            .createAccessor()
            .setType('VEC4')
            .setArray(Uint8Array.from(fill([0, 0, 0, 0])))
            .setBuffer(buffer),
        )
        .setAttribute(
          'WEIGHTS_0',
          d
            .createAccessor()
            .setType('VEC4')
            .setArray(Float32Array.from(fill([1, 0, 0, 0])))
            .setBuffer(buffer),
        );
      const joint = d.createNode('joint').setTranslation([3, 0, 0]).setScale([0.01, 0.01, 0.01]);
      d.getRoot().listScenes()[0]!.addChild(joint);
      node.setSkin(d.createSkin().addJoint(joint));
    });
    const { box } = await readModel(bytes);
    expect(box.max[0]).toBeCloseTo(3.22, 3);
  });

  it('says what of it was not read', async () => {
    const bytes = await bollard((d) => {
      d.createAnimation('turn');
      const line = d.createPrimitive().setMode(1).setAttribute('POSITION', d.getRoot().listAccessors()[0]!);
      d.getRoot()
        .listScenes()[0]!
        .addChild(d.createNode('rope').setMesh(d.createMesh('rope').addPrimitive(line)));
    });
    expect((await readModel(bytes)).leftOut.sort()).toEqual(['animations', 'points, lines or strips']);
  });

  it('has normals of a picture lean its faces, as much as it says', async () => {
    const bytes = await bollard((d) => {
      const [texture] = d.getRoot().listTextures();
      d.getRoot().listMaterials()[0]!.setNormalTexture(texture!).setNormalScale(0.5);
    });
    const model = await readModel(bytes);
    expect(model.leftOut).toEqual([]);
    const feeds = model.materials.flatMap((m) => m.feeds).filter((f) => f.parameter === 'relief');
    expect(feeds).toEqual([expect.objectContaining({ channel: 'normal', factor: [0.5], picture: 0 })]);
    const [finish] = modelFinishes('x', model, 2).filter((f) =>
      f.feeds.some((g) => g.parameter === 'relief'),
    );
    expect(finish!.feeds.find((g) => g.parameter === 'relief')).toMatchObject({
      take: 'normals',
      coding: 'numbers',
    });
    // a normal of (0.6, 0, 0.8), leant half as much: (0.3, 0, 0.8) of length one
    const one = new Float32Array([0.8, 0.5, 0.9, 1]);
    const { data } = takenPixels({ width: 1, height: 1, data: one }, { channel: 'normal', factor: [0.5] });
    const long = Math.hypot(0.3, 0.8);
    [0.3 / long / 2 + 0.5, 0.5, 0.8 / long / 2 + 0.5, 1].forEach((v, i) => expect(data[i]).toBeCloseTo(v, 6));
    const bytes8 = takenPixels(
      { width: 1, height: 1, data: Uint8Array.of(204, 128, 230, 9) },
      { channel: 'normal', factor: [1] },
    );
    [204, 128, 230, 255].forEach((v, i) => expect(Math.abs(bytes8.data[i]! - v)).toBeLessThanOrEqual(1));
  });

  it('glows as much more as its piece is exposed', async () => {
    const model = await readModel(
      await bollard((d) => d.getRoot().listMaterials()[0]!.setEmissiveFactor([1, 0.5, 0])),
    );
    const glow = (gain?: number) =>
      Math.max(...modelFinishes('x', model, 1, gain).map((f) => f.surface.emission_luminance));
    expect(glow()).toBeGreaterThan(0);
    expect(glow(4) / glow()).toBeCloseTo(4, 9);
  });

  it('that is none is refused with what is wrong', async () => {
    await expect(readModel(new TextEncoder().encode('no model'))).rejects.toThrow(ModelError);
    await expect(readModel(await new WebIO().writeBinary(new Document()))).rejects.toThrow(/no triangles/);
    const past = await bollard((d) => {
      d.getRoot()
        .listMeshes()[0]!
        .listPrimitives()[0]!
        .getIndices()!
        .setArray(Uint16Array.of(0, 1, 9999));
    });
    await expect(readModel(past)).rejects.toThrow('mesh "post": index 9999 points past its 175 vertices');
    const cut = (await bollard()).slice(0, 600);
    await expect(readModel(cut)).rejects.toThrow(ModelError);
  });
});

describe('a model on the stage', () => {
  const stage = async () => {
    const p = newProject('Ostrel', 'O', structuredClone([...READY_FINISHES.slice(0, 2)]));
    p.pieces = [
      newPiece('model', {
        id: 'm',
        at: -0.3,
        size: 2,
        move: [1, 0, 0],
        turn: Math.PI / 2,
        model: { id: HASH, name: 'bollard.glb' },
      }),
    ];
    const bytes = await bollard();
    const maker = testMaker(undefined, (hash) => loadModel(hash, bytes, decoders));
    return { p, make: () => maker.make(p, p.looks[0]!.id, p.shots[0]!.id, 64) };
  };

  it('stands on its foot at its height, as large as it was made, and wears what it is dressed in', async () => {
    const { p, make } = await stage();
    p.pieces[0]!.dressings = [{ part: 'post', finish: p.finishes[1]!.id }];
    const { scene, findings } = await make();
    expect(findings).toEqual([]);
    const i = scene.things.findIndex((t) => t.piece === 'm');
    const solid = scene.solids[scene.instances.solid[i]!]!;
    const local = scene.instances.local.subarray(i * 12, i * 12 + 12);
    const place = scene.placements.now.subarray(scene.instances.placement[i]! * 12);
    const ys: number[] = [];
    for (let k = 1; k < solid.positions.length; k += 3)
      ys.push(solid.positions[k]! * local[5]! + local[7]! + place[7]!);
    expect(Math.min(...ys)).toBeCloseTo(-0.3, 5);
    expect(Math.max(...ys)).toBeCloseTo(-0.3 + 1.56, 5);
    const worn = [...scene.parts.thing].flatMap((t, k) =>
      scene.things[t]!.piece === 'm' ? [scene.parts.finish[k]!] : [],
    );
    expect(worn).toHaveLength(2);
    expect(worn[0]).toBe(2);
    // its own stands behind those of the project
    expect(worn[1]).toBeGreaterThan(2);
  });

  it('shows its pictures where its coordinates say: red above, white below', async () => {
    const { p, make } = await stage();
    p.blocks = [];
    p.pieces[0]!.move = [0, 0, 0];
    const { scene } = await make();
    // the band is 20 cm high from 60 cm above its foot, twice its size
    const camera = {
      ...p.shots[0]!.camera,
      target: [0, -0.3 + 0.7, 0],
      distance: 4,
      elevation: 0,
      view: 'parallel' as const,
      focal: 360,
      sensor: 18,
    };
    const lit = { ...scene, camera, surround: { ...scene.surround, seen: false } };
    const picture = traced(lit, shotEye(lit, 8, 8), 64);
    const at = (x: number, y: number) => [...picture.subarray((y * 8 + x) * 4, (y * 8 + x) * 4 + 3)];
    const [above, below] = [at(4, 1), at(4, 6)];
    expect(above[0]! / above[1]!).toBeGreaterThan(3);
    expect(below[0]! / below[1]!).toBeLessThan(1.4);
  });

  it('that cannot be had is left out, and said', async () => {
    const { p } = await stage();
    const { findings, scene } = await testMaker().make(p, p.looks[0]!.id, p.shots[0]!.id, 64);
    expect(findings.map(findingText)).toEqual(['Model could not be used (none); it is left out']);
    expect(scene.things.some((t) => t.piece === 'm')).toBe(false);
  });
});
