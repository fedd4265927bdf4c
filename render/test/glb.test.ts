import { Document, NodeIO } from '@gltf-transform/core';
import {
  KHRLightsPunctual,
  KHRMaterialsEmissiveStrength,
  KHRMaterialsIOR,
  KHRMaterialsTransmission,
  KHRMaterialsVolume,
  type Light,
} from '@gltf-transform/extensions';
import { describe, expect, it } from 'vitest';
import { gltfMaterial } from '@wemlox/core/finish/gltf';
import { finishOptics, opticsOf } from '@wemlox/core/finish/optics';
import { READY_FINISHES } from '@wemlox/core/finish/readyFinishes';
import { GLTF_EXTENSIONS } from '@wemlox/core/model/extensions';
import { surfaceOf } from '@wemlox/core/model/surface';
import { materialMaker } from '@wemlox/core/scene/gltfMaterials';
import { newProject } from '@wemlox/core/document';
import { exported } from '@wemlox/core/scene/exportSolids';
import { SceneMaker } from '@wemlox/core/scene/sceneMaker';
import { FaceBaker } from '@wemlox/core/trace/faceBake';
import { developed, developedLayers } from '@wemlox/core/trace/developing';
import { validateBytes } from 'gltf-validator';
import { readGlb } from '../src/glb.ts';
import { diskSources } from '../src/sources.ts';
import { kernelBytes, traceScene } from '../src/threads.ts';

const EXTENSIONS = [
  KHRLightsPunctual,
  KHRMaterialsEmissiveStrength,
  KHRMaterialsIOR,
  KHRMaterialsTransmission,
  KHRMaterialsVolume,
];

/** Whether noises or patterns feed a finish's colour. */
const isFedOverFaces = ({ feeds }: (typeof READY_FINISHES)[number]) =>
  feeds.some((f) => f.parameter === 'base_color' && ['noise', 'weave', 'turbulence'].includes(f.source));

/** A matte floor two metres wide, a camera straight above it, and whatever `more` adds. */
function file(more: (document: Document) => void): Promise<Uint8Array> {
  const document = new Document();
  const buffer = document.createBuffer();
  const position = document
    .createAccessor()
    .setType('VEC3')
    .setArray(new Float32Array([-1, 0, 1, 1, 0, 1, 1, 0, -1, -1, 0, -1]))
    .setBuffer(buffer);
  const indices = document
    .createAccessor()
    .setType('SCALAR')
    .setArray(new Uint16Array([0, 1, 2, 0, 2, 3]))
    .setBuffer(buffer);
  const material = document
    .createMaterial('matte')
    .setBaseColorFactor([0.5, 0.5, 0.5, 1])
    .setMetallicFactor(0)
    .setRoughnessFactor(1);
  const primitive = document
    .createPrimitive()
    .setAttribute('POSITION', position)
    .setIndices(indices)
    .setMaterial(material);
  const camera = document.createCamera().setType('perspective').setYFov(0.02);
  const s = Math.SQRT1_2;
  document
    .createScene()
    .addChild(document.createNode('floor').setMesh(document.createMesh('floor').addPrimitive(primitive)))
    .addChild(
      document.createNode('eye').setCamera(camera).setTranslation([0, 5, 0]).setRotation([-s, 0, 0, s]),
    );
  more(document);
  return new NodeIO().registerExtensions(EXTENSIONS).writeBinary(document);
}

const lamp =
  (type: 'point' | 'spot' | 'directional', intensity: number, height: number) => (document: Document) => {
    const light = document
      .createExtension(KHRLightsPunctual)
      .createLight()
      .setType(type)
      .setIntensity(intensity)
      // what the camera sees lies in the full inner cone
      .setInnerConeAngle(0.3);
    const s = Math.SQRT1_2;
    document
      .getRoot()
      .listScenes()[0]
      .addChild(
        document
          .createNode('lamp')
          .setExtension('KHR_lights_punctual', light)
          .setTranslation([0, height, 0])
          .setRotation([-s, 0, 0, s]),
      );
  };

