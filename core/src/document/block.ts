/** Type: the text, its font, and the solid made of it. Lengths in metres, angles in radians. */
import { IsBoolean, IsIn, IsInt, IsString, Length, Matches, Max, MaxLength, Min } from 'class-validator';
import { Baseline } from './baseline.ts';
import { Amount, Id, Many, One, OneOrNone, Point, Texts } from './rules.ts';
import { Strip, Tube } from './tube.ts';

/** Parts of a solid's surface, from the front to the back; of a tube's, from outside to inside; of a strip's. */
export const SOLID_ZONES = ['front', 'frontBevel', 'side', 'backBevel', 'back'] as const;
export const TUBE_ZONES = ['glass', 'gas', 'electrode', 'paintOut', 'standOff'] as const;
export const STRIP_ZONES = ['strip', 'points'] as const;
export const ZONES = [...SOLID_ZONES, ...TUBE_ZONES, ...STRIP_ZONES] as const;
export type Zone = (typeof ZONES)[number];

/** What an outline becomes: a bevelled solid, one round all over, a cushion, or a bent glass tube. */
export const FORMS = ['bevelled', 'rounded', 'puffed', 'tube'] as const;
export type Form = (typeof FORMS)[number];

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
  'free',
] as const;
export type Profile = (typeof PROFILES)[number];

export const GROWTHS = ['forward', 'backward', 'both'] as const;
export type Growth = (typeof GROWTHS)[number];

/** Which way a bevel runs from the outline. */
export const BEVEL_WAYS = ['inward', 'outward'] as const;
export type BevelWay = (typeof BEVEL_WAYS)[number];

/** Edges of a profile as drawn, all of them rounded off in shading, or none. */
export const SHADINGS = ['drawn', 'smooth', 'crisp'] as const;
export type Shading = (typeof SHADINGS)[number];

export const ALIGNMENTS = ['left', 'centre', 'right', 'justified'] as const;
export type Alignment = (typeof ALIGNMENTS)[number];

/** Longest text of one block, in characters. */
export const LONGEST_TEXT = 2000;

/** A font that ships with the app (by id), or an uploaded one (by the SHA-256 of its file). */
export class FontRef {
  @IsIn(['shipped', 'asset']) source!: 'shipped' | 'asset';
  @IsString() @Matches(/^[a-z0-9-]{1,64}$/) id!: string;
  @IsString() @Length(1, 200) name!: string;
}

/** A point of a free profile, as shares of the bevel's width and height; the curve bends through smooth ones. */
export class ProfilePoint {
  @Amount(0, 1) across!: number;
  @Amount(0, 1) up!: number;
  @IsBoolean() smooth!: boolean;
}

/** One edge treatment: `width` across from the outline, `height` along the depth. */
export class Bevel {
  @Amount(0, 1) width!: number;
  @Amount(0, 1) height!: number;
  @IsIn(PROFILES) profile!: Profile;
  @IsInt() @Min(1) @Max(32) segments!: number;
  @IsIn(BEVEL_WAYS) way!: BevelWay;
  @IsIn(SHADINGS) shading!: Shading;
  /** The free profile, from (0, 0) at the outline to across 1; across never falls. */
  @Many(() => ProfilePoint, 32) points!: ProfilePoint[];
}

/** A letter moved along its line away from the one before it, thousandths of an em. */
export class Kern {
  @Id() letter!: string;
  @Amount(-5000, 5000) by!: number;
}

/** An OpenType feature switched from what the font does by itself. */
export class Feature {
  @IsString() @Matches(/^[A-Za-z0-9]{4}$/) tag!: string;
  @IsBoolean() on!: boolean;
}

/** A place on one of a variable font's axes, in the axis's own unit. */
export class AxisPlace {
  @IsString() @Matches(/^[ -~]{4}$/) tag!: string;
  @Amount(-32768, 32767) value!: number;
}

/** A vector drawing or bitmap that stands in place of text, by the SHA-256 of its file. */
export class DrawingRef {
  @IsString() @Matches(/^[a-f0-9]{64}$/) id!: string;
  @IsString() @Length(1, 200) name!: string;
  @IsIn(['vector', 'bitmap']) kind!: 'vector' | 'bitmap';
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
  @Texts(LONGEST_TEXT, 64) letters!: string[];
  @One(() => FontRef) font!: FontRef;
  /** Height of a capital. */
  @Amount(0.001, 100) capHeight!: number;
  /** Added to every advance, in thousandths of an em. */
  @Amount(-500, 2000) tracking!: number;
  /** Line distance as a multiple of the font's own. */
  @Amount(0.2, 5) leading!: number;
  @IsIn(ALIGNMENTS) alignment!: Alignment;
  @Many(() => Kern, LONGEST_TEXT) kerns!: Kern[];
  @Many(() => Feature, 100) features!: Feature[];
  @Many(() => AxisPlace, 64) axes!: AxisPlace[];
  @One(() => Baseline) baseline!: Baseline;
  /** Stands in place of the text, which is then empty; null for type. */
  @OneOrNone(() => DrawingRef) drawing!: DrawingRef | null;
  /** Letters that touch are joined into one solid each. */
  @IsBoolean() weld!: boolean;
  @IsIn(FORMS) form!: Form;
  @Amount(0, 10) depth!: number;
  @IsIn(GROWTHS) growth!: Growth;
  @One(() => Bevel) front!: Bevel;
  @One(() => Bevel) back!: Bevel;
  /** Height of puffed letters: at 1 they are as thick as round ones where they are fattest. */
  @Amount(0, 4) pressure!: number;
  @One(() => Tube) tube!: Tube;
  @One(() => Strip) strip!: Strip;
  @One(() => Place) place!: Place;
}

/** Zones a block's solids have, in the order of ZONES. */
export function zonesOf(block: Pick<Block, 'form' | 'strip'>): Zone[] {
  const own: readonly Zone[] = block.form === 'tube' ? TUBE_ZONES : SOLID_ZONES;
  return block.strip.on && block.form !== 'tube' ? [...own, ...STRIP_ZONES] : [...own];
}
