/** Makes pictures of the press queue: traces, keeps the film on the way, encodes, stores. */
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { encodeExr, encodePng, type LinearPicture } from '@wemlox/core/picture/files';
import { encodeJpeg } from '@wemlox/core/picture/jpegFile';
import { jpegEncoder } from './codecs.ts';
import type { Finding } from '@wemlox/core/preflight/finding';
import { findingText } from '@wemlox/core/preflight/words';
import { SceneMaker } from '@wemlox/core/scene/sceneMaker';
import { developed, filmLayers } from '@wemlox/core/trace/developing';
import { isFinished, type Film } from '@wemlox/core/trace/film';
import {
  endBound,
  endFrame,
  failPress,
  isAway,
  keepFilm,
  keptFilm,
  MissingError,
  pressFrames,
  putAsset,
  readAsset,
  readPress,
  reportPress,
  type Session,
} from '@wemlox/store';
import { ENDINGS, frameName, hasAlpha, isMoving, type PressJob } from '@wemlox/wire';
import { openDocument, type Grade } from '@wemlox/core/document';
import { shownAt } from '@wemlox/core/motion/shown';
import { momentsOf } from '@wemlox/core/motion/shutter';
import { cleanShadows, denoised } from './denoise.ts';
import { bindPictures } from './motionPicture.ts';
import { diskSources } from './sources.ts';
import { traceScene } from './threads.ts';

/** Seconds between keeping the film. */
const KEEP_EVERY = 10;

const bytesOf = (sums: Float32Array) => new Uint8Array(new Float32Array(sums).buffer);

/** The node was told to end in the middle of a picture. */
class NodeEnds extends Error {}

/** A picture that would not be what the document says. */
class Unfit extends Error {
  readonly findings: readonly Finding[];
  constructor(findings: readonly Finding[]) {
    super('the document cannot be rendered as it is');
    this.findings = findings;
  }
}

/** What the artist is told of a failure. */
const told = (error: unknown): string =>
  error instanceof Unfit
    ? error.findings.map(findingText).join('; ')
    : error instanceof Error
      ? error.message
      : String(error);

/** Whether another try may go better: the database or the disk is away for now, or another node goes on. */
const mayPass = (error: unknown) =>
  error instanceof NodeEnds || isAway(error) || (error as NodeJS.ErrnoException).code === 'ENOSPC';

/** The finished file. */
async function encodePress(
  job: Pick<PressJob, 'format' | 'alpha' | 'layers' | 'denoise'>,
  film: Film,
  samples: number,
  grade: Grade,
  groups: string[],
  threads?: number,
): Promise<Uint8Array> {
  const { width, height } = film;
  const raw = developed(film, samples);
  const { data } =
    job.denoise > 0 ? await denoised({ width, height, data: raw }, job.denoise, threads) : { data: raw };
  await cleanShadows(film, samples, data, job.denoise, threads);
  // colour is alpha-associated: full alpha lays it over black
  if (!job.alpha || !hasAlpha(job.format)) for (let i = 3; i < data.length; i += 4) data[i] = 1;
  const picture: LinearPicture = { width, height, data };
  if (job.format === 'png8' || isMoving(job.format)) return encodePng(picture, grade, 8);
  if (job.format === 'jpeg') return encodeJpeg(picture, grade, jpegEncoder);
  if (job.format === 'png16') return encodePng(picture, grade, 16);
  return encodeExr(
    picture,
    job.format === 'exr-half' ? 'half' : 'float',
    job.layers ? filmLayers(film, data, groups) : undefined,
  );
}

/** Makes the scenes of the job that was worked on last: its pictures have most of their solids in common. */
let makes: { job: string; maker: SceneMaker } | null = null;

function makerOf(session: Session, job: string): SceneMaker {
  if (makes?.job !== job) {
    const sources = diskSources(async (hash) => (await readAsset(session, hash)).bytes);
    makes = { job, maker: new SceneMaker(sources, true) };
  }
  return makes.maker;
}

/**
 * Works on a picture of a job until it is done, cancelled, failed, or `stopping` says that the node ends.
 * @param last nobody will take the job up again
 */
