/** Edits that dress many letters at once: by a pattern over the text, or after the dress of another letter. */
import { wordsOf } from '../document/words.ts';
import {
  finishAt,
  MOST,
  zonesOf,
  type Block,
  type ChartRule,
  type Look,
  type Project,
  type Zone,
} from '../document/index.ts';
import { lot } from '../maths/lot.ts';
import { EditRefused, found, room, type Edit } from './edit.ts';
import { characterOf } from './finishes.ts';

/** A letter by its block. */
interface Place {
  block: string;
  letter: string;
}

/**
 * Letters of a look in groups that the chart shows as one: of one block, of the same character, dressed alike on every
 * zone. Groups stand in the order of their first letters; spaces are none.
 */
export function alikeLetters({ blocks }: Pick<Project, 'blocks'>, { chart }: Pick<Look, 'chart'>): Place[][] {
  const groups = new Map<string, Place[]>();
  for (const block of blocks) {
    const zones = zonesOf(block);
    [...block.text].forEach((character, i) => {
      const letter = block.letters[i];
      if (letter === undefined || /\s/.test(character)) return;
      const worn = zones.map((zone) => finishAt(chart, block.id, letter, zone));
      const key = JSON.stringify([block.id, character, worn]);
      const group = groups.get(key);
      if (group) group.push({ block: block.id, letter });
      else groups.set(key, [{ block: block.id, letter }]);
    });
  }
  return [...groups.values()];
}

/** Ways to pick letters out of a text. */
export const PATTERNS = {
  second: 'Every second letter',
  vowels: 'Vowels',
  initials: 'First of each word',
  words: 'Every second word',
  random: 'Half at random',
} as const;
export type Pattern = keyof typeof PATTERNS;

const VOWELS = /^[aeiouyäöüåæøàáâãèéêëìíîïòóôõùúûœ]$/iu;

/** Identifiers of a block's letters that a pattern picks; spaces are none. @param seed of what is random */
export function picked({ text, letters }: Block, pattern: Pattern, seed = 1): string[] {
  const out: string[] = [];
  const words = wordsOf({ text, letters });
  let [letter, before] = [0, -1];
  [...text].forEach((character, i) => {
    const id = letters[i];
    const word = id === undefined ? undefined : words.get(id);
    if (id === undefined || word === undefined) return;
    const first = word !== before;
    before = word;
    const takes = {
      second: letter % 2 === 0,
      vowels: VOWELS.test(character),
      initials: first,
      words: word % 2 === 0,
      random: lot(letter, 0, seed) < 0.5,
    }[pattern];
    letter++;
    if (takes) out.push(id);
  });
  return out;
}

/** A chart with rules of single letters in the place of others: these win over all that name no letter. */
export function withLetters(
  chart: readonly ChartRule[],
  gone: (rule: ChartRule) => boolean,
  rules: readonly ChartRule[],
): ChartRule[] {
  const made = [...chart.filter((r) => !gone(r)), ...rules];
  room(made, MOST.rules, 'rules in a chart', 0);
  return made;
}

/** Lays a finish on the letters a pattern picks. @param zone of each, or all of them when null */
export function dressPattern(
  project: Project,
  look: string,
  block: string,
  pattern: Pattern,
  zone: Zone | null,
  finish: string | null,
  seed = 1,
): Edit {
  const of = found(project.blocks, block, 'block');
  const letters = picked(of, pattern, seed);
  if (letters.length === 0) throw new EditRefused('no letter of this text is one of those');
  const name = finish === null ? 'nothing' : found(project.finishes, finish, 'finish').name;
  return {
    label: `${PATTERNS[pattern]} → ${name}`,
    make: (p) => {
      const at = found(p.looks, look, 'look');
      const of = new Set(letters);
      const gone = (r: ChartRule) =>
        r.letter !== undefined && of.has(r.letter) && (zone === null || r.zone === zone);
      const rules = letters.map((letter) => ({ block, letter, ...(zone === null ? {} : { zone }), finish }));
      at.chart = withLetters(at.chart, gone, rules);
    },
  };
}

/** Dresses letters as another is dressed, zone by zone. @param to block and letter of each */
export function copyDress(project: Project, look: string, from: Place, to: readonly Place[]): Edit {
  const of = found(project.blocks, from.block, 'block');
  const { chart } = found(project.looks, look, 'look');
  const worn = zonesOf(of)
    .filter((zone) => zone !== 'points')
    .map((zone) => ({ zone, finish: finishAt(chart, from.block, from.letter, zone) }));
  const others = to.filter((t) => t.letter !== from.letter || t.block !== from.block);
  if (others.length === 0) throw new EditRefused('there is no other letter to dress');
  return {
    label: `Dress of ${characterOf(project, from)} → ${others.length} letters`,
    make: (p) => {
      const at = found(p.looks, look, 'look');
      const of = new Set(others.map((o) => o.letter));
      const rules = others.flatMap(({ block, letter }) =>
        worn.map(({ zone, finish }) => ({ block, letter, zone, finish })),
      );
      at.chart = withLetters(at.chart, (r) => r.letter !== undefined && of.has(r.letter), rules);
    },
  };
}
