/** The line that text stands on. Lengths in metres in the block's plane, angles in radians. */
import { MOST } from './most.ts';
import { Parameters } from './parameter.ts';
import { BASELINE } from './parameters.ts';
import { Amount, Many } from './rules.ts';

/** A node of a drawn curve with its two handles, which are relative to it (cubic Bézier). */
export class CurveNode {
  @Amount(-1000, 1000) x!: number;
  @Amount(-1000, 1000) y!: number;
  @Amount(-1000, 1000) inX!: number;
  @Amount(-1000, 1000) inY!: number;
  @Amount(-1000, 1000) outX!: number;
  @Amount(-1000, 1000) outY!: number;
}

export class Baseline extends Parameters(BASELINE) {
  @Many(() => CurveNode, MOST.baselineNodes) nodes!: CurveNode[];
}
