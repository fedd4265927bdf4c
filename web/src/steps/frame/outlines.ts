/** What stands on the stage as it is seen along an axis: the outline of its box, so that it has its place, size and turn. */
import { polygonHull } from 'd3';
import type { Bounds } from '@wemlox/core/scene/faces';
import type { RenderScene } from '@wemlox/core/scene/renderScene';

type Vec = readonly number[];

/** Corners in the world of each placement's box, by its name. @param bounds of all placements, each in its own space */
export function boxCorners({ placements }: RenderScene, bounds: readonly Bounds[]): Map<string, Vec[]> {
  const { names, now } = placements;
  const of = ({ min, max }: Bounds, p: number) =>
    Array.from({ length: 8 }, (_, i) => {
      const own = [0, 1, 2].map((k) => (i & (1 << k) ? max[k] : min[k]));
      return [0, 4, 8].map(
        (r) =>
          now[p * 12 + r] * own[0] +
          now[p * 12 + r + 1] * own[1] +
          now[p * 12 + r + 2] * own[2] +
          now[p * 12 + r + 3],
      );
    });
  return new Map(
    names.flatMap((name, p): [string, Vec[]][] =>
      bounds[p] && bounds[p].max[0] >= bounds[p].min[0] ? [[name, of(bounds[p], p)]] : [],
    ),
  );
}

/** Least width of an outline, so that it can be seen and taken, pixels. */
const THINNEST = 2;

/** The outline of points of a drawing, as an SVG path. */
export function outlinePath(points: readonly [number, number][]): string {
  // what is seen edge on has an outline too
  const wide = points.flatMap(([x, y]): [number, number][] => [
    [x - THINNEST / 2, y - THINNEST / 2],
    [x + THINNEST / 2, y + THINNEST / 2],
  ]);
  const hull = polygonHull(wide) ?? wide;
  return `M${hull.map(([x, y]) => `${x.toFixed(1)} ${y.toFixed(1)}`).join('L')}Z`;
}
