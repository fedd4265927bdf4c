/**
 * Glass tubes: strokes swept by circles. Glass, gas, electrodes and supports are closed surfaces each; painted-out
 * stretches are part of the glass.
 */
import { TUBE_ZONES, type Tube } from '../document/index.ts';
import { centreStrokes, evened, resampled, type Stroke } from './centreline.ts';
import { lengthOf, measured } from './curve.ts';
import { diagramOf } from './diagram.ts';
import type { Contour } from './font.ts';
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
> & { paintOuts: { stroke: number; from: number; to: number }[] };

/** A place where glass would have to bend too tightly. */
export interface TightBend {
  stroke: number;
  x: number;
  y: number;
  /** Radius of the centre line. */
  radius: number;
}

export interface TubeFacts {
  strokes: { x: number[]; y: number[]; length: number }[];
  bends: TightBend[];
  /** Length of all strokes. */
  length: number;
}

export interface TubeSolid extends Solid {
  tube: TubeFacts;
}

const SIDES = { glass: 20, gas: 12, electrode: 12, support: 10 };
/** Rings follow each other after at most so many diameters. */
const RING_REACH = 3;
/** Distance of the middles of tubes that pass each other, in diameters. */
const CLEAR = 1.15;
/** Length over which a tube rises over another, in diameters. */
const RISE = 2.4;
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
function opened(stroke: Stroke, gap: number): Stroke {
  const n = stroke.x.length - 1;
  let low = 0;
  for (let i = 1; i < n; i++) if (stroke.y[i] < stroke.y[low]) low = i;
  const order = Array.from({ length: n + 1 }, (_, i) => (low + i) % n);
  const turned: Stroke = {
    ...stroke,
    ...measured(
      order.map((i) => stroke.x[i]),
      order.map((i) => stroke.y[i]),
      false,
    ),
    half: order.map((i) => stroke.half[i]),
  };
  return trimmed(turned, gap / 2, gap / 2);
}

/** A stroke without its first and last stretch. */
function trimmed(stroke: Stroke, start: number, end: number): Stroke {
  const whole = lengthOf(stroke);
  const step = Math.max(1e-6, whole / (stroke.x.length - 1));
  const fine = resampled(stroke, step);
  const kept = [...fine.x.keys()].filter(
    (i) => fine.length[i] >= start - 1e-9 && fine.length[i] <= whole - end + 1e-9,
  );
  return {
    ...fine,
    ...measured(
      kept.map((i) => fine.x[i]),
      kept.map((i) => fine.y[i]),
      false,
    ),
    half: kept.map((i) => fine.half[i]),
  };
}

/** A stroke with the stretches in which it passes over others, and how many tubes high. */
interface Laid {
  stroke: Stroke;
  over: [number, number, number][];
}