export async function pressJob(
  session: Session,
  id: string,
  stopping: () => boolean,
  { frame, threads, last = false }: { frame?: number; threads?: number; last?: boolean } = {},
): Promise<void> {
  const job = await readPress(session, id).catch((error: unknown) => {
    if (error instanceof MissingError) return null;
    throw error;
  });
  if (!job || (job.state !== 'waiting' && job.state !== 'tracing')) return;
  const { width, height, samples, seed, layers } = job;
  const at = frame ?? job.first;
  const own = (await pressFrames(session, id)).find((f) => f.frame === at);
  if (!own || own.result !== null) return;
  const kept = await keptFilm(session, id, at);
  const before = kept ? own.seconds : 0;
  if (!(await reportPress(session, id, at, kept?.samples ?? 0, before))) return;
  let lastKept = performance.now();
  const started = performance.now();
  let cancelled = false;
  try {
    const document = openDocument(job.document);
    const moments = momentsOf(document, job.shot, at, samples);
    const sceneAt = (moment: number) =>
      makerOf(session, id).make(shownAt(document, job.look, job.shot, moment), job.look, job.shot, width);
    const { scene, findings } = await sceneAt(at);
    // a stand-in would be a different picture
    const grave = findings.filter((f) => f.grave);
    if (grave.length > 0) throw new Unfit(grave);
    const traced = await traceScene(scene, {
      width,
      height,
      samples,
      seed,
      layers,
      target: job.noise,
      threads,
      ...(moments.length > 1
        ? { moments: { count: moments.length, at: async (m: number) => (await sceneAt(moments[m])).scene } }
        : {}),
      from: kept ? { samples: kept.samples, state: new Float32Array(kept.film.buffer) } : undefined,
      onPass: async (done, film) => {
        const now = performance.now();
        cancelled = !(await reportPress(session, id, at, done, before + (now - started) / 1000));
        if (cancelled) return true;
        if (done < samples && (stopping() || now - lastKept > KEEP_EVERY * 1000)) {
          await keepFilm(session, id, at, done, bytesOf(film.state));
          lastKept = now;
        }
        return stopping();
      },
    });
    if (cancelled) return;
    // the queue gives what is unfinished to the next node
    if (traced.samples < samples && !isFinished(traced.film)) throw new NodeEnds('the node ends');
    const grade = shownAt(document, job.look, job.shot, at).looks.find((l) => l.id === job.look)!.grade;
    const file = await encodePress(job, traced.film, traced.samples, grade, scene.groups, threads);
    const asset = await putAsset(session, 'press', frameName(job, at), file);
    await endFrame(session, id, at, { result: asset.hash, samples: traced.samples });
  } catch (error) {
    if (mayPass(error) && !last) throw error;
    await failPress(session, id, job.last > job.first ? `picture ${at}: ${told(error)}` : told(error));
  }
}

/**
 * Binds a job's pictures, that are all done, to a moving one.
 * @param last nobody will take it up again
 */
export async function bindJob(
  session: Session,
  id: string,
  { signal, last = false }: { signal?: AbortSignal; last?: boolean } = {},
): Promise<void> {
  const job = await readPress(session, id).catch((error: unknown) => {
    if (error instanceof MissingError) return null;
    throw error;
  });
  if (!job || !isMoving(job.format) || (job.state !== 'waiting' && job.state !== 'tracing')) return;
  const room = await mkdtemp(join(tmpdir(), 'wemlox-'));
  try {
    const shot = openDocument(job.document).shots.find((s) => s.id === job.shot);
    if (!shot) throw new Error(`the project has no shot ${job.shot}`);
    for (const { frame, result } of await pressFrames(session, id))
      await writeFile(
        join(room, `${String(frame).padStart(6, '0')}.png`),
        (await readAsset(session, result!)).bytes,
      );
    const made = join(room, 'made.' + ENDINGS[job.format]);
    const moving = { rate: shot.rate, loops: shot.loops, alpha: job.alpha && hasAlpha(job.format) };
    await bindPictures(job.format, join(room, '%06d.png'), job.first, moving, made, signal);
    const asset = await putAsset(session, 'press', job.name, new Uint8Array(await readFile(made)));
    await endBound(session, id, asset.hash);
  } catch (error) {
    if ((signal?.aborted || mayPass(error)) && !last) throw error;
    await failPress(session, id, told(error));
  } finally {
    await rm(room, { recursive: true, force: true });
  }
}
