/** Files by their SHA-256. */
import 'reflect-metadata';
import { IsIn, IsOptional, IsString, Length } from 'class-validator';

/** What may be uploaded; the press makes the rest. */
export const UPLOAD_KINDS = ['font', 'surround', 'drawing', 'picture', 'proof', 'film'] as const;
export type UploadKind = (typeof UPLOAD_KINDS)[number];
export type AssetKind = UploadKind | 'press';

export interface AssetLine {
  hash: string;
  kind: AssetKind;
  name: string;
  /** Bytes. */
  size: number;
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
