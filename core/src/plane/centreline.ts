/**
 * Centre lines of letters: the medial axis of the outline, taken from its Voronoi diagram, without the spurs into
 * corners, and its junctions resolved into strokes that one tube can follow.
 */
import { cos } from '../maths/reproducible.ts';
import { evened, lengthOf, measured, resampled, type Course } from './curve.ts';
import type { Voronoi } from './voronoi.ts';

/** The middle of a stroke, with half the stroke's width at each point. */
interface CentreLine extends Course {
  half: number[];
}

/** A stroke as the axis has it. */
interface Stroke extends CentreLine {
  /** Ends that meet another stroke: at its start, at its end. */
  meets: [boolean, boolean];
}

/** Two sides lie opposite each other over an axis step when a ball touches them at least this far apart. */
const OPPOSITE = cos((70 * Math.PI) / 180);
/** Steps at free ends over which sides are less far apart run into a corner. */
const CORNERING = cos((108 * Math.PI) / 180);
/**
 * Branches that end freely are spurs when they reach less than this many radii of their junction's ball beyond
 * it: those that taper run into corners, those that stay wide are limbs.
 */
const SPUR = { tapering: 1.15, wide: 0.4 };
/** Share of the junction's radius above which a branch's end is wide. */
const WIDE = 0.5;
/** Junctions nearer than this share of their balls' radii are one. */
const ONE_JUNCTION = 0.75;
/** Branches go on into each other when they turn by less than this. */
const STRAIGHT_ON = cos((62 * Math.PI) / 180);
/** Distance from a junction, in radii of its ball, from which branches show their direction and are kept. */
const AWAY = 1;
/** Strokes shorter than this before they reach for the outline, in half widths, are dots: those of i and j. */
const DOT = 1;
/** Length of a dot's course, in half widths: enough to have a direction. */
const BEAD = 0.02;
/** Resampling, in half widths. */
const STEP = 0.2;

/** A branch between two nodes of the axis: points from one to the other. */
interface Branch {
  from: number;
  to: number;
  x: number[];
  y: number[];
  r: number[];
}

class Axis {
  readonly branches = new Set<Branch>();
  /** Place and ball of each node, and the branches at it (a loop counts twice). */
  readonly nodes = new Map<number, { x: number; y: number; r: number; at: Branch[] }>();

  add(branch: Branch): void {
    this.branches.add(branch);
    for (const [end, i] of [
      [branch.from, 0],
      [branch.to, branch.x.length - 1],
    ]) {
      const node = this.nodes.get(end) ?? { x: branch.x[i], y: branch.y[i], r: branch.r[i], at: [] };
      node.at.push(branch);
      this.nodes.set(end, node);
    }
  }

  remove(branch: Branch): void {
    this.branches.delete(branch);
    for (const end of new Set([branch.from, branch.to])) {
      const node = this.nodes.get(end)!;
      node.at = node.at.filter((b) => b !== branch);
      if (node.at.length === 0) this.nodes.delete(end);
    }
  }

  degree(node: number): number {
    return this.nodes.get(node)?.at.length ?? 0;
  }

  /** Joins the branches of nodes that have two. */
  join(): void {
    for (const [id, node] of [...this.nodes]) {
      const [a, b] = node.at;
      if (node.at.length !== 2 || a === b) continue;
      this.remove(a);
      this.remove(b);
      const first = a.to === id ? a : reversed(a);
      const then = b.from === id ? b : reversed(b);
      this.add({
        from: first.from,
        to: then.to,
        x: [...first.x, ...then.x.slice(1)],
        y: [...first.y, ...then.y.slice(1)],
        r: [...first.r, ...then.r.slice(1)],
      });
    }
  }
}

const reversed = (b: Branch): Branch => ({
  from: b.to,
  to: b.from,
  x: [...b.x].reverse(),
  y: [...b.y].reverse(),
  r: [...b.r].reverse(),
});

const branchLength = (b: Branch) => lengthOf(measured(b.x, b.y, false));

