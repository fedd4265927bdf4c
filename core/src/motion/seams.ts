/** Whether a loop closes: jumps from its last picture to its first. */
import type { Project } from '../document/index.ts';
import { motionsOf, numbersAt, shotIn } from './seen.ts';
import { framesOf, timeOf } from './span.ts';

/** A jump this many times what the value does elsewhere is one. */
const JUMP = 2;
/** Ways shorter than this share of the value's reach are rounding. */
const NOTHING = 1e-9;

/** A value that jumps where the loop closes. */
export interface Seam {
  address: string;
  /** How many times as far it goes there as it ever does between two pictures elsewhere. */
  times: number;
}

/**
 * Values of a shot that jump where it closes, the greatest jump first; none where it does not loop. Flicker and
 * switches, and what holds its keys, jump anyway, and are measured by their own jumps.
 * @throws RangeError when there is no such shot
 */
export function seams(project: Project, shotId: string): Seam[] {
  const shot = shotIn(project, shotId);
  if (!shot.loops) return [];
  const n = framesOf(shot);
  const found: Seam[] = [];
  for (const [address, motion] of motionsOf(project, shot)) {
    const { parameter } = motion.placed;
    // angles that go all the way round come back to themselves
    const round = parameter.kind === 'number' && parameter.unit.sign === '°' ? 2 * Math.PI : 0;
    const values = Array.from({ length: n }, (_, f) => numbersAt(motion, timeOf(shot, f), shot));
    const way = (a: readonly number[], b: readonly number[]) =>
      Math.max(
        ...a.map((v, i) => {
          const by = v - b[i]!;
          return Math.abs(round > 0 ? by - round * Math.round(by / round) : by);
        }),
      );
    const elsewhere = Math.max(0, ...values.slice(1).map((v, f) => way(v, values[f]!)));
    const seam = way(values[0]!, values[n - 1]!);
    const reach = Math.max(...values.flat().map(Math.abs));
    if (seam > NOTHING * reach && seam > JUMP * elsewhere) found.push({ address, times: seam / elsewhere });
  }
  return found.sort((a, b) => b.times - a.times);
}
