/** Numbered pictures to a moving picture, by ffmpeg as a child process. */
import type { MovingFormat } from '@wemlox/wire';
import { FFMPEG, needFfmpeg, run } from './ffmpeg.ts';

/** What of a shot its moving picture needs to know. */
export interface Moving {
  /** Pictures a second. */
  rate: number;
  loops: boolean;
  alpha: boolean;
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