/** The steps of the diagram over which the outline's sides lie opposite each other, corners left out. */
function axisOf({ sites: s, x, y, r, cells }: Voronoi): Axis {
  const steps = new Map<string, { a: number; b: number; cosine: number }>();
  const stepsAt = new Map<number, Set<string>>();
  const touch = (site: number, px: number, py: number, pr: number): [number, number] => {
    if (site < s.count) return [s.dy[site], -s.dx[site]];
    const corner = site - s.count;
    return [(s.x[corner] - px) / pr, (s.y[corner] - py) / pr];
  };
  cells.forEach((border, site) =>
    border?.across.forEach((other, i) => {
      const [a, b] = [border.nodes[i], border.nodes[i + 1]];
      const key = a < b ? `${a}/${b}` : `${b}/${a}`;
      if (r[a] === 0 || r[b] === 0 || a === b || steps.has(key)) return;
      const [mx, my, mr] = [(x[a] + x[b]) / 2, (y[a] + y[b]) / 2, (r[a] + r[b]) / 2];
      const [ax, ay] = touch(site, mx, my, mr);
      const [bx, by] = touch(other, mx, my, mr);
      const cosine = ax * bx + ay * by;
      if (cosine > OPPOSITE) return;
      steps.set(key, { a, b, cosine });
      for (const end of [a, b]) stepsAt.set(end, (stepsAt.get(end) ?? new Set()).add(key));
    }),
  );
  const free = [...stepsAt.keys()].filter((v) => stepsAt.get(v)!.size === 1);
  while (free.length > 0) {
    const at = stepsAt.get(free.pop()!)!;
    const [key] = at;
    if (at.size !== 1 || steps.get(key)!.cosine < CORNERING) continue;
    const { a, b } = steps.get(key)!;
    steps.delete(key);
    for (const end of [a, b]) {
      const left = stepsAt.get(end)!;
      left.delete(key);
      if (left.size === 1) free.push(end);
    }
  }
  const axis = new Axis();
  for (const { a, b } of steps.values()) {
    axis.add({ from: a, to: b, x: [x[a], x[b]], y: [y[a], y[b]], r: [r[a], r[b]] });
  }
  axis.join();
  return axis;
}

/** Takes out branches that end freely and are shorter than the stroke is wide, all of a fork at a time. */
function prune(axis: Axis): void {
  for (;;) {
    let least = Infinity;
    let at = -1;
    const short = (b: Branch, fork: number) => {
      const end = b.from === fork ? b.to : b.from;
      if (b.from === b.to || axis.degree(end) !== 1) return false;
      const [tip, r] = [axis.nodes.get(end)!.r, axis.nodes.get(fork)!.r];
      return branchLength(b) + tip - r < (tip > WIDE * r ? SPUR.wide : SPUR.tapering) * r;
    };
    for (const [id, node] of axis.nodes) {
      if (node.at.length < 3) continue;
      for (const b of node.at) {
        if (!short(b, id)) continue;
        const length = branchLength(b);
        if (length < least) [least, at] = [length, id];
      }
    }
    if (at < 0) return;
    const { at: around } = axis.nodes.get(at)!;
    const spurs = around.filter((b) => short(b, at));
    // where nothing else is left, the longest goes on
    if (spurs.length === around.length) {
      spurs.sort((a, b) => branchLength(a) - branchLength(b)).pop();
      if (spurs.length > 1) spurs.pop();
    }
    for (const b of spurs) axis.remove(b);
    axis.join();
  }
}

/** Takes out pieces left alone inside the ball of another branch. */
function dropStrays(axis: Axis): void {
  for (const b of [...axis.branches]) {
    if (axis.degree(b.from) !== 1 || axis.degree(b.to) !== 1) continue;
    const k = b.x.length >> 1;
    const length = branchLength(b);
    const covered = [...axis.branches].some(
      (o) =>
        o !== b &&
        o.x.some((x, i) => Math.hypot(x - b.x[k], o.y[i] - b.y[k]) < o.r[i] && length < 2 * o.r[i]),
    );
    if (covered) axis.remove(b);
  }
}

/** Makes one junction of those whose balls nearly coincide. */
function contract(axis: Axis): void {
  for (;;) {
    const found = [...axis.branches].find((b) => {
      if (b.from === b.to || axis.degree(b.from) < 3 || axis.degree(b.to) < 3) return false;
      const [p, q] = [axis.nodes.get(b.from)!, axis.nodes.get(b.to)!];
      return branchLength(b) < ONE_JUNCTION * (p.r + q.r);
    });
    if (!found) return;
    const [p, q] = [axis.nodes.get(found.from)!, axis.nodes.get(found.to)!];
    const [cx, cy, cr] = [(p.x + q.x) / 2, (p.y + q.y) / 2, Math.max(p.r, q.r)];
    const { from, to } = found;
    axis.remove(found);
    const others = new Set([...p.at, ...q.at].filter((b) => b !== found));
    for (const b of others) axis.remove(b);
    for (const b of others) {
      const moved: Branch = { ...b, x: [...b.x], y: [...b.y], r: [...b.r] };
      if (b.from === from || b.from === to) {
        moved.from = from;
        moved.x.unshift(cx);
        moved.y.unshift(cy);
        moved.r.unshift(cr);
      }
      if (b.to === from || b.to === to) {
        moved.to = from;
        moved.x.push(cx);
        moved.y.push(cy);
        moved.r.push(cr);
      }
      axis.add(moved);
    }
    const node = axis.nodes.get(from);
    if (node) Object.assign(node, { x: cx, y: cy, r: cr });
  }
}

