import { execFile } from 'node:child_process';
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { promisify } from 'node:util';
import { decode } from 'fast-png';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { newMove, packProject, type Project } from '@wemlox/core/document';
import { readSurroundPicture } from '@wemlox/core/picture/files';
import { SceneMaker } from '@wemlox/core/scene/sceneMaker';
import { readOrder, UsageError } from '../src/order.ts';
import { diskSources } from '../src/sources.ts';
import type { Eye } from '@wemlox/core/trace/eye';
import { developed } from '@wemlox/core/trace/developing';
import { flatSurround, quad, sceneOf } from '../../core/test/trace/sceneFixture.ts';
import { withThreads, type Thread } from '../src/crew.ts';
import { timedPasses, traceScene } from '../src/threads.ts';

const run = promisify(execFile);
const MAIN = fileURLToPath(new URL('../../build/programs/render.mjs', import.meta.url));
/** The demo, of one letter: what the command is tried with is not its size. */
const demo = async () => {
  const url = new URL('../../demo/data/ostrel.json', import.meta.url);
  const { project } = JSON.parse(await readFile(url, 'utf8')) as { project: Project };
  for (const block of project.blocks) Object.assign(block, { text: 'O', letters: block.letters.slice(0, 1) });
  return project;
};
const sources = diskSources(() => Promise.reject(new Error('no assets')));

let folder: string;
let file: string;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'wemlox-'));
  file = join(folder, 'ostrel.wemlox');
  await writeFile(file, packProject({ project: await demo(), assets: [] }));
});
afterAll(() => rm(folder, { recursive: true }));

const render = (...args: string[]) =>
  run(process.execPath, [MAIN, ...args]).then(
    ({ stderr }) => ({ code: 0, stderr }),
    (error: { code: number; stderr: string }) => ({ code: error.code, stderr: error.stderr }),
  );

describe('threads', () => {
  it('trace the same picture bit for bit, whatever their number and passes', async () => {
    const project = await demo();
    const { scene } = await new SceneMaker(sources, true).make(project, 'signal-lit', 'front', 70);
    const options = { width: 70, height: 44, samples: 6, seed: 3 };
    const one = await traceScene(scene, { ...options, threads: 1 });
    const two = await traceScene(scene, { ...options, threads: 2 });
    expect(Buffer.from(two.film.sums.buffer).equals(Buffer.from(one.film.sums.buffer))).toBe(true);
    const other = await traceScene(scene, { ...options, threads: 2, seed: 4 });
    expect(Buffer.from(other.film.sums.buffer).equals(Buffer.from(one.film.sums.buffer))).toBe(false);
  });

  it('share the photons of glass and chrome as well', async () => {
    const project = await demo();
    const { scene } = await new SceneMaker(sources, true).make(project, 'dusk-chrome', 'front', 70);
    const [light] = scene.lights;
    scene.lights = [{ ...light, kind: 'directional', shadow: true }];
    const options = { width: 70, height: 44, samples: 5, seed: 3, layers: true };
    const films = [];
    for (const threads of [1, 2, 3, 5]) films.push((await traceScene(scene, { ...options, threads })).film);
    for (const film of films)
      expect(Buffer.from(film.state.buffer).equals(Buffer.from(films[0].state.buffer))).toBe(true);
    // fewer tiles than threads
    const small = { ...options, width: 30, height: 20, samples: 12 };
    const [one, many] = [
      await traceScene(scene, { ...small, threads: 1 }),
      await traceScene(scene, { ...small, threads: 4 }),
    ];
    expect(Buffer.from(many.film.state.buffer).equals(Buffer.from(one.film.state.buffer))).toBe(true);
    // a lamp that throws no shadows sends no photons
    const alone = await traceScene(
      { ...scene, lights: [{ ...scene.lights[0], shadow: false }] },
      { ...options, threads: 2 },
    );
    expect(Buffer.from(alone.film.state.buffer).equals(Buffer.from(films[0].state.buffer))).toBe(false);
  });
});

