/** Film → pixels: develops, tone-maps, compares and encodes, so that the page only has to put the result on screen. */
import 'reflect-metadata';
import type { Grade } from '@wemlox/core/document';
import { differenceOf, resized, shrunk } from '@wemlox/core/picture/compare';
import { DenoiseMemory, denoiseJob } from '@wemlox/core/picture/denoise/denoise';
import { readWeights } from '@wemlox/core/picture/denoise/weights';
import {
  encodeExr,
  encodePng,
  readLinearPicture,
  type LinearPicture,
  type PictureLayers,
} from '@wemlox/core/picture/files';
import { glowing } from '@wemlox/core/picture/glow';
import { encodeJpeg } from '@wemlox/core/picture/jpegFile';
import { toneMapped8 } from '@wemlox/core/picture/tone';
import { balanced, cleanlyBalanced } from '@wemlox/core/trace/balance';
import { developed, filmLayers } from '@wemlox/core/trace/developing';
import { type Film } from '@wemlox/core/trace/film';
import { shareChart, sightlines } from '@wemlox/core/trace/shareChart';
import { granted } from '@wemlox/core/trace/wish';
import { lossToTell, noiseOf } from '@wemlox/core/trace/noise';
import { kernelMemory } from '@wemlox/core/trace/kernel';
import { compileDenoiser, compileJpegEncoder, denoiserWeights } from './files.ts';
import type { Denoiser, DisplayOrder, DisplayReply, EncodeKind } from './messages.ts';

/** The last picture developed, linear. */
let picture: (LinearPicture & { film: Film; samples: number; noise: number; loss: number }) | null = null;
/** The same without its noise, as large or smaller. */
let cleaned: LinearPicture | null = null;
/** Films of proofs that were looked at, by hash; the oldest go first. */
const proofs = new Map<string, LinearPicture>();
const MOST_PROOFS = 4;

const reply = (message: DisplayReply, transfer: Transferable[] = []) =>
  self.postMessage(message, { transfer });

/** What is to be seen: the cleaned picture, or the one as it was traced. */
const seen = (clean: boolean): LinearPicture | null => (clean && cleaned ? cleaned : picture);

/** How sources are weighed against each other: three gains a group of the film; null as they are. */
let gains: number[] | null = null;

/** The same that the picture was cleaned with, and that the one being cleaned is. */
let cleanedWith: number[] | null = null;
let cleaningWith: number[] | null = null;

/** A developed film with its sources weighed; as it is where it does not keep them apart. */
const weigh = (film: Film, data: Float32Array, by: number[] | null) =>
  by && film.groups * 3 === by.length ? balanced(film, data, by) : data;

/** What is to be seen, with its sources weighed. */
function weighed(shown: LinearPicture): LinearPicture {
  if (!picture || (shown === cleaned && JSON.stringify(cleanedWith) === JSON.stringify(gains))) return shown;
  const { width, height, film, data } = picture;
  const now = weigh(film, data, gains);
  if (shown === picture) return { width, height, data: now };
  const clean = resized(shown, width, height);
  const before = weigh(film, data, cleanedWith);
  return { width, height, data: cleanlyBalanced(clean.data, before, now, width, height) };
}

function show(grade: Grade, clean: boolean): void {
  const unweighed = seen(clean);
  const shown = unweighed && weighed(unweighed);
  if (!shown) {
    reply({ type: 'shown', samples: 0, noise: Infinity, loss: 0, width: 0, height: 0, pixels: null });
    return;
  }
  const { width, height, data } = glowing(shown, grade);
  const pixels = toneMapped8(data, grade);
  const { samples, noise, loss } = picture ?? { samples: 0, noise: Infinity, loss: 0 };
  reply({ type: 'shown', samples, noise, loss, width, height, pixels }, [pixels.buffer]);
}

/** Opened when a picture is first cleaned. */
let opened: Promise<{ store: DenoiseMemory; denoiser: Denoiser }> | null = null;
async function openDenoiser() {
  const [module, weights] = await Promise.all([compileDenoiser(), denoiserWeights()]);
  const memory = kernelMemory(true);
  return { store: new DenoiseMemory(memory, readWeights(weights)), denoiser: { module, memory } };
}

