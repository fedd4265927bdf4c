/** Dashed lines as their pieces (SVG 1.1, 11.4, stroke-dasharray and stroke-dashoffset). */
import { lengthOf, measured, type Course } from './curve.ts';

/** Pieces one line may come to. */
const MOST_PIECES = 20_000;

/**
 * Lengths of dashes and gaps in turn, as an attribute gives them; null for a line without gaps.
 * @param lengthOf reads one length
 */
export function dashPattern(text: string | undefined, lengthOf: (text: string) => number): number[] | null {
  if (!text || text.trim() === 'none') return null;
  const lengths = text
    .trim()
    .split(/[\s,]+/)
    .map(lengthOf);
  if (lengths.some((v) => !(v >= 0)) || lengths.every((v) => v === 0)) return null;
  return lengths.length % 2 ? [...lengths, ...lengths] : lengths;
}

/** Part of a course between two lengths along it. */
function piece({ x, y, length }: Course, from: number, to: number): Course {
  const point = (at: number, k: number): [number, number] => {
    const t = (at - length[k - 1]) / (length[k] - length[k - 1] || 1);
    return [x[k - 1] + t * (x[k] - x[k - 1]), y[k - 1] + t * (y[k] - y[k - 1])];
  };
  const after = (at: number) => {
    let [low, high] = [1, length.length - 1];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (length[middle] < at) low = middle + 1;
      else high = middle;
    }
    return low;
  };
  const [first, last] = [after(from), after(to)];
  const [a, b] = [point(from, first), point(to, last)];
  const inner = Array.from({ length: last - first }, (_, i) => first + i).filter(
    (k) => length[k] > from && length[k] < to,
  );
  return measured([a[0], ...inner.map((k) => x[k]), b[0]], [a[1], ...inner.map((k) => y[k]), b[1]], false);
}

/**
 * The dashes of a line, in its own unit; a closed one begins at its first point.
 * @returns null when there would be too many
 */
export function dashed(course: Course, pattern: readonly number[], offset: number): Course[] | null {
  const whole = lengthOf(course);
  const period = pattern.reduce((sum, v) => sum + v, 0);
  if ((whole / period) * pattern.length > MOST_PIECES) return null;
  const out: Course[] = [];
  let at = -(((offset % period) + period) % period);
  for (let k = 0; at < whole; k = (k + 1) % pattern.length) {
    const end = at + pattern[k];
    if (k % 2 === 0 && end > 0 && end > at) out.push(piece(course, Math.max(0, at), Math.min(whole, end)));
    at = end;
  }
  return out.filter((c) => lengthOf(c) > 0);
}
