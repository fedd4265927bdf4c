/** Curves to polylines. */
/** A closed contour as x, y pairs. */
export type Contour = Float64Array;

/** Most chords of one curve: more than any sensible one has. */
const MOST_CHORDS = 500;

/** M, L, Q, C with absolute coordinates, or Z. */
export interface PathCommand {
  type: string;
  values: number[];
}

/**
 * Path commands to closed polylines; the number of chords follows from the second difference (Wang's formula).
 * @param scale multiplies every coordinate
 * @param flatness largest distance of a chord from its curve, after scaling
 */
export function flattened(path: readonly PathCommand[], scale: number, flatness: number): Contour[] {
  const { open, closed } = flattenedOpen(path, scale, flatness);
  return [...closed, ...open].filter((c) => c.length >= 6);
}

/** As `flattened`, with lines that the path closes apart from those it leaves open. */
export function flattenedOpen(
  path: readonly PathCommand[],
  scale: number,
  flatness: number,
): { open: Contour[]; closed: Contour[] } {
  const open: Contour[] = [];
  const closed: Contour[] = [];
  let points: number[] = [];
  let x = 0;
  let y = 0;
  const add = (px: number, py: number) => {
    const n = points.length;
    if (n >= 2 && points[n - 2] === px && points[n - 1] === py) return;
    points.push(px, py);
  };
  const end = (whole: boolean) => {
    const n = points.length;
    const meets = n >= 4 && points[0] === points[n - 2] && points[1] === points[n - 1];
    if (meets) points.length -= 2;
    if (points.length >= 4) (whole || meets ? closed : open).push(Float64Array.from(points));
    points = [];
  };
  for (const { type, values } of path) {
    const v = values.map((c) => c * scale);
    if (type === 'M') {
      end(false);
      add(v[0], v[1]);
    } else if (type === 'L') {
      add(v[0], v[1]);
    } else if (type === 'Q') {
      const bend = Math.hypot(x - 2 * v[0] + v[2], y - 2 * v[1] + v[3]);
      const n = Math.min(MOST_CHORDS, Math.max(1, Math.ceil(Math.sqrt(bend / (4 * flatness)))));
      for (let i = 1; i <= n; i++) {
        const t = i / n;
        const s = 1 - t;
        add(s * s * x + 2 * s * t * v[0] + t * t * v[2], s * s * y + 2 * s * t * v[1] + t * t * v[3]);
      }
    } else if (type === 'C') {
      const bend = Math.max(
        Math.hypot(x - 2 * v[0] + v[2], y - 2 * v[1] + v[3]),
        Math.hypot(v[0] - 2 * v[2] + v[4], v[1] - 2 * v[3] + v[5]),
      );
      const n = Math.min(MOST_CHORDS, Math.max(1, Math.ceil(Math.sqrt((3 * bend) / (4 * flatness)))));
      for (let i = 1; i <= n; i++) {
        const t = i / n;
        const s = 1 - t;
        const [a, b, c, d] = [s * s * s, 3 * s * s * t, 3 * s * t * t, t * t * t];
        add(a * x + b * v[0] + c * v[2] + d * v[4], a * y + b * v[1] + c * v[3] + d * v[5]);
      }
    } else {
      end(true);
    }
    if (v.length >= 2) [x, y] = v.slice(-2);
  }
  end(false);
  return { open, closed };
}
