/** ./wemlox render IN -o OUT: traces a project or a .glb file without database or browser. */
import 'reflect-metadata';
import { access, constants, mkdtemp, readFile, rm, stat, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { dirname, extname, join } from 'node:path';
import { DocumentError, newGrade, type Grade } from '@wemlox/core/document';
import {
  encodeExr,
  encodeHdr,
  encodePng,
  readSurroundPicture,
  type LinearPicture,
} from '@wemlox/core/picture/files';
import { shownAt } from '@wemlox/core/motion/shown';
import { momentsOf } from '@wemlox/core/motion/shutter';
import { framesOf } from '@wemlox/core/motion/span';
import type { RenderScene } from '@wemlox/core/scene/renderScene';
import { findingText } from '@wemlox/core/preflight/words';
import { SceneMaker } from '@wemlox/core/scene/sceneMaker';
import { developed, filmLayers } from '@wemlox/core/trace/developing';
import type { Film } from '@wemlox/core/trace/film';
import { lossToTell, meanSamples, noiseOf } from '@wemlox/core/trace/noise';
import type { Eye } from '@wemlox/core/trace/eye';
import { encodeJpeg } from '@wemlox/core/picture/jpegFile';
import { jpegEncoder } from './codecs.ts';
import { cleanShadows, denoised } from './denoise.ts';
import { readGlb } from './glb.ts';
import { hasAlpha } from '@wemlox/wire';
import { bindPictures } from './motionPicture.ts';
import { outputOf, readOrder, UsageError, USAGE, type Order } from './order.ts';
import { fileSources, openProjectFile } from './sources.ts';
import { traceScene, type TraceOptions } from './threads.ts';

/** Width of a picture when none is asked for, pixels. */
const PLAIN_WIDTH = 960;
/** Milliseconds between lines of progress where there is no terminal. */
const SAY_EVERY = 10_000;

/** Finds by name or identifier; the first when nothing is asked for. @throws DocumentError */
function chosen<T extends { id: string; name: string }>(
  kind: string,
  all: T[],
  asked: string | undefined,
): T {
  if (asked === undefined) return all[0];
  const found = all.find((l) => l.id === asked || l.name === asked);
  if (!found)
    throw new DocumentError([`no ${kind} "${asked}"; there are ${all.map((l) => l.name).join(', ')}`]);
  return found;
}

/** What is to be traced and how it is to be shown. */
interface Subject {
  scene: RenderScene;
  grade: Grade;
  view: ((width: number, height: number) => Eye) | null;
  moments?: TraceOptions['moments'];
}

/** What is to be traced, picture by picture. */
interface Subjects {
  at: (frame: number) => Promise<Subject>;
  /** Of the shot: its last picture, and its time; null for what has no time. */
  shot: { last: number; rate: number; loops: boolean } | null;
}

async function projectSubjects(order: Order): Promise<Subjects> {
  if (order.surround)
    throw new UsageError('--surround is for .glb files; a project has surrounds of its own');
  const file = await openProjectFile(order.input);
  const { project } = file;
  const look = chosen('look', project.looks, order.look);
  const shot = chosen('shot', project.shots, order.shot);
  if (order.bounces !== undefined) shot.bounces = order.bounces;
  const maker = new SceneMaker(fileSources(file), true);
  const said = new Set<string>();
  const at = async (frame: number) => {
    const shown = shownAt(project, look.id, shot.id, frame);
    const width = order.size?.[0] ?? PLAIN_WIDTH;
    const { scene, findings } = await maker.make(shown, look.id, shot.id, width);
    const moments = momentsOf(project, shot.id, frame, order.samples);
    const sceneAt = async (moment: number) =>
      (await maker.make(shownAt(project, look.id, shot.id, moments[moment]), look.id, shot.id, width)).scene;
    for (const text of findings.filter((f) => f.grave).map(findingText)) {
      if (!said.has(text)) process.stderr.write(`wemlox: ${text}\n`);
      said.add(text);
    }
    return {
      scene,
      grade: shown.looks.find((l) => l.id === look.id)!.grade,
      view: null,
      ...(moments.length > 1 ? { moments: { count: moments.length, at: sceneAt } } : {}),
    };
  };
  return { at, shot: { last: framesOf(shot) - 1, rate: shot.rate, loops: shot.loops } };
}

async function glbSubject(order: Order): Promise<Subject> {
  if (order.look || order.shot || order.moving || (order.frames?.[1] ?? 0) > 0)
    throw new UsageError('--look, --shot and --frames are for projects; a .glb file has none of them');
  const surround = order.surround
    ? readSurroundPicture(new Uint8Array(await readFile(order.surround)))
    : null;
  const { scene, view, leftOut } = await readGlb(
    new Uint8Array(await readFile(order.input)),
    surround,
    order.bounces,
  );
  for (const what of leftOut) process.stderr.write(`wemlox: left out: ${what}\n`);
  return { scene, view, grade: newGrade() };
}

async function encoded(
  output: string,
  picture: LinearPicture,
  film: Film,
  grade: Grade,
  groups: string[],
  depth: 8 | 16,
): Promise<Uint8Array> {
  const kind = extname(output);
  if (kind === '.exr')
    return encodeExr(picture, 'float', film.layers ? filmLayers(film, picture.data, groups) : undefined);
  if (kind === '.hdr') return encodeHdr(picture);
  if (kind === '.jpg' || kind === '.jpeg') return encodeJpeg(picture, grade, jpegEncoder);
  return encodePng(picture, grade, depth);
}

/** Says before the tracing, not after it, that the picture cannot be written. @throws Error */
async function checkOutput(output: string): Promise<void> {
  const folder = dirname(output);
  const found = await stat(folder).catch(() => null);
  if (!found?.isDirectory()) throw new Error(`no such folder: ${folder}`);
  await access(folder, constants.W_OK).catch(() => {
    throw new Error(`the folder ${folder} cannot be written`);
  });
  if ((await stat(output).catch(() => null))?.isDirectory()) throw new Error(`${output} is a folder`);
}

async function render(order: Order): Promise<void> {
  await checkOutput(order.output);
  const { at, shot }: Subjects =
    extname(order.input) === '.glb'
      ? { at: () => glbSubject(order), shot: null }
      : await projectSubjects(order);
  const [first, last] = order.frames ?? [0, shot?.last ?? 0];
  const room = order.moving ? await mkdtemp(join(tmpdir(), 'wemlox-')) : null;
  const pattern = room ? join(room, '######.png') : order.output;
  try {
    for (let frame = first; frame <= last; frame++)
      await renderOne(order, order.numbered ? outputOf(pattern, frame) : pattern, await at(frame));
    if (order.moving && shot) {
      const moving = { rate: shot.rate, loops: shot.loops, alpha: hasAlpha(order.moving) };
      await bindPictures(order.moving, join(room!, '%06d.png'), first, moving, order.output);
      process.stderr.write(`${order.output}: ${last - first + 1} pictures\n`);
    }
  } finally {
    if (room) await rm(room, { recursive: true, force: true });
  }
}

async function renderOne(
  order: Order,
  output: string,
  { scene, grade, view, moments }: Subject,
): Promise<void> {
  const [width, height] = order.size ?? [PLAIN_WIDTH, Math.round(PLAIN_WIDTH / scene.aspect)];
  const tty = process.stderr.isTTY;
  let said = performance.now();
  const traced = await traceScene(scene, {
    samples: order.samples,
    seed: order.seed,
    threads: order.threads,
    layers: order.passes,
    target: order.noise,
    width,
    height,
    view: view?.(width, height),
    moments,
    onPass: (done) => {
      if (tty) process.stderr.write(`\r${done} of ${order.samples} samples `);
      else if (performance.now() - said > SAY_EVERY) {
        process.stderr.write(`${done} of ${order.samples} samples\n`);
        said = performance.now();
      }
    },
  });
  const raw = { width, height, data: developed(traced.film, traced.samples) };
  const picture = order.denoise > 0 ? await denoised(raw, order.denoise, order.threads) : raw;
  await cleanShadows(traced.film, traced.samples, picture.data, order.denoise, order.threads);
  // colour is alpha-associated: what has no alpha is laid over black
  if (order.moving && !hasAlpha(order.moving))
    for (let i = 3; i < picture.data.length; i += 4) picture.data[i] = 1;
  const depth = order.moving ? 8 : 16;
  await writeFile(output, await encoded(output, picture, traced.film, grade, scene.groups, depth));
  process.stderr.write(
    `${tty ? '\r' : ''}${output}: ${width}x${height}, ${Math.round(meanSamples(traced.film, traced.samples))} samples, noise ${noiseOf(traced.film, traced.samples).toFixed(4)}, ` +
      `${traced.wallSeconds.toFixed(1)} s\n`,
  );
  const loss = lossToTell(traced.film);
  if (loss > 0)
    process.stderr.write(`wemlox: the limits on bounces lose ${(loss * 100).toFixed(1)} % of the light\n`);
}

const words = process.argv.slice(2);
if (words.includes('--help')) {
  process.stdout.write(USAGE);
  process.exit(0);
}
try {
  await render(readOrder(words));
} catch (error) {
  const { message, code } = error as NodeJS.ErrnoException;
  if (error instanceof UsageError) {
    process.stderr.write(`wemlox render: ${message}; --help tells more\n`);
    process.exit(2);
  }
  process.stderr.write(
    `wemlox render: ${code === 'ENOENT' ? `no such file: ${(error as NodeJS.ErrnoException).path}` : message}\n`,
  );
  process.exit(1);
}
