/** Keeps the courses of tubes so that none runs through another. */
import { cos } from '../maths/reproducible.ts';
import { evened, lengthOf, measured, radiusAt, resampled, type Course } from '../plane/curve.ts';
import { Nearby } from '../plane/nearby.ts';

/** Distance of the middles of tubes that pass each other, in diameters. */
const CLEAR = 1.15;
/** Length over which a tube rises over another, in diameters. */
const RISE = 2.4;
/** Gap where a closed course is opened for its electrodes, in diameters. */
const OPENING = 0.6;
/** Courses are evened out by this share of the diameter, and more until no bend is as tight as their inner side. */
const LEAST_EVENED = 0.3;
const MOST_EVENED = 1.5;
const LEAST_RADIUS = 0.55;
/** Longest stretch near another that a stroke is shortened by, in lengths of a rise. */
const MOST_CUT = 3;
/** Rounds in which tubes over tubes over tubes find their height; of a knot without a lowest one that is all. */
const MOST_ROUNDS = 12;
/** Places at which a tube's height is looked up where another passes over it. */
const SAMPLES = 5;
/** Differences in height that do not matter, in tubes. */
const LEVEL = 0.01;
/** Points of all courses together; longer ones take longer steps. */
const MOST_POINTS = 40_000;

/** Opens a closed course at its lowest point. */
function opened({ x, y }: Course, gap: number): Course {
  const n = x.length - 1;
  let low = 0;
  for (let i = 1; i < n; i++) if (y[i] < y[low]) low = i;
  const order = Array.from({ length: n + 1 }, (_, i) => (low + i) % n);
  const turned = measured(
    order.map((i) => x[i]),
    order.map((i) => y[i]),
    false,
  );
  return trimmed(turned, gap / 2, gap / 2);
}

/** A course without its first and last stretch. */
function trimmed(course: Course, start: number, end: number): Course {
  const whole = lengthOf(course);
  const fine = resampled(course, Math.max(1e-6, whole / (course.x.length - 1)));
  const kept = [...fine.x.keys()].filter(
    (i) => fine.length[i] >= start - 1e-9 && fine.length[i] <= whole - end + 1e-9,
  );
  return measured(
    kept.map((i) => fine.x[i]),
    kept.map((i) => fine.y[i]),
    false,
  );
}

/** A stretch of a course near another, by its first and last point, and the points of the other that are near it. */
interface Stretch {
  other: number;
  from: number;
  to: number;
  points: number[];
}

/** A stretch in which a stroke passes over another: from and to along it, and how many tubes high. */
interface Over {
  from: number;
  to: number;
  height: number;
}

/** A stroke as it lies among others. */
export interface TubeRun {
  stroke: Course;
  over: Over[];
  /** A bead rather than a line. */
  dot: boolean;
}

/** Runs of tubes among each other, and where their points are. */
export interface Lot {
  runs: TubeRun[];
  nearby: Nearby;
}

/** Stretches of a course near others; far along itself counts too. */
function stretchesOf(course: number, stroke: Course, nearby: Nearby): Stretch[] {
  const open = new Map<number, Stretch>();
  const out: Stretch[] = [];
  const whole = lengthOf(stroke);
  const apart = 4 * nearby.reach;
  stroke.x.forEach((x, i) => {
    for (const { course: other, point } of nearby.near(x, stroke.y[i])) {
      if (other === course) {
        // of a stroke that meets itself, the later pass is the one above
        const along = stroke.length[i] - stroke.length[point];
        if (along < apart || (stroke.closed && whole - along < apart)) continue;
      }
      let stretch = open.get(other);
      if (!stretch || stretch.to < i - 1) {
        stretch = { other, from: i, to: i, points: [] };
        open.set(other, stretch);
        out.push(stretch);
      }
      stretch.to = i;
      stretch.points.push(point);
    }
  });
  return out;
}