describe('threads that fail', () => {
  const pass = { do: 'pass', run: 1, first: 0, last: 1, seed: 1 } as const;

  it('end the work at once, whatever the others wait for; the next is done by others', async () => {
    let failed: Thread | null = null;
    const work = withThreads(2, ([one, other]) => {
      failed = one;
      // one has nothing to trace yet, the other is never answered
      return Promise.all([one.ask(pass), other.ask({ do: 'rest' })]);
    });
    await expect(work).rejects.toThrow(TypeError);
    await expect(failed!.ask(pass)).rejects.toThrow(TypeError);
    const scene = sceneOf([{ triangles: quad([0, 0, 0], [1, 0, 0], [0, 1, 0]), surface: {} }]);
    const { samples } = await traceScene(scene, { width: 8, height: 8, samples: 2, seed: 1, threads: 2 });
    expect(samples).toBe(2);
  });

  it('rest in between, and work again', async () => {
    const seen = await withThreads(1, async (crew) => crew[0]);
    await withThreads(1, async (crew) => void expect(crew[0]).toBe(seen));
  });
});

describe('./wemlox render', () => {
  it('writes the same float EXR for the same order, and PNG of the size asked for', async () => {
    const [a, b, c] = ['a.exr', 'b.exr', 'c.png'].map((n) => join(folder, n));
    const order = ['--size', '64x32', '--samples', '4', '--seed', '9', '--look', 'Gold leaf'];
    expect((await render(file, '-o', a, ...order, '--threads', '1')).code).toBe(0);
    expect((await render(file, '-o', b, ...order, '--threads', '2')).code).toBe(0);
    const [first, second] = [await readFile(a), await readFile(b)];
    expect(first.equals(second)).toBe(true);
    const { width, height, data } = readSurroundPicture(new Uint8Array(first));
    expect([width, height]).toEqual([64, 32]);
    expect(data.some((v) => v > 0.2)).toBe(true);
    expect((await render(file, '-o', c, ...order)).code).toBe(0);
    expect(decode(await readFile(c))).toMatchObject({ width: 64, height: 32, depth: 16 });
    const d = join(folder, 'd.jpg');
    expect((await render(file, '-o', d, ...order)).code).toBe(0);
    expect([...(await readFile(d)).subarray(0, 3)]).toEqual([0xff, 0xd8, 0xff]);
  });

  it('takes the noise out when asked, wholly or in part, the same with any number of threads', async () => {
    const names = ['raw', 'one', 'two', 'half'].map((n) => join(folder, `${n}.exr`));
    const order = ['--size', '64x32', '--samples', '4', '--look', 'Gold leaf'];
    const asked = [
      [],
      ['--denoise', '--threads', '1'],
      ['--threads', '2', '--denoise'],
      ['--denoise', '0.5'],
    ];
    for (const [i, more] of asked.entries())
      expect((await render(file, '-o', names[i], ...order, ...more)).code).toBe(0);
    const files = await Promise.all(names.map((n) => readFile(n)));
    expect(files[1].equals(files[2])).toBe(true);
    const [raw, one, , half] = files.map((f) => readSurroundPicture(new Uint8Array(f)).data);
    /** Mean difference of neighbours in a row. */
    const roughness = (d: Float32Array) =>
      d.reduce((sum, v, i) => sum + (i > 2 ? Math.abs(v - d[i - 3]) : 0), 0);
    expect(roughness(one)).toBeLessThan(roughness(raw) * 0.9);
    for (let i = 0; i < raw.length; i += 97) expect(half[i]).toBeCloseTo((raw[i] + one[i]) / 2, 3);
    expect((await render(file, '-o', names[0], '--denoise', '7')).code).toBe(2);
  });

  it('ends with 1 and one line on bad input, with 2 on a wrong call', async () => {
    const out = join(folder, 'x.exr');
    expect(await render(join(folder, 'none.wemlox'), '-o', out)).toEqual({
      code: 1,
      stderr: expect.stringMatching(/^wemlox render: no such file: .*none\.wemlox\n$/),
    });
    const broken = join(folder, 'broken.wemlox');
    await writeFile(broken, 'not a zip');
    expect((await render(broken, '-o', out)).code).toBe(1);
    expect(await render(file, '-o', out, '--look', 'Nothing')).toEqual({
      code: 1,
      stderr: expect.stringContaining('Dusk chrome, Gold leaf, Signal lit'),
    });
    expect((await render(file)).code).toBe(2);
    expect((await render(file, '-o', out, '--size', 'big')).stderr).toMatch(/--size takes WxH/);
  });
});

