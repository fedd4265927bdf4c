/** Share of glyphs × bevels that are sound, see faultOf. */
import { readFileSync } from 'node:fs';
import { OpenFont } from '@wemlox/core/type/font';
import { loadRegions, merged } from '@wemlox/core/plane/region';
import { SHIPPED_FONTS } from '@wemlox/core/type/shippedFonts';
import { bevelsFor, faultOf } from '@wemlox/core/solid/truths';
import { Kernel, kernelMemory } from '@wemlox/core/trace/kernel';
import { SceneMemory } from '@wemlox/core/trace/sceneMemory';
import { soupScene } from '@wemlox/core/scene/soup';
import { diskSources } from '../sources.ts';
import { alone, type Report, type Row } from './report.ts';

const kernelModule = () =>
  new WebAssembly.Module(readFileSync(new URL('../../../core/kernel/build/kernel.wasm', import.meta.url)));

/** All of printable Latin-1. */
const LATIN = [...Array(0xff - 0x20).keys()].map((i) => 0x21 + i).filter((c) => c < 0x7f || c > 0xa0);

/** @param characters code points to try in each face; those it lacks are passed over */
export async function soundShare(faces: readonly string[], characters: readonly number[]): Promise<Row[]> {
  await loadRegions();
  const module = kernelModule();
  const over = (positions: Float32Array) => {
    const memory = kernelMemory(false);
    return new Kernel(module, memory, new SceneMemory(module, memory, 1).take(soupScene(positions)), 0);
  };
  const sources = diskSources(() => Promise.reject(new Error('no assets')));
  const rows: Row[] = [];
  for (const id of faces) {
    const font = await OpenFont.open(await sources.shippedFont(SHIPPED_FONTS.find((f) => f.id === id)!.file));
    let tried = 0;
    const faults: string[] = [];
    for (const code of characters) {
      if (!font.has(code)) continue;
      const character = String.fromCodePoint(code);
      const region = merged(font.outline(font.shape(character)[0].glyph));
      for (const bevel of region.length > 0 ? bevelsFor(region) : []) {
        tried++;
        const wrong = faultOf(region, bevel, over);
        if (wrong) faults.push(`${character} ${bevel.profile} ${bevel.width.toFixed(2)}: ${wrong}`);
      }
    }
    rows.push(alone(`${id}, sound of ${tried}`, 'solids', [tried - faults.length]));
    for (const f of faults.slice(0, 20)) process.stderr.write(`${id} ${f}\n`);
  }
  return rows;
}

export const benchTruths = async (): Promise<Report> => ({
  bench: 'truths, Latin-1 × bevels of every shipped face',
  rows: await soundShare(
    SHIPPED_FONTS.map((f) => f.id),
    LATIN,
  ),
});
