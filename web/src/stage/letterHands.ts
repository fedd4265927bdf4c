/** Moving letters by hand in Set: the chosen one that moves by itself is dragged in the plane of its word, and rolled. */
import { placeLetter } from '@wemlox/core/edits';
import { axisOf } from '@wemlox/core/stage/blockPlace';
import type { Draft } from '../engine/draft.ts';
import type { Picked } from '../engine/pick.ts';
import { useChoice } from '../state/choice.ts';
import { useShown } from '../state/shown.ts';
import { perform, shotOf, useStudio } from '../state/studio.ts';
import { onPlane } from './projection.ts';

const RADIANS_PER_PIXEL = 0.006;

/** A letter held in the picture, the plane it is dragged in, and the axes of its moves in the world. */
export interface HeldLetter {
  block: string;
  letter: string;
  plane: { origin: readonly number[]; normal: readonly number[] };
  along: readonly number[];
  up: readonly number[];
}

/** The chosen letter where it is pressed, if it moves by itself. */
export function holdLetter(hit: Picked | null): HeldLetter | null {
  const { face } = useChoice.getState();
  if (!hit?.block || !hit.letter || face?.letter !== hit.letter || face.block !== hit.block) return null;
  const { block: id, letter } = hit;
  const block = useStudio.getState().seen.blocks.find((b) => b.id === id);
  if (!block?.poses.some((p) => p.id === letter)) return null;
  const laid = useShown
    .getState()
    .blocks.find((b) => b.block === id)
    ?.letters.find((l) => l.letter === letter);
  const [line, up] = [axisOf(block.place, 0), axisOf(block.place, 1)];
  const [c, s] = [Math.cos(laid?.turn ?? 0), Math.sin(laid?.turn ?? 0)];
  return {
    block: id,
    letter,
    plane: { origin: hit.point, normal: axisOf(block.place, 2) },
    along: line.map((v, k) => c * v + s * up[k]),
    up: line.map((v, k) => c * up[k] - s * v),
  };
}

/** @param from where the pointer was, and where it is; pixels of the stage @param rolls in the plane of the word */
export function dragLetter(
  { block, letter, plane, along, up }: HeldLetter,
  { frame }: Draft,
  from: readonly [number, number],
  to: readonly [number, number],
  rolls: boolean,
): void {
  if (rolls) {
    const by = (from[0] - to[0]) * RADIANS_PER_PIXEL;
    perform((p) => placeLetter(p, block, letter, (pose) => ({ roll: pose.roll + by })));
    return;
  }
  const { camera } = shotOf(useStudio.getState().seen);
  const [a, b] = [from, to].map(([x, y]) => onPlane(camera, frame, plane, x, y));
  if (!a || !b) return;
  const by = [along, up].map((axis) => axis.reduce((sum, v, i) => sum + v * (b[i] - a[i]), 0));
  perform((p) =>
    placeLetter(p, block, letter, ({ shift: [x = 0, y = 0, z = 0] }) => ({
      shift: [x + by[0], y + by[1], z],
    })),
  );
}
