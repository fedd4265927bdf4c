/** The library of finishes. */
import 'reflect-metadata';
import { IsInt, IsObject, Max, Min } from 'class-validator';

/** A finish of the library as it is kept: plain JSON, in the document version it was kept in. */
export interface StoredFinish {
  version: number;
  finish: unknown;
}

export class NewFinish {
  /** Document version the finish is written in. */
  @IsInt() @Min(1) @Max(1_000_000) version!: number;
  @IsObject() finish!: object;
}
