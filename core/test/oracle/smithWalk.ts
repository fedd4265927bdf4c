/**
 * Light on a rough mirror as a random walk over a Smith surface of GGX slopes, all bounces (Heitz, Hanika, d'Eon &
 * Dachsbacher, "Multiple-scattering microfacet BSDFs with the Smith model", ACM TOG 35(4), 2016, algorithms 1 to 3):
 * nothing is fitted in it, which is what finishes are held against.
 */

type Vector = readonly [number, number, number];

/** Smith's Λ of a direction up or down. */
function lambda(ax: number, ay: number, [x, y, z]: Vector): number {
  const slope = Math.hypot(ax * x, ay * y) / Math.abs(z);
  return (Math.sign(z) * Math.sqrt(1 + slope * slope) - 1) / 2;
}

/** Height at which a ray is met next, the surface's heights being even from -1 to 1; Infinity where it leaves. */
function nextHeight(ax: number, ay: number, along: Vector, height: number, u: number): number {
  const share = Math.min(1, (height + 1) / 2);
  if (along[2] > 0.9999999) return Infinity;
  if (along[2] < -0.9999999) return 2 * u * share - 1;
  if (Math.abs(along[2]) < 1e-6) return height;
  const l = lambda(ax, ay, along);
  const free = along[2] > 0 ? share ** l : 0;
  if (u >= 1 - free) return Infinity;
  return 2 * (share / (1 - u) ** (1 / l)) - 1;
}

/** A normal as it is seen from a direction, which may come from below (Dupuy & Benyoub 2023). */
function seenNormal(ax: number, ay: number, [x, y, z]: Vector, u: number, v: number): Vector {
  const l = Math.hypot(ax * x, ay * y, z);
  const [sx, sy, sz] = [(ax * x) / l, (ay * y) / l, z / l];
  const cz = (1 - v) * (1 + sz) - sz;
  const s = Math.sqrt(Math.max(0, 1 - cz * cz));
  const phi = 2 * Math.PI * u;
  const [hx, hy, hz] = [(s * Math.cos(phi) + sx) * ax, (s * Math.sin(phi) + sy) * ay, cz + sz];
  const n = Math.hypot(hx, hy, hz);
  return [hx / n, hy / n, hz / n];
}

/** Bounces after which a walk is given up; what is left by then is below a ten thousandth. */
const MOST_BOUNCES = 64;

/**
 * Follows one walk. @param seen towards the viewer
 * @param left is told the direction in which it leaves, and the cosines at its facets, one a bounce
 */
export function walk(
  ax: number,
  ay: number,
  seen: Vector,
  random: () => number,
  left: (direction: Vector, cosines: readonly number[]) => void,
): void {
  const cosines: number[] = [];
  let along: Vector = [-seen[0], -seen[1], -seen[2]];
  let height = 1;
  while (cosines.length < MOST_BOUNCES) {
    height = nextHeight(ax, ay, along, height, random());
    if (height === Infinity) return left(along, cosines);
    const back: Vector = [-along[0], -along[1], -along[2]];
    const m = seenNormal(ax, ay, back, random(), random());
    const c = back[0] * m[0] + back[1] * m[1] + back[2] * m[2];
    cosines.push(c);
    along = [2 * c * m[0] - back[0], 2 * c * m[1] - back[1], 2 * c * m[2] - back[2]];
  }
}
