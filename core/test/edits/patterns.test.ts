import { describe, expect, it } from 'vitest';
import { finishAt, newBlock, newProject, SOLID_ZONES, type Project } from '../../src/document/index.ts';
import {
  alikeLetters,
  copyDress,
  dressFaces,
  dressPattern,
  edited,
  paintFace,
  picked,
  PATTERNS,
  type Edit,
  type Pattern,
} from '../../src/edits/index.ts';
import { readyFinish } from '../../src/finish/readyFinishes.ts';

const after = (p: Project, edit: Edit): Project => edited(p, edit).project;
const block = newBlock('DECK TWO A');
const text = (pattern: Pattern, seed = 1) =>
  picked(block, pattern, seed)
    .map((id) => [...block.text][block.letters.indexOf(id)])
    .join('');

describe('patterns over a text', () => {
  it('pick every second letter, vowels, initials, and every second word', () => {
    expect(text('second')).toBe('DCTO');
    expect(text('vowels')).toBe('EOA');
    expect(text('initials')).toBe('DTA');
    expect(text('words')).toBe('DECKA');
  });

  it('pick some at random, the same for the same seed', () => {
    const long = newBlock('X'.repeat(400));
    const [a, b] = [picked(long, 'random', 3), picked(long, 'random', 4)];
    expect(picked(long, 'random', 3)).toEqual(a);
    expect(a).not.toEqual(b);
    for (const some of [a, b]) expect(Math.abs(some.length - 200)).toBeLessThan(45);
  });
});

describe('dressing many letters', () => {
  const project = newProject('Ostrel', '', [readyFinish('hull-chrome'), readyFinish('leaf-gold')]);
  project.blocks = [block];
  const look = project.looks[0].id;
  const worn = (p: Project, at: number) =>
    SOLID_ZONES.map((zone) => finishAt(p.looks[0].chart, block.id, block.letters[at], zone));

  it('lays a finish on what a pattern picks, on one zone or on all, whatever lay there', () => {
    for (const pattern of Object.keys(PATTERNS) as Pattern[]) {
      const some = new Set(picked(block, pattern));
      const made = after(project, dressPattern(project, look, block.id, pattern, 'front', 'leaf-gold'));
      block.letters.forEach((letter, i) => {
        expect(worn(made, i)[0]).toBe(some.has(letter) ? 'leaf-gold' : 'hull-chrome');
        expect(worn(made, i)[2]).toBe('hull-chrome');
      });
      const all = after(made, dressPattern(made, look, block.id, pattern, null, null));
      block.letters.forEach((letter, i) => {
        if (some.has(letter)) expect(worn(all, i)).toEqual([null, null, null, null, null]);
      });
    }
    expect(() => dressPattern(project, look, newBlock('X').id, 'vowels', null, null)).toThrow();
  });

  it('goes by letters that are equal and dressed alike, for as long as they are', () => {
    const tide = { ...project, blocks: [newBlock('TIDE TT')] };
    const [{ id, text, letters }] = tide.blocks;
    const say = (p: Project) =>
      alikeLetters(p, p.looks[0]).map((group) =>
        group.map(({ letter }) => [...text][letters.indexOf(letter)]).join(''),
      );
    expect(say(tide)).toEqual(['TTT', 'I', 'D', 'E']);
    const ts = alikeLetters(tide, tide.looks[0])[0].map((l) => l.letter);
    const front = { block: id, letter: ts[0], zone: 'front' as const };
    const gold = after(tide, dressFaces(tide, look, front, 'leaf-gold', ts));
    for (const letter of ts) expect(finishAt(gold.looks[0].chart, id, letter, 'front')).toBe('leaf-gold');
    expect(say(gold)).toEqual(say(tide));
    expect(dressFaces(tide, look, front, 'leaf-gold', ts).label).toContain('3 letters');
    const apart = after(gold, paintFace(gold, look, { ...front, zone: 'side' }, 'leaf-gold')!);
    expect(say(apart)).toEqual(['T', 'I', 'D', 'E', 'TT']);
  });

  it('copies a dress zone by zone', () => {
    const some = after(project, dressPattern(project, look, block.id, 'initials', 'side', 'leaf-gold'));
    const to = block.letters.slice(1).map((letter) => ({ block: block.id, letter }));
    const copied = after(some, copyDress(some, look, { block: block.id, letter: block.letters[0] }, to));
    for (const [i] of block.letters.entries()) expect(worn(copied, i)).toEqual(worn(some, 0));
    expect(worn(some, 0)[2]).toBe('leaf-gold');
  });
});
