/** What changes over the time of a shot: keyed tracks and steady moves, each of one parameter. Times in seconds. */
import { IsIn, IsInt, IsString, Max, MaxLength, Min } from 'class-validator';
import { EASES, MOVE_KINDS, type Ease, type MoveKind } from './kinds.ts';
import { MOST } from './most.ts';
import { LONGEST_SHOT, MOVE, TRACK } from './motionParameters.ts';
import { Parameters } from './parameter.ts';
import { Amount, Id, Many, Numbers } from './rules.ts';

/**
 * A value at a time, and the way from it to the next key. Eased ways follow the cubic Bézier curve from (0, 0) over
 * (x1, y1) and (x2, y2) to (1, 1): across the time between the keys, up the way between their values.
 */
export class Key {
  @Amount(0, LONGEST_SHOT) at!: number;
  /** One number, three of a colour or point, or 0 and 1 of a switch. */
  @Numbers(1, 3) value!: number[];
  @IsIn(EASES) ease!: Ease;
  @Amount(0, 1) x1!: number;
  @Amount(-4, 5) y1!: number;
  @Amount(0, 1) x2!: number;
  @Amount(-4, 5) y2!: number;
}

/** The keys of a parameter, in the order of their times; one that leads nowhere does nothing. */
export class Track extends Parameters(TRACK) {
  @Id() id!: string;
  @IsString() @MaxLength(MOST.address) address!: string;
  @Many(() => Key, MOST.keys, 1) keys!: Key[];
}

/** Moves a parameter without keys, on top of its value or its track. */
export class Move extends Parameters(MOVE) {
  @Id() id!: string;
  @IsIn(MOVE_KINDS) kind!: MoveKind;
  @IsString() @MaxLength(MOST.address) address!: string;
  /** Of points: which of the three numbers is moved; −1 for a way around of its own (`pass`). */
  @IsInt() @Min(-1) @Max(2) axis!: number;
}
