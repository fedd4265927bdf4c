/** The library of rigs. */
import 'reflect-metadata';
import { IsInt, IsObject, Max, Min } from 'class-validator';

/** A rig of the library as it is kept: plain JSON, in the document version it was kept in. */
export interface StoredRig {
  id: string;
  version: number;
  rig: unknown;
}

export class NewRig {
  /** Document version the rig is written in. */
  @IsInt() @Min(1) @Max(1_000_000) version!: number;
  @IsObject() rig!: object;
}
