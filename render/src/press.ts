/** Makes one picture of the press queue: traces, keeps the film on the way, encodes, stores. */
import { encodeExr, encodePng, type LinearPicture } from '@wemlox/core/picture/files';
import type { Finding } from '@wemlox/core/preflight/finding';
import { findingText } from '@wemlox/core/preflight/words';
import { SceneMaker } from '@wemlox/core/scene/sceneMaker';
import { developed, filmLayers } from '@wemlox/core/trace/developing';
import { isFinished, type Film } from '@wemlox/core/trace/film';
import {
  endPress,
  isAway,
  keepFilm,
  keptFilm,
  MissingError,
  putAsset,
  readAsset,
  readPress,
  reportPress,
  type Session,
} from '@wemlox/store';
import type { PressJob } from '@wemlox/wire';
import { openDocument, type Grade } from '@wemlox/core/document';
import { denoised } from './denoise.ts';
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
  // colour is alpha-associated: full alpha lays it over black
  if (!job.alpha) for (let i = 3; i < data.length; i += 4) data[i] = 1;
  const picture: LinearPicture = { width, height, data };
  if (job.format === 'png8') return encodePng(picture, grade, 8);
  if (job.format === 'png16') return encodePng(picture, grade, 16);
  return encodeExr(
    picture,
    job.format === 'exr-half' ? 'half' : 'float',
    job.layers ? filmLayers(film, data, groups) : undefined,
  );
}

/**
 * Works on a job until it is done, cancelled, failed, or `stopping` says that the node ends.
 * @param last nobody will take the job up again
 */
export async function pressJob(
  session: Session,
  id: string,
  stopping: () => boolean,
  { threads, last = false }: { threads?: number; last?: boolean } = {},
): Promise<void> {
  const job = await readPress(session, id).catch((error: unknown) => {
    if (error instanceof MissingError) return null;
    throw error;
  });
  if (!job || (job.state !== 'waiting' && job.state !== 'tracing')) return;
  const { width, height, samples, seed, layers } = job;
  const kept = await keptFilm(session, id);
  const before = kept ? job.seconds : 0;
  if (!(await reportPress(session, id, kept?.samples ?? 0, before))) return;
  const sources = diskSources(async (hash) => (await readAsset(session, hash)).bytes);
  let lastKept = performance.now();
  const started = performance.now();
  let cancelled = false;
  try {
    const document = openDocument(job.document);
    const maker = new SceneMaker(sources, true);
    const { scene, findings } = await maker.make(document, job.look, job.shot, width);
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
      from: kept ? { samples: kept.samples, state: new Float32Array(kept.film.buffer) } : undefined,
      onPass: async (done, film) => {
        const now = performance.now();
        cancelled = !(await reportPress(session, id, done, before + (now - started) / 1000));
        if (cancelled) return true;
        if (done < samples && (stopping() || now - lastKept > KEEP_EVERY * 1000)) {
          await keepFilm(session, id, done, bytesOf(film.state));
          lastKept = now;
        }
        return stopping();
      },
    });
    if (cancelled) return;
    // the queue gives what is unfinished to the next node
    if (traced.samples < samples && !isFinished(traced.film)) throw new NodeEnds('the node ends');
    const grade = document.looks.find((l) => l.id === job.look)!.grade;
    const file = await encodePress(job, traced.film, traced.samples, grade, scene.groups, threads);
    const asset = await putAsset(session, 'press', job.name, file);
    await endPress(session, id, { result: asset.hash, samples: traced.samples });
  } catch (error) {
    if (mayPass(error) && !last) throw error;
    await endPress(session, id, { failed: told(error) });
  }
}
