/** Pictures that render nodes make. */
import 'reflect-metadata';
import {
  IsBoolean,
  IsIn,
  IsInt,
  IsNumber,
  IsObject,
  IsOptional,
  IsString,
  Length,
  Max,
  Min,
} from 'class-validator';

/** Files of moving pictures. */
export const MOVING_FORMATS = ['webm-vp9', 'webm-av1', 'mp4', 'gif', 'gif-plain', 'webp'] as const;
export type MovingFormat = (typeof MOVING_FORMATS)[number];

export const PRESS_FORMATS = ['png8', 'png16', 'jpeg', 'exr-half', 'exr-float', ...MOVING_FORMATS] as const;
export type PressFormat = (typeof PRESS_FORMATS)[number];

/** No shot has more pictures: ten minutes at 120 a second. */
export const MOST_FRAMES = 72_000;

export const isMoving = (format: PressFormat): format is MovingFormat =>
  (MOVING_FORMATS as readonly string[]).includes(format);

/** Whether a file can say what is open in the picture; in others that is black. */
export const hasAlpha = (format: PressFormat): boolean => !['jpeg', 'mp4', 'webm-av1'].includes(format);

/** Endings of the files. */
export const ENDINGS: Readonly<Record<PressFormat, string>> = {
  png8: 'png',
  png16: 'png',
  jpeg: 'jpg',
  'exr-half': 'exr',
  'exr-float': 'exr',
  'webm-vp9': 'webm',
  'webm-av1': 'webm',
  mp4: 'mp4',
  gif: 'gif',
  'gif-plain': 'gif',
  webp: 'webp',
};

export class PressOrder {
  @IsString() @Length(1, 200) name!: string;
  @IsString() @Length(1, 64) look!: string;
  @IsString() @Length(1, 64) shot!: string;
  /** Pictures of the shot from the first to the last of them; the first alone when it is left out. */
  @IsOptional() @IsInt() @Min(0) @Max(MOST_FRAMES) first?: number;
  @IsOptional() @IsInt() @Min(0) @Max(MOST_FRAMES) last?: number;
  @IsInt() @Min(1) @Max(16384) width!: number;
  @IsInt() @Min(1) @Max(16384) height!: number;
  @IsInt() @Min(1) @Max(65536) samples!: number;
  @IsInt() @Min(0) @Max(4294967295) seed!: number;
  @IsIn(PRESS_FORMATS) format!: PressFormat;
  /** False lays the picture over black. */
  @IsBoolean() alpha!: boolean;
  /** Albedo, normal and depth, and the light of each source by itself. */
  @IsBoolean() layers!: boolean;
  /** Share of the picture without its noise. */
  @IsNumber() @Min(0) @Max(1) denoise!: number;
  /** Relative noise at which squares of pixels stop before all samples are traced; 0: never. */
  @IsNumber() @Min(0) @Max(1) noise!: number;
}

export class NewPress extends PressOrder {
  @IsObject() document!: object;
}

export type PressState = 'waiting' | 'tracing' | 'done' | 'failed' | 'cancelled';

export interface PressJob extends PressOrder {
  id: string;
  first: number;
  last: number;
  state: PressState;
  /** Pictures that are done. */
  framesDone: number;
  /** Samples of all pictures so far. */
  samplesDone: number;
  /** Seconds of tracing so far. */
  seconds: number;
  message: string;
  /** Asset hash of the finished file; of several pictures each has its own. */
  result: string | null;
  /** ISO 8601. */
  askedAt: string;
  /** Who asked for it. */
  actor: string;
}

/** Numbers of pictures are as long as the longest of the job, and have four digits at least. */
const DIGITS = 4;

/** Name of the file of a job's picture: the job's own, numbered where there are several. */
export function frameName(
  { name, first, last, format }: Pick<PressJob, 'name' | 'first' | 'last' | 'format'>,
  frame: number,
): string {
  if (first === last && !isMoving(format)) return name;
  const dot = name.lastIndexOf('.');
  const number = String(frame).padStart(Math.max(DIGITS, String(last).length), '0');
  const ending = isMoving(format) ? '.png' : name.slice(dot);
  return `${name.slice(0, dot)} ${number}${ending}`;
}
