/** Identifier of the picture as a place that finishes are dropped on. */
export const PICTURE = 'picture';
