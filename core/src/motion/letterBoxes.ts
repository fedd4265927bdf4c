/** Boxes that letters fill, as they stand at a time: what passes through them is told by these. */
import type { Block, Project } from '../document/index.ts';
import { cos, sin } from '../maths/reproducible.ts';
import { blockTransform, carried } from '../stage/blockPlace.ts';
import type { Box } from '../stage/camera.ts';
import { isThere, poseRows, posesOf, type Pose } from '../stage/pose.ts';

type Vec = [number, number, number];

/** A letter as its line has it, in its block's plane, metres. */
export interface LetterBox extends Box {
  block: string;
  letter: string;
}

/** What of a shaped block its letters' boxes come of; outlines in thousandths of an em about the glyph's origin. */
export interface ShapedLetters {
  block: string;
  letters: readonly {
    letter: string;
    outline: readonly ArrayLike<number>[];
    x: number;
    y: number;
    turn: number;
  }[];
  /** Metres per thousandth of an em. */
  scale: number;
  /** Least and greatest z from the zero plane, metres. */
  reach: readonly [number, number];
}

/** Boxes of a block's letters that have ink, as its line has them. */
export function letterBoxes({ block, letters, scale, reach }: ShapedLetters): LetterBox[] {
  return letters.flatMap(({ letter, outline, x, y, turn }) => {
    const [c, s] = [cos(turn), sin(turn)];
    const min: Vec = [Infinity, Infinity, reach[0]];
    const max: Vec = [-Infinity, -Infinity, reach[1]];
    for (const contour of outline)
      for (let i = 0; i < contour.length; i += 2) {
        const at = [
          (x + c * contour[i]! - s * contour[i + 1]!) * scale,
          (y + s * contour[i]! + c * contour[i + 1]!) * scale,
        ];
        for (const k of [0, 1]) {
          min[k] = Math.min(min[k]!, at[k]!);
          max[k] = Math.max(max[k]!, at[k]!);
        }
      }
    return max[0] > min[0] ? [{ block, letter, min, max }] : [];
  });
}

/** The corners of a letter where its pose and its block have it. */
function corners(box: LetterBox, { place, each }: Block, pose: Pose): Vec[] {
  const m = poseRows(pose, box, each.about);
  const into = blockTransform(place);
  return Array.from({ length: 8 }, (_, i) => {
    const from = [0, 1, 2].map((k) => ((i >> k) & 1 ? box.max : box.min)[k]!);
    return carried(into, carried(m, from));
  });
}

/** Boxes in the world of the letters that are there, in a document as it is shown; as large as they are when turned. */
export function standingBoxes(shown: Project, letters: readonly LetterBox[]): LetterBox[] {
  const blocks = new Map(shown.blocks.map((b) => [b.id, { block: b, poseOf: posesOf(b) }]));
  return letters.flatMap((box) => {
    const of = blocks.get(box.block);
    if (!of) return [];
    const pose = of.poseOf(box.letter);
    if (!isThere(pose)) return [];
    const all = corners(box, of.block, pose);
    const least = (k: number) => Math.min(...all.map((p) => p[k]!));
    const most = (k: number) => Math.max(...all.map((p) => p[k]!));
    return [
      {
        ...box,
        min: [least(0), least(1), least(2)] as Vec,
        max: [most(0), most(1), most(2)] as Vec,
      },
    ];
  });
}
