/**
 * Moving pictures, frame by frame: films by ffmpeg as a child process, and numbered pictures in a zip. Whoever needs a
 * frame decodes it here, so that all machines trace the same bytes.
 */
import { spawn } from 'node:child_process';
import { createHash } from 'node:crypto';
import { mkdtempSync, rmSync } from 'node:fs';
import { mkdir, readdir, readFile, rename, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { Unzip, UnzipInflate } from 'fflate';
import { FOOTAGE, inWords } from '@wemlox/core/ceilings';
import { FFMPEG, FFPROBE, needFfmpeg } from './ffmpeg.ts';

/** A file that is no usable moving picture; the message says what is wrong. */
export class FootageError extends Error {}

export interface FootageFacts {
  width: number;
  height: number;
  frames: number;
  /** Frames a second; of a file whose rate varies, the mean. */
  rate: number;
  /** Its own frames are not evenly spaced: they are shown as if they were. */
  varies: boolean;
}

interface Opened extends FootageFacts {
  /** Files of a zip's pictures, in their order; null for films. */
  pictures: string[] | null;
  path: string;
  /** Decoder that has its opacity, where ffmpeg's own does not. */
  decoder: string[];
}

/** Rate of numbered pictures, which do not say theirs. */
const PICTURES_RATE = 25;
/** Frames decoded at a time. */
const CHUNK = 48;
/** Files whose frames are kept, and frames of each. */
const MOST_FILES = 6;
const MOST_KEPT = 10 * CHUNK;
/** Longest that a child may take over some frames, ms. */
const LONGEST = 120_000;
const PICTURE = /\.(png|jpe?g|exr|webp)$/i;
/** How many times the least spacing of frames the greatest may be: some files round to milliseconds. */
const EVEN = 1.3;
/** Highest rate that is told of a file, frames a second. */
const HIGHEST_RATE = 240;

let folder: string | null = null;
/** A folder of this process's own, gone when it ends. */
function ownFolder(): string {
  if (!folder) {
    const made = mkdtempSync(join(tmpdir(), 'wemlox-footage-'));
    folder = made;
    process.once('exit', () => rmSync(made, { recursive: true, force: true }));
  }
  return folder;
}

/** A complaint without where the file lies on this machine. */
const plain = (complaint: string) => complaint.replaceAll(/\S*wemlox-footage-\S*?file/g, 'the file').trim();

/** Runs a child. @returns what it says @throws FootageError with the end of what it complains of */
function said(command: string, words: readonly string[]): Promise<string> {
  return new Promise((resolve, reject) => {
    const child = spawn(command, words, { stdio: ['ignore', 'pipe', 'pipe'], timeout: LONGEST });
    let [out, complaint] = ['', ''];
    child.stdout.setEncoding('utf8').on('data', (text: string) => (out += text));
    child.stderr
      .setEncoding('utf8')
      .on('data', (text: string) => (complaint = (complaint + text).slice(-300)));
    child.on('error', reject);
    child.on('close', (code) =>
      code === 0 ? resolve(out) : reject(new FootageError(plain(complaint) || `it cannot be read (${code})`)),
    );
  });
}

const ratio = (text: string | undefined): number => {
  const [a, b = 1] = (text ?? '').split('/').map(Number);
  return b > 0 && Number.isFinite(a / b) ? a / b : 0;
};

/** When each frame of a film is shown, seconds, and whether they are unevenly spaced. */
async function spacingOf(path: string): Promise<{ times: number[]; varies: boolean }> {
  const words = '-v error -select_streams v:0 -show_entries packet=pts_time -of csv=p=0'.split(' ');
  const times = (await said(FFPROBE, [...words, ...ALONE, path]))
    .split(/[\s,]+/)
    .map(Number.parseFloat)
    .filter(Number.isFinite)
    .sort((a, b) => a - b);
  const gaps = times.slice(1).map((t, i) => t - times[i]);
  const [least, most] = gaps.reduce(([a, b], g) => [Math.min(a, g), Math.max(b, g)], [Infinity, 0]);
  return { times, varies: gaps.length > 1 && most > EVEN * least };
}

async function openFilm(path: string): Promise<Opened> {
  await needFfmpeg();
  const words = '-v error -select_streams v:0 -show_streams -show_format -of json'.split(' ');
  const { streams = [], format = {} } = JSON.parse(await said(FFPROBE, [...words, ...ALONE, path])) as {
    streams?: (Record<string, string> & { width?: number; height?: number; tags?: Record<string, string> })[];
    format?: Record<string, string>;
  };
  const [stream] = streams;
  if (!stream?.width || !stream.height) throw new FootageError('the file holds no moving picture');
  const { width, height } = stream;
  if (Math.max(width, height) > FOOTAGE.side)
    throw new FootageError(`its frames are ${width} × ${height} pixels, more than ${FOOTAGE.side} on a side`);
  const { times, varies } = await spacingOf(path);
  if (times.length === 0) throw new FootageError('no frame of it can be decoded');
  const mean = times.length > 1 ? (times.length - 1) / (times[times.length - 1] - times[0]) : 0;
  // the finest spacing where it is one that pictures come in, so that times are true
  const finest = ratio(stream.r_frame_rate);
  const wanted = finest > 0 && finest <= HIGHEST_RATE ? finest : mean || PICTURES_RATE;
  const rate = Math.min(HIGHEST_RATE, Math.max(1, wanted));
  const seconds = Math.max(Number(stream.duration ?? format.duration) || 0, 1 / rate);
  const frames = varies ? Math.round(seconds * rate) : times.length;
  if (frames > FOOTAGE.frames) throw new FootageError(`it has ${frames} frames, more than ${FOOTAGE.frames}`);
  const open = stream.tags?.alpha_mode === '1' || stream.tags?.ALPHA_MODE === '1';
  const decoder = open ? ['-c:v', stream.codec_name === 'vp9' ? 'libvpx-vp9' : 'libvpx'] : [];
  return { width, height, frames: Math.max(1, frames), rate, varies, pictures: null, path, decoder };
}

/** Bytes of a zip that are unpacked before others have their turn. */
const STEP = 1 << 20;

/** Unpacks the pictures of a zip into a folder, bit by bit. */
async function openPictures(bytes: Uint8Array, folder: string): Promise<Opened> {
  const names: string[] = [];
  const writes: Promise<void>[] = [];
  let room = 0;
  let failure: Error | null = null;
  let begun = 0;
  const unzip = new Unzip((file) => {
    if (!PICTURE.test(file.name) || /(^|\/)(__MACOSX|\.)/.test(file.name)) return;
    const path = join(folder, `${names.push(file.name) - 1}.picture`);
    if (names.length > FOOTAGE.frames)
      failure ??= new FootageError(`it has more than ${FOOTAGE.frames} pictures`);
    const parts: Uint8Array[] = [];
    file.ondata = (error, data, final) => {
      if (error) failure ??= error;
      if (failure) return;
      room += data.length;
      if (room > FOOTAGE.unpacked)
        failure ??= new FootageError(`its pictures take more than ${inWords(FOOTAGE.unpacked)}`);
      parts.push(data);
      if (!final) return;
      begun--;
      writes.push(writeFile(path, Buffer.concat(parts)));
    };
    begun++;
    file.start();
  });
  unzip.register(UnzipInflate);
  for (let at = 0; at < bytes.length; at += STEP) {
    unzip.push(bytes.subarray(at, at + STEP), at + STEP >= bytes.length);
    // set by what the push has called
    if (failure as Error | null) throw failure as unknown as Error;
    await Promise.all(writes.splice(0));
  }
  if (begun > 0) throw new FootageError('the zip is damaged: it ends within a picture');
  if (names.length === 0) throw new FootageError('the zip holds no PNG, JPEG, WebP or OpenEXR pictures');
  const inOrder = new Intl.Collator('en', { numeric: true });
  const pictures = names
    .map((name, i) => ({ name, path: join(folder, `${i}.picture`) }))
    .sort((a, b) => inOrder.compare(a.name, b.name))
    .map((p) => p.path);
  return {
    width: 0,
    height: 0,
    frames: pictures.length,
    rate: PICTURES_RATE,
    varies: false,
    pictures,
    path: folder,
    decoder: [],
  };
}

const isZip = (b: Uint8Array) => b[0] === 0x50 && b[1] === 0x4b && b[2] === 0x03 && b[3] === 0x04;

/** Only what the file itself holds is read: lists of other files, and addresses, are none of ours. */
const ALONE = ['-protocol_whitelist', 'file', '-format_whitelist', 'matroska,webm,mov,mp4,m4a,3gp,3g2,mj2'];
/** WebM and Matroska begin with an EBML head (RFC 8794); MP4 and its like with a box of their type (ISO 14496-12). */
const isFilm = (b: Uint8Array) =>
  (b[0] === 0x1a && b[1] === 0x45 && b[2] === 0xdf && b[3] === 0xa3) ||
  String.fromCharCode(...b.subarray(4, 8)) === 'ftyp';

/** Opens a file. @throws FootageError when it is no moving picture */
async function opened(bytes: Uint8Array, path: string): Promise<Opened> {
  if (isFilm(bytes)) return openFilm(path);
  if (!isZip(bytes)) throw new FootageError('it is neither a WebM, an MP4 nor a zip of numbered pictures');
  try {
    return await openPictures(bytes, dirname(path));
  } catch (error) {
    if (error instanceof FootageError) throw error;
    throw new FootageError(`the zip is damaged (${error instanceof Error ? error.message : 'unreadable'})`);
  }
}

/** Decodes a film's frames from `first` on into a folder, evenly spaced. */
async function decode({ path, rate, decoder, frames }: Opened, first: number, into: string): Promise<void> {
  const last = Math.min(frames, first + CHUNK) - 1;
  const part = `${into}.part`;
  await mkdir(part, { recursive: true });
  const chosen = `fps=${rate},select=between(n\\,${first}\\,${last})`;
  await said(FFMPEG, [
    ...[
      '-v',
      'error',
      '-nostdin',
      ...ALONE,
      ...decoder,
      '-i',
      path,
      '-vf',
      chosen,
      '-fps_mode',
      'passthrough',
    ],
    ...['-frames:v', String(last - first + 1), '-pix_fmt', decoder.length > 0 ? 'rgba' : 'rgb24'],
    ...['-compression_level', '1', '-start_number', String(first), join(part, '%d.png')],
  ]);
  await rm(into, { recursive: true, force: true });
  await rename(part, into);
}

/** What was decoded last: one child at a time, however many ask. */
let decoding: Promise<unknown> = Promise.resolve();
function inTurn(work: () => Promise<void>): Promise<void> {
  const done = decoding.then(work);
  decoding = done.catch(() => undefined);
  return done;
}

/** Files that are open, the one asked for last at the end. */
const files = new Map<string, OpenFile>();

interface OpenFile {
  open: Promise<Opened>;
  chunks: Map<number, Promise<void>>;
  folder: string;
  /** The frame asked for last. */
  last: number;
}

function fileOf(hash: string, asset: (hash: string) => Promise<Uint8Array>) {
  let file = files.get(hash);
  if (!file) {
    const own = join(ownFolder(), hash);
    const path = join(own, 'file');
    const open = (async () => {
      await mkdir(own, { recursive: true });
      const bytes = await asset(hash);
      if (!isZip(bytes)) await writeFile(path, bytes);
      return opened(bytes, path);
    })();
    file = { open, chunks: new Map(), folder: own, last: -1 };
    open.catch(() => files.delete(hash));
  }
  files.delete(hash);
  files.set(hash, file);
  if (files.size > MOST_FILES) {
    const [oldest, { folder: gone }] = files.entries().next().value!;
    files.delete(oldest);
    void rm(gone, { recursive: true, force: true });
  }
  return file;
}

/** Decodes the frames from `first` on, unless they are there. */
function chunkOf(file: OpenFile, of: Opened, first: number): Promise<void> {
  let chunk = file.chunks.get(first);
  if (!chunk) {
    chunk = inTurn(() => decode(of, first, chunkFolder(file, first)));
    file.chunks.set(first, chunk);
    chunk.catch(() => file.chunks.delete(first));
    if (file.chunks.size * CHUNK > MOST_KEPT) {
      const [oldest] = file.chunks.keys();
      file.chunks.delete(oldest);
      void rm(chunkFolder(file, oldest), { recursive: true, force: true });
    }
  }
  return chunk;
}

const chunkFolder = ({ folder }: OpenFile, first: number) => join(folder, String(first));

/**
 * A frame of a moving picture as a picture file; the last one there is where the file ends before.
 * @param asset gives the bytes of the file
 * @throws FootageError when the file is none, or is broken there
 */
export async function frameOf(
  hash: string,
  frame: number,
  asset: (hash: string) => Promise<Uint8Array>,
): Promise<Uint8Array> {
  const file = fileOf(hash, asset);
  const of = await file.open;
  const at = Math.min(of.frames - 1, Math.max(0, frame));
  if (of.pictures) return new Uint8Array(await readFile(of.pictures[at]));
  const first = at - (at % CHUNK);
  await chunkOf(file, of, first);
  const into = chunkFolder(file, first);
  // who asks for one frame after the other does not wait for the next ones
  const next = first + CHUNK;
  if (file.last >= first && at > file.last && next < of.frames)
    chunkOf(file, of, next).catch(() => undefined);
  file.last = at;
  const there = (await readdir(into)).map((name) => Number.parseInt(name, 10)).sort((a, b) => a - b);
  const nearest = there.filter((n) => n <= at).at(-1) ?? there[0];
  if (nearest === undefined) {
    // a file that promises more than it holds shows what it has
    if (first > 0) return frameOf(hash, first - 1, asset);
    throw new FootageError('no frame of it can be decoded');
  }
  return new Uint8Array(await readFile(join(into, `${nearest}.png`)));
}

/** What a moving picture is like, once its first frame could be decoded. @throws FootageError */
export async function footageFacts(bytes: Uint8Array): Promise<FootageFacts> {
  const hash = createHash('sha256').update(bytes).digest('hex');
  await frameOf(hash, 0, async () => bytes);
  const { width, height, frames, rate, varies } = await fileOf(hash, async () => bytes).open;
  return { width, height, frames, rate, varies };
}
