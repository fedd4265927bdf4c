/** A finish: an OpenPBR surface under a name. Parameter names and ranges follow the OpenPBR 1.1 standard. */
import { IsIn, IsString } from 'class-validator';
import { FAMILIES, type Family } from './kinds.ts';
import { Parameters } from './parameter.ts';
import { SURFACE } from './parameters.ts';
import { Id, Name, One } from './rules.ts';

export class Surface extends Parameters(SURFACE) {}

export class Finish {
  @Id() id!: string;
  @Name() name!: string;
  @IsString() @IsIn(FAMILIES) family!: Family;
  @One(() => Surface) surface!: Surface;
}