async function seen(bytes: Uint8Array, samples = 64): Promise<number> {
  const { scene, view } = await readGlb(bytes, null, 1);
  const traced = await traceScene(scene, {
    width: 8,
    height: 8,
    samples,
    seed: 1,
    threads: 1,
    view: view!(8, 8),
  });
  const picture = developed(traced.film, samples);
  let sum = 0;
  for (let i = 1; i < picture.length; i += 4) sum += picture[i];
  return sum / 64;
}

describe('glTF lights', () => {
  it('shine in their units: candela over distance squared, lux as they are', async () => {
    // a dielectric's glossy layer takes some of the diffuse light: compare lights with each other and the square law
    const one = await seen(await file(lamp('point', 10, 1)));
    const two = await seen(await file(lamp('point', 10, 2)));
    const spot = await seen(await file(lamp('spot', 10, 1)));
    const sun = await seen(await file(lamp('directional', 10, 3)));
    expect(one / two).toBeCloseTo(4, 1);
    expect(spot / one).toBeCloseTo(1, 2);
    expect(sun / one).toBeCloseTo(1, 1);
    // albedo 0.5 with a reflecting layer over it: between 0.8 and 1.05 of the bare matte value
    expect(one / ((10 * 0.5) / Math.PI)).toBeGreaterThan(0.8);
    expect(one / ((10 * 0.5) / Math.PI)).toBeLessThan(1.05);
  });
});

describe('glTF nodes and lights by the standard', () => {
  it('mirrored nodes shine as the plain ones do', async () => {
    const flipped = (scale: [number, number, number]) =>
      file((d) => {
        lamp('point', 10, 1)(d);
        // normals of the file's own, which turn with the node
        const up = d
          .createAccessor()
          .setType('VEC3')
          .setArray(new Float32Array([0, 1, 0, 0, 1, 0, 0, 1, 0, 0, 1, 0]));
        up.setBuffer(d.getRoot().listBuffers()[0]);
        d.getRoot().listMeshes()[0].listPrimitives()[0].setAttribute('NORMAL', up);
        d.getRoot()
          .listNodes()
          .find((n) => n.getName() === 'floor')!
          .setScale(scale);
      });
    const plain = await seen(await flipped([1, 1, 1]));
    expect(plain).toBeGreaterThan(0.5);
    for (const scale of [
      [-1, 1, 1],
      [1, 1, -1],
      [-2, 0.5, 1],
    ] as [number, number, number][])
      expect(await seen(await flipped(scale))).toBeCloseTo(plain, 1);
  });

  it('lights end at their range: 1 − (d / range)⁴ of what they would give', async () => {
    const ranged = (type: 'point' | 'spot', range: number) =>
      file((d) => {
        lamp(type, 10, 1)(d);
        const node = d
          .getRoot()
          .listNodes()
          .find((n) => n.getName() === 'lamp')!;
        node.getExtension<Light>('KHR_lights_punctual')!.setRange(range);
      });
    for (const type of ['point', 'spot'] as const) {
      const whole = await seen(await file(lamp(type, 10, 1)));
      expect((await seen(await ranged(type, 2))) / whole).toBeCloseTo(1 - 1 / 16, 2);
      expect(await seen(await ranged(type, 0.99))).toBe(0);
    }
  });
});

