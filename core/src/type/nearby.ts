/** Points of a course by where they lie, to find those near a place. */
import type { Course } from './curve.ts';

export class Nearby {
  private readonly course: Course;
  private readonly reach: number;
  private readonly cells = new Map<number, number[]>();
  /** Least and greatest x and y. */
  private readonly box = [Infinity, Infinity, -Infinity, -Infinity];

  /** @param reach greatest distance that is asked for */
  constructor(course: Course, reach: number) {
    this.course = course;
    this.reach = reach;
    course.x.forEach((x, i) => {
      const y = course.y[i];
      const [a, b, c, d] = this.box;
      Object.assign(this.box, [Math.min(a, x), Math.min(b, y), Math.max(c, x), Math.max(d, y)]);
      const key = this.key(Math.floor(x / reach), Math.floor(y / reach));
      const cell = this.cells.get(key);
      if (cell) cell.push(i);
      else this.cells.set(key, [i]);
    });
  }

  private key = (i: number, j: number) => i * 1_048_576 + j;

  /** Whether some point that counts is nearer than the reach. @param counts of a point's index */
  has(x: number, y: number, counts: (index: number) => boolean = () => true): boolean {
    const { reach, box, course } = this;
    if (x < box[0] - reach || y < box[1] - reach || x > box[2] + reach || y > box[3] + reach) return false;
    const [i, j] = [Math.floor(x / reach), Math.floor(y / reach)];
    for (let a = i - 1; a <= i + 1; a++) {
      for (let b = j - 1; b <= j + 1; b++) {
        const cell = this.cells.get(this.key(a, b));
        if (cell?.some((k) => Math.hypot(course.x[k] - x, course.y[k] - y) < reach && counts(k))) return true;
      }
    }
    return false;
  }

  /** Whether anything of another course can be near. */
  meets(other: Nearby): boolean {
    const [p, q, { reach }] = [this.box, other.box, this];
    return p[0] < q[2] + reach && q[0] < p[2] + reach && p[1] < q[3] + reach && q[1] < p[3] + reach;
  }
}
