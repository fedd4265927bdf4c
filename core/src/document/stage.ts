/** What stands around the type, and the camera. Lengths in metres, angles in radians. */
import { IsIn, IsOptional, IsString, Length, Matches } from 'class-validator';
import { PictureRef } from './finish.ts';
import { PIECE_KINDS, type PieceKind } from './kinds.ts';
import { MOST } from './most.ts';
import { Move, Track } from './motion.ts';
import { Parameters } from './parameter.ts';
import { CAMERA, PIECE, SHOT } from './parameters.ts';
import { Id, Many, Name, One, OneOrNone } from './rules.ts';

/** A file with a model, by its SHA-256. */
export class ModelRef {
  @IsString() @Matches(/^[a-f0-9]{64}$/) id!: string;
  @IsString() @Length(1, 200) name!: string;
}

/** Puts a finish of the project on one of a model's parts, in place of the file's own. */
export class Dressing {
  @IsString() @Length(1, 200) part!: string;
  @IsString() finish!: string;
}

/**
 * What stands around the type: floors, table tops and models at height `at`; walls, backdrops, niches, grids and
 * plates behind the type at z = `at`.
 */
export class Piece extends Parameters(PIECE) {
  @Id() id!: string;
  @Name() name!: string;
  @IsIn(PIECE_KINDS) kind!: PieceKind;
  /** Worn by all of it; null is bare, and a model's own. */
  @IsOptional() @IsString() finish!: string | null;
  /** What a plate shows. */
  @OneOrNone(() => PictureRef) picture!: PictureRef | null;
  @OneOrNone(() => ModelRef) model!: ModelRef | null;
  @Many(() => Dressing, MOST.dressings) dressings!: Dressing[];
}

/** Pieces that stand: switched on, and if any is solo only those. */
export function standing(pieces: readonly Piece[]): Piece[] {
  const solo = pieces.some((p) => p.solo && p.on);
  return pieces.filter((p) => p.on && (!solo || p.solo));
}

/** Whether a piece wears a finish somewhere. */
export const wears = ({ finish, dressings }: Piece, id: string): boolean =>
  finish === id || dressings.some((d) => d.finish === id);

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
