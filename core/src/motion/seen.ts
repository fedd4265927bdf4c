/** The document as it is seen at a time of a shot: every parameter that is keyed or moved has its value of then. */
import {
  fitting,
  parameterAt,
  withValues,
  type Move,
  type Parameter,
  type Placed,
  type Project,
  type Shot,
  type Track,
} from '../document/index.ts';
import { isPlayed } from './footage.ts';
import { moved } from './moves.ts';
import { timeOf } from './span.ts';
import { valueOf } from './tracks.ts';

const TURN = 2 * Math.PI;

/** What changes one parameter over time. */
export interface Motion {
  placed: Placed;
  track: Track | null;
  moves: Move[];
}

/** Whether a parameter can change over time. */
export const isKeyed = ({ keyed, kind }: Parameter) => keyed && kind !== 'choice';

/** A value as numbers: one, three, or 0 and 1 of a switch. */
export const asNumbers = (value: unknown): number[] =>
  Array.isArray(value) ? (value as number[]) : [Number(value)];

/** Numbers brought to what a parameter may be: angles that go all the way round go on from the other side. */
export function asValue(parameter: Parameter, numbers: readonly number[]): unknown {
  if (parameter.kind === 'switch') return numbers[0]! >= 0.5;
  if (parameter.kind !== 'number') return fitting(parameter, numbers);
  const { min, max, unit } = parameter;
  let [v] = numbers as [number];
  if (unit.sign === '°' && max - min >= TURN && (v < min || v > max)) v -= TURN * Math.round(v / TURN);
  return fitting(parameter, v);
}

/** What of a shot changes over time, by its address; what is off, or leads to nothing, is left out. */
export function motionsOf(project: Project, shot: Shot): Map<string, Motion> {
  const motions = new Map<string, Motion>();
  const at = (address: string): Motion | null => {
    const known = motions.get(address);
    if (known) return known;
    const placed = parameterAt(project, address);
    if (!placed || !isKeyed(placed.parameter)) return null;
    const motion: Motion = { placed, track: null, moves: [] };
    motions.set(address, motion);
    return motion;
  };
  for (const track of shot.tracks) {
    const motion = track.on ? at(track.address) : null;
    const long = motion && asNumbers(motion.placed.owner[motion.placed.key]).length;
    if (motion && track.keys.every((k) => k.value.length === long)) motion.track ??= track;
  }
  for (const move of shot.moves) if (move.on) at(move.address)?.moves.push(move);
  for (const [address, { track, moves }] of motions)
    if (!track && moves.length === 0) motions.delete(address);
  return motions;
}

/** Whether pictures of a shot differ: something is keyed or moves by itself, or a film plays. */
export const moves = (project: Project, shot: Shot): boolean =>
  motionsOf(project, shot).size > 0 || isPlayed(project);

/**
 * The numbers of a motion at a time, before they are brought into range.
 * @param timeOf of what is at another time: letters that go one after the other
 */
export function numbersAt(
  { placed, track, moves }: Motion,
  time: number,
  shot: Shot,
  timeOf: (of: Track | Move) => number = () => time,
): number[] {
  const base = track ? valueOf(track, timeOf(track), shot) : asNumbers(placed.owner[placed.key]);
  return moves.reduce((value, move) => moved(value, move, timeOf(move), shot), base);
}

/** The values of everything that changes, at a time in seconds. */
export function valuesAt(
  motions: ReadonlyMap<string, Motion>,
  time: number,
  shot: Shot,
): Map<string, unknown> {
  const values = new Map<string, unknown>();
  for (const [address, motion] of motions)
    values.set(address, asValue(motion.placed.parameter, numbersAt(motion, time, shot)));
  return values;
}

/**
 * The document at a picture of one of its shots; itself where nothing changes.
 * @throws RangeError when there is no such shot
 */
export function seenAt(project: Project, shotId: string, frame: number): Project {
  const shot = shotIn(project, shotId);
  const motions = motionsOf(project, shot);
  return motions.size === 0 ? project : withValues(project, valuesAt(motions, timeOf(shot, frame), shot));
}

/** @throws RangeError when there is no such shot */
export function shotIn(project: Project, id: string): Shot {
  const shot = project.shots.find((s) => s.id === id);
  if (!shot) throw new RangeError(`the project has no shot ${id}`);
  return shot;
}
