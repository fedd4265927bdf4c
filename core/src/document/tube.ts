/** Glass tubes and strips of light points. Lengths in metres. */
import { IsBoolean, IsIn, IsInt, Max, Min } from 'class-validator';
import { CurveNode } from './baseline.ts';
import { Amount, Id, Many, Tints } from './rules.ts';

/** Where a tube runs: along the middle of the strokes, inside their edges, or as drawn by hand. */
export const TUBE_COURSES = ['centre', 'edges', 'drawn'] as const;
export type TubeCourse = (typeof TUBE_COURSES)[number];

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
  @Many(() => CurveNode, 500) nodes!: CurveNode[];
}

export class Tube {
  @IsIn(TUBE_COURSES) course!: TubeCourse;
  /** Outer diameter of the glass. */
  @Amount(0.0005, 1) diameter!: number;
  @Amount(0.0001, 0.2) wall!: number;
  /** Distance of an edge tube's centre from the outline. */
  @Amount(0, 1) inset!: number;
  /** Tightest bend that glass allows: radius of the centre line over the diameter. */
  @Amount(0.1, 20) tightest!: number;
  /** How far unevenness of the centre line is evened out: 0 not at all, 1 over a stroke's width. */
  @Amount(0, 1) smoothing!: number;
  @IsBoolean() electrodes!: boolean;
  /** Length of an electrode. */
  @Amount(0, 1) electrode!: number;
  /** Gap between the zero plane and the glass. */
  @Amount(0, 10) standOff!: number;
  /** Supports from the zero plane to the glass, at most this far apart; 0 for none. */
  @Amount(0, 10) supports!: number;
  @Many(() => PaintOut, 2000) paintOuts!: PaintOut[];
  @Many(() => DrawnStroke, 500) drawn!: DrawnStroke[];
}

/** A flat ribbon along the outline, with a row of light points. */
export class Strip {
  @IsBoolean() on!: boolean;
  /** Distance inward from the outline. */
  @Amount(0, 10) inset!: number;
  /** Middle of the ribbon between back (0) and front (1). */
  @Amount(0, 1) at!: number;
  /** Width of the ribbon, along the depth. */
  @Amount(0, 10) width!: number;
  /** By number round each outline, or by distance. */
  @IsIn(['count', 'spacing']) by!: 'count' | 'spacing';
  @IsInt() @Min(1) @Max(2000) count!: number;
  @Amount(0.0005, 10) spacing!: number;
  /** Diameter of a point. */
  @Amount(0.0001, 1) size!: number;
  /** Colours that repeat along the row, scene-linear Rec.709. */
  @Tints(1, 16) colours!: number[][];
  /** Nits. */
  @Amount(0, 100_000) luminance!: number;
}
