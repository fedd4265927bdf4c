import { WebIO } from '@gltf-transform/core';
import type {
  Anisotropy,
  Clearcoat,
  EmissiveStrength,
  IOR,
  Transmission,
  Volume,
} from '@gltf-transform/extensions';
import { beforeAll, describe, expect, it } from 'vitest';
import {
  newBlock,
  newProject,
  newTube,
  plainFinish,
  plainSurface,
  SOLID_ZONES,
  type Project,
  type Surface,
} from '../../src/document/index.ts';
import { READY_FINISHES } from '../../src/finish/readyFinishes.ts';
import { exported } from '../../src/scene/exportSolids.ts';
import { GLTF_EXTENSIONS } from '../../src/model/extensions.ts';
import { detailOf } from '../../src/scene/detail.ts';
import { areaOf } from '../../src/plane/region.ts';
import { openEdges, volume } from '../../src/solid/soundness.ts';
import { paintedOf } from '../../src/drawing/svg.ts';
import { findingText } from '../../src/preflight/words.ts';
import { testMaker } from './maker.ts';
import { partList, trianglesOf } from './partList.ts';

const maker = testMaker(
  () =>
    '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><circle cx="4" cy="4" r="4"/><text>x</text></svg>',
);

function project(): Project {
  const p = newProject('Ostrel', 'OO', structuredClone([...READY_FINISHES]));
  p.blocks.push(
    newBlock('T', {
      form: 'tube',
      tube: newTube(),
      place: { position: [0, 1, 0.2], turn: 0.4, tilt: 0, roll: 0 },
    }),
  );
  p.blocks[0].strip.on = true;
  return p;
}
const make = (p: Project, width: number | null = 1024) => maker.make(p, p.looks[0].id, p.shots[0].id, width);

