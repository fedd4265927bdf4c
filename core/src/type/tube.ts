/**
 * Glass tubes: strokes swept by circles. Glass, gas, electrodes and supports are closed surfaces each; painted-out
 * stretches are part of the glass.
 */
import { TUBE_ZONES, type Tube } from '../document/index.ts';
import { centreStrokes } from './centreline.ts';
import { coursesRound, evened, lengthOf, measured, resampled, type Course } from './curve.ts';
import { diagramOf } from './diagram.ts';
import type { Contour } from './font.ts';
import { Nearby } from './nearby.ts';
import { grown } from './region.ts';
import { assemble, inPlace, Sheet, type Solid } from './sheet.ts';
import {
  cut,
  lineOf,
  ringsOf,
  single,
  sparse,
  sweep,
  withPoint,
  type Line,
  type Ring,
  type Vec,
} from './sweep.ts';

/** A tube's shape, lengths in the unit of the outline; the wall it stands off lies at z = 0. */
export type TubeShape = Pick<
  Tube,
  | 'course'
  | 'diameter'
  | 'wall'
  | 'inset'
  | 'tightest'
  | 'smoothing'
  | 'electrodes'
  | 'electrode'
  | 'standOff'
  | 'supports'
> & {
  paintOuts: { stroke: number; from: number; to: number }[];
  /** How many times coarser than for a picture that fills the screen; 1 when left out. */
  coarseness?: number;
};

/** A place where glass would have to bend too tightly. */
export interface TightBend {
  stroke: number;
  x: number;
  y: number;
  /** Radius of the centre line. */
  radius: number;
}

/** A stretch that lies along another tube rather than crossing it: there is no room for two. */
export interface CrowdedStretch {
  stroke: number;
  /** First and last point of the stroke. */
  from: number;
  to: number;
  /** Length of the stretch. */
  length: number;
}

export interface TubeFacts {
  strokes: { x: number[]; y: number[]; length: number }[];
  bends: TightBend[];
  crowded: CrowdedStretch[];
  /** Length of all strokes. */
  length: number;
}

export interface TubeSolid extends Solid {
  tube: TubeFacts;
}

const SIDES = { glass: 20, gas: 12, electrode: 12, support: 10 };
const FEWEST_SIDES = 8;
/** Rings follow each other after at most so many diameters. */
const RING_REACH = 3;
/** Distance of the middles of tubes that pass each other, in diameters. */
const CLEAR = 1.15;
/** Length over which a tube rises over another, in diameters. */
const RISE = 2.4;
/** Stretches longer than this pass along another tube, in diameters; shorter ones cross it. */
const CROSSING = 7;
/** Points of all courses together; longer ones take longer steps. */
const MOST_POINTS = 40_000;
/** Gap where a closed course is opened for its electrodes, in diameters. */
const OPENING = 0.6;
/** Shortest stroke worth bending, in diameters. */
const SHORTEST = 2;
/** Courses are always evened out by this share of the diameter, so that no inner side folds over. */
const LEAST_EVENED = 0.3;
/** Radius of an electrode and of a support, as shares of the gas's radius and of the diameter. */
const ELECTRODE = 0.72;
const SUPPORT = 0.16;
/** Gap between parts inside the glass, as a share of the diameter. */
const PARTS_APART = 0.03;

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

/** A stroke while it is laid among others. */
interface Placed {
  stroke: Course;
  near: Nearby;
}

const placed = (stroke: Course, clear: number): Placed => ({ stroke, near: new Nearby(stroke, clear) });

/** A stroke with the stretches in which it passes over others, and how many tubes high. */
interface Laid extends Placed {
  over: [number, number, number][];
}

/** Stretches of a stroke near another, by first and last point; far along itself counts too. */
function nearStretches(of: Placed, other: Placed, clear: number): [number, number][] {
  const { stroke } = of;
  const out: [number, number][] = [];
  if (!of.near.meets(other.near)) return out;
  const whole = lengthOf(stroke);
  stroke.x.forEach((x, i) => {
    // of a stroke that meets itself, the later pass is the one above
    const later = (k: number) => {
      const along = stroke.length[i] - stroke.length[k];
      return along >= 4 * clear && !(stroke.closed && whole - along < 4 * clear);
    };
    if (!other.near.has(x, stroke.y[i], of === other ? later : undefined)) return;
    const last = out.at(-1);
    if (last && last[1] === i - 1) last[1] = i;
    else out.push([i, i]);
  });
  return out;
}

/**
 * Lays strokes so that no tube runs through another: one that ends at another ends before it, one that crosses
 * another passes over it.
 * @param clear distance of the middles of tubes that do not touch
 * @param ramp length over which a tube rises
 */
