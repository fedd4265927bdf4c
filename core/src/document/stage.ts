/** What stands around the type, and the camera. Lengths in metres, angles in radians. */
import { IsIn, IsOptional, IsString } from 'class-validator';
import { PIECE_KINDS, type PieceKind } from './kinds.ts';
import { MOST } from './most.ts';
import { Move, Track } from './motion.ts';
import { Parameters } from './parameter.ts';
import { CAMERA, PIECE, SHOT } from './parameters.ts';
import { Id, Many, Name, One } from './rules.ts';

/** A floor (at height `at`), a wall or a curved backdrop (behind the type at z = `at`). */
export class Piece extends Parameters(PIECE) {
  @Id() id!: string;
  @IsIn(PIECE_KINDS) kind!: PieceKind;
  @IsOptional() @IsString() finish!: string | null;
}

export class Camera extends Parameters(CAMERA) {}

/** Width over height of a shot's frame. */
export function aspectOf({
  frame,
  frame_width,
  frame_height,
}: Pick<Shot, 'frame' | 'frame_width' | 'frame_height'>): number {
  if (frame === 'own') return frame_width / frame_height;
  const [w = 1, h = 1] = frame.split(':').map(Number);
  return w / h;
}

export class Shot extends Parameters(SHOT) {
  @Id() id!: string;
  @Name() name!: string;
  @One(() => Camera) camera!: Camera;
  @Many(() => Track, MOST.tracks) tracks!: Track[];
  /** Those of one parameter follow upon each other. */
  @Many(() => Move, MOST.moves) moves!: Move[];
}
