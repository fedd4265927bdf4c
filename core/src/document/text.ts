/** Text that can be kept: well-formed, without NUL, and cut by whole characters. */

/** Whether the database and every other reader can hold a text: no half surrogates, no NUL. */
export const isStorable = (text: string): boolean => text.isWellFormed() && !text.includes('\0');

/** The text without what cannot be kept. */
export const storable = (text: string): string =>
  isStorable(text) ? text : text.replaceAll('\0', '').toWellFormed();

const graphemes = new Intl.Segmenter(undefined, { granularity: 'grapheme' });

/**
 * The beginning of a text in at most `most` UTF-16 units, cut between characters as people see them
 * (extended grapheme clusters, Unicode UAX #29).
 */
export function cutTo(text: string, most: number): string {
  const kept = storable(text);
  if (kept.length <= most) return kept;
  let out = '';
  for (const { segment } of graphemes.segment(kept)) {
    if (out.length + segment.length > most) break;
    out += segment;
  }
  return out;
}

/** Longest display name, UTF-16 units. */
export const LONGEST_NAME = 120;
export const cutName = (text: string) => cutTo(text, LONGEST_NAME);