/** Stretches of a stroke nearer than `clear` to another, by first and last point; far along itself counts too. */
function nearStretches(stroke: Stroke, other: Stroke, clear: number): [number, number][] {
  const self = stroke === other;
  const out: [number, number][] = [];
  const whole = lengthOf(stroke);
  stroke.x.forEach((x, i) => {
    const near = other.x.some((ox, k) => {
      if (Math.abs(ox - x) > clear || Math.abs(other.y[k] - stroke.y[i]) > clear) return false;
      // of a stroke that meets itself, the later pass is the one above
      if (self) {
        const along = stroke.length[i] - stroke.length[k];
        if (along < 4 * clear || (stroke.closed && whole - along < 4 * clear)) return false;
      }
      return Math.hypot(ox - x, other.y[k] - stroke.y[i]) < clear;
    });
    if (!near) return;
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
function keptApart(strokes: Stroke[], clear: number, ramp: number): Laid[] {
  const now = [...strokes];
  now.forEach((stroke, i) => {
    if (stroke.closed) return;
    let [start, end] = [0, 0];
    const whole = lengthOf(stroke);
    for (const other of now) {
      if (other === now[i]) continue;
      for (const [from, to] of nearStretches(stroke, other, clear)) {
        if (stroke.length[from] < ramp) start = Math.max(start, stroke.length[to + 1] ?? whole);
        if (whole - stroke.length[to] < ramp) end = Math.max(end, whole - (stroke.length[from - 1] ?? 0));
      }
    }
    if (start + end > 0 && start + end < whole) now[i] = trimmed(stroke, start, end);
    else if (start + end >= whole) now[i] = { ...stroke, ...measured([], [], false), half: [] };
  });
  const laid: Laid[] = [];
  now.forEach((stroke) => {
    const over: Laid['over'] = [];
    const add = (other: Stroke, height: number) => {
      for (const [from, to] of nearStretches(stroke, other, clear)) {
        over.push([stroke.length[from], stroke.length[to], height]);
      }
    };
    for (const below of laid) {
      // over a tube that itself passes over another there, one higher
      add(below.stroke, 1 + Math.max(0, ...below.over.map((o) => o[2])));
    }
    add(stroke, 1);
    laid.push({ stroke, over });
  });
  return laid;
}

/** Places where a stroke bends more tightly than `least` allows, the tightest of each bend. */
function tightBends(stroke: Stroke, index: number, least: number, reach: number): TightBend[] {
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

/** Strokes of a letter for a shape's course. */
function coursesOf(region: Contour[], shape: TubeShape): Stroke[] {
  const { diameter: d, smoothing } = shape;
  if (shape.course === 'edges') {
    return grown(region, -Math.max(shape.inset, d / 2)).map((contour) => {
      const points = [...Array(contour.length / 2).keys()];
      const x = points.map((i) => contour[i * 2]);
      const y = points.map((i) => contour[i * 2 + 1]);
      const stroke: Stroke = {
        ...measured([...x, x[0]], [...y, y[0]], true),
        half: [...x, x[0]].map(() => d),
        meets: [false, false],
      };
      return evened(resampled(stroke, d / 4), smoothing * d);
    });
  }
  const diagram = diagramOf(region);
  return diagram ? centreStrokes(diagram, smoothing, d / 2) : [];
}

/**
 * Bends tubes along strokes.
 * @param strokes in the unit of the shape
 */
export function buildTube(strokes: readonly Stroke[], shape: TubeShape): TubeSolid {
  const { diameter: d, electrode } = shape;
  const radius = d / 2;
  const gasRadius = Math.max(radius * 0.1, radius - shape.wall);
  const sheets = Object.fromEntries(TUBE_ZONES.map((zone) => [zone, new Sheet()])) as Record<
    (typeof TUBE_ZONES)[number],
    Sheet
  >;
  const facts: TubeFacts = { strokes: [], bends: [], length: 0 };
  const courses = strokes.map((raw) => {
    const stroke = evened(resampled(raw, d / 6), LEAST_EVENED * d);
    return stroke.closed && shape.electrodes ? opened(stroke, OPENING * d + d) : stroke;
  });
  const laid = keptApart(courses, CLEAR * d, RISE * d);
  for (const { stroke, over } of laid) {
    const others = laid.flatMap((l) => (l.stroke === stroke ? [] : l.stroke));
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
    const rings = ringsOf(sparse(marked, RING_REACH * d, marks), radius, ends);
    if (stroke.closed) rings[rings.length - 1] = { ...rings[0], length: whole };
    sweep(single(rings), SIDES.glass, (a, b) => (isPainted(a, b) ? sheets.paintOut : sheets.glass));

    // inside: gas from electrode to electrode
    const gap = PARTS_APART * d;
    const inset = electrode + gap + gasRadius;
    // some gas between the electrodes, or none of them
    const hasEnds = shape.electrodes && !stroke.closed && electrode > 0 && whole > 2 * inset + d;
    const gasEnd = hasEnds ? inset : 0;
    const gasLine = stroke.closed ? line : cut(line, gasEnd, whole - gasEnd);
    const gas = ringsOf(sparse(gasLine, RING_REACH * d), gasRadius, ends);
    if (stroke.closed) gas[gas.length - 1] = { ...gas[0], length: whole };
    sweep(single(gas), SIDES.gas, () => sheets.gas);
    if (hasEnds) {
      for (const [from, to] of [
        [0, electrode],
        [whole - electrode, whole],
      ]) {
        const part = ringsOf(sparse(cut(line, from, to), d), gasRadius * ELECTRODE, 'flat');
        sweep(single(part), SIDES.electrode, () => sheets.electrode);
      }
    }
    if (shape.supports > 0 && shape.standOff > gap) {
      const count = Math.max(1, Math.round(whole / shape.supports));
      for (let i = 0; i < count; i++) {
        const at = supportAt(line, (whole * (i + 0.5)) / count, whole / count / 2, d, others);
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
        sweep(single(ringsOf(post, SUPPORT * d, 'flat')), SIDES.support, () => sheets.standOff);
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
  d: number,
  others: Stroke[],
): { point: Vec; towards: Vec } | null {
  const whole = line.length.at(-1)!;
  for (let k = 0; k < 2 * SUPPORT_STEPS; k++) {
    const away = (Math.ceil(k / 2) / SUPPORT_STEPS) * room * (k % 2 ? 1 : -1);
    const s = Math.min(whole, Math.max(0, wanted + away));
    const part = cut(line, s, whole);
    const [point, towards] = [part.at[0], part.towards[0]];
    const free = others.every((o) =>
      o.x.every((x, i) => Math.hypot(x - point[0], o.y[i] - point[1]) > CLEAR * d),
    );
    if (free) return { point, towards };
  }
  return null;
}

/** A letter as tubes along its centre lines or inside its edges. */
export const buildLetterTube = (region: Contour[], shape: TubeShape): TubeSolid =>
  buildTube(coursesOf(region, shape), shape);
