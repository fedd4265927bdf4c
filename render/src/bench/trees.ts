/** Trees of each letter under one of all, against one tree over all triangles: to build, in memory, and in rays. */
import { flattened } from '@wemlox/core/scene/flatScene';
import type { RenderScene } from '@wemlox/core/scene/renderScene';
import { soupScene } from '@wemlox/core/scene/soup';
import { Kernel, kernelMemory } from '@wemlox/core/trace/kernel';
import { SceneMemory } from '@wemlox/core/trace/sceneMemory';
import { kernelBytes } from '../threads.ts';
import { RAYS, raysOver, sendRays } from './rays.ts';
import { compared, cpuSeconds, median, type Report, type Row } from './report.ts';
import { chromeWord, newMaker } from './word.ts';

/** More in one tree do not fit into the kernel's memory. */
const LETTERS = 500;
const ROUNDS = 3;
const TEXT = 'MUSTER STATION STARBOARD DECK FIVE ';

function laidOut(scene: RenderScene): { seconds: number; bytes: number } {
  const module = new WebAssembly.Module(kernelBytes());
  const memory = new SceneMemory(module, kernelMemory(true), 1);
  const before = memory.used;
  const seconds = cpuSeconds(() => memory.take(scene));
  return { seconds, bytes: memory.used - before };
}

/** @returns rows for the time and the memory of laying a long text out */
async function building(): Promise<Row[]> {
  const text = TEXT.repeat(Math.ceil(LETTERS / TEXT.length)).slice(0, LETTERS);
  const maker = newMaker();
  const { project } = await chromeWord(text, maker);
  const { scene } = await maker.make(project, project.looks[0].id, project.shots[0].id, null);
  const flat = flattened(scene);
  const soup = soupScene(flat.positions.slice(0, flat.geometryTriangles * 9));
  const rounds = Array.from({ length: ROUNDS }, () => [laidOut(scene), laidOut(soup)] as const);
  const row = (what: string, unit: string, of: (l: ReturnType<typeof laidOut>) => number): Row => {
    const ratios = rounds.map(([ours, peer]) => of(ours) / of(peer));
    return {
      case: `${LETTERS} letters, ${flat.geometryTriangles} triangles: ${what}`,
      ours: median(rounds.map(([ours]) => of(ours))),
      peer: median(rounds.map(([, peer]) => of(peer))),
      peerName: 'one tree',
      ratio: median(ratios),
      spread: [Math.min(...ratios), Math.max(...ratios)],
      unit,
    };
  };
  return [row('built', 's', (l) => l.seconds), row('memory', 'bytes', (l) => l.bytes)];
}

/** Rays through the chrome word, of each kind. */
async function walking(): Promise<Row[]> {
  const { scene } = await chromeWord();
  const { sets, kernel: flat } = await raysOver(scene);
  const module = new WebAssembly.Module(kernelBytes());
  const memory = kernelMemory(true);
  const kernel = new Kernel(module, memory, new SceneMemory(module, memory, 1).take(scene), 0);
  return Object.entries(sets).map(([name, rays]: [string, Float32Array]) =>
    compared(
      `chrome word, ${name} rays`,
      'rays/s',
      RAYS,
      () => sendRays(kernel, rays, name === 'shadow'),
      'one tree',
      () => sendRays(flat, rays, name === 'shadow'),
    ),
  );
}

export async function benchTrees(): Promise<Report> {
  return {
    bench: 'trees: one of each letter against one of all (CPU time)',
    rows: [...(await building()), ...(await walking())],
  };
}
