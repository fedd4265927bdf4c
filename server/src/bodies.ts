/** What the API takes, checked at the door. */
import 'reflect-metadata';
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
  MaxLength,
  Min,
} from 'class-validator';
import { checkJson, Finish } from '@wemlox/core/src/document/index.ts';
import { One } from '@wemlox/core/src/document/rules.ts';
import {
  PRESS_FORMATS,
  PROJECT_ORDERS,
  type PressFormat,
  type ProjectQuery,
} from '@wemlox/store/src/index.ts';

export class NewProjectBody {
  @IsObject() document!: object;
  @IsOptional() @IsString() @MaxLength(200) label?: string;
}

export class SaveBody {
  @IsInt() @Min(1) @Max(2147483646) version!: number;
  @IsObject() document!: object;
  /** Names this save, so that sending it again is no second one. */
  @IsOptional() @Matches(/^[\w-]{8,40}$/) save?: string;
  /** Step of history: saves of one step are one revision. */
  @IsOptional() @Matches(/^[\w-]{8,40}$/) step?: string;
  /** Name of the edit. */
  @IsOptional() @IsString() @MaxLength(200) label?: string;
}

export class ListQuery implements ProjectQuery {
  @IsOptional() @IsString() @MaxLength(200) search?: string;
  @IsOptional() @IsIn(PROJECT_ORDERS) order?: (typeof PROJECT_ORDERS)[number];
  @IsOptional() @IsInt() @Min(0) @Max(1_000_000) offset?: number;
  @IsOptional() @IsInt() @Min(1) @Max(1000) limit?: number;

  /** A query string's texts as this query's kinds. */
  static of(query: Record<string, unknown>): object {
    const number = (value: unknown) =>
      typeof value === 'string' && /^\d+$/.test(value) ? Number(value) : value;
    return { ...query, offset: number(query.offset), limit: number(query.limit) };
  }
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
  @One(() => Finish) finish!: Finish;
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
export const checked = checkJson;
