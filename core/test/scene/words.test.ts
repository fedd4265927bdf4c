import { describe, expect, it } from 'vitest';
import { newProject } from '../../src/document/index.ts';
import { READY_FINISHES } from '../../src/finish/readyFinishes.ts';
import { blockBounds, picturedFaces, wordBounds } from '../../src/scene/faces.ts';
import { wordsOf } from '../../src/document/words.ts';
import { testMaker } from './maker.ts';

describe('words', () => {
  it('are what stands between spaces and line breaks', () => {
    const text = ' NIGHT  FERRY\nOSTREL';
    const letters = [...text].map((_, i) => `l${i}`);
    const words = wordsOf({ text, letters });
    const of = (character: string) => words.get(letters[[...text].indexOf(character)]);
    expect([of('N'), of('T'), of('F'), of('Y'), of('O')]).toEqual([0, 0, 1, 1, 2]);
    expect([...words.values()].filter((w) => w === 2)).toHaveLength(6);
    expect(words.has(letters[0])).toBe(false);
    expect(wordsOf({ text: '', letters: [] }).size).toBe(0);
  });

  it('have one box for all of their letters, within that of the block', async () => {
    const p = newProject('Ostrel', 'IO LT', structuredClone([...READY_FINISHES.slice(0, 2)]));
    const { scene } = await testMaker().make(p, p.looks[0].id, p.shots[0].id, null);
    const blocks = blockBounds(scene);
    const words = wordBounds(scene, blocks);
    const letterOf = (part: number) => scene.things[scene.parts.thing[part]].letter;
    const instanceOf = (character: number) => {
      for (let k = 0; k < scene.parts.count; k++)
        if (letterOf(k) === p.blocks[0].letters[character]) return scene.parts.instance[k];
      throw new Error('no such letter');
    };
    const [i, o, l, t] = [0, 1, 3, 4].map(instanceOf);
    expect(words[i]).toEqual(words[o]);
    expect(words[l]).toEqual(words[t]);
    expect(words[i].max[0]).toBeLessThan(words[l].min[0]);
    const block = blocks[scene.instances.placement[i]];
    expect([words[i].min[0], words[l].max[0]]).toEqual([block.min[0], block.max[0]]);
    // pieces of the stage are of no word: theirs is all of it
    const faces = picturedFaces(scene);
    expect(faces.word[i]).toEqual(faces.word[o]);
    expect(faces.word[i][2]).toBeLessThan(faces.block[i][2]);
  });
});
