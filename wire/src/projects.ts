/** Projects as they are listed, read and saved. */
import 'reflect-metadata';
import { IsIn, IsInt, IsObject, IsOptional, IsString, Matches, Max, MaxLength, Min } from 'class-validator';

export interface ProjectLine {
  id: string;
  name: string;
  version: number;
  /** ISO 8601, with its offset. */
  updatedAt: string;
  /** First look, to open. */
  look: string;
  /** Picture of the latest proof, an asset's hash. */
  picture: string | null;
  proofs: number;
}

export interface ProjectPage {
  /** How many match in all. */
  total: number;
  projects: ProjectLine[];
}

/** A project as it is kept. The document is plain JSON until it has passed the document's door. */
export interface StoredProject {
  id: string;
  version: number;
  document: unknown;
}

/** What a save is answered with. */
export type SavedProject = Pick<StoredProject, 'id' | 'version'>;

/** Somebody saved first: what the project is now, and the revision ours is kept as. */
export interface SaveConflict {
  current: StoredProject;
  keptAs: string;
}

export const PROJECT_ORDERS = ['changed', 'name', 'words'] as const;
export type ProjectOrder = (typeof PROJECT_ORDERS)[number];

/** Which projects a list shows; all of them, the last changed first, when nothing is asked. */
export class ProjectQuery {
  /** Part of the name or of the words in the type, in any case. */
  @IsOptional() @IsString() @MaxLength(200) search?: string;
  @IsOptional() @IsIn(PROJECT_ORDERS) order?: ProjectOrder;
  @IsOptional() @IsInt() @Min(0) @Max(1_000_000) offset?: number;
  @IsOptional() @IsInt() @Min(1) @Max(1000) limit?: number;

  /** A query string's texts as this query's kinds. */
  static of(query: Record<string, unknown>): object {
    const number = (value: unknown) =>
      typeof value === 'string' && /^\d+$/.test(value) ? Number(value) : value;
    return { ...query, offset: number(query.offset), limit: number(query.limit) };
  }
}

export class NewProject {
  @IsObject() document!: object;
  @IsOptional() @IsString() @MaxLength(200) label?: string;
}

/** A project saved on top of a version. */
export class ProjectSave {
  @IsInt() @Min(1) @Max(2147483646) version!: number;
  @IsObject() document!: object;
  /** Names this save, so that sending it again is no second one. */
  @IsOptional() @Matches(/^[\w-]{8,40}$/) save?: string;
  /** Step of history: saves of one step are one revision. */
  @IsOptional() @Matches(/^[\w-]{8,40}$/) step?: string;
  /** Name of the edit. */
  @IsOptional() @IsString() @MaxLength(200) label?: string;
}
