/**
 * The document as it is drawn and traced at a time of a shot: as it is seen, with letters that move one after the
 * other wearing finishes of their own, and lights that follow late already lit by what was.
 */
import {
  finishAt,
  newPose,
  withValues,
  zonesOf,
  type ChartRule,
  type Finish,
  type Look,
  type LetterPose,
  type Move,
  type Project,
  type Shot,
  type Track,
} from '../document/index.ts';
import { POSE } from '../document/parameters.ts';
import { glowsIn } from '../finish/glow.ts';
import { followedBy } from '../light/following.ts';
import { lot } from '../maths/lot.ts';
import { pow } from '../maths/reproducible.ts';
import { asNumbers, asValue, motionsOf, numbersAt, shotIn, valuesAt, type Motion } from './seen.ts';
import { AS_LAID, bothPoses, type Pose } from '../stage/pose.ts';
import { withStills } from './footage.ts';
import { shifted, timeOf } from './span.ts';

const OF_FINISH = /^finishes\/([^/]+)\//;
const OF_EACH = /^blocks\/([^/]+)\/each\//;

/** How many steps a letter is behind the first. @param at its place among `of` letters, in reading order */
function stepsBehind({ letters, seed }: Track | Move, at: number, of: number): number {
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

/** Finishes or blocks whose letters are moved one after the other, each with what moves them. */
function letterwise(motions: ReadonlyMap<string, Motion>, of: RegExp): Map<string, Map<string, Motion>> {
  const found = new Map<string, Map<string, Motion>>();
  for (const [address, motion] of motions) {
    const [, id] = of.exec(address) ?? [];
    const { track, moves } = motion;
    if (id === undefined || ![...(track ? [track] : []), ...moves].some((m) => m.letters !== 'together'))
      continue;
    found.set(id, (found.get(id) ?? new Map<string, Motion>()).set(address, motion));
  }
  return found;
}

/** The values of what is moved, of the letter that is at a place among others. */
function valuesOf(
  motions: ReadonlyMap<string, Motion>,
  at: number,
  letters: number,
  time: number,
  shot: Shot,
): Map<string, unknown> {
  const late = (of: Track | Move) => shifted(shot, time, -stepsBehind(of, at, letters) * of.step);
  return new Map(
    [...motions].map(([address, motion]) => [
      address,
      asValue(motion.placed.parameter, numbersAt(motion, time, shot, late)),
    ]),
  );
}

const inRange = (id: string, pose: Pose): LetterPose =>
  newPose(
    id,
    Object.fromEntries(
      Object.entries(POSE).map(([key, parameter]) => [
        key,
        asValue(parameter, asNumbers(pose[key as 'turn'])),
      ]),
    ),
  );

/** Gives letters of blocks whose letters are moved one after the other poses of their own, as late as they are. */
function withPoses(seen: Project, shot: Shot, time: number, motions: ReadonlyMap<string, Motion>): Project {
  const moving = letterwise(motions, OF_EACH);
  if (moving.size === 0) return seen;
  return {
    ...seen,
    blocks: seen.blocks.map((block) => {
      const of = moving.get(block.id);
      if (!of) return block;
      const text = [...block.text];
      const letters = block.letters.filter((_, i) => text[i]!.trim() !== '');
      const here = new Set(block.letters);
      const poses = new Map(block.poses.flatMap((p) => (here.has(p.id) ? [[p.id, p]] : [])));
      // what every letter does by then is in the poses: what all of them share is left to the others
      const still = Object.fromEntries(
        [...of.values()].map(({ placed: { key } }) => [key, AS_LAID[key as 'turn']]),
      );
      letters.forEach((letter, at) => {
        const values = valuesOf(of, at, letters.length, time, shot);
        const late = Object.fromEntries(
          [...values].map(([address, value]) => [address.split('/').pop(), value]),
        );
        const own: LetterPose = { ...newPose(letter), ...late };
        const before = poses.get(letter);
        poses.set(letter, before ? inRange(letter, bothPoses(before, own)) : own);
      });
      return { ...block, each: { ...block.each, ...still }, poses: [...poses.values()] };
    }),
  };
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
  for (const [id, moving] of letterwise(motions, OF_FINISH)) {
    const worn = wearing.filter((w) => w.finish === id);
    const order = [...new Set(worn.map((w) => `${w.block}/${w.letter}`))];
    order.forEach((key, at) => {
      const own = `${id}~${at}`;
      const values = valuesOf(moving, at, order.length, time, shot);
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
  const posed = withPoses(seen, shot, time, motions);
  return withDelays(withLetters(posed, lookId, shot, time, motions), lookId, (by) =>
    at(shifted(shot, time, by)),
  );
}
