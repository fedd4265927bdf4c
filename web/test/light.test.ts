import { describe, expect, it } from 'vitest';
import { newLight, newProject, plainFinish } from '@wemlox/core/document';
import { NONE, type RenderScene } from '@wemlox/core/scene/renderScene';
import { factorOf, gainsOf, isBalanced, sourcesOf, weighedOf } from '../src/state/light.ts';

const project = newProject('Ostrel', 'OS', [plainFinish({ id: 'glow', name: 'Glow' })]);
const [look] = project.looks;
look.rig = [newLight('area', 'Key', { id: 'key' }), newLight('spot', 'Off', { id: 'off', on: false })];
const [block] = project.blocks;
const scene = {
  lights: [{ id: 'key', group: 0 }],
  surround: { group: 1 },
  things: [{ block: block.id, letter: block.letters[0], piece: null }],
  finishes: [{ glow: { nits: [2, 1, 0] } }],
  parts: {
    count: 2,
    group: Uint32Array.of(2, NONE),
    thing: Uint32Array.of(0, 0),
    zone: Uint8Array.of(0, 1),
    finish: Uint32Array.of(0, 0),
  },
} as unknown as RenderScene;
const sources = sourcesOf(project, look, scene);

describe('sources of light', () => {
  it('are the rig’s, the surround, and what glows; what gives no light has no group', () => {
    expect(sources.map(({ key, group }) => [key, group])).toEqual([
      ['light/key', 0],
      ['light/off', null],
      ['surround', 1],
      [expect.stringContaining(`glow/${block.id}/`), 2],
    ]);
  });

  it('weigh what the artist says, and nothing of what is only seen alone is taken over', () => {
    const even = { stops: {}, tints: {}, out: {}, only: null };
    expect(gainsOf(even, sources, 3)).toBeNull();
    const balance = { stops: { surround: 1 }, tints: {}, out: { 'light/key': true } as const, only: null };
    expect(gainsOf(balance, sources, 3)).toEqual([0, 0, 0, 2, 2, 2, 1, 1, 1]);
    // a film that keeps fewer apart has all others last
    expect(gainsOf(balance, sources, 1)).toEqual([0, 0, 0]);
    const alone = { ...balance, only: 'surround' };
    expect(factorOf(alone, 'surround')).toBe(2);
    expect(gainsOf(alone, sources, 3)).toEqual([0, 0, 0, 2, 2, 2, 0, 0, 0]);
    expect(weighedOf(alone, sources).map((w) => w.factor)).toEqual([0, 1, 2, 1]);
    expect([isBalanced(even), isBalanced(alone), isBalanced({ ...even, stops: { a: 0 } })]).toEqual([
      false,
      true,
      false,
    ]);
  });
});