/** Least and greatest; of so many that they are no list of arguments. */
const rangeOf = (points: number[]) =>
  points.reduce(([low, high], p) => [Math.min(low, p), Math.max(high, p)], [Infinity, -Infinity]);

/** Whether a stroke has room on both sides of some points to rise over what crosses it there. */
function canRise(stroke: Course, points: number[], ramp: number): boolean {
  if (stroke.closed) return true;
  const [first, last] = rangeOf(points);
  return stroke.length[first] >= ramp && lengthOf(stroke) - stroke.length[last] >= ramp;
}

/**
 * Shortens strokes that end at others, so that they end before them.
 * @param strokes are replaced by the shortened ones, in `nearby` too
 * @param stubs whether what reaches a little beyond a crossing stays, as in drawn lines
 * @returns for each stroke those that must lie below it: they cross it too near their ends to rise
 */
function shorten(strokes: Course[], nearby: Nearby, ramp: number, stubs: boolean): Set<number>[] {
  const under = strokes.map(() => new Set<number>());
  strokes.forEach((stroke, i) => {
    if (stroke.closed) return;
    let [start, end] = [0, 0];
    const whole = lengthOf(stroke);
    const last = stroke.x.length - 1;
    for (const { other, from, to, points } of stretchesOf(i, stroke, nearby)) {
      const atStart = stroke.length[from] < ramp;
      const atEnd = whole - stroke.length[to] < ramp;
      // of a drawn line that runs along another, and of one along itself, nothing would be left
      if ((stubs || other === i) && stroke.length[to] - stroke.length[from] > MOST_CUT * ramp) continue;
      if (other === i) {
        // it ends at itself, or comes back to where it starts
        const [, back] = rangeOf(points);
        if (atEnd) end = Math.max(end, whole - stroke.length[from - 1]);
        else if (stroke.length[back] < ramp + nearby.reach) start = Math.max(start, stroke.length[back + 1]);
        continue;
      }
      if (!atStart && !atEnd) continue;
      if (stubs && from > 0 && to < last && canRise(strokes[other], points, ramp)) {
        under[other].add(i);
        continue;
      }
      if (atStart) start = Math.max(start, stroke.length[to + 1] ?? whole);
      if (atEnd) end = Math.max(end, whole - (stroke.length[from - 1] ?? 0));
    }
    if (start + end === 0) return;
    strokes[i] = start + end < whole ? trimmed(stroke, start, end) : measured([], [], false);
    nearby.put(i, strokes[i]);
  });
  return under;
}

/** An order in which each comes after those that lie below it, as far as there is one. */
function fromBelow(under: Set<number>[]): number[] {
  const order: number[] = [];
  const left = new Set(under.keys());
  while (left.size > 0) {
    let next: number | undefined;
    for (const i of left) {
      if (next === undefined) next = i;
      if (![...under[i]].some((k) => left.has(k))) {
        next = i;
        break;
      }
    }
    order.push(next!);
    left.delete(next!);
  }
  return order;
}

/**
 * Keeps strokes apart so that no tube runs through another: one that ends at another ends before it, one that crosses
 * another passes over it.
 * @param clear distance of the middles of tubes that do not touch
 * @param ramp length over which a tube rises
 */
