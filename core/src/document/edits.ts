/** Edits of the document that need thought, as pure functions. */
import { nanoid } from 'nanoid';
import type { Block, Zone } from './block.ts';
import type { ChartRule } from './look.ts';

/** A fresh identifier. */
export const newId = () => nanoid(10);

/**
 * The block with a new text. Characters before and after the changed stretch keep their identifiers, and so
 * do replaced ones as far as they go, so that the word keeps its dress.
 */
export function withText(block: Block, text: string): Pick<Block, 'text' | 'letters'> {
  const before = [...block.text];
  const after = [...text];
  const shorter = Math.min(before.length, after.length);
  let head = 0;
  while (head < shorter && before[head] === after[head]) head++;
  let tail = 0;
  while (tail < shorter - head && before[before.length - 1 - tail] === after[after.length - 1 - tail]) tail++;
  const kept = block.letters.slice(head, block.letters.length - tail);
  const middle = after.slice(head, after.length - tail).map((_, i) => kept[i] ?? newId());
  return {
    text,
    letters: [
      ...block.letters.slice(0, head),
      ...middle,
      ...block.letters.slice(block.letters.length - tail, tail === 0 ? 0 : undefined),
    ],
  };
}

/** Where a finish is dropped: all three left out means everything. */
export interface ChartTarget {
  block?: string;
  letter?: string;
  zone?: Zone;
}

const weight = (rule: ChartTarget) =>
  (rule.letter === undefined ? 0 : 4) +
  (rule.zone === undefined ? 0 : 2) +
  (rule.block === undefined ? 0 : 1);

const covers = (wide: ChartTarget, narrow: ChartTarget) =>
  (wide.block === undefined || wide.block === narrow.block) &&
  (wide.letter === undefined || wide.letter === narrow.letter) &&
  (wide.zone === undefined || wide.zone === narrow.zone);

/** The chart after dropping a finish (or null to clear): what the drop covers gives way to it. */
export function withRule(chart: ChartRule[], target: ChartTarget, finish: string | null): ChartRule[] {
  const rule: ChartRule = { ...target, finish };
  const kept = chart.filter((old) => !covers(target, old));
  // a row drop must also win where a column rule crosses it: restate those crossings
  const crossings = kept
    .filter((old) => weight(old) > weight(target) && compatible(old, target))
    .map((old) => ({ ...old, ...target, finish }));
  return [...kept, rule, ...crossings];
}

const compatible = (a: ChartTarget, b: ChartTarget) =>
  (a.block === undefined || b.block === undefined || a.block === b.block) &&
  (a.letter === undefined || b.letter === undefined || a.letter === b.letter) &&
  (a.zone === undefined || b.zone === undefined || a.zone === b.zone);

/** The finish of one zone of one letter: the most specific rule wins, of equals the later; null when bare. */
export function finishAt(chart: ChartRule[], block: string, letter: string, zone: Zone): string | null {
  let best: ChartRule | null = null;
  for (const rule of chart) {
    if (!covers(rule, { block, letter, zone })) continue;
    if (best === null || weight(rule) >= weight(best)) best = rule;
  }
  return best?.finish ?? null;
}
