/** Bevel profiles: from the outline (across 0, up 0) inward (across 1); none rises above the full height (up 1), where most end. */
import { acos, cos, sin } from '../maths/reproducible.ts';
import type { Bevel, Profile, ProfilePoint } from '../document/index.ts';

/**
 * One straight piece of a profile. Normals are given at both ends as (outward, up), unit length in the
 * stretched profile, so that round profiles shade smoothly and stepped ones crisply.
 */
export interface ProfilePiece {
  across0: number;
  up0: number;
  across1: number;
  up1: number;
  normal0: [number, number];
  normal1: [number, number];
}

/** A smooth stretch, over t in 0 … 1; stretches meet in edges. Across never falls. */
type Stretch = { at: (t: number) => [number, number]; straight?: boolean };

const line = (a: [number, number], b: [number, number]): Stretch => ({
  at: (t) => [a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t],
  straight: true,
});
const path = (...points: [number, number][]): Stretch[] => points.slice(1).map((p, i) => line(points[i], p));
const curve = (at: Stretch['at']): Stretch => ({ at });
const quarter = (t: number): [number, number] => [1 - cos((Math.PI / 2) * t), sin((Math.PI / 2) * t)];

/** Stairs of n risers and treads. */
const stairs = (n: number): Stretch[] =>
  path(
    ...Array.from({ length: n }, (_, i): [number, number][] => [
      [i / n, i / n],
      [i / n, (i + 1) / n],
    ]).flat(),
    [1, 1],
  );

/** Swell of a rope's beads, and how high the second then rises: the greatest (1 + t) / 2 + BEAD · sin πt. */
const BEAD = 0.32;
const ROPE_TURN = acos(-0.5 / (BEAD * Math.PI)) / Math.PI;
const ROPE_PEAK = (1 + ROPE_TURN) / 2 + BEAD * sin(Math.PI * ROPE_TURN);

const STRETCHES: Record<Exclude<Profile, 'free'>, Stretch[]> = {
  straight: path([0, 0], [1, 1]),
  round: [curve(quarter)],
  cove: [
    curve((t) => {
      const [across, up] = quarter(1 - t);
      return [1 - across, 1 - up];
    }),
  ],
  step: stairs(2),
  terrace: stairs(3),
  keel: path([0, 0], [0.35, 0.75], [1, 1]),
  // flat at both ends, steepest between
  ogee: [curve((t) => [t, t - sin(2 * Math.PI * t) / (2 * Math.PI)])],
  // steep at both ends, flat between
  saddle: [curve((t) => [t, t + sin(2 * Math.PI * t) / (2 * Math.PI)])],
  scallop: [0, 1].map((k) =>
    curve((t) => {
      const [across, up] = quarter(t);
      return [(k + across) / 2, (k + up) / 2];
    }),
  ),
  // the second bead is the highest; the face lies behind it
  rope: [0, 1].map((k) => curve((t) => [(k + t) / 2, ((k + t) / 2 + BEAD * sin(Math.PI * t)) / ROPE_PEAK])),
  gutter: [
    line([0, 0], [0.2, 1]),
    curve((t) => [0.2 + 0.6 * t, 1 - 0.45 * sin(Math.PI * t)]),
    line([0.8, 1], [1, 1]),
  ],
  rim: path([0, 0], [0.06, 1], [0.3, 1], [0.38, 0.55], [1, 0.55]),
};

/**
 * A free profile as stretches: straight between points that are not smooth, else a cubic whose handles lie along
 * the line through the neighbours, a third of the way. Across never falls, as the handles stay between the points.
 */