/** A branch's end at a node: the branch, and whether it starts there. */
interface End {
  branch: Branch;
  start: boolean;
}

/** Direction in which a branch leaves its node, seen from beyond the node's ball. */
function leaving({ branch, start }: End, r: number): [number, number] {
  const b = start ? branch : reversed(branch);
  const { length } = measured(b.x, b.y, false);
  let i = length.findIndex((l) => l > 2 * AWAY * r);
  if (i < 0) i = length.length - 1;
  let j = length.findIndex((l) => l > AWAY * r * 0.5);
  if (j < 0 || j >= i) j = 0;
  const [dx, dy] = [b.x[i] - b.x[j], b.y[i] - b.y[j]];
  const l = Math.hypot(dx, dy) || 1;
  return [dx / l, dy / l];
}

/** Strokes of an axis: at each junction the branches that go on straightest are one. */
function strokesOf(axis: Axis): Stroke[] {
  const onward = new Map<string, End>();
  const name = new Map<Branch, number>([...axis.branches].map((b, i) => [b, i]));
  const key = (e: End) => `${name.get(e.branch)}/${e.start ? 's' : 'e'}`;
  for (const [id, node] of axis.nodes) {
    const ends: End[] = [];
    for (const branch of new Set(node.at)) {
      if (branch.from === id) ends.push({ branch, start: true });
      if (branch.to === id) ends.push({ branch, start: false });
    }
    if (ends.length < 2) continue;
    const pairs: { a: End; b: End; bend: number }[] = [];
    ends.forEach((a, i) => {
      const [ax, ay] = leaving(a, node.r);
      for (const b of ends.slice(i + 1)) {
        const [bx, by] = leaving(b, node.r);
        pairs.push({ a, b, bend: ax * bx + ay * by });
      }
    });
    pairs.sort((p, q) => p.bend - q.bend);
    const taken = new Set<string>();
    for (const { a, b, bend } of pairs) {
      if (bend > -STRAIGHT_ON && ends.length > 2) break;
      if (taken.has(key(a)) || taken.has(key(b))) continue;
      taken.add(key(a)).add(key(b));
      onward.set(key(a), b);
      onward.set(key(b), a);
    }
  }
  const strokes: Stroke[] = [];
  const used = new Set<Branch>();
  const walk = (first: End): void => {
    const x: number[] = [];
    const y: number[] = [];
    const half: number[] = [];
    const passed: number[] = [];
    let end: End | undefined = first;
    let closed = false;
    let startNode = -1;
    let endNode = -1;
    while (end) {
      if (used.has(end.branch)) {
        closed = end.branch === first.branch;
        break;
      }
      used.add(end.branch);
      const b = end.start ? end.branch : reversed(end.branch);
      if (startNode < 0) startNode = b.from;
      else passed.push(x.length - 1);
      endNode = b.to;
      const skip = x.length > 0 ? 1 : 0;
      x.push(...b.x.slice(skip));
      y.push(...b.y.slice(skip));
      half.push(...b.r.slice(skip));
      end = onward.get(key({ branch: end.branch, start: !end.start }));
    }
    const course = measured(x, y, closed);
    const junction = (node: number) => !closed && axis.degree(node) > 2;
    strokes.push(
      smoothJunctions({ ...course, half, meets: [junction(startNode), junction(endNode)] }, passed),
    );
  };
  // strokes with ends first, then loops
  for (const branch of axis.branches) {
    for (const start of [true, false]) {
      if (!used.has(branch) && !onward.has(key({ branch, start }))) walk({ branch, start });
    }
  }
  for (const branch of axis.branches) if (!used.has(branch)) walk({ branch, start: true });
  return strokes;
}

