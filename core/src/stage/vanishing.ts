/** The camera of a picture, found by edges in it that are parallel in the world and meet the floor's two directions. */
import type { Camera } from '../document/index.ts';
import { asin, atan2, cos, sin } from '../maths/reproducible.ts';

type Vec = readonly [number, number, number];

/** A place of the frame, −1 … 1 across and up. */
export interface FramePoint {
  across: number;
  up: number;
}
export type FrameLine = readonly [FramePoint, FramePoint];
/** Two edges that are parallel in the world. */
export type LinePair = readonly [FrameLine, FrameLine];

/** Why no camera sees two pairs of edges as they are drawn. */
export type Unmatched = 'no-line' | 'no-right-angle' | 'one-direction';

const cross = (a: Vec, b: Vec): Vec => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];
const dot = (a: Vec, b: Vec) => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
const unit = (v: Vec): Vec => {
  const l = Math.hypot(...v);
  return [v[0] / l, v[1] / l, v[2] / l];
};
const flipped = (v: Vec): Vec => [-v[0], -v[1], -v[2]];

/** Where two lines meet, in half widths of the frame from its middle; the third number is nought at infinity. */
function meeting([a, b]: LinePair, aspect: number): Vec | null {
  const line = ([p, q]: FrameLine): Vec => cross([p.across, p.up / aspect, 1], [q.across, q.up / aspect, 1]);
  const [l, m] = [line(a), line(b)];
  if (Math.hypot(...l) < 1e-9 || Math.hypot(...m) < 1e-9) return null;
  const [u, v] = [unit(l), unit(m)];
  const at = cross(u, v);
  return Math.hypot(...at) < 1e-12 ? null : unit(at);
}

/** Third number below which lines count as parallel in the picture: they meet some hundred frames away. */
const AT_INFINITY = 1e-3;

/**
 * The camera that sees both pairs of edges lie along the floor, at right angles to each other, the word along the one
 * that runs more across. It keeps what it aims at, its distance and, where one pair is parallel in the picture too, its
 * focal length; of height only the share of the distance can be known. After Caprile and Torre, "Using vanishing points
 * for camera calibration" (1990): with the middle of the frame as principal point, f² = −v₁ · v₂.
 * @param aspect width over height of the frame
 */
export function cameraOfEdges(
  [first, second]: readonly [LinePair, LinePair],
  aspect: number,
  camera: Camera,
): Camera | Unmatched {
  const [v1, v2] = [meeting(first, aspect), meeting(second, aspect)];
  if (!v1 || !v2) return 'no-line';
  const far = [v1, v2].map((v) => Math.abs(v[2]) < AT_INFINITY);
  let f = (2 * camera.focal) / camera.sensor;
  if (!far[0] && !far[1]) {
    const square = -(v1[0] * v2[0] + v1[1] * v2[1]) / (v1[2] * v2[2]);
    if (!(square > 1e-6)) return 'no-right-angle';
    f = Math.sqrt(square);
  }
  // away from the camera, or along the picture where they meet nowhere
  const along = (v: Vec, isFar: boolean): Vec =>
    isFar ? unit([v[0], v[1], 0]) : unit([v[0] / v[2], v[1] / v[2], -f]);
  const d1 = along(v1, far[0]);
  const seen = along(v2, far[1]);
  // what remains of it at right angles: nothing is to be taken away where both meet
  const rest = seen.map((v, i) => v - dot(seen, d1) * d1[i]) as unknown as Vec;
  if (Math.hypot(...rest) < 0.05) return 'one-direction';
  const d2 = unit(rest);
  const normal = unit(cross(d1, d2));
  const up = normal[1] < 0 ? flipped(normal) : normal;
  const elevation = asin(Math.max(-1, Math.min(1, up[2])));
  const roll = atan2(-up[0], up[1]);
  const across = Math.abs(d1[0]) > Math.abs(d2[0]) ? d1 : d2;
  const right = across[0] < 0 ? flipped(across) : across;
  const level = right[0] * cos(roll) + right[1] * sin(roll);
  const azimuth = atan2(right[2] / Math.max(1e-9, cos(elevation)), level);
  return {
    ...camera,
    view: 'perspective',
    focal: (f * camera.sensor) / 2,
    shift_x: 0,
    shift_y: 0,
    elevation,
    roll,
    azimuth,
  };
}
