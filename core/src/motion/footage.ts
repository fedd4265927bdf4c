/** Moving pictures at a time: each is replaced by the frame that it shows then. */
import type { Finish, PictureRef, Playback, Project } from '../document/index.ts';

/** Keeps times that are a frame's own from falling to the one before by rounding. */
const ROUNDING = 1e-6;

/** The frame that is shown at a time of a shot, seconds. */
export function frameAt({ begins, from, to, speed, ends, frames, rate }: Playback, time: number): number {
  const length = frames / rate;
  const first = Math.min(from, length - 1 / rate);
  const last = to > 0 ? Math.min(length, Math.max(to, first + 1 / rate)) : length;
  const span = last - first;
  const gone = (time - begins) * speed;
  let at = gone;
  if (ends === 'hold') at = Math.min(span, Math.max(0, gone));
  else if (ends === 'return') {
    const round = gone - 2 * span * Math.floor(gone / (2 * span));
    at = round <= span ? round : 2 * span - round;
  } else at = gone - span * Math.floor(gone / span);
  const most = Math.max(0, Math.round(last * rate) - 1);
  return Math.min(most, Math.floor((first + at) * rate + ROUNDING));
}

/** Name of a frame of a file; files that do not move have their own. */
export const stillId = (hash: string, frame: number) => `${hash}@${frame}`;

/** The file and the frame that a name means; null for a file's own. */
export function stillOf(id: string): { hash: string; frame: number } | null {
  const [, hash, frame] = /^([a-f0-9]{64})@(\d+)$/.exec(id) ?? [];
  return hash === undefined ? null : { hash, frame: Number(frame) };
}

/** A picture as it is at a time: itself where it does not move. */
export const still = <T extends Pick<PictureRef, 'id' | 'plays'>>(picture: T, time: number): T =>
  picture.plays
    ? { ...picture, id: stillId(picture.id, frameAt(picture.plays, time)), plays: null }
    : picture;

/** The same list where nothing of it changes. */
function mapped<T>(list: T[], of: (element: T) => T): T[] {
  const next = list.map(of);
  return next.some((v, i) => v !== list[i]) ? next : list;
}

/** A thing with its picture as it is at a time. */
function withStill<T extends { picture: PictureRef | null }>(thing: T, time: number): T {
  const picture = thing.picture && still(thing.picture, time);
  return picture === thing.picture ? thing : { ...thing, picture };
}

/** The document with all moving pictures as they are at a time; itself where there are none. */
export function withStills(project: Project, time: number): Project {
  const fed = <T extends Pick<Finish, 'feeds'>>(of: T): T => {
    const feeds = mapped(of.feeds, (f) => withStill(f, time));
    return feeds === of.feeds ? of : { ...of, feeds };
  };
  const finishes = mapped(project.finishes, (finish) => {
    const own = fed(finish);
    const coats = mapped(own.coats, fed);
    return coats === own.coats ? own : { ...own, coats };
  });
  const pieces = mapped(project.pieces, (p) => withStill(p, time));
  const looks = mapped(project.looks, (look) => {
    const panels = mapped(look.surround.panels, (p) => withStill(p, time));
    const held = still(look.surround, time);
    const surround = panels === held.panels ? held : { ...held, panels };
    const rig = mapped(look.rig, (light) => {
      if (light.kind !== 'spot' || !light.pattern?.plays) return light;
      return { ...light, pattern: still(light.pattern, time) };
    });
    return surround === look.surround && rig === look.rig ? look : { ...look, surround, rig };
  });
  if (finishes === project.finishes && pieces === project.pieces && looks === project.looks) return project;
  return { ...project, finishes, pieces, looks };
}

/** Whether some picture of a document moves by itself. */
export const isPlayed = (project: Project): boolean => withStills(project, 0) !== project;
