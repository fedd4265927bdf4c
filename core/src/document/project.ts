/** The project document: everything an artist has decided, as plain JSON. */
import { Type } from 'class-transformer';
import { ArrayMaxSize, ArrayMinSize, Equals, IsArray, ValidateNested } from 'class-validator';
import { Block } from './block.ts';
import { Finish } from './finish.ts';
import { Look } from './look.ts';
import { Name } from './rules.ts';
import { Piece, Shot } from './stage.ts';

export const FORMAT = 'wemlox-project';
export const VERSION = 3;

export class Project {
  @Equals(FORMAT) format!: typeof FORMAT;
  @Equals(VERSION) version!: typeof VERSION;
  @Name() name!: string;
  @IsArray() @ArrayMaxSize(100) @ValidateNested({ each: true }) @Type(() => Block) blocks!: Block[];
  @IsArray() @ArrayMaxSize(1000) @ValidateNested({ each: true }) @Type(() => Finish) finishes!: Finish[];
  @IsArray() @ArrayMaxSize(50) @ValidateNested({ each: true }) @Type(() => Piece) pieces!: Piece[];
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(200)
  @ValidateNested({ each: true })
  @Type(() => Look)
  looks!: Look[];
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(200)
  @ValidateNested({ each: true })
  @Type(() => Shot)
  shots!: Shot[];
}