describe('./wemlox render, asked for more', () => {
  it('takes a project’s JSON, by itself or as the server answers it', async () => {
    const document = await demo();
    const shapes: Record<string, unknown> = { plain: document, answered: { id: 'x', version: 3, document } };
    const pictures: Buffer[] = [];
    for (const [name, content] of Object.entries(shapes)) {
      const [json, out] = [join(folder, `${name}.json`), join(folder, `${name}.exr`)];
      await writeFile(json, JSON.stringify(content));
      expect((await render(json, '-o', out, '--size', '32x16', '--samples', '1')).code).toBe(0);
      pictures.push(await readFile(out));
    }
    expect(pictures[0].equals(pictures[1])).toBe(true);
    const wrong = join(folder, 'wrong.json');
    await writeFile(wrong, '{"format": "other"}');
    expect(await render(wrong, '-o', join(folder, 'w.exr'))).toEqual({
      code: 1,
      stderr: 'wemlox render: format: is "other", not "wemlox-project"\n',
    });
  });

  it('says before tracing that the folder is not there, and usage errors in one line', async () => {
    const missing = join(folder, 'none', 'x.exr');
    const { code, stderr } = await render(file, '-o', missing, '--samples', '60000', '--size', '4000x2000');
    expect([code, stderr]).toEqual([1, `wemlox render: no such folder: ${join(folder, 'none')}\n`]);
    const { code: usage, stderr: said } = await render(file, '-o', 'a.exr', '--what');
    expect(usage).toBe(2);
    expect(said.trim().split('\n')).toHaveLength(1);
  });

  it('makes pictures of a shot by their numbers, and a moving one of all of it', async () => {
    const project = await demo();
    const [shot] = project.shots;
    Object.assign(shot, { seconds: 0.25, rate: 12 });
    shot.moves.push(newMove('turn', `shots/${shot.id}/camera/azimuth`, { speed: 4, amount: 1 }));
    const moving = join(folder, 'moving.wemlox');
    await writeFile(moving, packProject({ project, assets: [] }));
    const plain = ['--size', '40x24', '--samples', '1'];
    const numbered = join(folder, 'n-###.png');
    expect((await render(moving, '-o', numbered, '--frames', '1-2', ...plain)).code).toBe(0);
    const [one, two] = await Promise.all(['001', '002'].map((n) => readFile(join(folder, `n-${n}.png`))));
    expect(one.equals(two)).toBe(false);
    // the same picture alone
    await render(moving, '-o', join(folder, 'alone.png'), '--frame', '2', ...plain);
    expect((await readFile(join(folder, 'alone.png'))).equals(two)).toBe(true);
    const film = join(folder, 'all.webp');
    const { code, stderr } = await render(moving, '-o', film, ...plain);
    expect([code, stderr.trim().split('\n').at(-1)]).toEqual([0, `${film}: 3 pictures`]);
    expect((await readFile(film)).toString('latin1').split('ANMF')).toHaveLength(4);
    // a name with a # of its own is kept where no picture is named
    const own = join(folder, 'deck #5.png');
    expect((await render(moving, '-o', own, ...plain)).code).toBe(0);
    await readFile(own);
    expect(await render(moving, '-o', join(folder, 'x.png'), '--frames', '0-2')).toMatchObject({ code: 2 });
    expect(await render(moving, '-o', numbered, '--frames', '2-1')).toMatchObject({ code: 2 });
  });

  it('tells how far it is where there is no terminal', async () => {
    const { code, stderr } = await render(
      file,
      '-o',
      join(folder, 'long.png'),
      '--size',
      '640x400',
      '--samples',
      '20',
      '--threads',
      '1',
    );
    expect(code).toBe(0);
    // a line every ten seconds, of pictures that take longer
    const seconds = Number(/([\d.]+) s\n$/.exec(stderr)![1]);
    const lines = stderr.match(/\d+ of 20 samples\n/g)?.length ?? 0;
    expect(lines).toBeLessThanOrEqual(Math.ceil(seconds / 10));
    if (seconds > 15) expect(lines).toBeGreaterThan(0);
  });
});