describe('glTF materials', () => {
  it('become OpenPBR surfaces', () => {
    const document = new Document();
    const glass = document
      .createMaterial()
      .setMetallicFactor(0)
      .setExtension('KHR_materials_ior', document.createExtension(KHRMaterialsIOR).createIOR().setIOR(1.33))
      .setExtension(
        'KHR_materials_transmission',
        document.createExtension(KHRMaterialsTransmission).createTransmission().setTransmissionFactor(1),
      )
      .setExtension(
        'KHR_materials_volume',
        document
          .createExtension(KHRMaterialsVolume)
          .createVolume()
          .setThicknessFactor(1)
          .setAttenuationDistance(0.2)
          .setAttenuationColor([0.1, 0.5, 0.9]),
      );
    expect(surfaceOf(glass)).toMatchObject({
      specular_ior: 1.33,
      transmission_weight: 1,
      transmission_color: [0.1, 0.5, 0.9],
      transmission_depth: 0.2,
      base_metalness: 0,
    });
    const neon = document
      .createMaterial()
      .setEmissiveFactor([0.5, 0.25, 0])
      .setExtension(
        'KHR_materials_emissive_strength',
        document
          .createExtension(KHRMaterialsEmissiveStrength)
          .createEmissiveStrength()
          .setEmissiveStrength(40),
      );
    expect(surfaceOf(neon)).toMatchObject({ emission_color: [1, 0.5, 0], emission_luminance: 20 });
    const pane = document
      .createMaterial()
      .setExtension(
        'KHR_materials_transmission',
        document.createExtension(KHRMaterialsTransmission).createTransmission().setTransmissionFactor(1),
      );
    expect(surfaceOf(pane).geometry_thin_walled).toBe(true);
    expect(surfaceOf(glass).geometry_thin_walled).toBe(false);
    expect(surfaceOf(null)).toMatchObject({ base_metalness: 1, specular_roughness: 1 });
  });
});

describe('finishes as glTF materials', () => {
  it('go there and back alike, with every extension that applies', async () => {
    const used = new Set<string>();
    for (const finish of READY_FINISHES) {
      const optics = finishOptics(finish);
      const document = new Document();
      const made = materialMaker(document, 0.1)(finish.name, optics);
      document.createMesh().addPrimitive(document.createPrimitive().setMaterial(made));
      const io = new NodeIO().registerExtensions(GLTF_EXTENSIONS);
      const back = await io.readBinary(await io.writeBinary(document));
      const surface = surfaceOf(back.getRoot().listMaterials()[0]!);
      const again = gltfMaterial(opticsOf(surface));
      const said = gltfMaterial(optics);
      for (const { extensionName } of back.getRoot().listExtensionsUsed()) used.add(extensionName);
      const numbersOf = (of: unknown): number[] =>
        typeof of === 'number'
          ? [of]
          : typeof of === 'object' && of
            ? Object.values(of).flatMap(numbersOf)
            : [];
      for (const key of ['metallic', 'ior', 'transmission', 'clearcoat', 'iridescence', 'opacity'] as const) {
        const [a, b] = [numbersOf(said[key]), numbersOf(again[key])];
        // a film that is not there has no thickness to keep
        if (key === 'iridescence' && said.iridescence.weight === 0) continue;
        if (key === 'clearcoat' && said.clearcoat.weight === 0) continue;
        a.forEach((v, i) => expect(b[i], `${finish.id} ${key}`).toBeCloseTo(v, 4));
      }
      said.sheen.color.forEach((v, c) => expect(again.sheen.color[c], finish.id).toBeCloseTo(v, 4));
      expect(again.roughness, finish.id).toBeCloseTo(said.roughness, 4);
      expect(again.anisotropy.strength, finish.id).toBeCloseTo(said.anisotropy.strength, 4);
      // glTF keeps one over the Abbe number alone
      expect(again.dispersion, finish.id).toBeCloseTo(Math.min(20 / 9, said.dispersion), 3);
      const nits = ({ emission }: typeof said) => emission.color.map((v) => v * emission.strength);
      nits(said).forEach((v, c) => expect(nits(again)[c], finish.id).toBeCloseTo(v, 3));
    }
    for (const name of [
      'sheen',
      'iridescence',
      'dispersion',
      'anisotropy',
      'clearcoat',
      'volume',
      'transmission',
      'ior',
      'specular',
      'emissive_strength',
    ])
      expect(used, name).toContain(`KHR_materials_${name}`);
  });
});

