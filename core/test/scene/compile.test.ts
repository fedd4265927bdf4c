import { beforeAll, describe, expect, it } from 'vitest';
import {
  finishAt,
  newBlock,
  newLight,
  type AreaLight,
  type SpotLight,
  newPiece,
  newProject,
  withRule,
  type Project,
} from '../../src/document/index.ts';
import { READY_FINISHES } from '../../src/finish/readyFinishes.ts';
import { findingText } from '../../src/preflight/words.ts';
import { blockBox, typeBoxOf } from '../../src/scene/compileScene.ts';
import { flattened, sameTriangles } from '../../src/scene/flatScene.ts';
import { NONE } from '../../src/scene/renderScene.ts';
import type { MadeScene } from '../../src/scene/sceneMaker.ts';
import { testMaker } from './maker.ts';
import { partList } from './partList.ts';

const maker = testMaker();
const make = (p: Project) => maker.make(p, p.looks[0].id, p.shots[0].id, 512);

function project(): Project {
  const p = newProject('Ostrel', 'OS', structuredClone([...READY_FINISHES]));
  p.blocks[0].place = { position: [1, 2, 3], turn: Math.PI / 2, tilt: 0, roll: 0 };
  p.blocks.push(newBlock('E', { place: { position: [0, 0.5, 0], turn: 0, tilt: 0, roll: 0 } }));
  p.pieces = [newPiece('floor', { id: 'floor', at: -0.2, finish: p.finishes[1].id })];
  p.looks[0].rig = [newLight('area', 'Key', { distance: 3 }), newLight('spot', 'Rim')];
  return p;
}