describe('blur of motion', () => {
  const square = (x: number) => {
    const glows = { base_color: [0, 0, 0], specular_weight: 0, emission_luminance: 1 };
    const dark = { picture: flatSurround(0), gain: 1, turn: 0, seen: false };
    const scene = sceneOf([{ triangles: quad([x, -0.2, 0], [0.4, 0, 0], [0, 0.4, 0]), surface: glows }], {
      surround: dark,
    });
    // solids of one key are one solid
    for (const solid of scene.solids) solid.key = `square at ${x}`;
    return scene;
  };
  const view: Eye = {
    width: 100,
    height: 8,
    orthographic: true,
    origin: [0, 0, 5],
    forward: [0, 0, -1],
    right: [1, 0, 0],
    up: [0, 0.08, 0],
    visible: null,
    dress: null,
    bounces: 1,
    limits: null,
  };
  /** Mean of a row by columns. */
  const row = (film: Parameters<typeof developed>[0], samples: number) => {
    const picture = developed(film, samples);
    return Array.from({ length: 100 }, (_, x) => {
      let sum = 0;
      for (let y = 2; y < 6; y++) sum += picture[(y * 100 + x) * 4] / 4;
      return sum;
    });
  };

  it('covers a place as long as a moving square lies over it, in closed form', async () => {
    // its left edge goes from -0.6 to 0.2 while the shutter is open
    const count = 32;
    const at = (k: number) => Promise.resolve(square(-0.6 + 0.8 * ((k + 0.5) / count)));
    const options = { width: 100, height: 8, samples: 512, seed: 1, view, moments: { count, at } };
    const { film, samples } = await traceScene(square(-0.6), options);
    row(film, samples).forEach((got, column) => {
      const x = (column + 0.5) / 50 - 1;
      // the share of edges e in [-0.6, 0.2] with e < x < e + 0.4
      const covered = Math.max(0, Math.min(x, 0.2) - Math.max(x - 0.4, -0.6)) / 0.8;
      expect(Math.abs(got - covered), `at ${x}`).toBeLessThan(0.035);
    });
    // whatever the threads, and stopped in the middle and gone on with
    const one = await traceScene(square(-0.6), { ...options, threads: 1 });
    expect(Buffer.from(one.film.sums.buffer).equals(Buffer.from(film.sums.buffer))).toBe(true);
    const half = await traceScene(square(-0.6), { ...options, onPass: (done) => done > 100 });
    expect(half.samples).toBeLessThan(512);
    const rest = await traceScene(square(-0.6), {
      ...options,
      from: { samples: half.samples, state: half.film.state },
    });
    expect(Buffer.from(rest.film.sums.buffer).equals(Buffer.from(film.sums.buffer))).toBe(true);
  });

  it('takes each sample once, in their order, and stops only after whole rounds', () => {
    for (const [samples, moments] of [
      [512, 32],
      [7, 7],
      [100, 32],
      [33, 16],
    ] as const) {
      const all = [...timedPasses(samples, moments)];
      all.forEach((p, i) => expect(p.first).toBe(all[i - 1]?.last ?? 0));
      expect(all.at(-1)).toMatchObject({ last: samples, even: true });
      const each = Array.from({ length: moments }, (_, m) =>
        all.filter((p) => p.moment === m).reduce((sum, p) => sum + p.last - p.first, 0),
      );
      expect(Math.max(...each) - Math.min(...each)).toBeLessThanOrEqual(1);
      // gone on with from anywhere, it is the same
      const rest = [...timedPasses(samples, moments, 5)];
      expect(rest[0].first).toBe(5);
      expect(rest.slice(1)).toEqual(all.slice(-rest.length + 1));
    }
  });
});

describe('orders', () => {
  it('have defaults and bounds', () => {
    expect(readOrder(['a.wemlox', '-o', 'b.exr'])).toMatchObject({
      samples: 256,
      seed: 1,
      size: null,
      noise: 0,
    });
    expect(readOrder(['a', '-o', 'b.png', '--noise', '0.02']).samples).toBe(65536);
    for (const bad of [
      ['a'],
      ['a', '-o', 'b.tif'],
      ['a', '-o', 'b.exr', '--samples', '0'],
      ['a', '-o', 'b.exr', '--what'],
      ['a', 'b', '-o', 'c.exr'],
      ['a', '-o', 'b.exr', '--size', '0x5'],
    ]) {
      expect(() => readOrder(bad), bad.join(' ')).toThrow(UsageError);
    }
  });
});
