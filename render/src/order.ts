/** What the command line asks for. */
import { extname } from 'node:path';
import { parseArgs } from 'node:util';

export const USAGE = `usage: ./wemlox render IN.(wemlox|json) -o OUT.(exr|png|hdr) [--look NAME] [--shot NAME] [OPTIONS]
       ./wemlox render IN.glb -o OUT.(exr|png|hdr) [--surround FILE.(hdr|exr)] [OPTIONS]
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
  if (!['.exr', '.png', '.hdr'].includes(extname(values.output))) {
    throw new UsageError(`-o writes .exr, .png or .hdr, not "${extname(values.output)}"`);
  }
  let size: Order['size'] = null;
  if (values.size !== undefined) {
    const found = /^(\d{1,5})x(\d{1,5})$/.exec(values.size);
    size = found && [Number(found[1]), Number(found[2])];
    if (!size || size.some((v) => v < 1 || v > 16384)) {
      throw new UsageError(`--size takes WxH, each 1 to 16384, not "${values.size}"`);
    }
  }
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
    size,
    noise,
    denoise,
    samples: whole('samples', values.samples, 1, MOST_SAMPLES) ?? (noise > 0 ? MOST_SAMPLES : 256),
    bounces: whole('bounces', values.bounces, 0, 64),
    seed: whole('seed', values.seed, 0, 4294967295) ?? 1,
    threads: whole('threads', values.threads, 1, 256),
  };
}
