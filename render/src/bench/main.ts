/** ./wemlox bench [rays|paths|caustics|lights|balance|finishes|trees|scene|motion|stage|type|drawings|truths] [--json FILE] [--dump DIR] */
import 'reflect-metadata';
import { writeFile } from 'node:fs/promises';
import { parseArgs } from 'node:util';
import { benchBalance } from './balance.ts';
import { benchDrawings } from './drawings.ts';
import { benchCaustics } from './caustics.ts';
import { benchFinishes } from './finishes.ts';
import { benchLights } from './lights.ts';
import { benchMotion } from './motion.ts';
import { benchPaths } from './paths.ts';
import { benchRays } from './rays.ts';
import { print, type Report } from './report.ts';
import { benchScene } from './scene.ts';
import { benchStage } from './stage.ts';
import { benchTrees } from './trees.ts';
import { benchTruths } from './truths.ts';
import { benchType } from './type.ts';

const { values, positionals } = parseArgs({
  allowPositionals: true,
  options: { json: { type: 'string' }, dump: { type: 'string' } },
});
const BENCHES: Record<string, () => Promise<Report>> = {
  rays: () => benchRays(values.dump),
  paths: benchPaths,
  caustics: benchCaustics,
  lights: benchLights,
  balance: benchBalance,
  finishes: benchFinishes,
  trees: benchTrees,
  scene: benchScene,
  motion: benchMotion,
  stage: benchStage,
  type: benchType,
  drawings: benchDrawings,
  truths: benchTruths,
};
// truths takes half an hour, and only when asked for
const wanted = positionals.length > 0 ? positionals : Object.keys(BENCHES).filter((b) => b !== 'truths');
const unknown = wanted.find((name) => !BENCHES[name]);
if (unknown) {
  process.stderr.write(`wemlox bench: no bench "${unknown}"; there are ${Object.keys(BENCHES).join(', ')}\n`);
  process.exit(2);
}
const reports: Report[] = [];
for (const name of wanted) {
  const report = await BENCHES[name]();
  print(report);
  reports.push(report);
}
if (values.json)
  await writeFile(values.json, JSON.stringify(reports.length === 1 ? reports[0] : reports, null, 1));
