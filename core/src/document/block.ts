/** Type: the text, its font, and the solid made of it. Lengths in metres, angles in radians. */
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  IsArray,
  IsIn,
  IsInt,
  IsString,
  Length,
  Matches,
  Max,
  MaxLength,
  Min,
  ValidateNested,
} from 'class-validator';
import { Amount, Id, Point } from './rules.ts';

/** Parts of a solid's surface, from the front to the back. */
export const ZONES = ['front', 'frontBevel', 'side', 'backBevel', 'back'] as const;
export type Zone = (typeof ZONES)[number];

export const PROFILES = [
  'straight',
  'round',
  'cove',
  'step',
  'terrace',
  'keel',
  'ogee',
  'saddle',
  'scallop',
  'rope',
  'gutter',
  'rim',
] as const;
export type Profile = (typeof PROFILES)[number];

export const GROWTHS = ['forward', 'backward', 'both'] as const;
export type Growth = (typeof GROWTHS)[number];

export const ALIGNMENTS = ['left', 'centre', 'right'] as const;
export type Alignment = (typeof ALIGNMENTS)[number];

/** Longest text of one block, in characters. */
export const LONGEST_TEXT = 2000;

/** A font that ships with the app (by id), or an uploaded one (by the SHA-256 of its file). */
export class FontRef {
  @IsIn(['shipped', 'asset']) source!: 'shipped' | 'asset';
  @IsString() @Matches(/^[a-z0-9-]{1,64}$/) id!: string;
  @IsString() @Length(1, 200) name!: string;
}

/** One edge treatment: inset `width` from the outline, `height` along the depth. */
export class Bevel {
  @Amount(0, 1) width!: number;
  @Amount(0, 1) height!: number;
  @IsIn(PROFILES) profile!: Profile;
  @IsInt() @Min(1) @Max(32) segments!: number;
}

export class Place {
  /** Centre of the block; z is the zero plane its depth grows from. */
  @Point() position!: number[];
  /** Turn about the vertical axis. */
  @Amount(-Math.PI, Math.PI) turn!: number;
}

export class Block {
  @Id() id!: string;
  @IsString() @MaxLength(LONGEST_TEXT) text!: string;
  /** One lasting identifier for each character of `text` (code points), so that dress survives edits. */
  @IsArray() @ArrayMaxSize(LONGEST_TEXT) @IsString({ each: true }) letters!: string[];
  @ValidateNested() @Type(() => FontRef) font!: FontRef;
  /** Height of a capital. */
  @Amount(0.001, 100) capHeight!: number;
  /** Added to every advance, in thousandths of an em. */
  @Amount(-500, 2000) tracking!: number;
  /** Line distance as a multiple of the font's own. */
  @Amount(0.2, 5) leading!: number;
  @IsIn(ALIGNMENTS) alignment!: Alignment;
  @Amount(0, 10) depth!: number;
  @IsIn(GROWTHS) growth!: Growth;
  @ValidateNested() @Type(() => Bevel) front!: Bevel;
  @ValidateNested() @Type(() => Bevel) back!: Bevel;
  @ValidateNested() @Type(() => Place) place!: Place;
}
