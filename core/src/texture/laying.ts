/** Where a picture lies on a letter: the same as the kernel finds for its hits (kernel/assembly/axes.ts). */
import { cos, sin } from '../maths/reproducible.ts';

/** How a picture is laid; lengths in metres. */
export interface Laying {
  lay: 'letter' | 'word' | 'block' | 'tiles';
  tile: number;
  zoom: number;
  turn: number;
  shift: readonly [number, number];
}

/** Middle and sides of what a picture covers, across and up. */
export type Face = readonly [x: number, y: number, width: number, height: number];

const LEAST_WIDTH = 1e-9;

/**
 * Places of a picture, across and up in its widths and heights, for points of the plane it is laid in.
 * @param aspect of the picture, width by height
 * @param face of the letter or block, in the unit of the points; does not count for tiles
 */
export function laying(
  { lay, tile, zoom, turn, shift }: Laying,
  aspect: number,
  [x, y, w, h]: Face,
): (px: number, py: number) => [number, number] {
  const width = (lay === 'tiles' ? tile : Math.max(LEAST_WIDTH, w, h * aspect)) * zoom;
  const [cx, cy] = lay === 'tiles' ? [0, 0] : [x, y];
  const [c, s] = [cos(turn), sin(turn)];
  return (px, py) => {
    const [dx, dy] = [px - cx, py - cy];
    return [
      (dx * c + dy * s) / width + 0.5 - shift[0],
      ((dy * c - dx * s) / width) * aspect + 0.5 - shift[1],
    ];
  };
}