/** Bridges the dents that the axis has where other strokes join. */
function smoothJunctions(stroke: Stroke, passed: number[]): Stroke {
  const { x, y, length, half } = stroke;
  const keep = new Uint8Array(x.length).fill(1);
  for (const at of passed) {
    const reach = AWAY * half[at];
    for (let i = 1; i < x.length - 1; i++) if (Math.abs(length[i] - length[at]) < reach) keep[i] = 0;
  }
  const kept = [...x.keys()].filter((i) => keep[i]);
  const course = measured(
    kept.map((i) => x[i]),
    kept.map((i) => y[i]),
    stroke.closed,
  );
  return { ...stroke, ...course, half: kept.map((i) => half[i]) };
}

/** Distance from a point in a direction to the outline. */
function distanceToOutline({ sites: s }: Voronoi, x: number, y: number, dx: number, dy: number): number {
  let least = Infinity;
  for (let k = 0; k < s.count; k++) {
    const across = dx * s.dy[k] - dy * s.dx[k];
    if (Math.abs(across) < 1e-12) continue;
    const [wx, wy] = [s.x[k] - x, s.y[k] - y];
    const t = (wx * s.dy[k] - wy * s.dx[k]) / across;
    const u = (wx * dy - wy * dx) / across;
    if (t > 0 && u >= -1e-9 && u <= s.length[k] + 1e-9) least = Math.min(least, t);
  }
  return least;
}

/** Lengthens free ends towards the outline, to the given distance from it. */
function reachEnds(stroke: Stroke, diagram: Voronoi, margin: number): Stroke {
  if (stroke.closed) return stroke;
  let { x, y, half } = stroke;
  stroke.meets.forEach((meets, end) => {
    if (meets) return;
    if (end === 1) [x, y, half] = [[...x].reverse(), [...y].reverse(), [...half].reverse()];
    const r = half[0];
    // the direction shows a little way in, where the corners of the stroke's end no longer bend the axis
    let i = x.findIndex((px, k) => Math.hypot(px - x[0], y[k] - y[0]) > r);
    if (i < 1) i = x.length - 1;
    const l = Math.hypot(x[0] - x[i], y[0] - y[i]) || 1;
    const [dx, dy] = [(x[0] - x[i]) / l, (y[0] - y[i]) / l];
    const room = distanceToOutline(diagram, x[0], y[0], dx, dy) - margin;
    if (room > 0 && Number.isFinite(room)) {
      x = [x[0] + dx * room, ...x];
      y = [y[0] + dy * room, ...y];
      half = [r, ...half];
    }
    if (end === 1) [x, y, half] = [[...x].reverse(), [...y].reverse(), [...half].reverse()];
  });
  return { ...stroke, ...measured(x, y, false), half };
}

/** Half the width at rising lengths along a line. */
function halfAlong({ length, half }: CentreLine): (at: number) => number {
  let k = 0;
  return (at) => {
    while (k + 2 < length.length && length[k + 1] < at) k++;
    const t = (at - length[k]) / (length[k + 1] - length[k] || 1);
    return half[k] + Math.min(1, Math.max(0, t)) * (half[k + 1] - half[k]);
  };
}

/** A dot's course: as good as a point, about its middle. */
function bead({ x, y, length }: Stroke, half: number): CentreLine {
  const at = length.findIndex((l) => l >= length.at(-1)! / 2);
  const away = (BEAD * half) / 2;
  return { ...measured([x[at], x[at]], [y[at] - away, y[at] + away], false), half: [half, half], dot: true };
}

/**
 * The strokes of a letter.
 * @param smoothing 0 … 1: how far the line is evened out, 1 over a stroke's whole width
 * @param margin distance that free ends keep from the outline
 */
export function centreStrokes(diagram: Voronoi, smoothing: number, margin: number): CentreLine[] {
  const axis = axisOf(diagram);
  prune(axis);
  contract(axis);
  axis.join();
  prune(axis);
  dropStrays(axis);
  return strokesOf(axis).map((stroke) => {
    const halves = [...stroke.half].sort((a, b) => a - b);
    const half = halves[halves.length >> 1];
    if (!stroke.closed && !stroke.meets[0] && !stroke.meets[1] && lengthOf(stroke) < DOT * half)
      return bead(stroke, half);
    const whole = reachEnds(stroke, diagram, margin);
    const steps = resampled(whole, STEP * half);
    return { ...evened(steps, smoothing * 2 * half * 0.4), half: steps.length.map(halfAlong(whole)) };
  });
}
