/** What can go wrong in a shot's time, found without tracing: each with the picture where, as far as there is one. */
import type { Look, Project, Shot } from '../document/index.ts';
import { placeLight, shining, type Vec } from '../light/placing.ts';
import { cameraFrame, type Box } from '../stage/camera.ts';
import { motionsOf, numbersAt, seenAt, shotIn } from './seen.ts';
import { seams } from './seams.ts';
import { framesOf, timeOf } from './span.ts';

/** Flicker needs this many pictures a round to be seen as it is. */
const PICTURES_A_ROUND = 2;
/** Stops by which the exposure may differ from one picture to the next. */
const MOST_STOPS = 1;
/** Pictures looked at for where things stand, at most. */
const MOST_LOOKED_AT = 240;

export type MotionFinding =
  /** A value jumps where the loop closes, by so many times its way elsewhere. */
  | { kind: 'loop jumps'; address: string; times: number }
  /** A flicker goes round faster than pictures can show. */
  | { kind: 'flicker too fast'; address: string; move: string }
  | { kind: 'exposure jumps'; address: string; frame: number; stops: number }
  | { kind: 'camera in the type'; frame: number }
  | { kind: 'camera behind the wall'; frame: number }
  | { kind: 'light in the type'; light: string; frame: number };

const inside = (box: Box, point: readonly number[]) =>
  point.every((v, i) => v > box.min[i]! && v < box.max[i]!);

/** Pictures of a shot, or as many of them as are looked at. */
function* looked(shot: Shot): Generator<number> {
  const n = framesOf(shot);
  const step = Math.max(1, n / MOST_LOOKED_AT);
  for (let f = 0; f < n; f += step) yield Math.floor(f);
}

/** Places of the camera and of the lights, picture by picture. @param letters boxes of the letters, metres */
function* crossings(
  project: Project,
  look: Look,
  shot: Shot,
  letters: readonly Box[],
  centre: Vec,
): Generator<MotionFinding> {
  const told = new Set<string>();
  const once = function* (key: string, finding: MotionFinding) {
    if (!told.has(key)) yield finding;
    told.add(key);
  };
  for (const frame of looked(shot)) {
    const seen = seenAt(project, shot.id, frame);
    const { position } = cameraFrame(shotIn(seen, shot.id).camera, 1);
    if (letters.some((b) => inside(b, position)))
      yield* once('camera', { kind: 'camera in the type', frame });
    const wall = seen.pieces.find((p) => p.on && p.kind !== 'floor');
    if (wall && position[2] < wall.at) yield* once('wall', { kind: 'camera behind the wall', frame });
    for (const light of shining(seen.looks.find((l) => l.id === look.id)!.rig)) {
      if (!('stands' in light)) continue;
      const { position: at } = placeLight(light, centre);
      if (letters.some((b) => inside(b, at)))
        yield* once(light.id, { kind: 'light in the type', light: light.name, frame });
    }
  }
}

/**
 * What of a shot's time an artist should know before it is rendered.
 * @param letters boxes of the letters as they stand, metres; what moves the type itself is not looked at
 * @throws RangeError when there is no such look or shot
 */
export function motionFindings(
  project: Project,
  lookId: string,
  shotId: string,
  letters: readonly Box[],
  centre: Vec,
): MotionFinding[] {
  const shot = shotIn(project, shotId);
  const look = project.looks.find((l) => l.id === lookId);
  if (!look) throw new RangeError(`the project has no look ${lookId}`);
  const motions = motionsOf(project, shot);
  if (motions.size === 0) return [];
  const found: MotionFinding[] = seams(project, shotId).map(({ address, times }) => ({
    kind: 'loop jumps',
    address,
    times,
  }));
  for (const [address, { moves }] of motions)
    for (const move of moves)
      if (move.kind === 'flicker' && move.speed * PICTURES_A_ROUND > shot.rate)
        found.push({ kind: 'flicker too fast', address, move: move.id });
  const address = `looks/${lookId}/grade/exposure`;
  const exposure = motions.get(address);
  if (exposure) {
    const values = Array.from(
      { length: framesOf(shot) },
      (_, f) => numbersAt(exposure, timeOf(shot, f), shot)[0]!,
    );
    const by = values.slice(1).map((v, f) => Math.abs(v - values[f]!));
    const most = Math.max(0, ...by);
    if (most > MOST_STOPS)
      found.push({ kind: 'exposure jumps', address, frame: by.indexOf(most) + 1, stops: most });
  }
  return [...found, ...crossings(project, look, shot, letters, centre)];
}
