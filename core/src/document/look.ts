/** A look: finish chart, surround, rig and grade. Colours scene-linear Rec.709, angles in radians. */
import { IsIn, IsOptional, IsString, Length } from 'class-validator';
import { ZONES, type Zone } from './kinds.ts';
import { LIGHT_CLASSES, type Light } from './light.ts';
import { MOST } from './most.ts';
import { Parameters } from './parameter.ts';
import { PictureRef, Stop } from './finish.ts';
import { GRADE, PANEL, SURROUND } from './parameters.ts';
import { Playback } from './playback.ts';
import { Id, Many, Name, One, OneOrNone, Variants } from './rules.ts';

/**
 * One rule of a finish chart. What is left out matches everything; the rule that names most wins, a letter
 * weighing more than a zone, and of equals the later. `finish: null` clears.
 */
export class ChartRule {
  @IsOptional() @Id() block?: string;
  @IsOptional() @IsString() letter?: string;
  @IsOptional() @IsIn(ZONES) zone?: Zone;
  @IsOptional() @IsString() finish!: string | null;
}

/** Light painted on the surround's sphere; its stops are a ramp's, by elevation from below, their values in stops. */
export class Panel extends Parameters(PANEL) {
  @Id() id!: string;
  @Name() name!: string;
  @Many(() => Stop, MOST.stops) stops!: Stop[];
  /** Shown while it has that shape. */
  @OneOrNone(() => PictureRef) picture!: PictureRef | null;
}

/** The environment sphere. */
export class Surround extends Parameters(SURROUND) {
  @IsIn(['painted', 'picture', 'none']) source!: 'painted' | 'picture' | 'none';
  /** Laid over the picture, the last on top. */
  @Many(() => Panel, MOST.panels) panels!: Panel[];
  /** Name of a painted surround, SHA-256 of an uploaded picture, or `none`. */
  @IsString() @Length(1, 64) id!: string;
  @IsString() @Length(1, 200) name!: string;
  /** How it plays, where it is a moving picture. */
  @OneOrNone(() => Playback) plays?: Playback | null;
}

export class Grade extends Parameters(GRADE) {}

export class Look {
  @Id() id!: string;
  @Name() name!: string;
  @Many(() => ChartRule, MOST.rules) chart!: ChartRule[];
  @One(() => Surround) surround!: Surround;
  @Variants(LIGHT_CLASSES, MOST.lights) rig!: Light[];
  @One(() => Grade) grade!: Grade;
}
