/** Files that a scene's letters can be saved as. */
export const EXPORT_KINDS = ['glb', 'obj', 'svg'] as const;
export type ExportKind = (typeof EXPORT_KINDS)[number];
