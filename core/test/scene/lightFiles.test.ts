import { readFile } from 'node:fs/promises';
import { describe, expect, it } from 'vitest';
import { newLight, newPanel, newProject } from '../../src/document/index.ts';
import { READY_FINISHES } from '../../src/finish/readyFinishes.ts';
import { readProfile } from '../../src/light/profile.ts';
import { findingText } from '../../src/preflight/words.ts';
import type { SceneLight } from '../../src/scene/renderScene.ts';
import { SceneMaker } from '../../src/scene/sceneMaker.ts';

const HASH = 'c'.repeat(64);
const IES = 'TILT=NONE\n1 900 1 3 1 1 2 0 0 0\n1 1 12\n0 30 90\n0\n420 60 0\n';

describe('lights of a project', () => {
  let there = false;
  const late = async <T>(value: T): Promise<T> => {
    if (!there) throw new Error('not yet');
    return value;
  };
  const maker = new SceneMaker({
    shippedFont: async (file) =>
      new Uint8Array(await readFile(new URL(`../../../node_modules/${file}`, import.meta.url))),
    uploadedFont: () => Promise.reject(new Error('no such font')),
    uploadedDrawing: () => Promise.reject(new Error('none')),
    uploadedPicture: () => late({ width: 1, height: 1, data: Uint8Array.of(255, 0, 0, 255) }),
    uploadedProfile: () => late(readProfile(new TextEncoder().encode(IES))),
    uploadedModel: () => Promise.reject(new Error('none')),
    uploadedSurround: () => Promise.reject(new Error('none')),
  });
  const asset = { source: 'asset' as const, id: HASH };
  const project = newProject('Ostrel', 'O', structuredClone([...READY_FINISHES.slice(0, 1)]));
  project.looks[0]!.rig = [
    newLight('area', 'Sign', { shape: 'letters', text: 'QUAY', width: 2, height: 0.5, seen: true }),
    newLight('area', 'Sail', { shape: 'outline' }),
    newLight('area', 'Odd', { shape: 'letters', font: { ...asset, name: 'Lost.ttf' } }),
    newLight('card', 'Paper', { face: 'white', hue: 'colour', colour: [1, 1, 1] }),
    newLight('spot', 'Beam', {
      pattern: { ...asset, name: 'scan.png' },
      profile: { ...asset, name: 'deck.ies', candela: 420, lumens: 2 },
    }),
  ];
  project.looks[0]!.surround.source = 'none';
  project.looks[0]!.surround.panels = [
    newPanel('Poster', {
      shape: 'picture',
      hue: 'colour',
      colour: [1, 1, 1],
      picture: { ...asset, name: 'scan.png' },
    }),
  ];
  const made = () => maker.make(project, project.looks[0]!.id, project.shots[0]!.id, 640);
  const reddest = (data: Float32Array) => {
    let [red, green] = [0, 0];
    for (let i = 0; i < data.length; i += 3)
      [red, green] = [Math.max(red, data[i]!), Math.max(green, data[i + 1]!)];
    return [red, green];
  };
  const named = (lights: readonly SceneLight[], name: string) => lights.find((l) => l.name === name)!;

  it('say which file could not be used, shine without it, and with it once it is there', async () => {
    const before = await made();
    const said = before.findings.map(findingText);
    for (const what of [
      'scan.png of Poster could not be used (not yet); it shines as without',
      'deck.ies of Beam could not be used (not yet); it shines as without',
      'scan.png of Beam could not be used (not yet); it shines as without',
      'Lost.ttf of Odd could not be used (no such font); it shines as without',
    ])
      expect(said).toContain(what);
    // without its picture a panel is white
    const [r, g] = reddest(before.scene.surround.picture.data);
    expect(g).toBeCloseTo(r!, 5);
    there = true;
    const after = await made();
    expect(after.findings.map(findingText)).toEqual([
      'Lost.ttf of Odd could not be used (no such font); it shines as without',
    ]);
    const [red, green] = reddest(after.scene.surround.picture.data);
    expect(red).toBeGreaterThan(1);
    expect(green).toBe(0);
    const beam = named(after.scene.lights, 'Beam');
    const keys = after.scene.textures.map((t) => t.key);
    if (beam.kind !== 'spot') throw new Error('the beam is no spot');
    expect(keys).toContain(beam.pattern!.texture);
    expect(keys).toContain(beam.profile);
  });

  it('have the faces they ask for, and cards a finish that no part wears', async () => {
    const { scene } = await made();
    const face = (name: string) => {
      const light = named(scene.lights, name);
      return light.kind === 'area' ? light.face : undefined;
    };
    expect(face('Sail')!.positions.length / 9).toBe(1);
    expect(face('Sail')!.area).toBeCloseTo(0.5, 4);
    // four letters fill less than their box, and more than a fifth of it
    expect(face('Sign')!.area).toBeGreaterThan(0.2);
    expect(face('Sign')!.area).toBeLessThan(0.9);
    expect(face('Odd')).toBeUndefined();
    const paper = named(scene.lights, 'Paper');
    if (paper.kind !== 'area') throw new Error('the card has no face');
    expect(paper.placed.colour).toEqual([0, 0, 0]);
    expect(Array.from(scene.parts.finish)).not.toContain(paper.white);
    expect(scene.finishes[paper.white!]).toBeDefined();
  });
});
