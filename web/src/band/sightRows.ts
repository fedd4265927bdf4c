/** Where each row of faces looks, as it was counted last: what sightlines are drawn from, wherever they are drawn. */
import { useMemo } from 'react';
import { rowKey, rowName, useLightChart } from '../state/light.ts';
import { useStudio } from '../state/studio.ts';

/** Rows with most places are named, others when they are pointed at. */
const NAMED = 3;
/** Densities at which contours are drawn, of each row's most. */
export const SIGHT_LEVELS = [0.25, 0.7];
const COLOURS = ['#7fe0b8', '#f2c14e', '#8fb6ff', '#ff8f8f', '#d7a3ff', '#c9c9c9'];

export interface SightRow {
  key: string;
  name: string;
  colour: string;
  /** Whether it is named though it is not pointed at. */
  named: boolean;
  /** Density by pictures' directions: `SIGHT_ACROSS` × `SIGHT_DOWN`, the most 1. */
  map: ArrayLike<number>;
}

export function useSightRows(): SightRow[] {
  const counted = useLightChart((l) => l.counted);
  const pieces = useStudio((s) => s.seen.pieces);
  return useMemo(() => {
    if (!counted?.sight) return [];
    const { rows, sight, chart } = counted;
    return rows.flatMap((row, i): SightRow[] => {
      if (chart.places[i] === 0 || !sight[i].some((v) => v > 0)) return [];
      const larger = chart.places.filter((p) => p > chart.places[i]).length;
      const colour = COLOURS[i % COLOURS.length];
      return [{ key: rowKey(row), name: rowName(row, pieces), colour, named: larger < NAMED, map: sight[i] }];
    });
  }, [counted, pieces]);
}
