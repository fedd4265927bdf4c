/** Glass tubes and strips of light points. Lengths in metres. */
import { IsBoolean, IsInt, Max, Min } from 'class-validator';
import { CurveNode } from './baseline.ts';
import { MOST } from './most.ts';
import { Parameters } from './parameter.ts';
import { STRIP, TUBE } from './parameters.ts';
import { Amount, Id, Many, Tints } from './rules.ts';

/** A stretch of a tube painted over, as shares of the length of one of a letter's strokes. */
export class PaintOut {
  @Id() letter!: string;
  @IsInt() @Min(0) @Max(1000) stroke!: number;
  @Amount(0, 1) from!: number;
  @Amount(0, 1) to!: number;
}

/** A tube drawn with the pen, in the block's plane. */
export class DrawnStroke {
  @Id() id!: string;
  @IsBoolean() closed!: boolean;
  @Many(() => CurveNode, MOST.tubeNodes) nodes!: CurveNode[];
}

export class Tube extends Parameters(TUBE) {
  @Many(() => PaintOut, MOST.paintOuts) paintOuts!: PaintOut[];
  @Many(() => DrawnStroke, MOST.drawnTubes) drawn!: DrawnStroke[];
}

/** A flat ribbon along the outline, with a row of light points. */
export class Strip extends Parameters(STRIP) {
  /** Colours that repeat along the row, scene-linear Rec.709. */
  @Tints(1, MOST.stripColours) colours!: number[][];
}
