/** Many lights against one of the same power in all: noise at equal processor time. */
import { newLight, type Project } from '@wemlox/core/document';
import { shotEye } from '@wemlox/core/trace/eye';
import { createFilm } from '@wemlox/core/trace/film';
import { noiseOf } from '@wemlox/core/trace/noise';
import { kernelMemory } from '@wemlox/core/trace/kernel';
import { prepared } from '@wemlox/core/trace/prepare';
import { SceneMemory } from '@wemlox/core/trace/sceneMemory';
import { WaveTracer } from '@wemlox/core/trace/waveTracer';
import { kernelBytes } from '../threads.ts';
import { cpuSeconds, median, type Report, type Row } from './report.ts';
import { chromeWord, FIGURE, newMaker } from './word.ts';

const FEW = 10;
const MANY = 200;
const SAMPLES = 16;
const ROUNDS = 3;

/** Lights in rings round the word, of one power in all. */
function rings(project: Project, count: number, kind: 'area' | 'spot'): void {
  project.looks[0].rig = Array.from({ length: count }, (_, i) => {
    const where = {
      azimuth: (i * 2.399963) % (2 * Math.PI),
      elevation: 0.2 + (1.1 * i) / count,
      distance: 1.3,
    };
    const strength = (kind === 'area' ? 4000 : 400) / count;
    return kind === 'area'
      ? newLight('area', `Light ${i}`, { ...where, strength, width: 0.1, height: 0.1 })
      : newLight('spot', `Light ${i}`, { ...where, strength });
  });
  project.looks[0].surround.stops = -12;
}

async function noiseTime(kind: 'area' | 'spot', finish: object, count: number): Promise<number[]> {
  const maker = newMaker();
  const { project } = await chromeWord('OSTREL', maker);
  Object.assign(project.finishes[0].surface, finish);
  rings(project, count, kind);
  const { scene } = await maker.make(project, project.looks[0].id, project.shots[0].id, FIGURE.width);
  const { width, height } = FIGURE;
  const module = new WebAssembly.Module(kernelBytes());
  const memory = kernelMemory(true);
  const tracer = new WaveTracer(module, memory, 0);
  tracer.aim(prepared(new SceneMemory(module, memory, 1), scene), shotEye(scene, width, height));
  return Array.from({ length: ROUNDS }, (_, k) => {
    const film = createFilm(width, height);
    const seconds = cpuSeconds(() => tracer.traceTile(film, 0, 0, width, height, 0, SAMPLES, k + 1));
    return noiseOf(film, SAMPLES) * Math.sqrt(seconds);
  });
}

const LACQUER = {
  base_metalness: 0,
  base_metal: 'none',
  base_color: [0.5, 0.05, 0.05],
  specular_roughness: 0.4,
  coat_weight: 1,
  coat_roughness: 0.05,
};

async function rowOf(kind: 'area' | 'spot', name: string, finish: object, count: number): Promise<Row> {
  const ours = await noiseTime(kind, finish, count);
  const peer = await noiseTime(kind, finish, 1);
  const ratios = ours.map((v, i) => v / peer[i]);
  return {
    case: `${count} ${kind === 'area' ? 'area lights' : 'spots'}, ${name}`,
    ours: median(ours),
    peer: median(peer),
    peerName: 'one light',
    ratio: median(ratios),
    spread: [Math.min(...ratios), Math.max(...ratios)],
    unit: 'noise × √s',
  };
}

export async function benchLights(): Promise<Report> {
  return {
    bench: `lights: ${FEW} and ${MANY} against one, ${FIGURE.width}x${FIGURE.height}, ${SAMPLES} samples, CPU time`,
    rows: [
      await rowOf('area', 'lacquer', LACQUER, FEW),
      await rowOf('area', 'lacquer', LACQUER, MANY),
      await rowOf('spot', 'lacquer', LACQUER, FEW),
      await rowOf('spot', 'lacquer', LACQUER, MANY),
      await rowOf('spot', 'satin chrome', { specular_roughness: 0.3 }, FEW),
      await rowOf('spot', 'satin chrome', { specular_roughness: 0.3 }, MANY),
    ],
  };
}
