/** Pictures that render nodes make. */
import 'reflect-metadata';
import { IsBoolean, IsIn, IsInt, IsNumber, IsObject, IsString, Length, Max, Min } from 'class-validator';

export const PRESS_FORMATS = ['png8', 'png16', 'exr-half', 'exr-float'] as const;
export type PressFormat = (typeof PRESS_FORMATS)[number];

export class PressOrder {
  @IsString() @Length(1, 200) name!: string;
  @IsString() @Length(1, 64) look!: string;
  @IsString() @Length(1, 64) shot!: string;
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
  state: PressState;
  samplesDone: number;
  /** Seconds of tracing so far. */
  seconds: number;
  message: string;
  /** Asset hash of the finished file. */
  result: string | null;
  /** ISO 8601. */
  askedAt: string;
  /** Who asked for it. */
  actor: string;
}
