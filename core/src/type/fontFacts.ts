/** What a font says of itself: axes, switchable features, licence and embedding rights (OpenType OS/2, name, fvar, GSUB). */
import type { Face } from 'harfbuzzjs';

export interface FontAxis {
  tag: string;
  name: string;
  min: number;
  initial: number;
  max: number;
}

export interface FontFeature {
  tag: string;
  name: string;
  /** Whether shaping applies it unasked. */
  byItself: boolean;
}

export const EMBEDDINGS = ['installable', 'restricted', 'preview', 'editable', 'unknown'] as const;
export type Embedding = (typeof EMBEDDINGS)[number];

export interface FontFacts {
  name: string;
  axes: FontAxis[];
  features: FontFeature[];
  /** Licence text and address as the font gives them; empty when it gives none. */
  licence: string;
  licenceAddress: string;
  embedding: Embedding;
}

/** Features an artist switches, with the OpenType registry's names; ss01 … ss20 and cv01 … follow by number. */
const FEATURE_NAMES: Record<string, string> = {
  liga: 'Ligatures',
  clig: 'Contextual ligatures',
  dlig: 'Rare ligatures',
  hlig: 'Historical ligatures',
  calt: 'Contextual forms',
  kern: 'Kerning',
  swsh: 'Swashes',
  salt: 'Stylistic alternates',
  titl: 'Titling',
  smcp: 'Small capitals',
  c2sc: 'Capitals to small capitals',
  case: 'Case-sensitive forms',
  onum: 'Old-style figures',
  lnum: 'Lining figures',
  pnum: 'Proportional figures',
  tnum: 'Tabular figures',
  frac: 'Fractions',
  ordn: 'Ordinals',
  sups: 'Superscript',
  subs: 'Subscript',
  zero: 'Slashed zero',
};
const BY_ITSELF = new Set(['liga', 'clig', 'calt', 'kern']);

const LONGEST_LICENCE = 600;
/** Name IDs of the OpenType name table. */
const NAME = { family: 1, licence: 13, licenceAddress: 14, typographicFamily: 16 };

function featureName(face: Face, table: 'GSUB' | 'GPOS', index: number, tag: string): string | null {
  if (FEATURE_NAMES[tag]) return FEATURE_NAMES[tag];
  const numbered = /^(ss|cv)(\d\d)$/.exec(tag);
  if (!numbered) return null;
  const label = face.getFeatureNameIds(table, index)?.uiLabelNameId;
  const own = label === undefined ? '' : face.getName(label, 'en');
  const plain = `${numbered[1] === 'ss' ? 'Stylistic set' : 'Character variant'} ${Number(numbered[2])}`;
  return own ? `${plain}: ${own}` : plain;
}

function featuresOf(face: Face): FontFeature[] {
  const found = new Map<string, FontFeature>();
  for (const table of ['GSUB', 'GPOS'] as const) {
    face.getTableFeatureTags(table).forEach((tag, index) => {
      const name = found.has(tag) ? null : featureName(face, table, index, tag);
      if (name) found.set(tag, { tag, name, byItself: BY_ITSELF.has(tag) });
    });
  }
  return [...found.values()].sort((a, b) => a.name.localeCompare(b.name, 'en', { numeric: true }));
}

/** Embedding rights: bits 1 to 3 of OS/2 fsType (OpenType 1.9, OS/2). */
function embeddingOf(face: Face): Embedding {
  const os2 = face.referenceTable('OS/2');
  if (!os2 || os2.length < 10) return 'unknown';
  const bits = (os2[8] << 8) | os2[9];
  if (bits & 2) return 'restricted';
  if (bits & 8) return 'editable';
  return bits & 4 ? 'preview' : 'installable';
}

/** @param licence where the font itself names none */
export function factsOf(face: Face, licence = ''): FontFacts {
  const name = (id: number) => face.getName(id, 'en').trim();
  return {
    name: (name(NAME.typographicFamily) || name(NAME.family) || 'Unnamed font').slice(0, 200),
    axes: Object.values(face.getAxisInfos()).map((a) => ({
      tag: a.tag,
      name: face.getName(a.nameId, 'en') || a.tag,
      min: a.min,
      initial: a.default,
      max: a.max,
    })),
    features: featuresOf(face),
    licence: name(NAME.licence).slice(0, LONGEST_LICENCE) || licence,
    licenceAddress: name(NAME.licenceAddress).slice(0, 200),
    embedding: embeddingOf(face),
  };
}
