/** The whole tracer, one thread, against the bare kernel on the same solids; and two threads against two processes. */
import { spawn } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { newLight, type Project } from '@wemlox/core/document';
import { readyFinish } from '@wemlox/core/finish/readyFinishes';
import type { RenderScene } from '@wemlox/core/scene/renderScene';
import { shotEye } from '@wemlox/core/trace/eye';
import { createFilm } from '@wemlox/core/trace/film';
import { kernelMemory } from '@wemlox/core/trace/kernel';
import { prepared } from '@wemlox/core/trace/prepare';
import { SceneMemory } from '@wemlox/core/trace/sceneMemory';
import { WaveTracer } from '@wemlox/core/trace/waveTracer';
import { kernelBytes, traceScene } from '../threads.ts';
import { RAYS, raysOver, sendRays } from './rays.ts';
import { cpuSeconds, median, type Report, type Row } from './report.ts';
import { chromeWord, FIGURE, newMaker } from './word.ts';

const ROUNDS = 7;
const SAMPLES = 2;

/** What is traced, as changes to the chrome word on a floor at dusk. */
const SCENES: Record<string, (project: Project) => void> = {
  'chrome word': () => {},
  'lacquer, ten area lights': (project) => {
    project.finishes[0].surface = {
      ...project.finishes[0].surface,
      base_metalness: 0,
      base_metal: 'none',
      base_color: [0.5, 0.05, 0.05],
      specular_roughness: 0.4,
      coat_weight: 1,
      coat_roughness: 0.05,
    };
    project.looks[0].rig = Array.from({ length: 10 }, (_, i) =>
      newLight('area', `Light ${i}`, { azimuth: (i * 2 * Math.PI) / 10, elevation: 0.6, distance: 1.2 }),
    );
  },
  'glass word': (project) => {
    Object.assign(project.finishes[0].surface, {
      base_metalness: 0,
      base_metal: 'none',
      transmission_weight: 1,
      specular_roughness: 0,
    });
  },
  'brushed word, panes': (project) => {
    Object.assign(project.finishes[0].surface, {
      specular_roughness: 0.4,
      specular_roughness_anisotropy: 0.8,
    });
    const pane = readyFinish('hull-chrome');
    Object.assign(pane.surface, {
      base_metalness: 0,
      base_metal: 'none',
      transmission_weight: 1,
      specular_roughness: 0,
      geometry_thin_walled: true,
    });
    project.finishes.push(pane);
    project.looks[0].chart.push({ block: null, letter: null, zone: 'side', finish: pane.id } as never);
  },
};

async function rowOf(name: string, change: (project: Project) => void): Promise<Row> {
  const maker = newMaker();
  const { project } = await chromeWord('OSTREL', maker);
  change(project);
  const { scene } = await maker.make(project, project.looks[0].id, project.shots[0].id, FIGURE.width);
  const { sets, kernel } = await raysOver(scene);
  const { width, height } = FIGURE;
  const module = new WebAssembly.Module(kernelBytes());
  const memory = kernelMemory(true);
  const tracer = new WaveTracer(module, memory, 0);
  tracer.aim(prepared(new SceneMemory(module, memory, 1), scene), shotEye(scene, width, height));
  const film = createFilm(width, height);
  const trace = (k: number) => tracer.traceTile(film, 0, 0, width, height, k * SAMPLES, (k + 1) * SAMPLES, 1);
  trace(0);
  sendRays(kernel, sets.bounce);
  const [ours, peer]: number[][] = [[], []];
  for (let k = 1; k <= ROUNDS; k++) {
    const before = tracer.rays;
    const seconds = cpuSeconds(() => trace(k));
    ours.push((tracer.rays - before) / seconds);
    peer.push(RAYS / cpuSeconds(() => sendRays(kernel, sets.bounce)));
  }
  const ratios = ours.map((v, i) => v / peer[i]);
  return {
    case: name,
    ours: median(ours),
    peer: median(peer),
    peerName: 'bare kernel, bounce',
    ratio: median(ratios),
    spread: [Math.min(...ratios), Math.max(...ratios)],
    unit: 'rays/s',
  };
}

/** Wall seconds for a picture by one thread in each of two processes at once, for each of them. */
function twoProcesses(): Promise<number> {
  const one = () =>
    new Promise<number>((resolve, reject) => {
      const script = fileURLToPath(new URL('./alone.ts', import.meta.url));
      const child = spawn(process.execPath, ['--import', 'tsx', script], {
        stdio: ['ignore', 'pipe', 'inherit'],
      });
      let out = '';
      child.stdout.on('data', (d: Buffer) => (out += d.toString()));
      child.once('error', reject);
      child.once('exit', () => resolve(Number(out)));
    });
  return Promise.all([one(), one()]).then(([a, b]) => (a + b) / 2);
}

export const ALONE_SAMPLES = 12;

async function threadsRow(scene: RenderScene): Promise<Row> {
  const { width, height } = FIGURE;
  const [ours, peer]: number[][] = [[], []];
  for (let k = 0; k < 3; k++) {
    const two = await traceScene(scene, { width, height, samples: ALONE_SAMPLES * 2, seed: 1, threads: 2 });
    // both together make twice the samples in this time
    peer.push((2 * ALONE_SAMPLES) / (await twoProcesses()));
    ours.push(two.samples / two.wallSeconds);
  }
  const ratios = ours.map((v, i) => v / peer[i]);
  return {
    case: 'two threads',
    ours: median(ours),
    peer: median(peer),
    peerName: 'two processes',
    ratio: median(ratios),
    spread: [Math.min(...ratios), Math.max(...ratios)],
    unit: 'samples/s',
  };
}

export async function benchPaths(): Promise<Report> {
  const rows: Row[] = [];
  for (const [name, change] of Object.entries(SCENES)) rows.push(await rowOf(name, change));
  rows.push(await threadsRow((await chromeWord()).scene));
  return { bench: `paths, ${FIGURE.width}x${FIGURE.height}, ${FIGURE.bounces} bounces, CPU time`, rows };
}
