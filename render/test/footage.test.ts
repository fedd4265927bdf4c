import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { decode, encode } from 'fast-png';
import { strToU8, zipSync } from 'fflate';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { FFMPEG, needFfmpeg } from '../src/ffmpeg.ts';
import { footageFacts, FootageError, frameOf } from '../src/footage.ts';

let folder: string;
beforeAll(async () => {
  await needFfmpeg();
  folder = mkdtempSync(join(tmpdir(), 'wemlox-test-'));
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

/** A film whose frames brighten evenly, from black by some steps each; made by ffmpeg from nothing. */
function film(
  name: string,
  codec: readonly string[],
  { frames = 60, step = 3, filter = '' } = {},
): Uint8Array {
  const path = join(folder, name);
  const source = `color=black:s=64x32:r=24,geq=lum='16+${step}*N':cb=128:cr=128,trim=end_frame=${frames}${filter}`;
  execFileSync(FFMPEG, ['-v', 'error', '-y', '-f', 'lavfi', '-i', source, ...codec, path]);
  return new Uint8Array(readFileSync(path));
}

let files = 0;
/** Mean brightness of a frame, 0 … 255. */
async function grey(bytes: Uint8Array, frame: number, hash = `file-${files}`): Promise<number> {
  const { data, channels } = decode(await frameOf(hash, frame, async () => bytes));
  let sum = 0;
  for (let i = 0; i < data.length; i += channels) sum += data[i]!;
  return sum / (data.length / channels);
}
/** What frame `n` of such a film is, from video range to full. */
const wanted = (n: number, step = 3) => (step * n * 255) / 219;

const VP9 = ['-c:v', 'libvpx-vp9', '-crf', '4', '-b:v', '0', '-pix_fmt', 'yuv420p', '-color_range', 'tv'];
const H264 = ['-c:v', 'libx264', '-crf', '4', '-pix_fmt', 'yuv420p', '-color_range', 'tv'];

describe('frames of films', () => {
  it.each([
    ['steps.webm', VP9],
    ['steps.mp4', H264],
  ])('of %s are told apart one by one, in any order', async (name, codec) => {
    const bytes = film(name, codec);
    expect(await footageFacts(bytes)).toEqual({ width: 64, height: 32, frames: 60, rate: 24, varies: false });
    files++;
    // across the edge of what is decoded at a time, and back
    for (const n of [0, 1, 47, 48, 49, 12, 50, 30])
      expect(Math.abs((await grey(bytes, n)) - wanted(n)), `frame ${n}`).toBeLessThan(2);
    // behind the last there is the last
    expect(Math.abs((await grey(bytes, 500)) - wanted(59))).toBeLessThan(2);
  });

  it('that are not evenly spaced are shown as if they were, and it is said', async () => {
    // the second half goes half as fast
    const slow = `,setpts='if(lt(N,24),N,24+(N-24)*2)/24/TB'`;
    const bytes = film('varies.webm', [...VP9, '-fps_mode', 'vfr'], { frames: 48, filter: slow });
    const facts = await footageFacts(bytes);
    expect(facts.varies).toBe(true);
    files++;
    const at = (seconds: number) => Math.round(seconds * facts.rate);
    expect(Math.abs((await grey(bytes, at(0.5))) - wanted(12))).toBeLessThan(8);
    // a second and a half later it has only come by half of that
    expect(Math.abs((await grey(bytes, at(2))) - wanted(36))).toBeLessThan(8);
  });

  it('with opacity keep it', async () => {
    const path = join(folder, 'open.webm');
    const source =
      'color=white:s=32x32:r=24:d=0.5,format=yuva420p,geq=lum=235:cb=128:cr=128:a=if(lt(X\\,16)\\,0\\,255)';
    execFileSync(FFMPEG, [
      '-v',
      'error',
      '-y',
      '-f',
      'lavfi',
      '-i',
      source,
      '-c:v',
      'libvpx-vp9',
      '-pix_fmt',
      'yuva420p',
      path,
    ]);
    const bytes = new Uint8Array(readFileSync(path));
    const { data, channels } = decode(await frameOf('open', 3, async () => bytes));
    expect(channels).toBe(4);
    expect(data[(16 * 32 + 4) * 4 + 3]!).toBeLessThan(20);
    expect(data[(16 * 32 + 28) * 4 + 3]!).toBeGreaterThan(235);
  });

  it('of a file that was cut off are those that are there', async () => {
    const whole = film('cut.webm', VP9);
    const bytes = whole.slice(0, Math.floor(whole.length * 0.6));
    const { frames } = await footageFacts(bytes);
    files++;
    const last = await grey(bytes, frames - 1);
    expect(Number.isFinite(last)).toBe(true);
    expect(Math.abs((await grey(bytes, 3)) - wanted(3))).toBeLessThan(2);
  });
});

describe('numbered pictures', () => {
  const png = (v: number) => encode({ width: 2, height: 2, channels: 3, data: new Uint8Array(12).fill(v) });
  it('in a zip are frames in the order of their numbers', async () => {
    const entries = Object.fromEntries([10, 2, 1, 33].map((n) => [`shots/lamp${n}.png`, png(n)]));
    const bytes = zipSync({
      ...entries,
      'notes.txt': strToU8('no picture'),
      '__MACOSX/._lamp1.png': strToU8('x'),
    });
    expect(await footageFacts(bytes)).toMatchObject({ frames: 4, rate: 25 });
    files++;
    expect([await grey(bytes, 0), await grey(bytes, 1), await grey(bytes, 2), await grey(bytes, 3)]).toEqual([
      1, 2, 10, 33,
    ]);
  });
});

describe('files that are no moving pictures', () => {
  const refused = async (bytes: Uint8Array) => {
    const error = await footageFacts(bytes).then(
      () => null,
      (e: unknown) => e,
    );
    expect(error).toBeInstanceOf(FootageError);
    expect((error as Error).message).not.toContain(tmpdir());
    return (error as Error).message;
  };
  it('are refused with what is wrong', async () => {
    expect(await refused(strToU8('hello'))).toBe(
      'it is neither a WebM, an MP4 nor a zip of numbered pictures',
    );
    expect(await refused(zipSync({ 'a.txt': strToU8('a') }))).toMatch(/holds no PNG, JPEG/);
    expect(await refused(Uint8Array.of(0x50, 0x4b, 3, 4, 1, 2, 3))).toMatch(/zip (is damaged|holds no)/);
    const noise = new Uint8Array(3000).map((_, i) => Math.imul(i + 1, 0x9e3779b1) >>> 17);
    expect(await refused(zipSync({ 'a.png': noise }).slice(0, 900))).toMatch(/zip is damaged/);
    const head = film('head.mp4', H264).slice(0, 40);
    expect(await refused(head)).toMatch(/\S/);
  });

  it('cannot have other files of the machine read', async () => {
    const secret = join(folder, 'secret.png');
    writeFileSync(secret, encode({ width: 2, height: 2, channels: 3, data: new Uint8Array(12).fill(9) }));
    for (const list of [`#EXTM3U\n#EXTINF:1,\nfile://${secret}\n`, `ffconcat version 1.0\nfile ${secret}\n`])
      expect(await refused(strToU8(list))).toMatch(/neither/);
    // dressed up as a film
    const dressed = Uint8Array.from([
      ...[0, 0, 0, 8],
      ...strToU8('ftyp'),
      ...strToU8(`\n#EXTM3U\n${secret}\n`),
    ]);
    await refused(dressed);
  });
});
