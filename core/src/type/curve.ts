/** Plane curves by arc length: baselines of text, and drawn tubes. */
import type { CurveNode } from '../document/index.ts';

/** A polyline with its length up to each point. */
export interface Course {
  x: number[];
  y: number[];
  length: number[];
  closed: boolean;
}

/** Chords of one Bézier piece: their number follows from the second difference (Wang's formula). */
function chords(p: CurveNode, q: CurveNode, flatness: number): number {
  const [bx, by, cx, cy] = [p.x + p.outX, p.y + p.outY, q.x + q.inX, q.y + q.inY];
  const bend = Math.max(
    Math.hypot(p.x - 2 * bx + cx, p.y - 2 * by + cy),
    Math.hypot(bx - 2 * cx + q.x, by - 2 * cy + q.y),
  );
  return Math.min(400, Math.max(1, Math.ceil(Math.sqrt((3 * bend) / (4 * flatness)))));
}

/** Point of a Bézier piece between two nodes. */
function between(p: CurveNode, q: CurveNode, t: number): [number, number] {
  const s = 1 - t;
  const [a, b, c, d] = [s * s * s, 3 * s * s * t, 3 * s * t * t, t * t * t];
  return [
    a * p.x + b * (p.x + p.outX) + c * (q.x + q.inX) + d * q.x,
    a * p.y + b * (p.y + p.outY) + c * (q.y + q.inY) + d * q.y,
  ];
}

/** @param flatness largest distance of a chord from the curve, in the unit of the nodes */
export function courseOf(nodes: readonly CurveNode[], closed: boolean, flatness: number): Course {
  const x: number[] = [];
  const y: number[] = [];
  if (nodes.length > 0) {
    x.push(nodes[0].x);
    y.push(nodes[0].y);
  }
  const pieces = nodes.length < 2 ? 0 : closed ? nodes.length : nodes.length - 1;
  for (let k = 0; k < pieces; k++) {
    const [p, q] = [nodes[k], nodes[(k + 1) % nodes.length]];
    const n = chords(p, q, flatness);
    for (let i = 1; i <= n; i++) {
      const [px, py] = between(p, q, i / n);
      x.push(px);
      y.push(py);
    }
  }
  return measured(x, y, closed);
}

/** A polyline with its lengths. */
export function measured(x: number[], y: number[], closed: boolean): Course {
  const length = [0];
  for (let i = 1; i < x.length; i++)
    length.push(length[i - 1] + Math.hypot(x[i] - x[i - 1], y[i] - y[i - 1]));
  return { x, y, length, closed };
}

export const lengthOf = (course: Course) => course.length[course.length.length - 1] ?? 0;

/** Place and direction at a length along a course; beyond its ends it goes on straight. */
export function placeAt(course: Course, at: number): { x: number; y: number; angle: number } {
  const { x, y, length } = course;
  const last = x.length - 1;
  if (last < 1) return { x: (x[0] ?? 0) + at, y: y[0] ?? 0, angle: 0 };
  let low = 0;
  let high = last;
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (length[middle] <= at) low = middle;
    else high = middle;
  }
  const [dx, dy] = [x[high] - x[low], y[high] - y[low]];
  const whole = length[high] - length[low] || 1;
  const t = (at - length[low]) / whole;
  return { x: x[low] + t * dx, y: y[low] + t * dy, angle: Math.atan2(dy, dx) };
}
