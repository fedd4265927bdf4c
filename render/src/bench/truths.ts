/** Share of glyphs × bevels that are sound: closed, outward, crossing nothing, of the volume and area they must have. */
import { readFileSync } from 'node:fs';
import { newBevel, type Profile } from '@wemlox/core/src/document/index.ts';
import { diagramOf } from '@wemlox/core/src/type/diagram.ts';
import { OpenFont, type Contour } from '@wemlox/core/src/type/font.ts';
import { bevelLimits } from '@wemlox/core/src/type/limits.ts';
import { areaOf, grown, loadRegions, merged } from '@wemlox/core/src/type/region.ts';
import { SHIPPED_FONTS } from '@wemlox/core/src/type/shippedFonts.ts';
import { buildSolid } from '@wemlox/core/src/type/solid.ts';
import { crossings, openEdges, thinnest, volume } from '@wemlox/core/src/type/soundness.ts';
import { buildRayScene, Kernel, kernelMemory } from '@wemlox/core/src/trace/kernel.ts';
import { diskSources } from '../sources.ts';
import { alone, type Report, type Row } from './report.ts';

const DEPTH = 150;
const HEIGHT = 60;
const PROFILES: Profile[] = ['straight', 'round', 'cove', 'step'];
/** Volumes and areas agree within this share. */
const EXACT = 1e-3;
/** No triangle is lower, thousandths of an em: a hundredth of a nanometre on a capital of a centimetre. */
const THINNEST = 1e-6;
const kernelModule = () =>
  new WebAssembly.Module(readFileSync(new URL('../../../core/kernel/build/kernel.wasm', import.meta.url)));

/** All of printable Latin-1. */
const LATIN = [...Array(0xff - 0x20).keys()].map((i) => 0x21 + i).filter((c) => c < 0x7f || c > 0xa0);

/** What is wrong with a glyph's solid; null when it is sound. */
function fault(
  module: WebAssembly.Module,
  region: Contour[],
  width: number,
  profile: Profile,
): string | null {
  const none = newBevel({ width: 0, height: 0, profile: 'straight', segments: 1 });
  const front = width > 0 ? newBevel({ width, height: HEIGHT, profile, segments: 5 }) : none;
  const { positions, zoneStarts } = buildSolid(region, { depth: DEPTH, front, back: none });
  const open = openEdges(positions);
  if (open > 0) return `${open} open edges`;
  const thin = thinnest(positions);
  if (thin < THINNEST) return `a triangle ${thin} high`;
  const whole = volume(positions);
  const prism = areaOf(region) * DEPTH;
  if (width === 0 ? Math.abs(whole / prism - 1) > EXACT : !(whole > 0 && whole < prism * (1 + EXACT)))
    return `volume ${whole / prism}`;
  let twice = 0;
  for (let t = 0; t < zoneStarts[1] * 9; t += 9) {
    const p = positions;
    twice += (p[t + 3] - p[t]) * (p[t + 7] - p[t + 1]) - (p[t + 6] - p[t]) * (p[t + 4] - p[t + 1]);
  }
  // the exact flat front: the outline moved inward, its reflex corners round
  const flat = width > 0 ? areaOf(grown(region, -width, 'round')) : areaOf(region);
  if (Math.abs(twice / 2 - flat) > EXACT * areaOf(region)) return `front ${twice / 2 / flat}`;
  const memory = kernelMemory(false);
  const layout = buildRayScene(module, memory, positions, positions.length / 9, 1);
  const crossed = crossings(positions, new Kernel(module, memory, layout, 0));
  return crossed > 0 ? `${crossed} crossings` : null;
}

/** @param characters code points to try in each face; those it lacks are passed over */
export async function soundShare(faces: readonly string[], characters: readonly number[]): Promise<Row[]> {
  await loadRegions();
  const module = kernelModule();
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
      const diagram = region.length > 0 ? diagramOf(region) : null;
      if (!diagram) continue;
      const limits = bevelLimits(diagram);
      for (const width of [0, 8, limits.flat * 0.98, limits.ridge * 1.2]) {
        for (const profile of width === 0 ? PROFILES.slice(0, 1) : PROFILES) {
          tried++;
          const wrong = fault(module, region, width, profile);
          if (wrong) faults.push(`${character} ${profile} ${width.toFixed(2)}: ${wrong}`);
        }
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
