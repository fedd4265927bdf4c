/**
 * Glass tubes: strokes swept by circles. Glass, gas, electrodes and supports are closed surfaces each; painted-out
 * stretches are part of the glass.
 */
import { pow } from '../maths/reproducible.ts';
import { TUBE_ZONES, type Tube } from '../document/index.ts';
import { centreStrokes } from '../plane/centreline.ts';
import { coursesRound, evened, lengthOf, radiusAt, resampled, type Course } from '../plane/curve.ts';
import { diagramOf } from '../plane/diagram.ts';
import type { Contour } from '../plane/flatten.ts';
import { isOverTube, keptCourses, riseAt, type Lot } from './tubeCourses.ts';
import { grown } from '../plane/region.ts';
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
/** Stretches longer than this pass along another tube, in diameters; shorter ones cross it. */
const CROSSING = 7;
/** Shortest stroke worth bending, in diameters. */
const SHORTEST = 2;
/** Radius of an electrode and of a support, as shares of the gas's radius and of the diameter. */
const ELECTRODE = 0.72;
const SUPPORT = 0.16;
/** Gap between parts inside the glass, as a share of the diameter. */
const PARTS_APART = 0.03;

/** Places where a stroke bends more tightly than `least` allows, the tightest of each bend. */
function tightBends(stroke: Course, index: number, least: number, reach: number): TightBend[] {
  const { x, y, closed } = stroke;
  const found: TightBend[] = [];
  let open: TightBend | null = null;
  for (let i = 0; i < (closed ? x.length - 1 : x.length); i++) {
    const radius = radiusAt(stroke, i, reach);
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
  const lot = keptCourses(lines, shape.diameter, shape.electrodes, false);
  return bend(lot, 0, lines.length, shape);
}

/** Bends drawn tubes, in sets that stand among each other. @param sets each with its own painted stretches */
export function buildTubes(sets: readonly { lines: readonly Course[]; shape: TubeShape }[]): TubeSolid[] {
  if (sets.length === 0) return [];
  const { diameter, electrodes } = sets[0].shape;
  const lines = sets.flatMap((s) => s.lines);
  const lot = keptCourses(lines, diameter, electrodes, true);
  let at = 0;
  return sets.map((set) => bend(lot, at, (at += set.lines.length), set.shape));
}

/** Bends the tubes of a lot from the first up to the last, which is not among them. */
function bend(lot: Lot, first: number, last: number, shape: TubeShape): TubeSolid {
  const { diameter: d, electrode } = shape;
  const radius = d / 2;
  const gasRadius = Math.max(radius * 0.1, radius - shape.wall);
  const sheets = Object.fromEntries(TUBE_ZONES.map((zone) => [zone, new Sheet()])) as Record<
    (typeof TUBE_ZONES)[number],
    Sheet
  >;
  const coarser = Math.max(1, pow(shape.coarseness ?? 1, 1 / 3));
  const sides = (of: keyof typeof SIDES) => Math.max(FEWEST_SIDES, Math.round(SIDES[of] / coarser));
  const facts: TubeFacts = { strokes: [], bends: [], crowded: [], length: 0 };
  for (let tube = first; tube < last; tube++) {
    const one = lot.runs[tube];
    const { stroke, over, dot } = one;
    if (!dot && lengthOf(stroke) < SHORTEST * d) continue;
    const index = facts.strokes.length;
    const line = lineOf(stroke, (along) => shape.standOff + radius + riseAt(one, along, d));
    const whole = line.length.at(-1)!;
    facts.strokes.push({ x: stroke.x, y: stroke.y, length: whole });
    facts.length += whole;
    if (!dot) facts.bends.push(...tightBends(stroke, index, shape.tightest * d, d / 2));
    for (const { from, to } of over) {
      const ends = [stroke.length.indexOf(from), stroke.length.indexOf(to)];
      if (to - from > CROSSING * d)
        facts.crowded.push({ stroke: index, from: ends[0], to: ends[1], length: to - from });
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
        const at = supportAt(
          line,
          (whole * (i + 0.5)) / count,
          whole / count / 2,
          (x, y, along) => !isOverTube(lot, tube, x, y, along),
        );
        if (!at) continue;
        const top = at[2] - radius - gap / 4;
        const post: Line = {
          at: [
            [at[0], at[1], 0],
            [at[0], at[1], top],
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

/** Slope from which a tube no longer counts as level. */
const STEEP = 0.02;

/** The point a support stands under, near a length along a line, where the tube is level and clear of others. */
function supportAt(
  line: Line,
  wanted: number,
  room: number,
  isFree: (x: number, y: number, along: number) => boolean,
): Vec | null {
  const whole = line.length.at(-1)!;
  for (let k = 0; k < 2 * SUPPORT_STEPS; k++) {
    const away = (Math.ceil(k / 2) / SUPPORT_STEPS) * room * (k % 2 ? 1 : -1);
    const s = Math.min(whole, Math.max(0, wanted + away));
    const part = cut(line, s, whole);
    const [point, towards] = [part.at[0], part.towards[0]];
    if (Math.abs(towards[2]) < STEEP && isFree(point[0], point[1], s)) return point;
  }
  return null;
}

/** A letter as tubes along its centre lines or inside its edges. */
export const buildLetterTube = (region: Contour[], shape: TubeShape): TubeSolid =>
  buildTube(coursesOf(region, shape), shape);
