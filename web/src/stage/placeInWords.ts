/** Where a brush led by keys stands, for those who hear it. */
import { targetName } from '@wemlox/core/edits';
import { nameOf } from '../actions/catch.ts';
import type { Picked } from '../engine/pick.ts';
import { useStudio } from '../state/studio.ts';

/** A letter's zone, or a piece; null is beside all of them. */
export function placeInWords(hit: Picked | null): string {
  if (!hit) return 'Beside what can be reached';
  const { block, letter, zone } = hit;
  if (!block || !letter || !zone) return `On ${nameOf(hit)}`;
  return `On ${targetName(useStudio.getState().seen, { block, letter, zone })}`;
}
