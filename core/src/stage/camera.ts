/** The orbit camera and standing the type. */
import { aspectOf, type Camera, type Shot } from '../document/index.ts';
import { cos, sin } from '../maths/reproducible.ts';

type Vec = [number, number, number];

/** Looks at its target from `distance` away; azimuth 0 is the front and grows to the right. Metres, radians. */
export type OrbitCamera = Camera;

/** A camera as a position and an orthonormal frame; `forward` looks at the target. */
export interface CameraFrame {
  position: Vec;
  forward: Vec;
  right: Vec;
  up: Vec;
  /** Half the frame's width and height: tangents, or metres where all rays are parallel. */
  halfWidth: number;
  halfHeight: number;
  parallel: boolean;
  /** How far the picture is shifted across and up, in its half widths and heights. */
  shift: readonly [number, number];
}

/** The camera's frame for a picture of a given width over height. */
export function cameraFrame(camera: OrbitCamera, aspect: number): CameraFrame {
  const ce = cos(camera.elevation);
  const away: Vec = [ce * sin(camera.azimuth), sin(camera.elevation), ce * cos(camera.azimuth)];
  const level: Vec = [cos(camera.azimuth), 0, -sin(camera.azimuth)];
  const steep: Vec = [
    away[1] * level[2] - away[2] * level[1],
    away[2] * level[0] - away[0] * level[2],
    away[0] * level[1] - away[1] * level[0],
  ];
  const [c, s] = camera.roll === 0 ? [1, 0] : [cos(camera.roll), sin(camera.roll)];
  const right = level.map((v, i) => v * c - steep[i]! * s) as Vec;
  const up = steep.map((v, i) => v * c + level[i]! * s) as Vec;
  const parallel = camera.view === 'parallel';
  // what is aimed at is as large either way
  const halfWidth = (camera.sensor / 2 / camera.focal) * (parallel ? camera.distance : 1);
  return {
    position: camera.target.map((v, i) => v + away[i] * camera.distance) as Vec,
    forward: away.map((v) => -v) as Vec,
    right,
    up,
    halfWidth,
    halfHeight: halfWidth / aspect,
    parallel,
    shift: [2 * camera.shift_x, 2 * camera.shift_y],
  };
}

/** Where the frame sees a point: across and up, −1 … 1 within it; and how far along the sight, metres. */
export function inFrame(
  frame: CameraFrame,
  point: readonly number[],
): { across: number; up: number; depth: number } {
  const along = (axis: Vec) => axis.reduce((sum, v, i) => sum + v * (point[i]! - frame.position[i]!), 0);
  const depth = along(frame.forward);
  const far = frame.parallel ? 1 : depth;
  return {
    across: along(frame.right) / (frame.halfWidth * far) - frame.shift[0],
    up: along(frame.up) / (frame.halfHeight * far) - frame.shift[1],
    depth,
  };
}

/** The ray that the frame sees at a place of it, −1 … 1 across and up: its start, and its direction of no set length. */
export function rayOf(frame: CameraFrame, across: number, up: number): { origin: Vec; direction: Vec } {
  const [x, y] = [(across + frame.shift[0]) * frame.halfWidth, (up + frame.shift[1]) * frame.halfHeight];
  const aside = frame.right.map((v, i) => v * x + frame.up[i]! * y) as Vec;
  const plus = (v: Vec) => v.map((w, i) => w + aside[i]!) as Vec;
  return frame.parallel
    ? { origin: plus(frame.position), direction: frame.forward }
    : { origin: frame.position, direction: plus(frame.forward) };
}

/** A box in world space: min and max corners, metres. */
export interface Box {
  min: Vec;
  max: Vec;
}

/** Middle of a box. */
export const centreOf = (box: Box) => box.min.map((v, i) => (v + box.max[i]) / 2) as Vec;

/** The camera moved so that a box fills the frame, seen from where it looks now. `margin` 1 touches the edge. */
export function fitted(shot: Shot, box: Box, margin = 1.16): Camera {
  const target = centreOf(box);
  const frame = cameraFrame({ ...shot.camera, target, distance: 1 }, aspectOf(shot));
  let distance = 0;
  for (let k = 0; k < 8; k++) {
    const d = [0, 1, 2].map((i) => ((k >> i) & 1 ? box.max[i] : box.min[i]) - target[i]);
    const dot = (v: Vec) => v[0] * d[0] + v[1] * d[1] + v[2] * d[2];
    // along parallel rays what is near is no larger
    const near = frame.parallel ? 0 : -dot(frame.forward);
    distance = Math.max(
      distance,
      near + (Math.abs(dot(frame.right)) * margin) / frame.halfWidth,
      near + (Math.abs(dot(frame.up)) * margin) / frame.halfHeight,
    );
  }
  const away = Math.max(0.02, distance);
  // a shifted picture has its middle aside of the aim
  const aside = (axis: number) =>
    frame.right[axis]! * frame.shift[0] * frame.halfWidth +
    frame.up[axis]! * frame.shift[1] * frame.halfHeight;
  return { ...shot.camera, target: target.map((v, i) => v - away * aside(i)), distance: away };
}

/** The front view of a box: straight on, a little from above, fitted. */
export function frontView(shot: Shot, box: Box): Camera {
  return fitted({ ...shot, camera: { ...shot.camera, azimuth: 0, elevation: 0.06 } }, box);
}

/** Height the block's centre must have so that its ink stands on the floor. */
export function standingHeight(bounds: [number, number, number, number], floor: number): number {
  return floor - bounds[1];
}
