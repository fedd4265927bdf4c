/** Keys and moves of the shot in use, at the picture that is looked at. */
import { parameterAt, type Move, type MoveKind, type Track } from '@wemlox/core/document';
import * as edits from '@wemlox/core/edits';
import { timeOf } from '@wemlox/core/motion/span';
import { useShown } from '../state/shown.ts';
import { perform, shotOf, useStudio } from '../state/studio.ts';
import { SAME_TIME, useTime } from '../state/time.ts';

const shot = () => shotOf(useStudio.getState().project);
/** Time of the picture that is looked at, seconds. */
export const timeNow = () => timeOf(shot(), useStudio.getState().frame);

export const trackOf = (address: string): Track | undefined =>
  shot().tracks.find((t) => t.address === address);
export const keyNow = (track: Track) => track.keys.find((k) => Math.abs(k.at - timeNow()) < SAME_TIME);

/** Keys a parameter as it is seen now. */
export function keyHere(address: string): void {
  perform((seen) => {
    const placed = parameterAt(seen, address);
    return placed && edits.keyParameter(seen, shot().id, address, timeNow(), placed.owner[placed.key]);
  });
}

export function unkeyHere(address: string): void {
  const track = trackOf(address);
  const key = track && keyNow(track);
  if (key) perform((p) => edits.removeKeys(p, shot().id, [{ track: track.id, at: key.at }]));
}

export const standStill = (track: string) => perform((p) => edits.removeTrack(p, shot().id, track));

const retime = (change: Parameters<typeof edits.retimeKeys>[3]) => {
  const { keys } = useTime.getState();
  perform((p) => edits.retimeKeys(p, shot().id, keys, change));
};

/** Moves the keys in hand by some seconds; they stay in hand. */
export function moveKeys(by: number): void {
  const { keys } = useTime.getState();
  if (by === 0 || keys.length === 0) return;
  retime({ by });
  useTime.setState({ keys: keys.map((k) => ({ ...k, at: Math.max(0, k.at + by) })) });
}

/** Copies the keys in hand to begin at the picture that is looked at. */
export function copyKeysHere(): void {
  const { keys } = useTime.getState();
  const first = Math.min(...keys.map((k) => k.at));
  const by = timeNow() - first;
  if (keys.length === 0 || Math.abs(by) < SAME_TIME) return;
  retime({ by, copies: true });
  useTime.setState({ keys: keys.map((k) => ({ ...k, at: k.at + by })) });
}

/** Stretches the keys in hand about the first of them. */
export function stretchKeys(times: number): void {
  const { keys } = useTime.getState();
  const from = Math.min(...keys.map((k) => k.at));
  retime({ from, times });
  useTime.setState({ keys: keys.map((k) => ({ ...k, at: from + (k.at - from) * times })) });
}

export function removeKeysInHand(): void {
  const { keys } = useTime.getState();
  perform((p) => edits.removeKeys(p, shot().id, keys));
  useTime.setState({ keys: [] });
}

export const changeKeys = (change: Parameters<typeof edits.changeKeys>[3]) => {
  const { keys } = useTime.getState();
  perform((p) => edits.changeKeys(p, shot().id, keys, change));
};

/** What passes along the type goes this far to either side of its middle, as a share of its width. */
const PASSES = 0.6;

function typeWidth(): number {
  const box = useShown.getState().scene?.typeBox;
  return box ? box.max[0] - box.min[0] : 1;
}

/** How far each kind of move goes at first, by what it moves. */
function firstAmount(kind: MoveKind, address: string): Partial<Move> {
  const placed = parameterAt(useStudio.getState().seen, address)!;
  const { parameter } = placed;
  const angle = parameter.kind === 'number' && parameter.unit.sign === '°';
  const reach =
    parameter.kind === 'number'
      ? (parameter.fader?.[1] ?? parameter.max * parameter.unit.factor) / parameter.unit.factor
      : 0.1;
  switch (kind) {
    case 'turn':
      return { amount: angle ? 2 * Math.PI : reach / 4 };
    case 'flicker':
    case 'breathe':
      return { amount: kind === 'flicker' ? 1 : 0.5, speed: kind === 'flicker' ? 2 : 0.25 };
    case 'pass':
      return { axis: -1, amount: PASSES * typeWidth() };
    default:
      return { amount: angle ? 0.35 : parameter.kind === 'number' ? reach / 10 : 0.05 };
  }
}

/** Lets a parameter move by itself. */
export function moveBy(kind: MoveKind, address: string, changes: Partial<Move> = {}): void {
  perform((p) => edits.addMove(p, shot().id, kind, address, { ...firstAmount(kind, address), ...changes }));
  useTime.setState({ row: address });
}

export const steerMove = (id: string, axis: number) =>
  perform((p) => edits.steerMove(p, shot().id, id, axis));

export const removeMove = (id: string) => perform((p) => edits.removeMove(p, shot().id, id));