describe('the type as a file', () => {
  let made: Awaited<ReturnType<typeof make>>;
  const p = project();
  beforeAll(async () => {
    made = await make(p);
  });
  const save = (kind: 'glb' | 'obj' | 'svg') => exported(kind, { ...made, finishes: p.finishes });

  it('GLB has letters with zones as named parts, closed and of the size they have', async () => {
    const document = await new WebIO().readBinary(await save('glb'));
    const [first, second] = document.getRoot().listScenes()[0].listChildren();
    expect(first.listChildren().map((n) => n.getName())).toEqual(['O', 'O 2']);
    const parts = first.listChildren()[0].listChildren();
    expect(parts.map((n) => n.getName())).toEqual([...SOLID_ZONES, 'strip', 'points 1', 'points 2']);
    const positions = parts
      .slice(0, SOLID_ZONES.length)
      .flatMap((n) => [...n.getMesh()!.listPrimitives()[0].getAttribute('POSITION')!.getArray()!]);
    expect(openEdges(Float32Array.from(positions))).toBe(0);
    expect(volume(Float32Array.from(positions))).toBeGreaterThan(0);
    expect(parts[0].getMesh()!.listPrimitives()[0].getMaterial()!.getName()).toBe(p.finishes[0].name);
    expect(
      second
        .listChildren()[0]
        .listChildren()
        .map((n) => n.getName()),
    ).toContain('glass');
  });

  it('GLB says what its finishes are, by the ratified extensions', async () => {
    const dressed = project();
    const looks: Record<string, Partial<Surface>> = {
      Gold: { base_metal: 'gold', base_metalness: 1, specular_roughness: 0.2 },
      Chrome: { base_metal: 'chromium', base_metalness: 1, specular_roughness_anisotropy: 0.6 },
      Glass: {
        transmission_weight: 1,
        specular_ior: 1.33,
        transmission_color: [0.3, 0.7, 0.9],
        transmission_depth: 0.02,
      },
      Lacquer: { base_color: [0.6, 0.05, 0.02], coat_weight: 0.8, coat_roughness: 0.1 },
      Neon: { emission_color: [1, 0.2, 0.05], emission_luminance: 800 },
    };
    dressed.finishes = Object.entries(looks).map(([name, surface]) =>
      plainFinish({ id: name, name, family: 'chrome', surface: plainSurface(surface) }),
    );
    dressed.looks[0].chart = SOLID_ZONES.map((zone, i) => ({ zone, finish: Object.keys(looks)[i] }));
    dressed.pieces = [];
    const bytes = await exported('glb', { ...(await make(dressed)), finishes: dressed.finishes });
    const file = await new WebIO().registerExtensions(GLTF_EXTENSIONS).readBinary(bytes);
    const of = (name: string) =>
      file
        .getRoot()
        .listMaterials()
        .find((m) => m.getName() === name)!;
    const [gold, chrome] = [of('Gold').getBaseColorFactor(), of('Chrome').getBaseColorFactor()];
    expect(gold[0] / gold[2]).toBeGreaterThan(1.8);
    expect(Math.max(...chrome.slice(0, 3)) / Math.min(...chrome.slice(0, 3))).toBeLessThan(1.1);
    expect(
      of('Chrome').getExtension<Anisotropy>('KHR_materials_anisotropy')!.getAnisotropyStrength(),
    ).toBeGreaterThan(0.2);
    const glass = of('Glass');
    expect(glass.getAlphaMode()).toBe('OPAQUE');
    expect(glass.getBaseColorFactor()[3]).toBe(1);
    expect(glass.getExtension<Transmission>('KHR_materials_transmission')!.getTransmissionFactor()).toBe(1);
    expect(glass.getExtension<IOR>('KHR_materials_ior')!.getIOR()).toBeCloseTo(1.33, 6);
    const volume = glass.getExtension<Volume>('KHR_materials_volume')!;
    expect(volume.getThicknessFactor()).toBeGreaterThan(0);
    expect(volume.getAttenuationDistance()).toBeCloseTo(0.02, 6);
    expect(
      of('Lacquer').getExtension<Clearcoat>('KHR_materials_clearcoat')!.getClearcoatFactor(),
    ).toBeCloseTo(0.8, 6);
    expect(of('Neon').getEmissiveFactor()[1]).toBeCloseTo(0.2, 6);
    expect(
      of('Neon').getExtension<EmissiveStrength>('KHR_materials_emissive_strength')!.getEmissiveStrength(),
    ).toBe(800);
  });

  it('OBJ names the same parts, its faces numbered within its points', async () => {
    const lines = new TextDecoder().decode(await save('obj')).split('\n');
    expect(lines.filter((l) => l.startsWith('o '))).toEqual(['o O', 'o O_2', 'o T']);
    expect(lines).toContain('g frontBevel');
    const points = lines.filter((l) => l.startsWith('v ')).length;
    const numbers = lines
      .filter((l) => l.startsWith('f '))
      .flatMap((l) => l.slice(2).split(' ').map(parseFloat));
    expect(Math.max(...numbers)).toBe(points);
    expect(numbers.length / 3).toBe(
      partList(made.scene).reduce((n, q) => n + (q.letter ? q.triangles : 0), 0),
    );
  });

  it('is as fine however far the camera stands', async () => {
    const far = project();
    far.shots[0].camera.distance = 80;
    const { scene } = await make(far, null);
    expect(trianglesOf(scene)).toBe(trianglesOf((await make(p, null)).scene));
    expect(trianglesOf(scene)).toBeGreaterThan(trianglesOf((await make(far)).scene) * 1.4);
  });

  it('SVG has the outlines in millimetres, and reads back with their areas', async () => {
    const { painted } = paintedOf(new TextDecoder().decode(await save('svg')), 5000);
    const [first] = made.solids;
    const area = areaOf(first.letters[0].outline) * (first.scale * 1000) ** 2;
    expect(areaOf(painted[0].region) / area).toBeCloseTo(1, 3);
    expect(painted).toHaveLength(3);
  });
});

