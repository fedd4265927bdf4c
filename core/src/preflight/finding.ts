/** What an artist should know before the picture is final: facts, which the screen puts into words. */

/** What can be found, with the facts each comes with. */
export interface Facts {
  /** A font could not be used, and another stands in. */
  'font-replaced': { font: string; instead: string; reason: string };
  /** A drawing could not be used; nothing stands in. */
  'drawing-unusable': { drawing: string; reason: string };
  /** Parts of a drawing that are no outlines were left out. */
  'drawing-left-out': { drawing: string; parts: string[] };
  /** An environment could not be used, and another stands in. */
  'surround-replaced': { surround: string; instead: string; reason: string };
  /** A picture that a finish is fed from could not be used; grey stands in. */
  'picture-replaced': { picture: string; finishes: string[]; reason: string };
  /** A file of a light or panel could not be used: it shines as without. */
  'light-file-left-out': { light: string; file: string; reason: string };
  /** A model could not be used; nothing stands in. */
  'model-left-out': { model: string; reason: string };
  /** What of a model's file was not read. */
  'model-unread': { model: string; parts: string[] };
  /** Outlines that cross themselves too often are left out. */
  'outline-tangled': { texts: string[] };
  /** Outlines too intricate for a bevel or a dome stay flat. */
  'outline-flat': { texts: string[] };
}
export type FindingCode = keyof Facts;

/** What mends a finding; null where nothing does but another file. */
export type Mend =
  | 'choose-font'
  | 'choose-surround'
  | 'choose-picture'
  | 'choose-light-file'
  | 'replace-drawing'
  | 'simplify-outline'
  | null;

export type Finding = {
  [C in FindingCode]: {
    code: C;
    /** The block it is about; null for what is about the whole look. */
    where: { block: string | null };
    what: Facts[C];
    mend: Mend;
    /** The picture is not what the document says: a render that must be exact stops. */
    grave: boolean;
  };
}[FindingCode];

const MENDS: Record<FindingCode, { mend: Mend; grave: boolean }> = {
  'font-replaced': { mend: 'choose-font', grave: true },
  'drawing-unusable': { mend: 'replace-drawing', grave: true },
  'drawing-left-out': { mend: null, grave: false },
  'surround-replaced': { mend: 'choose-surround', grave: true },
  'picture-replaced': { mend: 'choose-picture', grave: true },
  'light-file-left-out': { mend: 'choose-light-file', grave: true },
  'model-left-out': { mend: null, grave: true },
  'model-unread': { mend: null, grave: false },
  'outline-tangled': { mend: 'simplify-outline', grave: true },
  'outline-flat': { mend: 'simplify-outline', grave: true },
};

/** A finding of a kind. */
export const finding = <C extends FindingCode>(code: C, block: string | null, what: Facts[C]): Finding =>
  ({ code, where: { block }, what, ...MENDS[code] }) as Finding;