async function setUp({ film, samples, shrink, threads, first }: DisplayOrder & { type: 'job' }) {
  try {
    opened ??= openDenoiser();
    const { store, denoiser } = await opened;
    if (first) picture = cleaned = null;
    cleaningWith = film.groups > 0 ? gains : null;
    const traced = weigh(film, developed(film, samples), cleaningWith);
    const whole = { width: film.width, height: film.height, data: traced };
    const { width, height, data } = shrink === 1 ? whole : shrunk(whole, shrink);
    reply({ type: 'job', job: denoiseJob(store, data, width, height, threads), denoiser });
  } catch (error) {
    opened = null;
    reply({ type: 'refused', why: error instanceof Error ? error.message : String(error) });
  }
}

async function encoded(
  kind: EncodeKind,
  grade: Grade,
  layers: PictureLayers | null,
  shown: LinearPicture,
): Promise<Uint8Array<ArrayBuffer>> {
  if (kind === 'film') return encodeExr(picture!, 'half', layers!);
  if (kind === 'jpeg') return encodeJpeg(shown, grade, compileJpegEncoder);
  return kind === 'exr' ? encodeExr(picture!) : encodePng(shown, grade, kind === 'png16' ? 16 : 8);
}

async function encode({ kinds, grade, clean, groups }: DisplayOrder & { type: 'encode' }): Promise<void> {
  if (!picture) {
    reply({ type: 'encoded', files: null, samples: 0 });
    return;
  }
  const layers = kinds.includes('film') ? filmLayers(picture.film, picture.data, groups) : null;
  const shown = resized(weighed(seen(clean)!), picture.width, picture.height);
  const { samples } = picture;
  try {
    const made = await Promise.all(kinds.map((kind) => encoded(kind, grade, layers, shown)));
    const files = Object.fromEntries(kinds.map((kind, i) => [kind, made[i]]));
    reply(
      { type: 'encoded', files, samples },
      made.map((f) => f.buffer),
    );
  } catch (error) {
    reply({ type: 'refused', why: error instanceof Error ? error.message : String(error) });
  }
}

async function proofFilm(hash: string): Promise<LinearPicture> {
  const known = proofs.get(hash);
  if (known) return known;
  const response = await fetch(`/api/assets/${hash}`);
  if (!response.ok) throw new Error(`the film could not be fetched (${response.status})`);
  const read = readLinearPicture(new Uint8Array(await response.arrayBuffer()));
  proofs.set(hash, read);
  if (proofs.size > MOST_PROOFS) proofs.delete(proofs.keys().next().value!);
  return read;
}

async function showProofs({ film, against, grade }: DisplayOrder & { type: 'proofs' }): Promise<void> {
  try {
    let shown = await proofFilm(film);
    let mean: number | null = null;
    if (against !== undefined) {
      const other = against === null ? picture : await proofFilm(against);
      if (!other) throw new Error('nothing is traced yet to compare with');
      ({ picture: shown, mean } = differenceOf(shown, other));
    }
    const { width, height } = shown;
    const pixels = toneMapped8(mean === null ? glowing(shown, grade).data : shown.data, grade);
    reply({ type: 'proofs', width, height, pixels, mean }, [pixels.buffer]);
  } catch (error) {
    reply({ type: 'refused', why: error instanceof Error ? error.message : String(error) });
  }
}

self.onmessage = ({ data }: MessageEvent<DisplayOrder>) => {
  if (data.type === 'film') {
    const { film, samples, clean } = data;
    if (picture?.film.sums !== film.sums && !clean) cleaned = null;
    const { width, height } = film;
    const noise = noiseOf(film, samples);
    const loss = lossToTell(film);
    picture = { width, height, data: developed(film, samples), film, samples, noise, loss };
    if (clean) reply({ type: 'shown', samples, noise, loss, width, height, pixels: null });
    else show(data.grade, false);
  } else if (data.type === 'job') void setUp(data);
  else if (data.type === 'cleaned') {
    const { width, height, clean } = data.job;
    cleaned = { width, height, data: Float32Array.from(clean) };
    cleanedWith = cleaningWith;
    show(data.grade, true);
  } else if (data.type === 'grade') show(data.grade, data.clean);
  else if (data.type === 'balance') {
    gains = data.gains;
    show(data.grade, data.clean);
  } else if (data.type === 'chart') {
    const { film, samples, seen } = data;
    const { mask, rows, widths, mirrors, glows, eye } = seen;
    const chart = shareChart(film, mask, rows.length, samples);
    reply({ type: 'chart', chart, rows, mirrors, glows, sight: sightlines(film, mask, eye, widths), mask });
  } else if (data.type === 'wish') {
    const { film, samples, strokes, tinted } = data;
    reply({ type: 'wished', wished: granted(film, samples, strokes, tinted) });
  } else if (data.type === 'proofs') void showProofs(data);
  else void encode(data);
};
