/** Faces of area lights that are no rectangles: their own outlines, or letters. */
import type { LightOf } from '../document/index.ts';
import type { Contour } from '../plane/flatten.ts';
import { areaOf, boundsOf, merged } from '../plane/region.ts';
import { triangulate } from '../plane/triangulate.ts';
import type { LightFace } from './renderScene.ts';

/** Triangles of a region as it is seen from where they shine, along −z: its right is at −x. @param sx, sy scale it */
function faceOf(key: string, region: Contour[], sx: number, sy: number): LightFace {
  const corners = region.flatMap((c) =>
    Array.from({ length: c.length / 2 }, (_, i) => [c[i * 2], c[i * 2 + 1]]),
  );
  const numbers = triangulate(region);
  const positions = new Float32Array(numbers.length * 3);
  for (let t = 0; t < numbers.length; t += 3)
    [numbers[t], numbers[t + 1], numbers[t + 2]].forEach((n, k) => {
      const [x, y] = corners[n];
      positions.set([-x * sx, y * sy, 0], (t + k) * 3);
    });
  return { key, positions, area: Math.abs(areaOf(region)) * sx * sy };
}

/** The face of a light's own outline, in its width and height; null when nothing is within. `loadRegions()` must have been awaited. */
export function outlineFace({ outline }: Pick<LightOf<'area'>, 'outline'>): LightFace | null {
  const contour = Float64Array.from(outline.flatMap(({ x, y }) => [x, y]));
  const region = merged([contour], 'evenodd');
  return region.length > 0 ? faceOf(`outline:${contour.join(' ')}`, region, 1, 1) : null;
}

/**
 * The face of letters as large as they fit a light's width and height, in shares of both; null when nothing is inked.
 * `loadRegions()` must have been awaited.
 * @param name what they come of: alike names, alike outlines @param outlines in any unit
 */
export function lettersFace(
  name: string,
  outlines: Contour[],
  { width, height }: Pick<LightOf<'area'>, 'width' | 'height'>,
): LightFace | null {
  const region = merged(outlines);
  if (region.length === 0) return null;
  const [x0, y0, x1, y1] = boundsOf(region);
  const scale = Math.min(width / (x1 - x0), height / (y1 - y0));
  const middle = region.map((c) => c.map((v, i) => v - (i % 2 ? (y0 + y1) / 2 : (x0 + x1) / 2)));
  return faceOf(`letters:${name}:${width / height}`, middle, scale / width, scale / height);
}
