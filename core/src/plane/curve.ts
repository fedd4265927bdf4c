/** Plane curves by arc length: baselines of text, and drawn tubes. */
import { atan2, exp } from '../maths/reproducible.ts';

/** A polyline with its length up to each point. */
export interface Course {
  x: number[];
  y: number[];
  length: number[];
  closed: boolean;
  /** A dot, which becomes a bead rather than a line. */
  dot?: boolean;
}

/** A node with its two handles, which are relative to it (cubic Bézier). */
export interface BezierNode {
  x: number;
  y: number;
  inX: number;
  inY: number;
  outX: number;
  outY: number;
}

/** Chords of one Bézier piece: their number follows from the second difference (Wang's formula). */
function chords(p: BezierNode, q: BezierNode, flatness: number): number {
  const [bx, by, cx, cy] = [p.x + p.outX, p.y + p.outY, q.x + q.inX, q.y + q.inY];
  const bend = Math.max(
    Math.hypot(p.x - 2 * bx + cx, p.y - 2 * by + cy),
    Math.hypot(bx - 2 * cx + q.x, by - 2 * cy + q.y),
  );
  return Math.min(400, Math.max(1, Math.ceil(Math.sqrt((3 * bend) / (4 * flatness)))));
}

/** Point of a Bézier piece between two nodes. */
function between(p: BezierNode, q: BezierNode, t: number): [number, number] {
  const s = 1 - t;
  const [a, b, c, d] = [s * s * s, 3 * s * s * t, 3 * s * t * t, t * t * t];
  return [
    a * p.x + b * (p.x + p.outX) + c * (q.x + q.inX) + d * q.x,
    a * p.y + b * (p.y + p.outY) + c * (q.y + q.inY) + d * q.y,
  ];
}

/** @param flatness largest distance of a chord from the curve, in the unit of the nodes */
export function courseOf(nodes: readonly BezierNode[], closed: boolean, flatness: number): Course {
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

/** A course at even steps, no longer than `step`. */
export function resampled(course: Course, step: number): Course {
  const whole = lengthOf(course);
  const n = Math.max(course.closed ? 8 : 2, Math.ceil(whole / step));
  const x: number[] = [];
  const y: number[] = [];
  let k = 0;
  for (let i = 0; i <= n; i++) {
    const at = (whole * i) / n;
    while (k + 2 < course.x.length && course.length[k + 1] < at) k++;
    const t = (at - course.length[k]) / (course.length[k + 1] - course.length[k] || 1);
    const s = Math.min(1, Math.max(0, t));
    x.push(course.x[k] + s * (course.x[k + 1] - course.x[k]));
    y.push(course.y[k] + s * (course.y[k + 1] - course.y[k]));
  }
  return measured(x, y, course.closed);
}

/**
 * Radius of a course of even steps at a point, of the circle through it and points at a length before and after.
 * Infinite where it is straight, and near free ends.
 */
export function radiusAt({ x, y, length, closed }: Course, i: number, reach: number): number {
  const last = x.length - 1;
  const span = Math.max(1, Math.round((reach / (length[last] || 1)) * last));
  const [a, c] = closed ? [(i - span + last) % last, (i + span) % last] : [i - span, i + span];
  if (a < 0 || c > last || last < 2) return Infinity;
  const [ux, uy, vx, vy] = [x[i] - x[a], y[i] - y[a], x[c] - x[i], y[c] - y[i]];
  const [p, q, r] = [Math.hypot(ux, uy), Math.hypot(vx, vy), Math.hypot(x[c] - x[a], y[c] - y[a])];
  const twice = Math.abs(ux * vy - uy * vx);
  // product of the sides over four times the area
  return twice < 1e-12 ? Infinity : (p * q * r) / (2 * twice);
}

/** Evens a course of even steps out by a Gaussian of a width; free ends stay where they are. */
export function evened(course: Course, width: number): Course {
  const { x, y, length, closed } = course;
  const n = x.length;
  if (width <= 0 || n < 4) return course;
  const whole = lengthOf(course);
  const step = whole / (n - 1);
  const reach = Math.ceil((2.5 * width) / step);
  const px = x.slice();
  const py = y.slice();
  for (let i = 0; i < n; i++) {
    // near an end the window narrows, so that the end does not shrink
    const room = closed ? Infinity : Math.min(length[i], whole - length[i]);
    const w = Math.min(width, room / 2.5);
    if (w < step / 4) continue;
    let [sx, sy, sum] = [0, 0, 0];
    for (let j = -reach; j <= reach; j++) {
      const d = j * step;
      if (Math.abs(d) > 2.5 * w) continue;
      const at = closed ? (((i + j) % (n - 1)) + (n - 1)) % (n - 1) : i + j;
      const g = exp(-(d * d) / (2 * w * w));
      sx += g * x[at];
      sy += g * y[at];
      sum += g;
    }
    px[i] = sx / sum;
    py[i] = sy / sum;
  }
  return measured(px, py, closed);
}

const courseThrough = (points: Float64Array, order: number[], closed: boolean) =>
  measured(
    order.map((i) => points[i * 2]),
    order.map((i) => points[i * 2 + 1]),
    closed,
  );

/** The points of a course, two numbers each. */
export const pointsOf = ({ x, y }: Course) => Float64Array.from(x.flatMap((v, i) => [v, y[i]]));

/** Lists of points, two numbers each, as courses from the first to the last. */
export const coursesAlong = (lines: readonly Float64Array[]): Course[] =>
  lines.map((l) => courseThrough(l, [...Array(l.length / 2).keys()], false));

/** Lists of points as courses that come back to the first. */
export const coursesRound = (lines: readonly Float64Array[]): Course[] =>
  lines.map((l) => courseThrough(l, [...Array(l.length / 2).keys(), 0], true));

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
  return { x: x[low] + t * dx, y: y[low] + t * dy, angle: atan2(dy, dx) };
}