function freeStretches(points: readonly ProfilePoint[]): Stretch[] {
  const handle = (i: number, towards: number): [number, number] => {
    const [p, q] = [points[i], points[towards]];
    const [before, after] = [points[i - 1], points[i + 1]];
    if (!p.smooth || !before || !after) return [(2 * p.across + q.across) / 3, (2 * p.up + q.up) / 3];
    const [wx, wy] = [after.across - before.across, after.up - before.up];
    const whole = Math.hypot(wx, wy) || 1;
    const reach = (Math.hypot(q.across - p.across, q.up - p.up) / 3 / whole) * Math.sign(towards - i);
    const [low, high] = p.across < q.across ? [p.across, q.across] : [q.across, p.across];
    return [
      Math.min(high, Math.max(low, p.across + wx * reach)),
      Math.min(1, Math.max(0, p.up + wy * reach)),
    ];
  };
  return points.slice(1).map((q, k) => {
    const p = points[k];
    if (!p.smooth && !q.smooth) return line([p.across, p.up], [q.across, q.up]);
    const a = handle(k, k + 1);
    const b = handle(k + 1, k);
    return curve((t) => {
      const s = 1 - t;
      const [w0, w1, w2, w3] = [s * s * s, 3 * s * s * t, 3 * s * t * t, t * t * t];
      return [
        w0 * p.across + w1 * a[0] + w2 * b[0] + w3 * q.across,
        w0 * p.up + w1 * a[1] + w2 * b[1] + w3 * q.up,
      ];
    });
  });
}

/** What of a bevel its course depends on. */
export type ProfileShape = Pick<Bevel, 'profile' | 'points'>;

const stretchesOf = ({ profile, points }: ProfileShape): Stretch[] =>
  profile === 'free' ? (points.length >= 2 ? freeStretches(points) : STRETCHES.straight) : STRETCHES[profile];

/** Whether a profile's curves follow the number of segments. */
export const isCurved = (shape: ProfileShape) => stretchesOf(shape).some((s) => !s.straight);

/** Points of a profile for drawing, as (across, up). */
export const profilePoints = (shape: ProfileShape, segments = 12): [number, number][] =>
  stretchesOf(shape).flatMap((s) =>
    s.straight ? [s.at(0), s.at(1)] : Array.from({ length: segments + 1 }, (_, i) => s.at(i / segments)),
  );

const unit = (x: number, y: number): [number, number] => {
  const l = Math.hypot(x, y) || 1;
  return [x / l, y / l];
};

/** Across two points nearer than this, as a share of the width, is none: a riser. */
const RISER = 1e-6;

/**
 * The pieces of a bevel's profile.
 * @param bevel width and height in any one unit; `segments` pieces of each curved stretch
 */
export function profilePieces(
  bevel: ProfileShape & Pick<Bevel, 'segments' | 'width' | 'height' | 'shading'>,
): ProfilePiece[] {
  const { segments, width, height, shading } = bevel;
  if (width <= 0 && height <= 0) return [];
  // without a width or a height every profile is one face
  const stretches = width <= 0 || height <= 0 ? STRETCHES.straight : stretchesOf(bevel);
  const count = Math.max(2, segments);
  const pieces = stretches.flatMap(({ at, straight }) => {
    const normal = (t: number): [number, number] => {
      const [a, b] = [at(Math.max(0, t - 1e-4)), at(Math.min(1, t + 1e-4))];
      return unit((b[1] - a[1]) * height, (b[0] - a[0]) * width);
    };
    const n = straight ? 1 : count;
    return Array.from({ length: n }, (_, i): ProfilePiece => {
      const [t0, t1] = [i / n, (i + 1) / n];
      const [p, q] = [at(t0), at(t1)];
      return {
        across0: p[0],
        up0: p[1],
        across1: q[0] - p[0] < RISER ? p[0] : q[0],
        up1: q[1],
        normal0: normal(t0),
        normal1: normal(t1),
      };
    });
  });
  if (shading === 'crisp') {
    for (const p of pieces) {
      p.normal0 = p.normal1 = unit((p.up1 - p.up0) * height, (p.across1 - p.across0) * width);
    }
  } else if (shading === 'smooth') {
    pieces.slice(1).forEach((q, i) => {
      const p = pieces[i];
      p.normal1 = q.normal0 = unit(p.normal1[0] + q.normal0[0], p.normal1[1] + q.normal0[1]);
    });
  }
  return pieces;
}
