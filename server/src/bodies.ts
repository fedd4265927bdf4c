/** What the API takes, checked at the door. */
import 'reflect-metadata';
import { plainToInstance, Type, type ClassConstructor } from 'class-transformer';
import {
  IsBoolean,
  IsIn,
  IsInt,
  IsObject,
  IsOptional,
  IsString,
  Length,
  Matches,
  Max,
  Min,
  ValidateNested,
  validateSync,
} from 'class-validator';
import { DocumentError, Finish, problemLines } from '@wemlox/core/src/document/index.ts';
import { PRESS_FORMATS, type PressFormat } from '@wemlox/store/src/index.ts';

export class NewProjectBody {
  @IsObject() document!: object;
}

export class SaveBody {
  @IsInt() @Min(1) version!: number;
  @IsObject() document!: object;
}

export class ProofBody {
  @IsString() @Length(1, 200) name!: string;
  @IsString() @Length(1, 64) look!: string;
  @IsString() @Length(1, 64) shot!: string;
  @Matches(/^[0-9a-f]{64}$/) picture!: string;
  @IsInt() @Min(1) @Max(16384) width!: number;
  @IsInt() @Min(1) @Max(16384) height!: number;
  @IsInt() @Min(1) @Max(1_000_000) samples!: number;
  @IsInt() @Min(0) @Max(4294967295) seed!: number;
  @IsString() @Length(1, 64) renderer!: string;
  @IsObject() document!: object;
}

export class FinishBody {
  @IsObject() @ValidateNested() @Type(() => Finish) finish!: Finish;
}

export class PressBody {
  @IsString() @Length(1, 200) name!: string;
  @IsString() @Length(1, 64) look!: string;
  @IsString() @Length(1, 64) shot!: string;
  @IsInt() @Min(1) @Max(16384) width!: number;
  @IsInt() @Min(1) @Max(16384) height!: number;
  @IsInt() @Min(1) @Max(65536) samples!: number;
  @IsInt() @Min(0) @Max(4294967295) seed!: number;
  @IsIn(PRESS_FORMATS) format!: PressFormat;
  @IsBoolean() alpha!: boolean;
  @IsBoolean() layers!: boolean;
  @IsObject() document!: object;
}

export class AssetQuery {
  @IsIn(['font', 'surround', 'drawing', 'proof']) kind!: 'font' | 'surround' | 'drawing' | 'proof';
  @IsOptional() @IsString() @Length(1, 200) name?: string;
}

/** @throws DocumentError naming each field that is wrong */
export function checked<T extends object>(type: ClassConstructor<T>, body: unknown): T {
  if (typeof body !== 'object' || body === null) throw new DocumentError(['the body is not an object']);
  const instance = plainToInstance(type, body);
  const errors = validateSync(instance, { forbidUnknownValues: true });
  if (errors.length > 0) throw new DocumentError(problemLines(errors));
  return instance;
}