function keptApart(strokes: Course[], clear: number, ramp: number): Laid[] {
  const now = strokes.map((s) => placed(s, clear));
  now.forEach((of, i) => {
    const { stroke } = of;
    if (stroke.closed) return;
    let [start, end] = [0, 0];
    const whole = lengthOf(stroke);
    for (const other of now) {
      if (other === of) continue;
      for (const [from, to] of nearStretches(of, other, clear)) {
        if (stroke.length[from] < ramp) start = Math.max(start, stroke.length[to + 1] ?? whole);
        if (whole - stroke.length[to] < ramp) end = Math.max(end, whole - (stroke.length[from - 1] ?? 0));
      }
    }
    if (start + end === 0) return;
    now[i] = placed(start + end < whole ? trimmed(stroke, start, end) : measured([], [], false), clear);
  });
  const laid: Laid[] = [];
  now.forEach((of, i) => {
    const over: Laid['over'] = [];
    const add = (other: Placed, height: number) => {
      for (const [from, to] of nearStretches(of, other, clear)) {
        over.push([of.stroke.length[from], of.stroke.length[to], height]);
      }
    };
    // over a tube that itself passes over another there, one higher
    laid.forEach((below, k) => add(now[k], 1 + Math.max(0, ...below.over.map((o) => o[2]))));
    add(now[i], 1);
    laid.push({ ...of, over });
  });
  return laid;
}

/** Places where a stroke bends more tightly than `least` allows, the tightest of each bend. */
function tightBends(stroke: Course, index: number, least: number, reach: number): TightBend[] {
  const { x, y, length, closed } = stroke;
  const n = closed ? x.length - 1 : x.length;
  const whole = lengthOf(stroke);
  const step = whole / (x.length - 1);
  const span = Math.max(1, Math.round(reach / step));
  const found: TightBend[] = [];
  let open: TightBend | null = null;
  for (let i = 0; i < n; i++) {
    const [a, c] = closed ? [(i - span + n) % n, (i + span) % n] : [i - span, i + span];
    let radius = Infinity;
    if (a >= 0 && c < x.length && length.length > 2) {
      const [ux, uy, vx, vy] = [x[i] - x[a], y[i] - y[a], x[c] - x[i], y[c] - y[i]];
      const [p, q, r] = [Math.hypot(ux, uy), Math.hypot(vx, vy), Math.hypot(x[c] - x[a], y[c] - y[a])];
      const twice = Math.abs(ux * vy - uy * vx);
      // circle through three points: product of the sides over four times the area
      radius = twice < 1e-12 ? Infinity : (p * q * r) / (2 * twice);
    }
    if (radius < least) {
      if (!open || radius < open.radius) open = { stroke: index, x: x[i], y: y[i], radius };
    } else if (open) {
      found.push(open);
      open = null;
    }
  }
  if (open) found.push(open);
  return found;
}

/** Courses through a letter. */
function coursesOf(region: Contour[], shape: TubeShape): Course[] {
  const { diameter: d, smoothing } = shape;
  if (shape.course === 'edges') {
    const inside = grown(region, -Math.max(shape.inset, d / 2));
    return coursesRound(inside).map((c) => evened(resampled(c, d / 4), smoothing * d));
  }
  const diagram = diagramOf(region);
  return diagram ? centreStrokes(diagram, smoothing, d / 2) : [];
}

/**
 * Bends tubes along courses.
 * @param lines in the unit of the shape
 */
