/** Files that a scene's letters can be saved as. */
export const EXPORT_KINDS = ['glb', 'obj', 'svg'] as const;
export type ExportKind = (typeof EXPORT_KINDS)[number];

/** Pixels of eight bits, r g b a, from the top left on. */
export interface BakedPicture {
  width: number;
  height: number;
  data: Uint8Array;
}

/** A part's finish as pictures; null where it is the same all over. */
export interface BakedPart {
  /** Two for each corner, 0 … 1 from the pictures' left and top. */
  coordinates: Float32Array;
  /** Base colour (sRGB) and opacity. */
  base: BakedPicture | null;
  /** Whether nothing of it lets through what is behind it. */
  opaque: boolean;
  /** Roughness in green, metalness in blue. */
  gloss: BakedPicture | null;
  /** Light of its own (sRGB), of the strongest of which so many nits are all. */
  light: (BakedPicture & { strongest: number }) | null;
}
