/** Triangulating small polygons without losing vertices on straight sides, the best-shaped ears first. */

const cross = (x: number[], y: number[], a: number, b: number, c: number) =>
  (x[b] - x[a]) * (y[c] - y[a]) - (y[b] - y[a]) * (x[c] - x[a]);

const squared = (x: number[], y: number[], p: number, q: number) => (x[p] - x[q]) ** 2 + (y[p] - y[q]) ** 2;

/** Twice the area over the square of the longest side: 0 for a sliver, √3/2 for an equilateral triangle. */
function shape(x: number[], y: number[], a: number, b: number, c: number): number {
  const longest = Math.max(squared(x, y, a, b), squared(x, y, b, c), squared(x, y, c, a));
  return longest > 0 ? cross(x, y, a, b, c) / longest : 0;
}

/** Whether a corner of the polygon lies in a triangle or on its sides; corners at the triangle's own places do not count. */
function holds(polygon: number[], x: number[], y: number[], a: number, b: number, c: number): boolean {
  for (const p of polygon) {
    if (p === a || p === b || p === c) continue;
    if (cross(x, y, a, b, p) >= 0 && cross(x, y, b, c, p) >= 0 && cross(x, y, c, a, p) >= 0) return true;
  }
  return false;
}

/**
 * Cuts ears off until nothing is left. What is folded flat ends as triangles without area, so that every side
 * of the polygon keeps its face.
 * @param polygon vertex numbers, counter-clockwise
 * @returns vertex numbers, three a triangle
 */
export function clipEars(polygon: number[], x: number[], y: number[]): number[] {
  if (polygon.length === 3) return polygon;
  const out: number[] = [];
  const rest = polygon.slice();
  while (rest.length > 3) {
    let best = -1;
    let bestShape = -Infinity;
    for (let i = 0; i < rest.length; i++) {
      const [a, b, c] = [rest[(i + rest.length - 1) % rest.length], rest[i], rest[(i + 1) % rest.length]];
      const s = shape(x, y, a, b, c);
      if (s > bestShape && (s <= 0 || !holds(rest, x, y, a, b, c))) {
        best = i;
        bestShape = s;
      }
    }
    if (best < 0) best = 0;
    const n = rest.length;
    out.push(rest[(best + n - 1) % n], rest[best], rest[(best + 1) % n]);
    rest.splice(best, 1);
  }
  if (rest.length === 3) out.push(...rest);
  return out;
}