describe('a compiled scene', () => {
  const p = project();
  let made: MadeScene;
  beforeAll(async () => {
    made = await make(p);
  });

  it('has every triangle in one part, and after them those of area lights', () => {
    const { scene } = made;
    const flat = flattened(scene);
    let at = 0;
    for (const part of partList(scene)) {
      expect(flat.first[part.number]).toBe(at);
      for (let t = 0; t < part.triangles; t++) expect(flat.partOf[at + t]).toBe(part.number);
      at += part.triangles;
    }
    expect(at).toBe(flat.geometryTriangles);
    expect(flat.positions).toHaveLength((at + 2) * 9);
    expect(flat.normals).toHaveLength(at * 9);
    expect(flat.uv).toHaveLength(at * 12);
  });

  it('stands each block at its place and turn', () => {
    const [turned, plain] = p.blocks.map((b, i) => blockBox(b, made.solids[i])!);
    // a quarter turn: the word runs away along z, its depth along x
    const { bounds, reach } = made.solids[0];
    expect(turned.max[2] - turned.min[2]).toBeCloseTo(bounds![2] - bounds![0], 6);
    expect(turned.max[0] - turned.min[0]).toBeCloseTo(reach[1] - reach[0], 6);
    expect((turned.max[1] + turned.min[1]) / 2).toBeCloseTo(2, 6);
    const flat = flattened(made.scene);
    const ink = partList(made.scene).filter((q) => q.block === p.blocks[0].id);
    for (const part of ink) {
      const first = flat.first[part.number];
      for (let i = first * 9; i < (first + part.triangles) * 9; i++) {
        const k = i % 3;
        expect(flat.positions[i]).toBeGreaterThan(turned.min[k] - 1e-4);
        expect(flat.positions[i]).toBeLessThan(turned.max[k] + 1e-4);
      }
    }
    const all = typeBoxOf(p.blocks, made.solids);
    expect(all.min).toEqual([0, 1, 2].map((k) => Math.min(turned.min[k], plain.min[k])));
    expect(typeBoxOf([], []).max[1]).toBeGreaterThan(0);
  });

  it('has unit normals and tangents that lie in the surface, turned with the block', () => {
    const flat = flattened(made.scene);
    const { normals: n, tangents: t, geometryTriangles } = flat;
    for (let i = 0; i < geometryTriangles * 9; i += 3) {
      expect(Math.hypot(n[i], n[i + 1], n[i + 2])).toBeCloseTo(1, 3);
      expect(Math.hypot(t[i], t[i + 1], t[i + 2])).toBeCloseTo(1, 3);
      expect(Math.abs(n[i] * t[i] + n[i + 1] * t[i + 1] + n[i + 2] * t[i + 2])).toBeLessThan(2e-3);
    }
    const front = partList(made.scene).find((q) => q.block === p.blocks[0].id && q.zone === 'front')!;
    const at = flat.first[front.number] * 9;
    expect([n[at], n[at + 1], n[at + 2]]).toEqual([1, 0, 0].map((v) => expect.closeTo(v, 5)));
  });

  it('wears what the chart says, and the raw filler where it says nothing', async () => {
    const q = structuredClone(p);
    const [block] = q.blocks;
    const [chrome, deck, red] = q.finishes;
    q.looks[0].chart = withRule([], { zone: 'front' }, chrome.id);
    q.looks[0].chart = withRule(q.looks[0].chart, { block: block.id, letter: block.letters[1] }, red.id);
    const { scene } = await make(q);
    for (const part of partList(scene)) {
      const worn = scene.finishes[part.finish].key;
      if (part.piece) expect(worn).toBe(JSON.stringify(deck.surface));
      else {
        const id = finishAt(q.looks[0].chart, part.block!, part.letter!, part.zone!);
        expect(worn).toBe(
          id ? JSON.stringify(q.finishes.find((f) => f.id === id)!.surface) : scene.finishes[0].key,
        );
      }
    }
    expect(sameTriangles(scene, made.scene)).toBe(true);
  });

  it('lays no text and builds no solid for what moves, turns or wears, and only what changed otherwise', async () => {
    const change = async (what: (q: Project) => void) => {
      await make(p);
      const q = structuredClone(p);
      what(q);
      const { scene, made: effort } = await make(q);
      return { effort, same: sameTriangles(scene, made.scene) };
    };
    const none = { laidOut: 0, built: 0 };
    for (const what of [
      (q: Project) => void (q.looks[0].chart = []),
      (q: Project) => void (q.finishes[0].surface.specular_roughness = 0.9),
      (q: Project) => void (q.looks[0].surround.turn = 2),
      (q: Project) => void (q.looks[0].rig[0].strength = 99),
      (q: Project) => void ((q.looks[0].rig[1] as SpotLight).distance = 9),
      (q: Project) => void (q.pieces[0].finish = null),
      (q: Project) => void (q.shots[0].camera.azimuth = 1),
    ])
      expect(await change(what)).toEqual({ effort: none, same: true });
    for (const what of [
      (q: Project) => void (q.blocks[1].place.turn = 0.1),
      (q: Project) => void (q.blocks[0].place.position = [0, 0.2, 0.1]),
      (q: Project) => void ((q.looks[0].rig[0] as AreaLight).distance = 9),
      (q: Project) => void (q.looks[0].rig[0].on = false),
      (q: Project) => void (q.pieces[0].at = 0),
      (q: Project) => void (q.pieces[0].on = false),
    ])
      expect(await change(what)).toEqual({ effort: none, same: false });
    expect(await change((q) => void (q.blocks[0].depth *= 2))).toEqual({
      effort: { laidOut: 1, built: 2 },
      same: false,
    });
  });

  it('shares solids between alike letters, whatever their block, and names groups of light', async () => {
    const q = structuredClone(p);
    q.blocks[1] = newBlock('SOS', { ...q.blocks[1], text: 'SOS', letters: ['a', 'b', 'c'] });
    q.looks[0].chart = withRule(
      [],
      { block: q.blocks[0].id },
      q.finishes.find((f) => f.family === 'neon')!.id,
    );
    const { scene } = await make(q);
    // O and S twice each, and the floor
    expect(scene.solids).toHaveLength(3);
    expect(scene.instances.count).toBe(6);
    expect(scene.groups.slice(0, 3)).toEqual(['Key', 'Rim', 'Surround']);
    const glowing = partList(scene).filter((part) => scene.parts.group[part.number] !== NONE);
    expect(new Set(glowing.map((part) => part.block))).toEqual(new Set([q.blocks[0].id]));
    for (const part of glowing)
      expect(scene.groups[scene.parts.group[part.number]]).toBe(`${part.block}/${part.zone}`);
  });

  it('says which look or shot a project does not have, and stands in for fonts and surrounds it cannot load', async () => {
    await expect(maker.make(p, 'nowhere', p.shots[0].id, 512)).rejects.toThrow(/no look nowhere/);
    await expect(maker.make(p, p.looks[0].id, 'nowhere', 512)).rejects.toThrow(/no shot nowhere/);
    const q = structuredClone(p);
    q.blocks[0].font = { source: 'asset', id: 'f'.repeat(64), name: 'Lost Grotesque' };
    q.looks[0].surround = { ...q.looks[0].surround, source: 'picture', id: 'a'.repeat(64), name: 'Lost sky' };
    const { findings, solids } = await make(q);
    expect(findings).toEqual([
      {
        code: 'font-replaced',
        where: { block: q.blocks[0].id },
        what: { font: 'Lost Grotesque', instead: 'Alfa Slab One', reason: 'none' },
        mend: 'choose-font',
        grave: true,
      },
      expect.objectContaining({ code: 'surround-replaced', where: { block: null }, grave: true }),
    ]);
    expect(findings.map(findingText)).toEqual([
      'Lost Grotesque could not be used (none); Alfa Slab One stands in',
      'surround Lost sky could not be used (none); Lamp studio stands in',
    ]);
    expect(solids[0].letters).toHaveLength(2);
  });
});

