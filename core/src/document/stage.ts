/** What stands around the type, and the camera. Lengths in metres, angles in radians. */
import { IsBoolean, IsIn, IsInt, IsOptional, IsString, Max, Min } from 'class-validator';
import { Amount, Id, Name, One, Point } from './rules.ts';

export const PIECE_KINDS = ['floor', 'wall', 'backdrop'] as const;
export type PieceKind = (typeof PIECE_KINDS)[number];

/** A floor (at height `at`), a wall or a curved backdrop (behind the type at z = `at`). */
export class Piece {
  @Id() id!: string;
  @IsIn(PIECE_KINDS) kind!: PieceKind;
  @IsBoolean() on!: boolean;
  @Amount(-1000, 1000) at!: number;
  @IsOptional() @IsString() finish!: string | null;
}

/** Orbit camera: looks at `target` from `distance` away; azimuth 0 is the front, growing to the right. */
export class Camera {
  @Point() target!: number[];
  @Amount(-2 * Math.PI, 2 * Math.PI) azimuth!: number;
  @Amount(-Math.PI / 2, Math.PI / 2) elevation!: number;
  @Amount(0.01, 2000) distance!: number;
  /** Millimetres, on a frame 36 mm wide. */
  @Amount(8, 800) focal!: number;
}

export const FRAMES = ['16:9', '1:1', '4:5', '9:16'] as const;
export type Frame = (typeof FRAMES)[number];

/** Width over height of a frame shape. */
export function aspectOf(frame: Frame): number {
  const [w, h] = frame.split(':').map(Number);
  return w / h;
}

export class Shot {
  @Id() id!: string;
  @Name() name!: string;
  @One(() => Camera) camera!: Camera;
  @IsIn(FRAMES) frame!: Frame;
  /** Longest chain of bounces traced. */
  @IsInt() @Min(0) @Max(64) bounces!: number;
}
