/**
 * The document as it is drawn and traced at a time of a shot: as it is seen, with letters that move one after the
 * other wearing finishes of their own, and lights that follow late already lit by what was.
 */
import {
  finishAt,
  withValues,
  zonesOf,
  type ChartRule,
  type Finish,
  type Look,
  type Move,
  type Project,
  type Shot,
} from '../document/index.ts';
import { glowsIn } from '../finish/glow.ts';
import { followedBy } from '../light/following.ts';
import { lot } from '../maths/lot.ts';
import { pow } from '../maths/reproducible.ts';
import { asValue, motionsOf, numbersAt, shotIn, valuesAt, type Motion } from './seen.ts';
import { withStills } from './footage.ts';
import { shifted, timeOf } from './span.ts';

const OF_FINISH = /^finishes\/([^/]+)\//;

/** How many steps a letter is behind the first. @param at its place among `of` letters, in reading order */
function stepsBehind({ letters, seed }: Move, at: number, of: number): number {
  switch (letters) {
    case 'together':
      return 0;
    case 'reading':
      return at;
    case 'middle':
      return Math.abs(at - (of - 1) / 2);
    case 'random':
      return lot(at, 0, seed) * of;
  }
}

/** Finishes that are moved letter by letter, each with what moves them. */
function letterwise(motions: ReadonlyMap<string, Motion>): Map<string, Map<string, Motion>> {
  const found = new Map<string, Map<string, Motion>>();
  for (const [address, motion] of motions) {
    const [, finish] = OF_FINISH.exec(address) ?? [];
    if (finish === undefined || !motion.moves.some((m) => m.letters !== 'together')) continue;
    found.set(finish, (found.get(finish) ?? new Map<string, Motion>()).set(address, motion));
  }
  return found;
}

/** Gives letters that wear a moved finish one of their own, as late as they are. */
function withLetters(
  seen: Project,
  lookId: string,
  shot: Shot,
  time: number,
  motions: ReadonlyMap<string, Motion>,
): Project {
  const finishes: Finish[] = [];
  const rules: ChartRule[] = [];
  const chart = seen.looks.find((l) => l.id === lookId)!.chart;
  const wearing = seen.blocks.flatMap((block) =>
    block.letters.flatMap((letter) =>
      zonesOf(block).flatMap((zone) => {
        const finish = finishAt(chart, block.id, letter, zone);
        return finish === null ? [] : [{ block: block.id, letter, zone, finish }];
      }),
    ),
  );
  for (const [id, moving] of letterwise(motions)) {
    const worn = wearing.filter((w) => w.finish === id);
    const order = [...new Set(worn.map((w) => `${w.block}/${w.letter}`))];
    order.forEach((key, at) => {
      const own = `${id}~${at}`;
      const behind = (move: Move) => shifted(shot, time, -stepsBehind(move, at, order.length) * move.step);
      const values = new Map(
        [...moving].map(([address, motion]) => [
          address,
          asValue(motion.placed.parameter, numbersAt(motion, time, shot, behind)),
        ]),
      );
      const late = withValues(seen, values).finishes.find((f) => f.id === id);
      if (!late) return;
      finishes.push({ ...late, id: own });
      for (const { block, letter, zone } of worn.filter((w) => `${w.block}/${w.letter}` === key))
        rules.push({ block, letter, zone, finish: own });
    });
  }
  if (finishes.length === 0) return seen;
  return {
    ...seen,
    finishes: [...seen.finishes, ...finishes],
    looks: seen.looks.map((l) => (l.id === lookId ? { ...l, chart: [...l.chart, ...rules] } : l)),
  };
}

/** Lights that follow late shine as what they follow did then. */
function withDelays(seen: Project, lookId: string, at: (by: number) => Project): Project {
  const look = seen.looks.find((l) => l.id === lookId)!;
  if (!look.rig.some((l) => l.follows && l.follows.delay > 0)) return seen;
  const late = (light: Look['rig'][number]) => {
    if (!light.follows || light.follows.delay === 0) return light;
    const then = at(-light.follows.delay);
    const rig = then.looks.find((l) => l.id === lookId)!.rig;
    const led = followedBy(light, rig, glowsIn(then.finishes));
    if (!led) return light;
    const hue = light.follows.coloured ? led.hue : {};
    return { ...light, ...hue, strength: led.strength * pow(2, light.follows.offset), follows: null };
  };
  const rig = look.rig.map(late);
  return { ...seen, looks: seen.looks.map((l) => (l.id === lookId ? { ...l, rig } : l)) };
}

/**
 * The document at a picture of a shot, as it is drawn: itself where nothing changes.
 * @throws RangeError when there is no such look or shot
 */
export function shownAt(project: Project, lookId: string, shotId: string, frame: number): Project {
  const shot = shotIn(project, shotId);
  if (!project.looks.some((l) => l.id === lookId)) throw new RangeError(`the project has no look ${lookId}`);
  const motions = motionsOf(project, shot);
  const time = timeOf(shot, frame);
  const played = withStills(project, time);
  if (motions.size === 0) return played;
  const at = (t: number) => withValues(played, valuesAt(motions, t, shot));
  const seen = at(time);
  return withDelays(withLetters(seen, lookId, shot, time, motions), lookId, (by) =>
    at(shifted(shot, time, by)),
  );
}