function keptApart(given: Course[], clear: number, ramp: number, stubs: boolean): Lot {
  const strokes = [...given];
  const nearby = new Nearby(clear, strokes);
  const order = fromBelow(shorten(strokes, nearby, ramp, stubs));
  const place = new Int32Array(order.length);
  order.forEach((i, at) => (place[i] = at));
  const runs = strokes.map((stroke): TubeRun => ({ stroke, over: [], dot: stroke.dot === true }));
  const passes: { over: Over; below: TubeRun; lengths: number[] }[] = [];
  strokes.forEach((stroke, i) => {
    for (const { other, from, to, points } of stretchesOf(i, stroke, nearby)) {
      if (place[other] > place[i]) continue;
      const over = { from: stroke.length[from], to: stroke.length[to], height: 1 };
      runs[i].over.push(over);
      passes.push({ over, below: runs[other], lengths: sampled(points, strokes[other]) });
    }
  });
  // over a tube that itself rises there, as much higher
  for (let round = 0, changed = true; changed && round < MOST_ROUNDS; round++) {
    changed = false;
    for (const { over, below, lengths } of passes) {
      const height = 1 + Math.max(...lengths.map((at) => raised(below, at, ramp)));
      if (height <= over.height + LEVEL) continue;
      over.height = height;
      changed = true;
    }
  }
  return { runs, nearby };
}

/** Lengths along a stroke of some of its points: first, last, and a few between. */
function sampled(points: number[], { length }: Course): number[] {
  const order = [...new Set(points)].sort((a, b) => a - b);
  const count = Math.min(order.length, SAMPLES);
  return Array.from({ length: count }, (_, i) => {
    const at = Math.round((i * (order.length - 1)) / Math.max(1, count - 1));
    return length[order[at]];
  });
}

/** How many tubes high a stroke lies at a length along it. */
function raised({ over }: TubeRun, along: number, ramp: number): number {
  let most = 0;
  for (const { from, to, height } of over) {
    const t = Math.max(0, from - along, along - to) / ramp;
    if (t < 1 && height > most) most = Math.max(most, height * cos((t * Math.PI) / 2) ** 2);
  }
  return most;
}

/** Whether a support from a length along one of the tubes down to the wall would meet another, or the same further on. */
export function isOverTube(
  { runs, nearby }: Lot,
  tube: number,
  x: number,
  y: number,
  along: number,
): boolean {
  const { stroke } = runs[tube];
  const whole = lengthOf(stroke);
  return nearby.near(x, y).some(({ course, point }) => {
    const away = Math.abs(stroke.length[point] - along);
    return course !== tube || Math.min(away, stroke.closed ? whole - away : away) > 2 * nearby.reach;
  });
}

/** Least radius of a course, measured over a length on both sides of each point. */
function tightestOf(course: Course, reach: number): number {
  const n = course.closed ? course.x.length - 1 : course.x.length;
  return Array.from({ length: n }, (_, i) => radiusAt(course, i, reach)).reduce(
    (a, b) => Math.min(a, b),
    Infinity,
  );
}

/** A course of even steps evened out until the inner side of its tube folds nowhere over, or hardly. */
function unfolded(course: Course, diameter: number): Course {
  let width = LEAST_EVENED * diameter;
  for (;;) {
    const even = evened(course, width);
    if (width > MOST_EVENED * diameter || tightestOf(even, diameter / 3) > LEAST_RADIUS * diameter)
      return even;
    width *= 1.4;
  }
}

/**
 * The courses as tubes can follow them: evened out, opened for electrodes, kept apart.
 * @param diameter of the tubes, in the unit of the courses
 * @param open whether closed courses are opened
 * @param stubs whether ends a little beyond a crossing stay: drawn ones are meant, those of centre lines are not
 */
export function keptCourses(
  courses: readonly Course[],
  diameter: number,
  open: boolean,
  stubs: boolean,
): Lot {
  const step = Math.max(diameter / 6, courses.reduce((sum, c) => sum + lengthOf(c), 0) / MOST_POINTS);
  const ready = courses.map((raw) => {
    if (raw.dot) return raw;
    const stroke = unfolded(resampled(raw, step), diameter);
    return stroke.closed && open ? opened(stroke, (OPENING + 1) * diameter) : stroke;
  });
  return keptApart(ready, CLEAR * diameter, RISE * diameter, stubs);
}

/** How far a tube rises at a length along it. */
export const riseAt = (run: TubeRun, along: number, diameter: number): number =>
  CLEAR * diameter * raised(run, along, RISE * diameter);
