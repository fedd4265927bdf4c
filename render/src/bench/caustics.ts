/** Caustics of a glass word on its floor: error at equal processor time, by photons against by paths alone. */
import type { RenderScene } from '@wemlox/core/scene/renderScene';
import type { SurroundPicture } from '@wemlox/core/light/surround';
import { newLight } from '@wemlox/core/document';
import { shotEye, type Eye } from '@wemlox/core/trace/eye';
import { developed, developedLayers } from '@wemlox/core/trace/developing';
import { createFilm, type Film } from '@wemlox/core/trace/film';
import { kernelMemory } from '@wemlox/core/trace/kernel';
import { prepared } from '@wemlox/core/trace/prepare';
import { SceneMemory } from '@wemlox/core/trace/sceneMemory';
import { createControl, nextRun, rewind, traceShare } from '@wemlox/core/trace/tiles';
import { WaveTracer } from '@wemlox/core/trace/waveTracer';
import { kernelBytes } from '../threads.ts';
import { cpuSeconds, median, type Report, type Row } from './report.ts';
import { chromeWord, newMaker } from './word.ts';

const [WIDTH, HEIGHT] = [320, 200];
const BOUNCES = 16;
const SAMPLES = 16;
const REFERENCE = 512;
const ROUNDS = 3;

/** A dim sky with a sun of half a degree, as bright as all the rest together ten times over. */
export function sunny(): SurroundPicture {
  const [width, height] = [2048, 1024];
  const data = new Float32Array(width * height * 3).fill(300);
  const [u, v] = [width * 0.16, height * 0.25];
  const radius = ((0.25 / 180) * height) as number;
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const across = (x + 0.5 - u) * Math.sin(((y + 0.5) / height) * Math.PI);
      if (Math.hypot(across, y + 0.5 - v) <= radius)
        data.fill(6e8, (y * width + x) * 3, (y * width + x) * 3 + 3);
    }
  return { width, height, data };
}

/** Pixels that see nothing but the floor: glints of the lamp in the glass itself are found by paths either way. */
function floorOf(film: Film): number[] {
  const { albedo } = developedLayers(film);
  const floor = albedo[((HEIGHT - 1) * WIDTH + WIDTH / 2) * 3];
  const pixels = Array.from({ length: WIDTH * HEIGHT }, (_, p) => p);
  return pixels.filter((p) => Math.abs(albedo[p * 3] - floor) < 1e-3 * floor);
}

const light = (picture: Float32Array, p: number) => picture[p * 4] + picture[p * 4 + 1] + picture[p * 4 + 2];

/** Squared error over the squared picture. */
const relativeError = (picture: Float32Array, reference: Float32Array, pixels: number[]) =>
  pixels.reduce((s, p) => s + (light(picture, p) - light(reference, p)) ** 2, 0) /
  pixels.reduce((s, p) => s + light(reference, p) ** 2, 0);

const meanOf = (picture: Float32Array, pixels: number[]) => pixels.reduce((s, p) => s + light(picture, p), 0);

export async function glassWord(change: (scene: RenderScene) => void, lamp: boolean): Promise<RenderScene> {
  const maker = newMaker();
  const { project } = await chromeWord('OSTREL', maker);
  Object.assign(project.finishes[0].surface, {
    base_metalness: 0,
    base_metal: 'none',
    transmission_weight: 1,
    specular_roughness: 0,
  });
  const [look] = project.looks;
  const [shot] = project.shots;
  shot.bounces = BOUNCES;
  shot.camera.elevation = 0.5;
  look.rig = lamp
    ? [
        newLight('area', 'Lamp', {
          azimuth: 2.6,
          elevation: 0.7,
          distance: 1.5,
          width: 0.06,
          height: 0.06,
          strength: 2e6,
        }),
      ]
    : [];
  const { scene } = await maker.make(project, look.id, shot.id, WIDTH);
  change(scene);
  return scene;
}

/** Adds samples by photons and paths, or by paths alone. */
function tracerOf(scene: RenderScene, eye: Eye) {
  const module = new WebAssembly.Module(kernelBytes());
  const memory = kernelMemory(true);
  const tracer = new WaveTracer(module, memory, 0);
  tracer.aim(prepared(new SceneMemory(module, memory, 1), scene), eye);
  const control = createControl();
  return (film: Film, first: number, last: number, seed: number, photons: boolean) => {
    rewind(control);
    if (photons) traceShare(tracer, film, control, nextRun(control), first, last, seed);
    else tracer.traceTile(film, 0, 0, WIDTH, HEIGHT, first, last, seed);
  };
}

async function rowOf(name: string, scene: RenderScene): Promise<Row[]> {
  const trace = tracerOf(scene, shotEye(scene, WIDTH, HEIGHT));
  const long = createFilm(WIDTH, HEIGHT, { layers: true });
  trace(long, 0, REFERENCE, 99, true);
  const reference = developed(long, REFERENCE);
  const floor = floorOf(long);
  const [ours, peer, means]: number[][] = [[], [], []];
  for (let k = 1; k <= ROUNDS; k++) {
    const film = createFilm(WIDTH, HEIGHT);
    const seconds = cpuSeconds(() => trace(film, 0, SAMPLES, k, true));
    const picture = developed(film, SAMPLES);
    ours.push(relativeError(picture, reference, floor));
    means.push(meanOf(picture, floor) / meanOf(reference, floor));
    const alone = createFilm(WIDTH, HEIGHT);
    let samples = 0;
    for (let spent = 0; spent < seconds; samples++)
      spent += cpuSeconds(() => trace(alone, samples, samples + 1, k, false));
    peer.push(relativeError(developed(alone, samples), reference, floor));
  }
  const ratios = ours.map((v, i) => v / peer[i]);
  const spread = (list: number[]): [number, number] => [Math.min(...list), Math.max(...list)];
  return [
    {
      case: `${name}, error of the floor at equal time`,
      ours: median(ours),
      peer: median(peer),
      peerName: 'paths alone',
      ratio: median(ratios),
      spread: spread(ratios),
      unit: 'relative squared error',
    },
    {
      case: `${name}, mean light of the floor`,
      ours: median(means),
      peer: 1,
      peerName: `${REFERENCE} samples`,
      ratio: median(means),
      spread: spread(means),
      unit: 'of the reference',
    },
  ];
}

export async function benchCaustics(): Promise<Report> {
  const black = (scene: RenderScene) => {
    scene.surround.gain *= 0.02;
  };
  const sun = (scene: RenderScene) => {
    scene.surround.picture = sunny();
    scene.surround.gain = 1;
  };
  return {
    bench: `caustics, ${WIDTH}x${HEIGHT}, ${SAMPLES} samples, ${BOUNCES} bounces, CPU time`,
    rows: [
      ...(await rowOf('glass word under a small lamp', await glassWord(black, true))),
      ...(await rowOf('glass word under a sun of half a degree', await glassWord(sun, false))),
    ],
  };
}