export function buildTube(lines: readonly Course[], shape: TubeShape): TubeSolid {
  const { diameter: d, electrode } = shape;
  const radius = d / 2;
  const gasRadius = Math.max(radius * 0.1, radius - shape.wall);
  const sheets = Object.fromEntries(TUBE_ZONES.map((zone) => [zone, new Sheet()])) as Record<
    (typeof TUBE_ZONES)[number],
    Sheet
  >;
  const coarser = Math.max(1, Math.cbrt(shape.coarseness ?? 1));
  const sides = (of: keyof typeof SIDES) => Math.max(FEWEST_SIDES, Math.round(SIDES[of] / coarser));
  const facts: TubeFacts = { strokes: [], bends: [], crowded: [], length: 0 };
  const step = Math.max(d / 6, lines.reduce((sum, l) => sum + lengthOf(l), 0) / MOST_POINTS);
  const courses = lines.map((raw) => {
    const stroke = evened(resampled(raw, step), LEAST_EVENED * d);
    return stroke.closed && shape.electrodes ? opened(stroke, OPENING * d + d) : stroke;
  });
  const laid = keptApart(courses, CLEAR * d, RISE * d);
  for (const one of laid) {
    const { stroke, over } = one;
    if (lengthOf(stroke) < SHORTEST * d) continue;
    const index = facts.strokes.length;
    const rise = (along: number) =>
      over.reduce((z, [from, to, height]) => {
        const t = Math.max(0, from - along, along - to) / (RISE * d);
        return t < 1 ? Math.max(z, height * CLEAR * d * Math.cos((t * Math.PI) / 2) ** 2) : z;
      }, 0);
    const line = lineOf(stroke, (along) => shape.standOff + radius + rise(along));
    const whole = line.length.at(-1)!;
    facts.strokes.push({ x: stroke.x, y: stroke.y, length: whole });
    facts.length += whole;
    facts.bends.push(...tightBends(stroke, index, shape.tightest * d, d / 2));
    for (const [from, to] of over) {
      const [first, last] = [stroke.length.indexOf(from), stroke.length.indexOf(to)];
      if (to - from > CROSSING * d)
        facts.crowded.push({ stroke: index, from: first, to: last, length: to - from });
    }
    const painted = shape.paintOuts
      .filter((p) => p.stroke === index && p.to > p.from)
      .map((p) => [p.from * whole, p.to * whole] as const);
    const marks = painted.flat().filter((s) => s > 0 && s < whole);
    const marked = marks.reduce((l, s) => withPoint(l, s), line);
    const isPainted = (a: Ring, b: Ring) => {
      const middle = Math.min(whole, Math.max(0, (a.length + b.length) / 2));
      return painted.some(([from, to]) => middle >= from && middle <= to);
    };
    const ends = stroke.closed ? 'none' : 'round';
    const rings = ringsOf(sparse(marked, RING_REACH * d * coarser, marks), radius, ends);
    if (stroke.closed) rings[rings.length - 1] = { ...rings[0], length: whole };
    sweep(single(rings), sides('glass'), (a, b) => (isPainted(a, b) ? sheets.paintOut : sheets.glass));

    // inside: gas from electrode to electrode
    const gap = PARTS_APART * d;
    const inset = electrode + gap + gasRadius;
    // some gas between the electrodes, or none of them
    const hasEnds = shape.electrodes && !stroke.closed && electrode > 0 && whole > 2 * inset + d;
    const gasEnd = hasEnds ? inset : 0;
    const gasLine = stroke.closed ? line : cut(line, gasEnd, whole - gasEnd);
    const gas = ringsOf(sparse(gasLine, RING_REACH * d * coarser), gasRadius, ends);
    if (stroke.closed) gas[gas.length - 1] = { ...gas[0], length: whole };
    sweep(single(gas), sides('gas'), () => sheets.gas);
    if (hasEnds) {
      for (const [from, to] of [
        [0, electrode],
        [whole - electrode, whole],
      ]) {
        const part = ringsOf(sparse(cut(line, from, to), d), gasRadius * ELECTRODE, 'flat');
        sweep(single(part), sides('electrode'), () => sheets.electrode);
      }
    }
    if (shape.supports > 0 && shape.standOff > gap) {
      const count = Math.max(1, Math.round(whole / shape.supports));
      for (let i = 0; i < count; i++) {
        const at = supportAt(line, (whole * (i + 0.5)) / count, whole / count / 2, (x, y) =>
          laid.every((l) => l === one || !l.near.has(x, y)),
        );
        if (!at) continue;
        // under a rising tube the post ends below the lowest point over its edge
        const level = Math.hypot(at.towards[0], at.towards[1]);
        const steep = Math.abs(at.towards[2]) / level;
        const top = at.point[2] - radius / level - SUPPORT * d * steep - (steep > 0.01 ? 2 * gap : gap / 4);
        const post: Line = {
          at: [
            [at.point[0], at.point[1], 0],
            [at.point[0], at.point[1], top],
          ],
          towards: [
            [0, 0, 1],
            [0, 0, 1],
          ],
          length: [0, top],
        };
        sweep(single(ringsOf(post, SUPPORT * d, 'flat')), sides('support'), () => sheets.standOff);
      }
    }
  }
  const placed = TUBE_ZONES.map((zone) => inPlace(sheets[zone]));
  return { ...assemble(TUBE_ZONES, placed), limits: null, tube: facts };
}

/** Steps in which a support looks for a free place, as shares of the room it has. */
const SUPPORT_STEPS = 8;

/** The place of a support near a length along a line, clear of other tubes; null when there is none. */
function supportAt(
  line: Line,
  wanted: number,
  room: number,
  isFree: (x: number, y: number) => boolean,
): { point: Vec; towards: Vec } | null {
  const whole = line.length.at(-1)!;
  for (let k = 0; k < 2 * SUPPORT_STEPS; k++) {
    const away = (Math.ceil(k / 2) / SUPPORT_STEPS) * room * (k % 2 ? 1 : -1);
    const s = Math.min(whole, Math.max(0, wanted + away));
    const part = cut(line, s, whole);
    const [point, towards] = [part.at[0], part.towards[0]];
    if (isFree(point[0], point[1])) return { point, towards };
  }
  return null;
}

/** A letter as tubes along its centre lines or inside its edges. */
export const buildLetterTube = (region: Contour[], shape: TubeShape): TubeSolid =>
  buildTube(coursesOf(region, shape), shape);
