/** Type that reaches under the floor: which, how far, and in which letters. */
import type { Project } from '../document/index.ts';
import { cos, sin } from '../maths/reproducible.ts';
import { blockTransform, carried, lowestCorner } from '../stage/blockPlace.ts';

/** A block as it was shaped, in thousandths of an em where `scale` is metres of one. */
interface ShapedBlock {
  block: string;
  /** About the block's centre, metres; null without ink. */
  bounds: readonly [number, number, number, number] | null;
  scale: number;
  /** Least and greatest z from the zero plane, metres. */
  reach: readonly [number, number];
  letters: readonly { text: string; outline: readonly Float64Array[]; x: number; y: number; turn: number }[];
}

export interface Sunk {
  block: string;
  /** Metres under the floor at the deepest. */
  depth: number;
  /** Texts of the letters that reach under it. */
  letters: string[];
  /** Whether it is all of them. */
  all: boolean;
}

/** Less than this under the floor is standing on it, metres. */
const NEAR = 1e-4;

/** Height of a letter's lowest point, metres. @param into rows of its block's transform */
function lowestOf(
  { outline, x, y, turn }: ShapedBlock['letters'][0],
  { scale, reach }: ShapedBlock,
  into: readonly number[],
): number {
  const [c, s] = [cos(turn), sin(turn)];
  let low = Infinity;
  for (const contour of outline)
    for (let i = 0; i < contour.length; i += 2) {
      const across = (x + c * contour[i]! - s * contour[i + 1]!) * scale;
      const up = (y + s * contour[i]! + c * contour[i + 1]!) * scale;
      for (const z of reach) low = Math.min(low, carried(into, [across, up, z])[1]);
    }
  return low;
}

/** @param floor height of the floor that is on; null without one */
export function sunkBlocks(project: Project, shaped: readonly ShapedBlock[], floor: number | null): Sunk[] {
  if (floor === null) return [];
  return shaped.flatMap((s) => {
    const place = project.blocks.find((b) => b.id === s.block)?.place;
    if (!place || !s.bounds) return [];
    const depth = floor - lowestCorner(place, s.bounds, s.reach);
    if (depth < NEAR) return [];
    const into = blockTransform(place);
    const under = s.letters.filter((l) => lowestOf(l, s, into) < floor - NEAR);
    return [
      {
        block: s.block,
        depth,
        letters: [...new Set(under.map((l) => l.text))],
        all: under.length === s.letters.length,
      },
    ];
  });
}
