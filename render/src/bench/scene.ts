/** What an edit makes anew on its way to a scene that can be traced: against an edit that changes every solid. */
import type { Project } from '@wemlox/core/document';
import { kernelMemory } from '@wemlox/core/trace/kernel';
import { cellEye } from '@wemlox/core/trace/eye';
import { prepared as prepare } from '@wemlox/core/trace/prepare';
import { SceneMemory } from '@wemlox/core/trace/sceneMemory';
import { WaveTracer } from '@wemlox/core/trace/waveTracer';
import { kernelBytes } from '../threads.ts';
import { median, type Report, type Row } from './report.ts';
import { chromeWord, newMaker } from './word.ts';

const ROUNDS = 5;
const kernelModule = () => new WebAssembly.Module(kernelBytes());
const newStore = () => new SceneMemory(kernelModule(), kernelMemory(true), 1);
const LETTERS = 'STARBOARD MUSTER STATION ';
type Change = (project: Project, round: number) => void;

const CHANGES: Record<string, Change> = {
  roughness: (p, k) => void (p.finishes[0].surface.specular_roughness = 0.1 + k * 0.01),
  'a light turned': (p, k) => void (p.looks[0].rig[0].azimuth = 0.1 * k),
  'the block moved': (p, k) => void (p.blocks[0].place.position = [0.01 * k, 0.2, 0]),
};
const DEPTH: Change = (p, k) => void (p.blocks[0].depth = 0.05 + 0.001 * k);

/** Processor milliseconds of an asynchronous piece of work. */
async function cpuMilliseconds(work: () => Promise<unknown>): Promise<number> {
  const before = process.cpuUsage();
  await work();
  const { user, system } = process.cpuUsage(before);
  return (user + system) / 1e3;
}

async function editsOf(letters: number, width: number | null): Promise<Row[]> {
  const text = LETTERS.repeat(Math.ceil(letters / LETTERS.length)).slice(0, letters);
  const maker = newMaker();
  const store = newStore();
  const { project } = await chromeWord(text, maker);
  const make = async (p: Project) => {
    const { scene } = await maker.make(p, p.looks[0].id, p.shots[0].id, width);
    return prepare(store, scene);
  };
  const { triangles } = (await make(project)).addresses;
  const edit = (change: Change, round: number) => {
    const next = structuredClone(project);
    change(next, round);
    return cpuMilliseconds(() => make(next));
  };
  const rows: Row[] = [];
  for (const [name, change] of Object.entries(CHANGES)) {
    const [ours, peer]: number[][] = [[], []];
    for (let k = 1; k <= ROUNDS; k++) {
      peer.push(await edit(DEPTH, k));
      // the block is as it was again, and known
      await make(project);
      ours.push(await edit(change, k));
    }
    const ratios = ours.map((v, i) => v / peer[i]);
    rows.push({
      case: `${name}, ${letters} letters, ${triangles} triangles`,
      ours: median(ours),
      peer: median(peer),
      peerName: 'the depth changed',
      ratio: median(ratios),
      spread: [Math.min(...ratios), Math.max(...ratios)],
      unit: 'ms',
    });
  }
  return rows;
}

/** Cells of the chart for type with a strip of points: what each needs before its first ray. */
async function cells(): Promise<Row> {
  const maker = newMaker();
  const { project } = await chromeWord('OSTREL', maker);
  const [block] = project.blocks;
  Object.assign(block.strip, { on: true, spacing: 0.004, size: 0.003 });
  const { scene } = await maker.make(project, project.looks[0].id, project.shots[0].id, 800);
  const store = newStore();
  const prepared = prepare(store, scene);
  const { triangles } = prepared.addresses;
  const tracer = new WaveTracer(kernelModule(), store.memory, 0);
  const aim = (of = prepared) => {
    const eye = cellEye(scene, block.id, block.letters[0], -1, 64, 48)!;
    tracer.aim(of, eye);
  };
  const [first, next]: number[][] = [[], []];
  for (let k = 0; k < ROUNDS; k++) {
    // the same triangles as if never seen
    const fresh = { ...prepared };
    first.push(await cpuMilliseconds(async () => aim(fresh)));
    next.push(await cpuMilliseconds(async () => aim(fresh)));
  }
  const ratios = next.map((v, i) => v / first[i]);
  return {
    case: `a cell beside a strip of points, ${triangles} triangles`,
    ours: median(next),
    peer: median(first),
    peerName: 'the first cell',
    ratio: median(ratios),
    spread: [Math.min(...ratios), Math.max(...ratios)],
    unit: 'ms',
  };
}

export async function benchScene(): Promise<Report> {
  return {
    bench: 'scene: what an edit makes anew (CPU time)',
    rows: [...(await editsOf(216, 800)), ...(await editsOf(1000, null)), await cells()],
  };
}
