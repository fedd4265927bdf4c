/** What drawings are read as. */
import type { DrawingRef } from '../document/index.ts';
import type { Course } from '../plane/curve.ts';
import type { Contour } from '../plane/flatten.ts';

/** A file that cannot become a drawing; the message says what and where. */
export class DrawingError extends Error {}

/** One painted shape, y up. */
export interface Painted {
  name: string;
  region: Contour[];
  /** The paint as the file names it. */
  paint: string;
  /** The lines that a pen followed, where the shape was drawn by one; null for filled shapes. */
  lines: Course[] | null;
}

/** A bitmap by its first bytes (PNG or JPEG), else a vector drawing. */
export const drawingKindOf = (bytes: Uint8Array): DrawingRef['kind'] =>
  (bytes[0] === 0x89 && bytes[1] === 0x50) || (bytes[0] === 0xff && bytes[1] === 0xd8) ? 'bitmap' : 'vector';
