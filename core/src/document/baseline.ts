/** The line that text stands on. Lengths in metres in the block's plane, angles in radians. */
import { IsBoolean, IsIn } from 'class-validator';
import { Amount, Many } from './rules.ts';

export const BASELINES = ['straight', 'line', 'arc', 'circle', 'free'] as const;
export type BaselineKind = (typeof BASELINES)[number];

/** A node of a drawn curve with its two handles, which are relative to it (cubic Bézier). */
export class CurveNode {
  @Amount(-1000, 1000) x!: number;
  @Amount(-1000, 1000) y!: number;
  @Amount(-1000, 1000) inX!: number;
  @Amount(-1000, 1000) inY!: number;
  @Amount(-1000, 1000) outX!: number;
  @Amount(-1000, 1000) outY!: number;
}

export class Baseline {
  @IsIn(BASELINES) kind!: BaselineKind;
  /** Rise of a line. */
  @Amount(-Math.PI / 2, Math.PI / 2) slope!: number;
  /** How far an arc bends over the length of the text; positive arches upward. */
  @Amount(-2 * Math.PI, 2 * Math.PI) bend!: number;
  @Amount(0.001, 1000) radius!: number;
  /** Letters of a circle stand inside it, their heads towards its centre. */
  @IsBoolean() inside!: boolean;
  @Many(() => CurveNode, 200) nodes!: CurveNode[];
  /** Letters stay upright instead of turning with the line. */
  @IsBoolean() upright!: boolean;
  /** Distance of the letters' feet from the line, positive above it. */
  @Amount(-100, 100) offset!: number;
  /** Shift of the text along the line. */
  @Amount(-1000, 1000) shift!: number;
}
