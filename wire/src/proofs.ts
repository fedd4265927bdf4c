/** Kept proofs: a traced picture with the exact state that made it. */
import 'reflect-metadata';
import { IsInt, IsNumber, IsObject, IsOptional, IsString, Length, Matches, Max, Min } from 'class-validator';
import { MOST_FRAMES } from './press.ts';

export class ProofFacts {
  @IsString() @Length(1, 200) name!: string;
  @IsString() @Length(1, 64) look!: string;
  @IsString() @Length(1, 64) shot!: string;
  /** The picture as it was shown, a PNG, by its asset's hash. */
  @Matches(/^[0-9a-f]{64}$/) picture!: string;
  /** The linear film with its layers, a half-float EXR, by its asset's hash; older proofs have none. */
  @IsOptional() @Matches(/^[0-9a-f]{64}$/) film?: string | null;
  /** Picture of the shot it shows; the first when it is left out. */
  @IsOptional() @IsNumber() @Min(0) @Max(MOST_FRAMES) frame?: number;
  @IsInt() @Min(1) @Max(16384) width!: number;
  @IsInt() @Min(1) @Max(16384) height!: number;
  @IsInt() @Min(1) @Max(1_000_000) samples!: number;
  @IsInt() @Min(0) @Max(4294967295) seed!: number;
  @IsString() @Length(1, 64) renderer!: string;
}

export class NewProof extends ProofFacts {
  @IsObject() document!: object;
}

export interface ProofLine extends ProofFacts {
  id: string;
  /** ISO 8601. */
  keptAt: string;
  /** Who kept it. */
  actor: string;
}
