/** Work that follows the hand in the Light step, against one sample of the picture it is done on: processor time. */
import { newLight } from '@wemlox/core/document';
import { caught } from '@wemlox/core/light/catch';
import type { Vec } from '@wemlox/core/light/placing';
import { centreOf, cameraFrame } from '@wemlox/core/stage/camera';
import { balanced } from '@wemlox/core/trace/balance';
import { shotEye } from '@wemlox/core/trace/eye';
import { faceMask, lobeWidths, rowsOf } from '@wemlox/core/trace/faceMask';
import { createFilm } from '@wemlox/core/trace/film';
import { kernelMemory } from '@wemlox/core/trace/kernel';
import { prepared } from '@wemlox/core/trace/prepare';
import { SceneMemory } from '@wemlox/core/trace/sceneMemory';
import { shareChart, sightlines } from '@wemlox/core/trace/shareChart';
import { WaveTracer } from '@wemlox/core/trace/waveTracer';
import { kernelBytes } from '../threads.ts';
import { alone, cpuSeconds, median, type Report, type Row } from './report.ts';
import { chromeWord, newMaker } from './word.ts';

const HD = { width: 1920, height: 1080 };
/** The picture on a stage of a small screen. */
const STAGE = { width: 900, height: 506 };
/** Lights beside the surround, so that shares are 24 in all. */
const LIGHTS = 23;
const ROUNDS = 5;
const CATCHES = 2000;

function against(name: string, ours: () => void, sample: number): Row {
  ours();
  const seconds = Array.from({ length: ROUNDS }, () => cpuSeconds(ours));
  const ratios = seconds.map((s) => s / sample);
  return {
    case: name,
    ours: median(seconds) * 1000,
    peer: sample * 1000,
    peerName: 'one sample',
    ratio: median(ratios),
    spread: [Math.min(...ratios), Math.max(...ratios)],
    unit: 'ms',
  };
}

export async function benchBalance(): Promise<Report> {
  const maker = newMaker();
  const { project } = await chromeWord('OSTREL', maker);
  project.looks[0].rig = Array.from({ length: LIGHTS }, (_, i) =>
    newLight('area', `Light ${i}`, { azimuth: (i * 2.4) % 6, elevation: 0.3, distance: 1.3, strength: 20 }),
  );
  const module = new WebAssembly.Module(kernelBytes());
  const memory = kernelMemory(true);
  const tracer = new WaveTracer(module, memory, 0);
  const traced = async ({ width, height }: typeof HD, layers: boolean) => {
    const { scene } = await maker.make(project, project.looks[0].id, project.shots[0].id, width);
    const eye = shotEye(scene, width, height);
    tracer.aim(prepared(new SceneMemory(module, memory, 1), scene), eye);
    const film = createFilm(width, height, { groups: scene.groups.length, layers });
    const seconds = cpuSeconds(() => tracer.traceTile(film, 0, 0, width, height, 0, 1, 1));
    return { scene, eye, film, seconds };
  };
  const full = await traced(HD, false);
  const picture = new Float32Array(HD.width * HD.height * 4).fill(1);
  const gains = Array.from({ length: full.film.groups * 3 }, (_, i) => 0.5 + (i % 7) / 7);
  const one = gains.map((_, i) => (i < 3 ? 0.5 : 1));
  const rows = [
    against(
      `balance of ${HD.width}x${HD.height}, ${full.film.groups} shares, all moved`,
      () => balanced(full.film, picture, gains),
      full.seconds,
    ),
    against(
      `balance of ${HD.width}x${HD.height}, ${full.film.groups} shares, one fader moved`,
      () => balanced(full.film, picture, one),
      full.seconds,
    ),
    alone('memory of those shares', 'MB', [full.film.shares.byteLength / 2 ** 20]),
  ];
  const stage = await traced(STAGE, true);
  const { scene, eye, film } = stage;
  const mask = faceMask(tracer, scene, eye);
  const count = rowsOf(scene).rows.length;
  const widths = lobeWidths(scene);
  const of = `of ${STAGE.width}x${STAGE.height}`;
  rows.push(
    against(`light chart ${of}`, () => shareChart(film, mask, count, 1), stage.seconds),
    against(`sightlines ${of}`, () => sightlines(film, mask, eye, widths), stage.seconds),
  );
  const centre = centreOf(scene.typeBox);
  const [light] = project.looks[0].rig;
  const { position } = cameraFrame(scene.camera, 1);
  const seconds = Array.from({ length: ROUNDS }, () =>
    cpuSeconds(() => {
      for (let i = 0; i < CATCHES; i++)
        caught(light!, centre, {
          point: [centre[0] + (i % 50) / 100, centre[1], 0.04] as Vec,
          normal: [0, 0.1, 0.995],
          eye: position,
          mirrors: true,
        });
    }),
  );
  rows.push(
    alone(
      'catch, an update',
      'ms',
      seconds.map((s) => (s * 1000) / CATCHES),
    ),
  );
  return { bench: 'balance: what follows the hand, against one sample, CPU time', rows };
}
