/** The project document: everything an artist has decided, as plain JSON. */
import { Equals } from 'class-validator';
import { Block } from './block.ts';
import { Finish } from './finish.ts';
import { Look } from './look.ts';
import { Many, Name } from './rules.ts';
import { Piece, Shot } from './stage.ts';

export const FORMAT = 'wemlox-project';
export const VERSION = 3;

export class Project {
  @Equals(FORMAT) format!: typeof FORMAT;
  @Equals(VERSION) version!: typeof VERSION;
  @Name() name!: string;
  @Many(() => Block, 100) blocks!: Block[];
  @Many(() => Finish, 1000) finishes!: Finish[];
  @Many(() => Piece, 50) pieces!: Piece[];
  @Many(() => Look, 200, 1) looks!: Look[];
  @Many(() => Shot, 200, 1) shots!: Shot[];
}
