/** A look: finish chart, surround, rig and grade. Colours scene-linear Rec.709, angles in radians. */
import { IsBoolean, IsIn, IsOptional, IsString, Length } from 'class-validator';
import { ZONES, type Zone } from './block.ts';
import { Amount, Id, Many, Name, One, Point, Tint } from './rules.ts';

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

/** The environment sphere. */
export class Surround {
  @IsIn(['painted', 'picture']) source!: 'painted' | 'picture';
  /** Name of a painted surround, or SHA-256 of an uploaded picture. */
  @IsString() @Length(1, 64) id!: string;
  @IsString() @Length(1, 200) name!: string;
  @Amount(-20, 20) stops!: number;
  /** Turn about the vertical axis. */
  @Amount(-2 * Math.PI, 2 * Math.PI) turn!: number;
  /** Shown behind the type; it lights either way. */
  @IsBoolean() seen!: boolean;
}

export const LIGHT_KINDS = ['area', 'spot', 'directional'] as const;
export type LightKind = (typeof LIGHT_KINDS)[number];

/**
 * A light, placed around what it aims at: azimuth 0 in front of the type and growing to the right,
 * elevation upward. Strength in nits (area), candela (spot) or lux (directional).
 */
export class Light {
  @Id() id!: string;
  @Name() name!: string;
  @IsIn(LIGHT_KINDS) kind!: LightKind;
  @IsBoolean() on!: boolean;
  @IsBoolean() solo!: boolean;
  @Amount(0, 10_000_000) strength!: number;
  @IsIn(['colour', 'temperature']) hue!: 'colour' | 'temperature';
  @Tint() colour!: number[];
  @Amount(1000, 40_000) kelvin!: number;
  @Amount(-Math.PI, Math.PI) azimuth!: number;
  @Amount(-Math.PI / 2, Math.PI / 2) elevation!: number;
  @Amount(0.01, 1000) distance!: number;
  /** Width and height of an area light, metres. */
  @Amount(0.001, 100) width!: number;
  @Amount(0.001, 100) height!: number;
  /** Half angle of a spot's cone, and the share of it over which the edge fades. */
  @Amount(0.01, Math.PI / 2) cone!: number;
  @Amount(0, 1) edge!: number;
  @IsBoolean() shadow!: boolean;
  /** What it aims at, relative to the centre of the type, metres. */
  @Point() aim!: number[];
}

export const VIEWS = ['soft', 'plain'] as const;
export type View = (typeof VIEWS)[number];

export class Grade {
  /** Camera exposure in stops: at 0, one nit is display white before the view transform. */
  @Amount(-20, 20) exposure!: number;
  @IsIn(VIEWS) view!: View;
}

export class Look {
  @Id() id!: string;
  @Name() name!: string;
  @Many(() => ChartRule, 20_000) chart!: ChartRule[];
  @One(() => Surround) surround!: Surround;
  @Many(() => Light, 2000) rig!: Light[];
  @One(() => Grade) grade!: Grade;
}
