/** Points of several courses by where they lie, to find those near a place. */
import type { Course } from './curve.ts';

/** A point of a course: its course's number and its own. */
interface NearPoint {
  course: number;
  point: number;
}

export class Nearby {
  readonly reach: number;
  private readonly cells = new Map<number, NearPoint[]>();
  private readonly courses: Course[] = [];

  /** @param reach distance within which points are near */
  constructor(reach: number, courses: readonly Course[] = []) {
    this.reach = reach;
    courses.forEach((c, i) => this.put(i, c));
  }

  private key = (i: number, j: number) => i * 1_048_576 + j;
  private cellOf = (x: number, y: number) => this.key(Math.floor(x / this.reach), Math.floor(y / this.reach));

  /** Takes a course in under a number, in place of what had it. */
  put(course: number, { x, y, ...rest }: Course): void {
    const before = this.courses[course];
    for (const key of new Set(before?.x.map((px, i) => this.cellOf(px, before.y[i])))) {
      this.cells.set(
        key,
        this.cells.get(key)!.filter((p) => p.course !== course),
      );
    }
    this.courses[course] = { x, y, ...rest };
    x.forEach((px, point) => {
      const key = this.cellOf(px, y[point]);
      const cell = this.cells.get(key);
      if (cell) cell.push({ course, point });
      else this.cells.set(key, [{ course, point }]);
    });
  }

  /** The points near a place. */
  near(x: number, y: number): NearPoint[] {
    const { reach } = this;
    const found: NearPoint[] = [];
    const [i, j] = [Math.floor(x / reach), Math.floor(y / reach)];
    for (let a = i - 1; a <= i + 1; a++) {
      for (let b = j - 1; b <= j + 1; b++) {
        for (const p of this.cells.get(this.key(a, b)) ?? []) {
          const of = this.courses[p.course];
          if (Math.hypot(of.x[p.point] - x, of.y[p.point] - y) < reach) found.push(p);
        }
      }
    }
    return found;
  }
}
