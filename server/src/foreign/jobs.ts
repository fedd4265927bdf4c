/** What is asked of a reading process, and what it answers. */
import type { Project } from '@wemlox/core/document';
import type { AssetLine, UploadKind } from '@wemlox/wire';

export type ReadingJob =
  | { kind: UploadKind; path: string }
  /** Assets of the project are laid into `folder`, each under its hash. */
  | { kind: 'project'; path: string; folder: string };

export interface ReadProject {
  project: Project;
  assets: { kind: UploadKind; hash: string; name: string; facts: AssetLine['facts'] }[];
}

/** What a file says. */
export interface ReadAsset {
  /** Name it gives itself; null when it has none. */
  ownName: string | null;
  facts: AssetLine['facts'];
}

/** A file that cannot be used: what kind of thing is wrong, and what. */
export interface Unreadable {
  title: string;
  message: string;
  problems?: string[];
}

/** A file that cannot be used, as the process that read it said. */
export class UnreadableError extends Error {
  readonly title: string;
  readonly problems: string[] | undefined;
  constructor({ title, message, problems }: Unreadable) {
    super(message);
    this.title = title;
    this.problems = problems;
  }
}

export type ReadingAnswer = { done: ReadProject | ReadAsset } | { unreadable: Unreadable };
