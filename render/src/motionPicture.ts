/** Numbered pictures to a moving picture, by ffmpeg as a child process. */
import { spawn } from 'node:child_process';
import { access } from 'node:fs/promises';
import { fileURLToPath } from 'node:url';
import type { MovingFormat } from '@wemlox/wire';

const FFMPEG = '/usr/bin/ffmpeg';
const STARTER = fileURLToPath(new URL('../../wemlox', import.meta.url));
/** Longest that a child is waited for without any end, milliseconds: an hour of film is encoded by then. */
const LONGEST = 6 * 3_600_000;
/** Characters of its complaints that are told. */
const TOLD = 300;

/** What of a shot its moving picture needs to know. */
export interface Moving {
  /** Pictures a second. */
  rate: number;
  loops: boolean;
  alpha: boolean;
}

/** Runs a child to its end. @throws Error with the end of what it complained of */
function run(command: string, words: readonly string[], signal?: AbortSignal): Promise<void> {
  return new Promise((resolve, reject) => {
    const child = spawn(command, words, { stdio: ['ignore', 'ignore', 'pipe'], signal, timeout: LONGEST });
    let said = '';
    child.stderr.setEncoding('utf8').on('data', (text: string) => (said = (said + text).slice(-TOLD)));
    child.on('error', reject);
    child.on('close', (code) =>
      code === 0 ? resolve() : reject(new Error(said.trim() || `${command} ended with ${code}`)),
    );
  });
}

/** Installs what is missing, the first time a moving picture is asked for. @throws Error in words */
async function needFfmpeg(): Promise<void> {
  const there = () =>
    access(FFMPEG).then(
      () => true,
      () => false,
    );
  if (await there()) return;
  await run(STARTER, ['need', 'ffmpeg']).catch(() => undefined);
  if (!(await there()))
    throw new Error('moving pictures need the Debian package ffmpeg: sudo apt-get install -y ffmpeg');
}

/** Colours as sRGB pictures have them, said in the file; sides are even where colour has half the pixels. */
const TO_VIDEO = 'crop=trunc(iw/2)*2:trunc(ih/2)*2,scale=out_color_matrix=bt709:out_range=tv';
const TAGS = [
  '-colorspace',
  'bt709',
  '-color_primaries',
  'bt709',
  '-color_trc',
  'iec61966-2-1',
  '-color_range',
  'tv',
];

/** What ffmpeg is told for a format: alike orders, alike bytes, so one thread and nothing of when it was made. */
function words(format: MovingFormat, { loops, alpha }: Moving): string[] {
  const palette = (dither: string) => [
    '-filter_complex',
    `split[a][b];[a]palettegen=stats_mode=full${alpha ? '' : ':reserve_transparent=0'}[p];[b][p]paletteuse=dither=${dither}`,
    '-loop',
    loops ? '0' : '-1',
  ];
  switch (format) {
    case 'webm-vp9':
      return [
        '-vf',
        TO_VIDEO,
        '-c:v',
        'libvpx-vp9',
        '-crf',
        '18',
        '-b:v',
        '0',
        '-pix_fmt',
        alpha ? 'yuva420p' : 'yuv420p',
        ...TAGS,
      ];
    case 'webm-av1':
      return [
        '-vf',
        TO_VIDEO,
        '-c:v',
        'libaom-av1',
        '-crf',
        '22',
        '-b:v',
        '0',
        '-cpu-used',
        '6',
        '-pix_fmt',
        'yuv420p',
        ...TAGS,
      ];
    case 'mp4':
      return [
        '-vf',
        TO_VIDEO,
        '-c:v',
        'libx264',
        '-crf',
        '15',
        '-preset',
        'medium',
        '-pix_fmt',
        'yuv420p',
        '-movflags',
        '+faststart',
        ...TAGS,
      ];
    case 'gif':
      return palette('sierra2_4a');
    case 'gif-plain':
      return palette('none');
    case 'webp':
      return [
        '-c:v',
        'libwebp_anim',
        '-quality',
        '92',
        '-compression_level',
        '4',
        '-loop',
        loops ? '0' : '1',
        '-pix_fmt',
        alpha ? 'bgra' : 'yuv420p',
      ];
  }
}

/**
 * Makes a moving picture.
 * @param pictures pattern of PNG files with a place for their numbers, as `dir/%06d.png`, from `first` on
 * @throws Error with what went wrong, in words
 */
export async function bindPictures(
  format: MovingFormat,
  pictures: string,
  first: number,
  moving: Moving,
  output: string,
  signal?: AbortSignal,
): Promise<void> {
  await needFfmpeg();
  const input = ['-framerate', String(moving.rate), '-start_number', String(first), '-i', pictures];
  const plain = ['-threads', '1', '-map_metadata', '-1', '-fflags', '+bitexact', '-flags:v', '+bitexact'];
  await run(
    FFMPEG,
    [
      '-nostdin',
      '-hide_banner',
      '-loglevel',
      'error',
      '-y',
      ...input,
      ...words(format, moving),
      ...plain,
      output,
    ],
    signal,
  );
}
