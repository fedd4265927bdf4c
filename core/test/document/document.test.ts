import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import {
  assetsOf,
  openDocument,
  DocumentError,
  finishAt,
  newProject,
  packProject,
  unpackProject,
  VERSION,
  withRule,
  ZONES,
  type ChartRule,
  type Project,
} from '../../src/document/index.ts';
import { withText } from '../../src/edits/index.ts';
import { READY_FINISHES } from '../../src/finish/readyFinishes.ts';

const project = () => newProject('Ostrel', 'OSTREL', structuredClone([...READY_FINISHES]));
const hex = async (bytes: Uint8Array) =>
  [...new Uint8Array(await crypto.subtle.digest('SHA-256', new Uint8Array(bytes)))]
    .map((b) => b.toString(16).padStart(2, '0'))
    .join('');

describe('the door', () => {
  it('lets a new project through unchanged, with fields it does not know', () => {
    const p = { ...project(), later: [1] };
    expect(openDocument(structuredClone(p))).toEqual(p);
  });

  it('names every wrong field', () => {
    const p = project() as unknown as Record<string, unknown> & ReturnType<typeof project>;
    p.blocks[0].capHeight = NaN;
    p.finishes[2].surface.base_color = [1, 2, 0];
    p.looks[0].rig[0].strength = -1;
    const problems = (() => {
      try {
        openDocument(p);
      } catch (error) {
        return (error as DocumentError).problems.join('\n');
      }
      return '';
    })();
    expect(problems).toMatch(/blocks\[0\]\.capHeight/);
    expect(problems).toMatch(/finishes\[2\]\.surface\.base_color/);
    expect(problems).toMatch(/looks\[0\]\.rig\[0\]\.strength/);
    p.looks[0].rig[0].kind = 'lamp' as never;
    expect(() => openDocument(p)).toThrow(
      /looks\[0\]\.rig\[0\]\.kind: must be one of area, card, spot, point, directional, ambient, array/,
    );
  });

  it('refuses other formats, newer versions, dangling names and miscounted letters', () => {
    expect(() => openDocument({ format: 'other' })).toThrow(/format/);
    expect(() => openDocument({ ...project(), version: 99 })).toThrow(/newer Wemlox/);
    const dangling = project();
    dangling.looks[0].chart.push({ finish: 'nowhere' });
    expect(() => openDocument(dangling)).toThrow(/no finish nowhere/);
    const miscounted = project();
    miscounted.blocks[0].letters.pop();
    expect(() => openDocument(miscounted)).toThrow(/5 identifiers for 6 characters/);
    expect(() => openDocument(null)).toThrow(/not an object/);
  });
});

describe('older documents', () => {
  const sample = (version: number): unknown =>
    JSON.parse(readFileSync(new URL(`./versions/${version}.json`, import.meta.url), 'utf8'));

  it('of every version open in the newest one, unknown fields kept', () => {
    for (let version = 1; version <= VERSION; version++) {
      const document = sample(version) as Project;
      expect(document.version).toBe(version);
      const opened = openDocument(document) as Project & { note?: string };
      expect(opened.version).toBe(VERSION);
      expect(opened.note).toBe('an unknown field');
      expect(opened.blocks[0].text).toBe('OSTREL');
      for (const { surface } of opened.finishes) expect(surface.base_diffuse_roughness).toBe(0);
    }
  });
});

describe('editing the word', () => {
  const block = project().blocks[0];
  it('keeps the identifiers of what stays', () => {
    const longer = withText(block, 'OSTRELS');
    expect(longer.letters.slice(0, 6)).toEqual(block.letters);
    const inside = withText(block, 'OSTTREL');
    expect(inside.letters.filter((l) => block.letters.includes(l))).toHaveLength(6);
    const shorter = withText(block, 'OEL');
    expect(shorter.letters).toHaveLength(3);
    expect(shorter.letters[0]).toBe(block.letters[0]);
    expect(shorter.letters[2]).toBe(block.letters[5]);
  });

  it('counts characters, not code units', () => {
    expect(withText(block, 'O😀L').letters).toHaveLength(3);
  });

  it('keeps the dress of a letter whose neighbours change', () => {
    const t = block.letters[2];
    const chart: ChartRule[] = [{ finish: 'a' }, { letter: t, zone: 'front', finish: 'b' }];
    const edited = withText(block, 'xxOSTRELxx');
    expect(edited.letters.filter((l) => finishAt(chart, block.id, l, 'front') === 'b')).toEqual([t]);
  });
});

