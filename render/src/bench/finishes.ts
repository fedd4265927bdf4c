/** Ready finishes on one word: processor time of a sample relative to matte, and noise at equal time to chrome. */
import { readyFinish } from '@wemlox/core/finish/readyFinishes';
import { createFilm } from '@wemlox/core/trace/film';
import { kernelMemory } from '@wemlox/core/trace/kernel';
import { noiseOf } from '@wemlox/core/trace/noise';
import { prepared } from '@wemlox/core/trace/prepare';
import { SceneMemory } from '@wemlox/core/trace/sceneMemory';
import { shotEye } from '@wemlox/core/trace/eye';
import { WaveTracer } from '@wemlox/core/trace/waveTracer';
import { kernelBytes } from '../threads.ts';
import { cpuSeconds, median, type Report, type Row } from './report.ts';
import { chromeWord, FIGURE, newMaker } from './word.ts';

const SAMPLES = 4;
const ROUNDS = 3;
const MATTE = 'deck-matte';
const CHROME = 'hull-chrome';
/** From plain ones to those of several coats. */
const LADDER = [
  'buoy-red',
  'funnel-red',
  'violet-anodised',
  'sea-frost',
  'tide-shift',
  'night-flake',
  'hold-carbon',
  'pier-brick',
  'saloon-marble',
  'beaten-gold',
  'verdigris',
  'worn-hull',
  'furnace',
  'weathered-hull',
  'awning-canvas',
  'deck-glass',
  'cut-crystal',
  'cabin-velvet',
  'soap-film',
  'candle-wax',
  'jade',
  'milk-glass',
  'vent-mesh',
];

/** A tracer on the word in one finish, and what it does in a round: seconds, and noise times their root. */
async function worn(id: string): Promise<(round: number) => { seconds: number; noise: number }> {
  const maker = newMaker();
  const { project } = await chromeWord('OSTREL', maker);
  project.finishes[0] = { ...readyFinish(id), id: project.finishes[0].id };
  const { scene } = await maker.make(project, project.looks[0].id, project.shots[0].id, FIGURE.width);
  const { width, height } = FIGURE;
  const module = new WebAssembly.Module(kernelBytes());
  const memory = kernelMemory(true);
  const tracer = new WaveTracer(module, memory, 0);
  tracer.aim(prepared(new SceneMemory(module, memory, 1), scene), shotEye(scene, width, height));
  return (round) => {
    const film = createFilm(width, height);
    const seconds = cpuSeconds(() => tracer.traceTile(film, 0, 0, width, height, 0, SAMPLES, round + 1));
    return { seconds, noise: noiseOf(film, SAMPLES) * Math.sqrt(seconds) };
  };
}

const row = (name: string, unit: string, peerName: string, ours: number[], peer: number[]): Row => {
  const ratios = ours.map((v, i) => v / peer[i]);
  return {
    case: name,
    ours: median(ours),
    peer: median(peer),
    peerName,
    ratio: median(ratios),
    spread: [Math.min(...ratios), Math.max(...ratios)],
    unit,
  };
};

export async function benchFinishes(): Promise<Report> {
  const [matte, chrome] = [await worn(MATTE), await worn(CHROME)];
  const rows: Row[] = [];
  for (const id of LADDER) {
    const ours = await worn(id);
    ours(0);
    const rounds = Array.from({ length: ROUNDS }, (_, k) => [ours(k), matte(k), chrome(k)] as const);
    const { name, family } = readyFinish(id);
    rows.push(
      row(
        `${name}, ${family}`,
        's',
        'matte',
        rounds.map(([o]) => o.seconds),
        rounds.map(([, m]) => m.seconds),
      ),
      row(
        `${name}, noise`,
        'noise × √s',
        'chrome',
        rounds.map(([o]) => o.noise),
        rounds.map(([, , c]) => c.noise),
      ),
    );
  }
  return {
    bench: `finishes: ${FIGURE.width}x${FIGURE.height}, ${SAMPLES} samples, CPU time`,
    rows,
  };
}
