/** One process that traces the benches' picture with one thread, and says the seconds it took. */
import 'reflect-metadata';
import { traceScene } from '../threads.ts';
import { ALONE_SAMPLES } from './paths.ts';
import { chromeWord, FIGURE } from './word.ts';

const { scene } = await chromeWord();
const { width, height } = FIGURE;
const { wallSeconds } = await traceScene(scene, {
  width,
  height,
  samples: ALONE_SAMPLES,
  seed: 1,
  threads: 1,
});
process.stdout.write(String(wallSeconds));
