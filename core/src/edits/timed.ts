/** Edits made at a time of a shot: what is seen then is what is edited, and what is keyed becomes a key. */
import { original } from 'immer';
import { fitting, parameterAt, sameJson, type Project } from '../document/index.ts';
import { asNumbers, motionsOf, numbersAt, valuesAt, type Motion } from '../motion/seen.ts';
import { timeOf } from '../motion/span.ts';
import type { Edit } from './edit.ts';
import { keyParameter } from './motion.ts';

/** Plain copies of values, so that a draft's lists are not taken along. */
const plain = <T>(value: T): T => (Array.isArray(value) ? ([...value] as T) : value);

/** What a parameter is to be without its moves, where it was set to a value with them on top. */
function without(motion: Motion, before: unknown, after: unknown, numbers: readonly number[]): unknown {
  if (motion.moves.length === 0 || typeof after === 'boolean') return after;
  const [was, is] = [asNumbers(before), asNumbers(after)];
  const set = numbers.map((v, i) => v + is[i]! - was[i]!);
  return fitting(motion.placed.parameter, Array.isArray(after) ? set : set[0]);
}

/**
 * An edit of what is seen at a picture of a shot. What it changes of keyed parameters is keyed there; what moves by
 * itself is changed by as much beneath its moves; what is seen and not changed stays what it is.
 * @param edit made from the document as it is seen
 */
export function timed(edit: Edit, shotId: string, frame: number): Edit {
  if (edit.whole) return edit;
  return {
    ...edit,
    make: (draft) => {
      const base = original(draft) as Project | undefined;
      const shot = base?.shots.find((s) => s.id === shotId);
      const motions = base && shot ? motionsOf(base, shot) : null;
      if (!base || !shot || !motions || motions.size === 0) {
        edit.make(draft);
        return;
      }
      const time = timeOf(shot, frame);
      const values = valuesAt(motions, time, shot);
      for (const [address, value] of values) {
        const placed = parameterAt(draft, address);
        if (placed) placed.owner[placed.key] = plain(value);
      }
      edit.make(draft);
      for (const [address, motion] of motions) {
        const placed = parameterAt(draft, address);
        // what was removed, or another thing that has its place, is left as the edit made it
        if (!placed || placed.parameter.kind !== motion.placed.parameter.kind) continue;
        const stays = draft.shots.find((s) => s.id === shotId);
        const keyed = motion.track && stays?.tracks.some((t) => t.id === motion.track!.id);
        const after = plain(placed.owner[placed.key]);
        const old = motion.placed.owner[motion.placed.key];
        const own = motion.track ? numbersAt({ ...motion, moves: [] }, time, shot) : asNumbers(old);
        if (sameJson(after, values.get(address))) {
          // without its track it stays as it was seen
          if (!motion.track || keyed) placed.owner[placed.key] = old;
          continue;
        }
        const set = without(motion, values.get(address), after, own);
        if (keyed) {
          placed.owner[placed.key] = old;
          keyParameter(base, shotId, address, time, set).make(draft);
        } else placed.owner[placed.key] = set;
      }
    },
  };
}
