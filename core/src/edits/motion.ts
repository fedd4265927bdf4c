/** Edits of what moves in a shot: keys, their ways, and steady moves. */
import { current } from 'immer';
import {
  fitting,
  MOST,
  newId,
  newKey,
  newMove,
  newTrack,
  parameterAt,
  parameterName,
  type Key,
  type Move,
  type MoveKind,
  type Placed,
  type Project,
  type Shot,
  type Track,
} from '../document/index.ts';
import { LONGEST_SHOT } from '../document/parameters.ts';
import type { Way } from '../motion/easing.ts';
import { asNumbers, asValue, isKeyed } from '../motion/seen.ts';
import { EditRefused, found, room, within, type Edit } from './edit.ts';

/** A key by its track and its time. */
export interface KeyRef {
  track: string;
  at: number;
}

/** Times that differ by less are the same, seconds: far below any picture's. */
const SAME = 1e-6;

const shotOf = (p: Project, id: string): Shot => found(p.shots, id, 'shot');
const trackIn = (p: Project, shot: string, id: string): Track => found(shotOf(p, shot).tracks, id, 'track');
const isAt =
  (at: number) =>
  (key: Key): boolean =>
    Math.abs(key.at - at) < SAME;

/** The parameter that can be keyed at an address. @throws EditRefused */
function keyable(project: Project, address: string): Placed {
  const placed = parameterAt(project, address);
  if (!placed) throw new EditRefused(`there is no ${address} any more`);
  if (!isKeyed(placed.parameter) || address.length > MOST.address)
    throw new EditRefused(`${placed.parameter.name} cannot change over time`);
  return placed;
}

/** What moves, as history and the band call it: "Strength of Key". */
export function motionName(project: Project, address: string): string {
  const placed = parameterAt(project, address);
  return placed ? parameterName(project, placed) : address;
}

/** Puts a key among others, in the place of one of its time. */
function put(keys: Key[], key: Key): void {
  const same = keys.findIndex(isAt(key.at));
  if (same >= 0) keys.splice(same, 1, key);
  else {
    if (keys.length >= MOST.keys) throw new EditRefused(`a track holds at most ${MOST.keys} keys`);
    const next = keys.findIndex((k) => k.at > key.at);
    keys.splice(next < 0 ? keys.length : next, 0, key);
  }
}

/**
 * Keys a parameter at a time, in the track it has or in a new one; the key that is there keeps its way.
 * @param value what the parameter is to be then, of its own kind; brought into its range
 */
export function keyParameter(
  project: Project,
  shot: string,
  address: string,
  at: number,
  value: unknown,
): Edit {
  const { parameter } = keyable(project, address);
  const near = fitting(parameter, value);
  if (near === null) throw new EditRefused(`${parameter.name} cannot be ${JSON.stringify(value)}`);
  const time = within(at, 0, LONGEST_SHOT);
  if (!shotOf(project, shot).tracks.some((t) => t.address === address))
    room(shotOf(project, shot).tracks, MOST.tracks, 'tracks in a shot');
  return {
    label: `Key for ${motionName(project, address)}`,
    make: (p) => {
      const { tracks } = shotOf(p, shot);
      const track = tracks.find((t) => t.address === address);
      const old = track?.keys.find(isAt(time));
      const way: Partial<Key> = parameter.kind === 'switch' ? { ease: 'hold' } : {};
      const key = newKey(time, asNumbers(near), old ? { ...old, at: time, value: asNumbers(near) } : way);
      if (track) put(track.keys, key);
      else tracks.push(newTrack(address, [key], shotOf(p, shot).loops ? { ends: 'close' } : {}));
    },
  };
}

/** Parameters by which a copy stands beside what it is a copy of. */
const STANDING = /\/(azimuth|elevation|place|distance|position)$/;

/**
 * Gives a copy what moves its original, as far as there is room.
 * @param from address of what was copied @param apart leaves out what would bring the copy back onto it
 * @param renamed identifiers that things within it have in the copy
 */
export function copyMotion(
  p: Project,
  from: string,
  to: string,
  apart = false,
  renamed: ReadonlyMap<string, string> = new Map(),
): void {
  const within = (address: string) =>
    address
      .slice(from.length)
      .split('/')
      .map((part) => renamed.get(part) ?? part)
      .join('/');
  const copied = <T extends Track | Move>(all: readonly T[], most: number): T[] =>
    all
      .filter((m) => m.address.startsWith(`${from}/`) && !(apart && STANDING.test(m.address)))
      .slice(0, most - all.length)
      .map((m) => ({
        ...(structuredClone(current(m as Track | Move)) as T),
        id: newId(),
        address: `${to}${within(m.address)}`,
      }));
  for (const shot of p.shots) {
    shot.tracks.push(...copied(shot.tracks, MOST.tracks));
    shot.moves.push(...copied(shot.moves, MOST.moves));
  }
}