describe('the finish chart', () => {
  const letters = ['l1', 'l2', 'l3'];
  const table = (chart: ChartRule[]) => letters.map((l) => ZONES.map((z) => finishAt(chart, 'b', l, z)));

  it('puts what is dropped exactly where it is dropped, whatever was there', () => {
    // every order of cell, row, column and corner drops against a plain table
    const targets = [
      {},
      { letter: 'l2' },
      { zone: 'side' as const },
      { letter: 'l1', zone: 'side' as const },
      { letter: 'l2', zone: 'front' as const },
      { block: 'b' },
    ];
    let seed = 5;
    const pick = (n: number) => (seed = (seed * 48271) % 2147483647) % n;
    for (let run = 0; run < 300; run++) {
      let chart: ChartRule[] = [];
      const plain = new Map<string, string | null>();
      for (let k = 0; k < 7; k++) {
        const target = targets[pick(targets.length)];
        const finish = pick(6) === 0 ? null : `f${k}`;
        chart = withRule(chart, target, finish);
        for (const l of letters) {
          for (const z of ZONES) {
            if ((target.letter ?? l) === l && (target.zone ?? z) === z) plain.set(l + z, finish);
          }
        }
      }
      expect(table(chart)).toEqual(letters.map((l) => ZONES.map((z) => plain.get(l + z) ?? null)));
    }
  });

  it('stays short however often one cell is painted', () => {
    let chart: ChartRule[] = [];
    for (let i = 0; i < 50; i++)
      chart = withRule(chart, { block: 'b', letter: 'l1', zone: 'front' }, `f${i}`);
    expect(chart).toHaveLength(1);
  });
});

describe('the .wemlox file', () => {
  it('comes back as it went, with its assets', async () => {
    const p = project();
    const bytes = new Uint8Array([1, 2, 3, 4]);
    const hash = await hex(bytes);
    p.blocks[0].font = { source: 'asset', id: hash, name: 'Own' };
    expect(assetsOf(p)).toEqual([hash]);
    const file = packProject({ project: p, assets: [{ hash, name: 'Own', bytes }] });
    expect(await unpackProject(file, hex)).toEqual({ project: p, assets: [{ hash, name: 'Own', bytes }] });
  });

  it('refuses damage at any place, or gives the project whole', async () => {
    const file = packProject({ project: project(), assets: [] });
    for (let cut = 0; cut < file.length; cut += Math.ceil(file.length / 25)) {
      const outcome = await unpackProject(file.slice(0, cut), hex).catch((error: unknown) => error);
      if (!(outcome instanceof DocumentError))
        expect(outcome).toMatchObject({ project: { name: 'Ostrel', blocks: [{ text: 'OSTREL' }] } });
    }
    // the first half of the document is not enough for anything
    for (let cut = 0; cut < file.length / 2; cut += Math.ceil(file.length / 40)) {
      await expect(unpackProject(file.slice(0, cut), hex)).rejects.toBeInstanceOf(DocumentError);
    }
  });

  it('refuses an asset whose bytes are not its name', async () => {
    const p = project();
    p.blocks[0].font = { source: 'asset', id: 'f'.repeat(64), name: 'Own' };
    const file = packProject({
      project: p,
      assets: [{ hash: 'f'.repeat(64), name: 'Own', bytes: new Uint8Array(3) }],
    });
    await expect(unpackProject(file, hex)).rejects.toThrow(/damaged/);
  });
});
