/** The words of a block: what stands between its spaces and line breaks. */
import type { Block } from './block.ts';

/** Which word each character is of, from 0, by its lasting identifier; spaces are of none. */
export function wordsOf({ text, letters }: Pick<Block, 'text' | 'letters'>): Map<string, number> {
  const out = new Map<string, number>();
  let [word, inWord] = [-1, false];
  [...text].forEach((character, i) => {
    const ink = character.trim() !== '';
    if (ink && !inWord) word++;
    inWord = ink;
    const letter = letters[i];
    if (ink && letter !== undefined) out.set(letter, word);
  });
  return out;
}