describe('the scene', () => {
  it('glows in the colours of its strips, in turn', async () => {
    const p = project();
    const { scene } = await make(p);
    const points = partList(scene).filter((q) => q.zone === 'points' && q.letter === p.blocks[0].letters[0]);
    expect(points.map((q) => scene.finishes[q.finish].glow.colour)).toEqual(p.blocks[0].strip.colours);
    expect(Math.abs(points[0].triangles - points[1].triangles)).toBeLessThanOrEqual(64);
  });

  it('stands a drawing among words and tells what was left out, without calling it a fault', async () => {
    const p = project();
    p.blocks.push(newBlock('', { drawing: { id: 'a'.repeat(64), name: 'buoy.svg', kind: 'vector' } }));
    const { solids, findings } = await make(p);
    expect(findings.map((f) => f.code)).toEqual(['drawing-left-out']);
    expect(findings.map(findingText).join()).toMatch(/buoy\.svg: left out text/);
    const { bounds } = solids[2];
    expect(bounds![3] - bounds![1]).toBeCloseTo(p.blocks[2].capHeight, 4);
  });

  it('bends tubes along the lines of a drawing, and inside its edges when asked', async () => {
    const drawn = testMaker(
      () =>
        '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 100"><path fill="none" stroke="black" stroke-width="12" d="M10 10H90V90"/></svg>',
    );
    const p = newProject('Ostrel', '', structuredClone([...READY_FINISHES]));
    const block = newBlock('', {
      form: 'tube',
      tube: { ...newTube(), diameter: 0.002, smoothing: 0 },
      capHeight: 0.86,
      drawing: { id: 'c'.repeat(64), name: 'line.svg', kind: 'vector' },
    });
    p.blocks = [block];
    const strokes = async () => {
      const [{ letters, scale }] = (await drawn.make(p, p.looks[0].id, p.shots[0].id, 1024)).solids;
      return letters[0].tube!.strokes.map((s) => s.length * scale);
    };
    // the pen covers 86 of height, so that a unit is a centimetre
    const [along, ...others] = await strokes();
    expect(others).toEqual([]);
    expect(Math.abs(along / 1.6 - 1)).toBeLessThan(0.01);
    block.tube.course = 'edges';
    const [round] = await strokes();
    expect(round).toBeGreaterThan(1.9 * along);
  });

  it('is made anew when a file that could not be had can be', async () => {
    let there = false;
    const late = testMaker(() => {
      if (!there) throw new Error('not yet');
      return '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><rect width="9" height="9"/></svg>';
    });
    const p = newProject('Ostrel', '', structuredClone([...READY_FINISHES]));
    p.blocks = [newBlock('', { drawing: { id: 'b'.repeat(64), name: 'late.svg', kind: 'vector' } })];
    const first = await late.make(p, p.looks[0].id, p.shots[0].id, 1024);
    expect(first.findings.map(findingText).join()).toMatch(/late\.svg could not be used \(not yet\)/);
    there = true;
    const second = await late.make(p, p.looks[0].id, p.shots[0].id, 1024);
    expect(second.findings).toEqual([]);
    expect(trianglesOf(second.scene)).toBeGreaterThan(trianglesOf(first.scene));
  });

  it('grows round letters from their zero plane, and leaves tubes on the wall they stand off', async () => {
    for (const [growth, low, high] of [
      ['forward', 0, 1],
      ['backward', -1, 0],
      ['both', -0.5, 0.5],
    ] as const) {
      const p = project();
      Object.assign(p.blocks[0], { form: 'rounded', growth, depth: 0.02 });
      p.blocks[0].strip.on = false;
      const { solids } = await make(p);
      const whole = solids[0].reach[1] - solids[0].reach[0];
      expect(solids[0].reach[0] / whole).toBeCloseTo(low, 5);
      expect(solids[0].reach[1] / whole).toBeCloseTo(high, 5);
      expect(solids[1].reach[0]).toBe(0);
    }
  });

  it('is made coarser from afar and finer close by, in steps', async () => {
    const p = newProject('Ostrel', 'OSTREL', structuredClone([...READY_FINISHES]));
    const triangles = async (distance: number) => {
      p.shots[0].camera.distance = distance;
      return trianglesOf((await make(p)).scene);
    };
    expect(await triangles(60)).toBeLessThan((await triangles(1)) / 2);
    const camera = { ...p.shots[0].camera, distance: 3 };
    const near = detailOf(p.blocks[0], camera, 1024).coarseness;
    expect(detailOf(p.blocks[0], { ...camera, distance: 3.02 }, 1024).coarseness).toBe(near);
    expect(Math.log2(near) % 1).toBe(0);
  });

  it.each(['rounded', 'tube'] as const)('makes %s letters coarser from afar too', async (form) => {
    const p = newProject('Ostrel', 'OSTREL', structuredClone([...READY_FINISHES]));
    p.blocks[0].form = form;
    p.shots[0].camera.distance = 1;
    const near = (await make(p)).solids[0];
    p.shots[0].camera.distance = 60;
    const far = (await make(p)).solids[0];
    near.letters.forEach((l, i) => {
      expect(far.letters[i].solid.positions.length).toBeLessThan(l.solid.positions.length / 1.5);
      expect(openEdges(far.letters[i].solid.positions)).toBe(0);
      const share = volume(far.letters[i].solid.positions) / volume(l.solid.positions);
      expect(share).toBeGreaterThan(0.85);
      expect(share).toBeLessThan(1.05);
    });
  });

  it('makes long text finely only where the camera looks, and alike wherever it stands', async () => {
    const line = 'the ferry ostrel leaves pier nine at dusk';
    const p = newProject('Ostrel', Array(20).fill(line).join('\n'), structuredClone([...READY_FINISHES]));
    p.shots[0].camera = { ...p.shots[0].camera, distance: 2, target: [0, 0, 0], azimuth: 0 };
    p.blocks[0].place = { position: [0, 0, 0], turn: 0, tilt: 0, roll: 0 };
    const { solids, scene } = await make(p);
    const coarse = solids[0].letters.filter((l) => l.solid.positions.length < 3000);
    const { scale } = solids[0];
    const away = (l: (typeof coarse)[0]) => Math.hypot(l.x, l.y) * scale;
    expect(coarse.length).toBeGreaterThan(solids[0].letters.length / 2);
    for (const l of coarse) expect(away(l)).toBeGreaterThan(1);
    expect(Math.min(...solids[0].letters.map(away))).toBeLessThan(0.5);
    expect(trianglesOf(scene)).toBeLessThan(1_000_000);
    // looking elsewhere makes other letters fine, but moves none
    p.shots[0].camera.target = [4, 1, 0];
    const moved = (await make(p)).solids[0];
    moved.letters.forEach((l, i) =>
      expect([l.x, l.y]).toEqual([solids[0].letters[i].x, solids[0].letters[i].y]),
    );
    const fineAt = moved.letters.filter((l) => l.solid.positions.length > 9000).map((l) => l.x * scale);
    expect(Math.min(...fineAt)).toBeGreaterThan(0);
  });

  it('welds joined scripts by themselves, and no other faces', async () => {
    for (const [id, joined] of [
      ['lobster', true],
      ['yellowtail', true],
      ['alfa-slab-one', false],
      ['pirata-one', false],
    ] as const) {
      const p = newProject('Ostrel', '', structuredClone([...READY_FINISHES]));
      p.blocks = [newBlock('Saloon', { font: { source: 'shipped', id, name: id } })];
      const { solids, joined: told } = await make(p);
      expect([id, told]).toEqual([id, [joined]]);
      if (joined) expect(solids[0].letters.length).toBeLessThan(5);
      else expect(solids[0].letters).toHaveLength(6);
      expect(solids[0].touches).toEqual([]);
    }
  });

  it('finds the tracking that parts touching letters', async () => {
    const block = newBlock('OSTREL', { tracking: -120 });
    const tracking = (await maker.parting(block))!;
    expect(tracking).toBeGreaterThan(-120);
    const p = newProject('Ostrel', '', structuredClone([...READY_FINISHES]));
    p.blocks = [{ ...block, tracking }];
    expect((await make(p)).solids[0].touches).toEqual([]);
    p.blocks = [block];
    expect((await make(p)).solids[0].touches.length).toBeGreaterThan(0);
    p.blocks = [{ ...block, weld: true }];
    expect((await make(p)).solids[0].letters.length).toBeLessThan(6);
  });
});
