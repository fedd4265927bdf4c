import { polygonHull } from 'd3';

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
