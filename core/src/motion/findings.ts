/** What can go wrong in a shot's time, found without tracing: each with the picture where, as far as there is one. */
import type { Look, Project, Shot } from '../document/index.ts';
import { placeLight, shining, type Vec } from '../light/placing.ts';
import { cameraFrame, type Box } from '../stage/camera.ts';
import { standingBoxes, type LetterBox } from './letterBoxes.ts';
import { motionsOf, numbersAt, shotIn } from './seen.ts';
import { seams } from './seams.ts';
import { shownAt } from './shown.ts';
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
  /** A letter of a block that moves is partly behind the wall, or under the floor. */
  | { kind: 'type in the wall' | 'type in the floor'; block: string; frame: number }
  | { kind: 'light in the type'; light: string; frame: number };

const inside = (box: Box, point: readonly number[]) =>
  point.every((v, i) => v > box.min[i]! && v < box.max[i]!);

/** Less than this within is standing against it, metres. */
const NEAR = 1e-3;
const crosses = (low: number, high: number, at: number) => low < at - NEAR && high > at + NEAR;

/** Pictures of a shot, or as many of them as are looked at. */
function* looked(shot: Shot): Generator<number> {
  const n = framesOf(shot);
  const step = Math.max(1, n / MOST_LOOKED_AT);
  for (let f = 0; f < n; f += step) yield Math.floor(f);
}

/** Letters, camera and lights where they stand, picture by picture; null between two. */
function* crossings(
  project: Project,
  look: Look,
  shot: Shot,
  letters: readonly LetterBox[],
  centre: Vec,
): Generator<MotionFinding | null> {
  const told = new Set<string>();
  const once = function* (key: string, finding: MotionFinding) {
    if (!told.has(key)) yield finding;
    told.add(key);
  };
  const addresses = [...motionsOf(project, shot).keys()];
  const moves = new Set(
    project.blocks.filter((b) => addresses.some((a) => a.startsWith(`blocks/${b.id}/`))).map((b) => b.id),
  );
  for (const frame of looked(shot)) {
    yield null;
    const seen = shownAt(project, look.id, shot.id, frame);
    const boxes = standingBoxes(seen, letters);
    const { position } = cameraFrame(shotIn(seen, shot.id).camera, 1);
    if (boxes.some((b) => inside(b, position))) yield* once('camera', { kind: 'camera in the type', frame });
    const wall = seen.pieces.find((p) => p.on && (p.kind === 'wall' || p.kind === 'backdrop'));
    if (wall && position[2] < wall.at) yield* once('wall', { kind: 'camera behind the wall', frame });
    const floor = seen.pieces.find((p) => p.on && p.kind === 'floor');
    for (const { block, min, max } of boxes) {
      if (!moves.has(block)) continue;
      if (wall && crosses(min[2], max[2], wall.at))
        yield* once(`wall ${block}`, { kind: 'type in the wall', block, frame });
      if (floor && crosses(min[1], max[1], floor.at))
        yield* once(`floor ${block}`, { kind: 'type in the floor', block, frame });
    }
    for (const light of shining(seen.looks.find((l) => l.id === look.id)!.rig)) {
      if (!('stands' in light)) continue;
      const { position: at } = placeLight(light, centre);
      if (boxes.some((b) => inside(b, at)))
        yield* once(light.id, { kind: 'light in the type', light: light.name, frame });
    }
  }
}

/**
 * What of a shot's time an artist should know before it is rendered, one after the other, with nulls where whoever
 * looks may rest: a long shot takes its time.
 * @param letters the letters' boxes as their lines have them
 * @throws RangeError when there is no such look or shot
 */
export function* lookedThrough(
  project: Project,
  lookId: string,
  shotId: string,
  letters: readonly LetterBox[],
  centre: Vec,
): Generator<MotionFinding | null> {
  const shot = shotIn(project, shotId);
  const look = project.looks.find((l) => l.id === lookId);
  if (!look) throw new RangeError(`the project has no look ${lookId}`);
  const motions = motionsOf(project, shot);
  if (motions.size === 0) return;
  for (const { address, times } of seams(project, shotId)) yield { kind: 'loop jumps', address, times };
  yield null;
  for (const [address, { moves }] of motions)
    for (const move of moves)
      if (move.kind === 'flicker' && move.speed * PICTURES_A_ROUND > shot.rate)
        yield { kind: 'flicker too fast', address, move: move.id };
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
      yield { kind: 'exposure jumps', address, frame: by.indexOf(most) + 1, stops: most };
  }
  yield* crossings(project, look, shot, letters, centre);
}