describe('the validator of the standard', () => {
  const maker = new SceneMaker(
    diskSources(() => Promise.reject(new Error('no assets'))),
    true,
  );
  it('finds nothing wrong with a word in any ready finish', async () => {
    const used = new Set<string>();
    for (let first = 0; first < READY_FINISHES.length; first += 20) {
      const finishes = structuredClone(READY_FINISHES.slice(first, first + 20));
      const project = newProject('Ostrel', 'I'.repeat(finishes.length), finishes);
      const [block] = project.blocks;
      project.looks[0].chart = block.letters.map((letter, i) => ({
        block: block.id,
        letter,
        finish: finishes[i].id,
      }));
      const made = await maker.make(project, project.looks[0].id, project.shots[0].id, 400);
      const bytes = await exported('glb', { ...made, finishes });
      const { issues, info } = await validateBytes(bytes);
      expect(issues.messages.filter((m) => m.severity < 2)).toEqual([]);
      for (const name of info.extensionsUsed ?? []) used.add(name);
    }
    expect(used.size).toBeGreaterThan(8);
  });

  it('brings pictures of what differs from place to place, and is still valid', async () => {
    const finishes = structuredClone(READY_FINISHES.filter((f) => isFedOverFaces(f)).slice(0, 2));
    const project = newProject('Ostrel', 'IO', finishes);
    const [block] = project.blocks;
    project.looks[0].chart = block.letters.map((letter, i) => ({
      block: block.id,
      letter,
      finish: finishes[i].id,
    }));
    const made = await maker.make(project, project.looks[0].id, project.shots[0].id, 400);
    const baker = new FaceBaker(new WebAssembly.Module(kernelBytes()), true, made.scene);
    const bytes = await exported('glb', { ...made, finishes, bake: (part) => baker.bake(part) });
    const { issues } = await validateBytes(bytes);
    expect(issues.messages.filter((m) => m.severity < 2)).toEqual([]);
    const read = await new NodeIO().registerExtensions(GLTF_EXTENSIONS).readBinary(bytes);
    const worn = read
      .getRoot()
      .listMeshes()
      .flatMap((m) => m.listPrimitives().map((p) => p.getMaterial()!));
    const pictured = worn.filter((m) =>
      [m.getBaseColorTexture(), m.getMetallicRoughnessTexture(), m.getEmissiveTexture()].some(
        (t) => t !== null,
      ),
    );
    expect(pictured).toHaveLength(worn.length);
    for (const texture of read.getRoot().listTextures()) expect(texture.getSize()![0]).toBeGreaterThan(20);
  });
});

describe('layers', () => {
  it('hold what is seen first: albedo, normal and distance', async () => {
    const { scene, view } = await readGlb(await file(lamp('point', 10, 1)), null, 1);
    const { film } = await traceScene(scene, {
      width: 6,
      height: 6,
      samples: 8,
      seed: 1,
      threads: 2,
      layers: true,
      view: view!(6, 6),
    });
    const { albedo, normal, depth } = developedLayers(film);
    expect(albedo[0]).toBeCloseTo(0.5, 5);
    expect([...normal.slice(0, 3)]).toEqual([0, 1, 0]);
    for (const d of depth) expect(d).toBeCloseTo(5, 3);
  });
});

describe('bad files', () => {
  it('are refused in words', async () => {
    await expect(readGlb(new Uint8Array(20), null)).rejects.toThrow(/not a readable/);
    const good = await file(lamp('point', 1, 1));
    await expect(readGlb(good.slice(0, good.length - 30), null)).rejects.toThrow();
    await expect(readGlb(await file(() => {}), null)).rejects.toThrow(/no lights/);
    const broken = await file((d) => {
      lamp('point', 1, 1)(d);
      d.getRoot()
        .listAccessors()[1]
        .setArray(new Uint16Array([0, 1, 99]));
    });
    await expect(readGlb(broken, null)).rejects.toThrow(/index 99 points past its 4 vertices/);
  });
});
