/** What a project has been. */
export interface RevisionLine {
  id: string;
  /** The version it was saved as; null for one that lost a race and was kept beside. */
  version: number | null;
  /** Name of the edit that led to it. */
  label: string;
  /** ISO 8601. */
  savedAt: string;
  /** Picture of the proof kept at it, an asset's hash. */
  picture: string | null;
  /** Who saved it. */
  actor: string;
}
