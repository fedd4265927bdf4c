/** Type: the text, its font, and the solid made of it. Lengths in metres, angles in radians. */
import { IsBoolean, IsIn, IsString, Length, Matches, MaxLength } from 'class-validator';
import { Baseline } from './baseline.ts';
import { SOLID_ZONES, STRIP_ZONES, TUBE_ZONES, type Zone } from './kinds.ts';
import { MOST } from './most.ts';
import { Parameters } from './parameter.ts';
import { BEVEL, BLOCK, EACH, PLACE, POSE } from './parameters.ts';
import { Amount, Id, Many, One, OneOrNone, Texts } from './rules.ts';
import { Strip, Tube } from './tube.ts';

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

/** One edge treatment. */
export class Bevel extends Parameters(BEVEL) {
  /** The free profile, from (0, 0) at the outline to across 1; across never falls. */
  @Many(() => ProfilePoint, MOST.profilePoints) points!: ProfilePoint[];
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

/** Where a block stands: the position is its centre; z is the zero plane its depth grows from. */
export class Place extends Parameters(PLACE) {}

/** How every letter of a block stands, from where its line has it. */
export class Each extends Parameters(EACH) {}

/** How one letter stands, on top of what every one does. */
export class LetterPose extends Parameters(POSE) {
  /** The letter's own identifier. */
  @Id() id!: string;
}

export class Block extends Parameters(BLOCK) {
  @Id() id!: string;
  @IsString() @MaxLength(MOST.text) text!: string;
  /** One lasting identifier for each character of `text` (code points), so that dress survives edits. */
  @Texts(MOST.text, 64) letters!: string[];
  @One(() => FontRef) font!: FontRef;
  @Many(() => Kern, MOST.text) kerns!: Kern[];
  @Many(() => Feature, MOST.features) features!: Feature[];
  @Many(() => AxisPlace, MOST.axes) axes!: AxisPlace[];
  @One(() => Baseline) baseline!: Baseline;
  /** Stands in place of the text, which is then empty; null for type. */
  @OneOrNone(() => DrawingRef) drawing!: DrawingRef | null;
  @One(() => Bevel) front!: Bevel;
  @One(() => Bevel) back!: Bevel;
  @One(() => Tube) tube!: Tube;
  @One(() => Strip) strip!: Strip;
  @One(() => Place) place!: Place;
  @One(() => Each) each!: Each;
  @Many(() => LetterPose, MOST.text) poses!: LetterPose[];
}

/** Zones a block's solids have, in the order of ZONES. */
export function zonesOf(block: Pick<Block, 'form' | 'strip'>): Zone[] {
  const own: readonly Zone[] = block.form === 'tube' ? TUBE_ZONES : SOLID_ZONES;
  return block.strip.on && block.form !== 'tube' ? [...own, ...STRIP_ZONES] : [...own];
}
