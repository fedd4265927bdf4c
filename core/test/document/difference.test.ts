import { describe, expect, it } from 'vitest';
import {
  openDocument,
  cutName,
  cutTo,
  differences,
  isStorable,
  newBlock,
  newLight,
  newProject,
  putBack,
  sameJson,
  storable,
} from '../../src/document/index.ts';
import { READY_FINISHES } from '../../src/finish/readyFinishes.ts';

const project = () => newProject('Ostrel', 'OSTREL', structuredClone([...READY_FINISHES]));

describe('differences', () => {
  it('name where two versions differ, by the names of things', () => {
    const mine = project();
    const theirs = structuredClone(mine);
    theirs.looks[0].rig[0].strength = 99;
    theirs.blocks[0].text = 'OSTREX';
    theirs.looks[0].rig.push(newLight('spot', 'Lamp'));
    const found = differences(mine, theirs).map((d) => [d.where.join(' › '), d.mine, d.theirs]);
    expect(found).toContainEqual(['looks › First look › rig › Key › strength', 12, 99]);
    expect(found).toContainEqual(['blocks › OSTREL › text', 'OSTREL', 'OSTREX']);
    expect(found).toContainEqual(['looks › First look › rig › Lamp', undefined, theirs.looks[0].rig[1]]);
    expect(found).toHaveLength(3);
  });

  it('see no difference in the order of keys', () => {
    const mine = project();
    const turned = JSON.parse(JSON.stringify(mine)) as Record<string, unknown>;
    const reversed = Object.fromEntries(Object.entries(turned).reverse());
    expect(sameJson(mine, reversed)).toBe(true);
    expect(sameJson(mine, { ...reversed, name: 'Other' })).toBe(false);
  });
});

describe('putting back', () => {
  it('takes the refused place back, removes what is new and wrong, and leaves the rest', () => {
    const stored = project();
    const mine = structuredClone(stored);
    mine.name = 'Kept';
    mine.blocks[0].depth = 999;
    mine.looks[0].grade.exposure = Number.NaN;
    mine.blocks.unshift(newBlock('X', { capHeight: -1 }));
    const paths = ['blocks[0].capHeight', 'blocks[1].depth', 'looks[0].grade.exposure'];
    const mended = putBack(mine, stored, paths)!;
    expect(openDocument(mended)).toBe(mended);
    expect(mended.name).toBe('Kept');
    expect(mended.blocks).toHaveLength(1);
    expect(mended.blocks[0].depth).toBe(stored.blocks[0].depth);
    expect(mended.looks[0].grade.exposure).toBe(0);
    expect(putBack(mine, stored, ['nothing.here'])).toBeNull();
  });
});

describe('text', () => {
  it('is cut between characters as people see them', () => {
    const family = '👩‍👩‍👧‍👦';
    expect(cutTo(`ab${family}c`, 5)).toBe('ab');
    expect(cutTo(`ab${family}c`, 2 + family.length)).toBe(`ab${family}`);
    expect(cutTo('e\u0301x', 1)).toBe('');
    expect(cutName('⚓'.repeat(300))).toHaveLength(120);
    for (let n = 0; n < 40; n++) expect(isStorable(cutTo(`${'🚢'.repeat(15)}x`, n))).toBe(true);
  });

  it('loses only what cannot be kept', () => {
    expect(storable('a\0b\ud83dc')).toBe('ab\ufffdc');
    expect(storable('Ö⚓🚢')).toBe('Ö⚓🚢');
  });
});