/** Takes keys out; a track without any goes with its last. */
export function removeKeys(project: Project, shot: string, refs: readonly KeyRef[]): Edit {
  for (const ref of refs) trackIn(project, shot, ref.track);
  return {
    label: refs.length === 1 ? 'Remove a key' : `Remove ${refs.length} keys`,
    make: (p) => {
      const of = shotOf(p, shot);
      for (const { track: id, at } of refs) {
        const track = trackIn(p, shot, id);
        track.keys = track.keys.filter((k) => !isAt(at)(k));
      }
      of.tracks = of.tracks.filter((t) => t.keys.length > 0);
    },
  };
}

export function removeTrack(project: Project, shot: string, id: string): Edit {
  const { address } = trackIn(project, shot, id);
  return {
    label: `${motionName(project, address)} stands still`,
    make: (p) => {
      const of = shotOf(p, shot);
      of.tracks = of.tracks.filter((t) => t.id !== id);
    },
  };
}

/**
 * Gives keys other times: each goes `times` as far from a time, and on by some seconds; they replace those they land on.
 * @param copies leaves the old ones where they are
 */
export function retimeKeys(
  project: Project,
  shot: string,
  refs: readonly KeyRef[],
  {
    from = 0,
    times = 1,
    by = 0,
    copies = false,
  }: { from?: number; times?: number; by?: number; copies?: boolean },
): Edit {
  for (const ref of refs) trackIn(project, shot, ref.track);
  const to = (at: number) => within(from + (at - from) * times + by, 0, LONGEST_SHOT);
  const what = copies ? 'Copy' : times === 1 ? 'Move' : 'Stretch';
  return {
    label: refs.length === 1 ? `${what} a key` : `${what} ${refs.length} keys`,
    make: (p) => {
      for (const id of new Set(refs.map((r) => r.track))) {
        const track = trackIn(p, shot, id);
        const own = refs.filter((r) => r.track === id);
        const meant = track.keys.filter((k) => own.some((r) => isAt(r.at)(k)));
        const there = meant.map((k) => ({ ...k, value: [...k.value], at: to(k.at) }));
        if (!copies) track.keys = track.keys.filter((k) => !meant.includes(k));
        for (const key of there) put(track.keys, key);
      }
    },
  };
}

/** Changes what a key is: its value, in range, or its way to the next. */
export function changeKeys(
  project: Project,
  shot: string,
  refs: readonly KeyRef[],
  change: Partial<Way> & { value?: readonly number[] },
): Edit {
  for (const ref of refs) trackIn(project, shot, ref.track);
  const { value, ...way } = change;
  const curve = {
    ...way,
    ...(way.x1 === undefined ? {} : { x1: within(way.x1, 0, 1) }),
    ...(way.x2 === undefined ? {} : { x2: within(way.x2, 0, 1) }),
    ...(way.y1 === undefined ? {} : { y1: within(way.y1, -4, 5) }),
    ...(way.y2 === undefined ? {} : { y2: within(way.y2, -4, 5) }),
  };
  return {
    label: value ? 'Value of a key' : 'Way of a key',
    make: (p) => {
      for (const { track: id, at } of refs) {
        const track = trackIn(p, shot, id);
        const key = track.keys.find(isAt(at));
        if (!key) continue;
        Object.assign(key, curve);
        const placed = value && parameterAt(project, track.address);
        if (!placed || value.length !== key.value.length || value.some((v) => !Number.isFinite(v))) continue;
        key.value = asNumbers(asValue(placed.parameter, value));
      }
    },
  };
}

/** Lets a parameter move by itself. */
export function addMove(
  project: Project,
  shot: string,
  kind: MoveKind,
  address: string,
  changes: Partial<Move> = {},
): Edit {
  const { parameter } = keyable(project, address);
  room(shotOf(project, shot).moves, MOST.moves, 'moves in a shot');
  if (parameter.kind === 'switch') throw new EditRefused(`${parameter.name} is keyed, and does not ${kind}`);
  return {
    label: `${motionName(project, address)} moves by itself`,
    make: (p) => {
      shotOf(p, shot).moves.push(newMove(kind, address, changes));
    },
  };
}

/** Which of a point's three numbers a move goes along; −1 for all of them, where a kind wanders about. */
export function steerMove(project: Project, shot: string, id: string, axis: number): Edit {
  const { address } = found(shotOf(project, shot).moves, id, 'move');
  return {
    label: `Way of ${motionName(project, address)}`,
    make: (p) => {
      found(shotOf(p, shot).moves, id, 'move').axis = Math.round(within(axis, -1, 2));
    },
  };
}

export function removeMove(project: Project, shot: string, id: string): Edit {
  const { address } = found(shotOf(project, shot).moves, id, 'move');
  return {
    label: `${motionName(project, address)} no longer moves by itself`,
    make: (p) => {
      const of = shotOf(p, shot);
      of.moves = of.moves.filter((m) => m.id !== id);
    },
  };
}
