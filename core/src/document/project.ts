/** The project document: everything an artist has decided, as plain JSON. */
import { Equals } from 'class-validator';
import { Block } from './block.ts';
import { Finish } from './finish.ts';
import { Look } from './look.ts';
import { MOST } from './most.ts';
import { Many, Name } from './rules.ts';
import { Piece, Shot } from './stage.ts';

export const FORMAT = 'wemlox-project';
/** The newest version: raised when the document changes, and when parameters are added (`since`). */
export const VERSION = 17;

export class Project {
  @Equals(FORMAT) format!: typeof FORMAT;
  @Equals(VERSION) version!: number;
  @Name() name!: string;
  @Many(() => Block, MOST.blocks) blocks!: Block[];
  @Many(() => Finish, MOST.finishes) finishes!: Finish[];
  @Many(() => Piece, MOST.pieces) pieces!: Piece[];
  @Many(() => Look, MOST.looks, 1) looks!: Look[];
  @Many(() => Shot, MOST.shots, 1) shots!: Shot[];
}
