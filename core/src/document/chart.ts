/** The finish chart: which finish each zone of each letter wears. */
import type { Zone } from './kinds.ts';
import type { ChartRule } from './look.ts';

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
