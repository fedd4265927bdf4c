/** What the command line asks for. */
import { extname } from 'node:path';
import { parseArgs } from 'node:util';
import { MOST_FRAMES, type MovingFormat } from '@wemlox/wire';

export const USAGE = `usage: ./wemlox render IN.(wemlox|json) -o OUT.(exr|png|jpg|hdr|webm|mp4|gif|webp) [--look NAME] [--shot NAME] [--frame N | --frames A-B] [OPTIONS]
       ./wemlox render IN.glb -o OUT.(exr|png|jpg|hdr) [--surround FILE.(hdr|exr)] [OPTIONS]
pictures from A to B of a shot want a name with # for each digit of their numbers: -o 'ostrel-####.png'
options: [--size WxH] [--samples N | --noise X] [--bounces N] [--seed N] [--passes albedo,normal,depth] [--denoise [AMOUNT]] [--threads N]
`;
const MOST_SAMPLES = 65536;
/** Layers a film gathers, all at once. */
const PASSES = ['albedo', 'normal', 'depth'];

export class UsageError extends Error {}

export interface Order {
  input: string;
  output: string;
  surround?: string;
  passes: boolean;
  look?: string;
  shot?: string;
  /** Pictures of the shot, from the first to the last of them; null for all of it. */
  frames: [number, number] | null;
  /** Whether the #s of the file's name stand for the picture's number. */
  numbered: boolean;
  /** The moving picture that is asked for, if it is one. */
  moving: MovingFormat | null;
  size: [number, number] | null;
  samples: number;
  noise: number;
  /** Share of the picture without its noise, 0 … 1. */
  denoise: number;
  bounces?: number;
  seed: number;
  threads?: number;
}

function whole(name: string, text: string | undefined, least: number, most: number): number | undefined {
  if (text === undefined) return undefined;
  const n = Number(text);
  if (!Number.isInteger(n) || n < least || n > most) {
    throw new UsageError(`--${name} takes a whole number from ${least} to ${most}, not "${text}"`);
  }
  return n;
}

/** Files of moving pictures by their ending. */
const MOVING: Readonly<Record<string, MovingFormat>> = {
  '.webm': 'webm-vp9',
  '.mp4': 'mp4',
  '.gif': 'gif',
  '.webp': 'webp',
};

/** The pictures asked for; the first of the shot when none is named. */
function framesAsked(one: string | undefined, range: string | undefined): [number, number] {
  if (one !== undefined && range !== undefined)
    throw new UsageError('--frame and --frames exclude each other');
  if (range === undefined) {
    const frame = whole('frame', one, 0, MOST_FRAMES) ?? 0;
    return [frame, frame];
  }
  const found = /^(\d{1,5})-(\d{1,5})$/.exec(range);
  if (!found || Number(found[2]) < Number(found[1]))
    throw new UsageError(`--frames takes A-B, rising, not "${range}"`);
  return [Number(found[1]), Number(found[2])];
}

/** Name of the file of a picture: its number in the place of the #s. */
export const outputOf = (output: string, frame: number): string =>
  output.replace(/#+(?=[^#/]*$)/, (signs) => String(frame).padStart(signs.length, '0'));

/** `--denoise` alone is all of it. */
const withAmount = (argv: string[]) =>
  argv.flatMap((word, i) =>
    word === '--denoise' && !/^\.?\d/.test(argv[i + 1] ?? '') ? ['--denoise', '1'] : [word],
  );

/** @throws UsageError */
export function readOrder(argv: string[]): Order {
  let parsed;
  try {
    parsed = parseArgs({
      args: withAmount(argv),
      allowPositionals: true,
      options: {
        output: { type: 'string', short: 'o' },
        surround: { type: 'string' },
        passes: { type: 'string' },
        look: { type: 'string' },
        shot: { type: 'string' },
        frame: { type: 'string' },
        frames: { type: 'string' },
        size: { type: 'string' },
        samples: { type: 'string' },
        noise: { type: 'string' },
        denoise: { type: 'string' },
        bounces: { type: 'string' },
        seed: { type: 'string' },
        threads: { type: 'string' },
      },
    });
  } catch (error) {
    throw new UsageError((error as Error).message.replaceAll('\n', ' '));
  }
  const { values, positionals } = parsed;
  if (positionals.length !== 1 || !values.output) throw new UsageError('one project file and -o are needed');
  const moving = MOVING[extname(values.output)] ?? null;
  if (!moving && !['.exr', '.png', '.jpg', '.jpeg', '.hdr'].includes(extname(values.output))) {
    throw new UsageError(
      `-o writes .exr, .png, .jpg, .hdr, ${Object.keys(MOVING).join(', ')}, not "${extname(values.output)}"`,
    );
  }
  let size: Order['size'] = null;
  if (values.size !== undefined) {
    const found = /^(\d{1,5})x(\d{1,5})$/.exec(values.size);
    size = found && [Number(found[1]), Number(found[2])];
    if (!size || size.some((v) => v < 1 || v > 16384)) {
      throw new UsageError(`--size takes WxH, each 1 to 16384, not "${values.size}"`);
    }
  }
  const all = moving && values.frame === undefined && values.frames === undefined;
  const frames = all ? null : framesAsked(values.frame, values.frames);
  if (frames && frames[1] > frames[0] && !moving && !/#/.test(values.output))
    throw new UsageError('--frames needs an -o with # for each digit of their numbers');
  const unknown = values.passes?.split(',').find((name) => !PASSES.includes(name));
  if (unknown !== undefined) throw new UsageError(`--passes takes ${PASSES.join(', ')}, not "${unknown}"`);
  if (values.passes !== undefined && extname(values.output) !== '.exr')
    throw new UsageError('--passes needs an .exr');
  const noise = values.noise === undefined ? 0 : Number(values.noise);
  if (!(noise >= 0 && noise < 10))
    throw new UsageError(`--noise takes a share like 0.02, not "${values.noise}"`);
  const denoise = values.denoise === undefined ? 0 : Number(values.denoise);
  if (!(denoise >= 0 && denoise <= 1))
    throw new UsageError(`--denoise takes an amount from 0 to 1, not "${values.denoise}"`);
  return {
    input: positionals[0],
    output: values.output,
    surround: values.surround,
    passes: values.passes !== undefined,
    look: values.look,
    shot: values.shot,
    frames,
    numbered: moving !== null || values.frame !== undefined || values.frames !== undefined,
    moving,
    size,
    noise,
    denoise,
    samples: whole('samples', values.samples, 1, MOST_SAMPLES) ?? (noise > 0 ? MOST_SAMPLES : 256),
    bounces: whole('bounces', values.bounces, 0, 64),
    seed: whole('seed', values.seed, 0, 4294967295) ?? 1,
    threads: whole('threads', values.threads, 1, 256),
  };
}
