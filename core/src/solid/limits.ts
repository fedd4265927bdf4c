/** How wide a bevel of a letter may be before something happens to it. */
import { cos } from '../maths/reproducible.ts';
import type { Voronoi } from '../plane/voronoi.ts';

export interface BevelLimits {
  /** Width from which strokes meet in a ridge somewhere; narrower bevels leave a flat front everywhere. */
  flat: number;
  /** Width from which nothing of the flat front is left. */
  ridge: number;
}

/** Two sides of a stroke face each other when a ball touches them at least this far apart. */
const FACING = cos((100 * Math.PI) / 180);

/** Limits of a diagram's region, in its unit: half the narrowest stroke, and the largest ball inside. */
export function bevelLimits({ sites: s, x, y, r, cells }: Voronoi): BevelLimits {
  let flat = Infinity;
  let ridge = 0;
  /** Direction in which a ball about a vertex touches a site. */
  const touch = (site: number, v: number): [number, number] => {
    if (site < s.count) return [s.dy[site], -s.dx[site]];
    const corner = site - s.count;
    return [(s.x[corner] - x[v]) / r[v], (s.y[corner] - y[v]) / r[v]];
  };
  cells.forEach((border, site) =>
    border?.across.forEach((other, i) => {
      for (const v of [border.nodes[i], border.nodes[i + 1]]) {
        if (r[v] === 0) continue;
        ridge = Math.max(ridge, r[v]);
        const [ax, ay] = touch(site, v);
        const [bx, by] = touch(other, v);
        if (ax * bx + ay * by < FACING) flat = Math.min(flat, r[v]);
      }
    }),
  );
  return { flat: Math.min(flat, ridge), ridge };
}