describe('a plate', () => {
  const plated = async (stands: 'frame' | 'free', lit: boolean) => {
    const p = project();
    p.blocks = [];
    p.pieces = [
      newPiece('plate', {
        id: 'plate',
        at: -1,
        stands,
        lit,
        stops: -1,
        width: 2,
        picture: { source: 'painted', id: 'hull-paint', name: 'Hull paint' },
      }),
    ];
    const { scene } = await make(p);
    return { scene, p, finish: scene.finishes[scene.parts.finish[0]!]! };
  };

  it('shows its picture by itself at its exposure, or as paint', async () => {
    const own = await plated('frame', false);
    // half of display white, as the mean of its picture dims it
    expect(own.finish.glow.luminance).toBeGreaterThan(0.05);
    expect(own.finish.glow.luminance).toBeLessThan(0.5);
    expect(own.finish.recipe).not.toBeNull();
    expect(own.scene.textures.map((t) => t.key)).toContain('painted:hull-paint:colour');
    expect(own.scene.things[0]).toMatchObject({ piece: 'plate', stays: true });
    const paint = await plated('frame', true);
    expect(paint.finish.glow.luminance).toBe(0);
  });

  it('is not there where its picture is open', async () => {
    const opacities = { open: [255, 0, 255, 0], closed: [255, 255, 255, 255] };
    const seen = async (of: keyof typeof opacities) => {
      const data = Uint8Array.from(opacities[of].flatMap((a) => [200, 40, 40, a]));
      const p = project();
      p.blocks = [];
      const picture = {
        source: 'asset' as const,
        id: of === 'open' ? 'a'.repeat(64) : 'b'.repeat(64),
        name: of,
      };
      p.pieces = [newPiece('plate', { id: 'plate', at: -1, stands: 'free', width: 2, picture })];
      const own = testMaker(undefined, undefined, async () => ({ width: 2, height: 2, data }));
      const { scene } = await own.make(p, p.looks[0].id, p.shots[0].id, 512);
      return scene.finishes[scene.parts.finish[0]!]!;
    };
    const open = await seen('open');
    expect(open.opacity).toBeCloseTo(0.5, 2);
    const [plate, beneath] = open.recipe!.coats;
    expect(plate.cover).toMatchObject({ at: [0, 1], values: [[0], [1]] });
    expect(beneath).toMatchObject({ nothing: true, cover: 1 });
    expect((await seen('closed')).opacity).toBe(1);
  });

  it('stands free at its width, by the shape of its picture, or goes with the camera', async () => {
    const free = await plated('free', false);
    const { positions } = free.scene.solids[0]!;
    const side = (k: number) => {
      const values = [...positions].filter((_, i) => i % 3 === k);
      return Math.max(...values) - Math.min(...values);
    };
    const { width, height } = free.scene.textures.find((t) => t.key === 'painted:hull-paint:colour')!;
    expect(side(0)).toBeCloseTo(2, 6);
    expect(side(1)).toBeCloseTo((2 * height) / width, 6);
    expect(Math.max(...positions.filter((_, i) => i % 3 === 2))).toBeCloseTo(-1, 6);
    const { scene } = await plated('frame', false);
    expect([...scene.placements.now]).not.toEqual([...free.scene.placements.now]);
  });
});
