/** Type that reaches under the floor: which, how far, and in which letters. */
import type { Project } from '../document/index.ts';
import { cos, sin } from '../maths/reproducible.ts';

/** A block as it was shaped, in thousandths of an em where `scale` is metres of one. */
interface ShapedBlock {
  block: string;
  /** About the block's centre, metres; null without ink. */
  bounds: readonly [number, number, number, number] | null;
  scale: number;
  letters: readonly { text: string; outline: readonly Float64Array[]; y: number; turn: number }[];
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

/** Lowest point of a letter in its block's plane, metres. */
function lowestOf({ outline, y, turn }: ShapedBlock['letters'][0], scale: number): number {
  const [c, s] = [cos(turn), sin(turn)];
  let low = Infinity;
  for (const contour of outline)
    for (let i = 0; i < contour.length; i += 2) low = Math.min(low, s * contour[i]! + c * contour[i + 1]!);
  return (y + low) * scale;
}

/** @param floor height of the floor that is on; null without one */
export function sunkBlocks(project: Project, shaped: readonly ShapedBlock[], floor: number | null): Sunk[] {
  if (floor === null) return [];
  return shaped.flatMap((s) => {
    const place = project.blocks.find((b) => b.id === s.block)?.place;
    if (!place || !s.bounds) return [];
    const height = place.position[1]!;
    const depth = floor - (height + s.bounds[1]);
    if (depth < NEAR) return [];
    const under = s.letters.filter((l) => height + lowestOf(l, s.scale) < floor - NEAR);
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
