import { readdir, readFile } from 'node:fs/promises';
import { decode } from 'fast-png';
import { beforeAll, describe, expect, it } from 'vitest';
import { aspectOf, openDocument, finishAt, zonesOf } from '@wemlox/core/document';
import { PAINTED_SURROUNDS } from '@wemlox/core/light/paintedSurrounds';
import { SHIPPED_FONTS } from '@wemlox/core/type/shippedFonts';
import { DATA, type DemoProject } from '../src/loadDemo.ts';
import { testMaker } from '@wemlox/core/test/scene/maker.ts';

const files = (await readdir(DATA)).filter((f) => f.endsWith('.json'));
const raw = async (file: string) => JSON.parse(await readFile(new URL(file, DATA), 'utf8')) as DemoProject;
const read = async (file: string) => {
  const demo = await raw(file);
  return { ...demo, project: openDocument(demo.project) };
};

const maker = testMaker();

describe.each(files)('%s', (file) => {
  let demo: Awaited<ReturnType<typeof read>>;
  beforeAll(async () => {
    demo = await read(file);
  });

  it('is a valid document, and so is the state of each of its proofs', async () => {
    expect(demo.project).toEqual((await raw(file)).project);
    for (const { document } of demo.proofs)
      if (document) expect(openDocument(structuredClone(document))).toEqual(document);
  });

  it('needs no file that does not ship, and names each as it is named', () => {
    for (const block of demo.project.blocks) {
      expect(block.drawing).toBeNull();
      const font = SHIPPED_FONTS.find((f) => f.id === block.font.id);
      expect(block.font).toEqual({ source: 'shipped', id: font?.id, name: font?.name });
    }
    for (const look of demo.project.looks) {
      const painted = PAINTED_SURROUNDS.find((s) => s.id === look.surround.id);
      expect([look.surround.source, look.surround.name]).toEqual(['painted', painted?.name]);
    }
  });

  it('has a picture of each proof, of the size and shape it says, with light in it', async () => {
    expect(demo.proofs.length).toBeGreaterThan(0);
    for (const proof of demo.proofs) {
      const picture = decode(await readFile(new URL(proof.file, DATA)));
      expect([picture.width, picture.height]).toEqual([proof.width, proof.height]);
      const [shot] = (proof.document ? openDocument(proof.document) : demo.project).shots;
      expect(Math.abs(proof.width / proof.height - aspectOf(shot))).toBeLessThan(0.01);
      expect(proof.samples).toBeGreaterThan(0);
      let bright = 0;
      for (let i = 0; i < picture.data.length; i += picture.channels)
        bright = Math.max(bright, picture.data[i + 1]);
      expect(bright).toBeGreaterThan(150);
    }
    // a proof of each look as it is now
    const kept = new Set(demo.proofs.map((p) => p.look));
    for (const look of demo.project.looks) expect(kept.has(look.id), look.name).toBe(true);
  });

  it('has dressed letters on a lit stage, none of them missing, crossing or lost', async () => {
    const { project } = demo;
    for (const look of project.looks) {
      const { solids, findings, scene } = await maker.make(project, look.id, project.shots[0].id, 800);
      expect(findings).toEqual([]);
      expect(scene.lights.length + scene.surround.gain).toBeGreaterThan(0);
      solids.forEach(({ letters, zones, touches }, i) => {
        const block = project.blocks[i];
        expect(zones).toEqual(zonesOf(block));
        expect(letters.filter((l) => l.missing || l.standIn)).toEqual([]);
        if (!block.weld) expect(touches).toEqual([]);
        const worn = letters.map((l) => finishAt(look.chart, block.id, l.letter, zones[0]));
        expect(worn.every((f) => f !== null)).toBe(true);
      });
    }
  });
});

it('the demo shows bevelled letters, tubes, strips and more than one look', async () => {
  const all = await Promise.all(files.map(read));
  const blocks = all.flatMap((d) => d.project.blocks);
  expect(new Set(blocks.map((b) => b.form))).toContain('tube');
  expect(new Set(blocks.map((b) => b.form))).toContain('bevelled');
  for (const d of all) expect(d.project.looks.length).toBeGreaterThan(1);
});
