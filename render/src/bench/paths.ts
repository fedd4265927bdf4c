/** The whole tracer: rays a second against the bare kernel, CPU seconds a sample, speed-up by threads. */
import { traceScene, type Traced } from '../threads.ts';
import { benchRays } from './rays.ts';
import { alone, median, type Report } from './report.ts';
import { chromeWord, FIGURE } from './word.ts';

const ROUNDS = 5;
const SAMPLES = 4;

export async function benchPaths(): Promise<Report> {
  const { scene } = await chromeWord();
  const { width, height } = FIGURE;
  const one: Traced[] = [];
  const two: Traced[] = [];
  for (let i = 0; i < ROUNDS; i++) {
    one.push(await traceScene(scene, { width, height, samples: SAMPLES, seed: 1, threads: 1 }));
    two.push(await traceScene(scene, { width, height, samples: SAMPLES, seed: 1, threads: 2 }));
  }
  const speedUps = one.map((o, i) => o.wallSeconds / two[i].wallSeconds);
  const rates = one.map((o) => o.rays / o.cpuSeconds);
  const kernel = (await benchRays(undefined)).rows.find((r) => r.case.startsWith('bounce'))!;
  const ratios = rates.map((r) => r / kernel.ours);
  return {
    bench: `paths, ${width}x${height}, ${FIGURE.bounces} bounces, chrome word on a floor`,
    rows: [
      {
        case: 'traced rays',
        ours: median(rates),
        peer: kernel.ours,
        peerName: 'bare kernel, bounce',
        ratio: median(ratios),
        spread: [Math.min(...ratios), Math.max(...ratios)],
        unit: 'rays/s',
      },
      alone(
        'CPU time a sample, one thread',
        's',
        one.map((o) => o.cpuSeconds / SAMPLES),
      ),
      alone('speed-up from one to two threads', '×', speedUps),
    ],
  };
}
