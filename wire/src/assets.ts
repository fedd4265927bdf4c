/** Files by their SHA-256. */
import 'reflect-metadata';
import { ArrayMaxSize, IsArray, IsIn, IsOptional, IsString, Length } from 'class-validator';

/** What may be uploaded; the press makes the rest. */
export const UPLOAD_KINDS = [
  'font',
  'surround',
  'drawing',
  'picture',
  'painting',
  'profile',
  'model',
  'footage',
  'proof',
  'film',
] as const;
export type UploadKind = (typeof UPLOAD_KINDS)[number];
export type AssetKind = UploadKind | 'press';

export interface AssetLine {
  hash: string;
  kind: AssetKind;
  name: string;
  /** Bytes. */
  size: number;
  /** Words it is found by. */
  tags: string[];
  /** What was found when it was read; null for kinds that are not measured, and files kept before they were. */
  facts: SurroundLine | ModelLine | FootageLine | null;
}

/** What a moving picture is like. */
export interface FootageLine {
  /** Pixels; nought where its pictures may differ. */
  width: number;
  height: number;
  frames: number;
  /** Frames a second. */
  rate: number;
  /** Its own frames are not evenly spaced. */
  varies: boolean;
}

/** What a model is like. */
export interface ModelLine {
  triangles: number;
  /** Width, height and depth in the file's unit. */
  sides: number[];
  /** Names of its parts, the first of them. */
  parts: string[];
  /** What of the file is not read, in words. */
  leftOut: string[];
}

/** What a surround is like. */
export interface SurroundLine {
  /** Nits over the sphere, and at its brightest place. */
  mean: number;
  peak: number;
  /** Stops from the darkest place that gives light to the brightest. */
  stops: number;
  /** Unit direction of the brightest place. */
  peakDirection: number[];
  /** A small picture as a screen shows it: sRGB bytes in base64, row by row from the top. */
  small: { width: number; height: number; rgb: string };
}

/** Words a file is found by. */
export class AssetTags {
  @IsArray()
  @ArrayMaxSize(12)
  @IsString({ each: true })
  @Length(1, 40, { each: true })
  tags!: string[];
}

export interface UnusedAsset extends AssetLine {
  /** ISO 8601. */
  uploadedAt: string;
}

export interface UnusedAssets {
  /** Days after which they go by themselves. */
  days: number;
  assets: UnusedAsset[];
}

/** What an upload says of itself, and which files a list shows. */
export class AssetQuery {
  @IsIn(UPLOAD_KINDS) kind!: UploadKind;
  @IsOptional() @IsString() @Length(1, 200) name?: string;
}
