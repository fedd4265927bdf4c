/** The orbit camera and standing the type. */
import { aspectOf, type Camera, type Shot } from '../document/index.ts';
import { cos, sin } from '../maths/reproducible.ts';

type Vec = [number, number, number];

/** Looks at its target from `distance` away; azimuth 0 is the front and grows to the right. Metres, radians. */
export interface OrbitCamera {
  target: readonly number[];
  azimuth: number;
  elevation: number;
  distance: number;
  /** Focal length in millimetres. */
  focal: number;
}

/** A camera as a position and an orthonormal frame; `forward` looks at the target. */
export interface CameraFrame {
  position: Vec;
  forward: Vec;
  right: Vec;
  up: Vec;
  /** Tangent of half the frame's width and height. */
  halfWidth: number;
  halfHeight: number;
}

/** Width of the frame the focal length refers to, millimetres. */
export const FRAME_WIDTH = 36;

/** The camera's frame for a picture of a given width over height. */
export function cameraFrame(camera: OrbitCamera, aspect: number): CameraFrame {
  const ce = cos(camera.elevation);
  const away: Vec = [ce * sin(camera.azimuth), sin(camera.elevation), ce * cos(camera.azimuth)];
  const right: Vec = [cos(camera.azimuth), 0, -sin(camera.azimuth)];
  const up: Vec = [
    away[1] * right[2] - away[2] * right[1],
    away[2] * right[0] - away[0] * right[2],
    away[0] * right[1] - away[1] * right[0],
  ];
  const halfWidth = FRAME_WIDTH / 2 / camera.focal;
  return {
    position: camera.target.map((v, i) => v + away[i] * camera.distance) as Vec,
    forward: away.map((v) => -v) as Vec,
    right,
    up,
    halfWidth,
    halfHeight: halfWidth / aspect,
  };
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
  const frame = cameraFrame({ ...shot.camera, target }, aspectOf(shot.frame));
  let distance = 0;
  for (let k = 0; k < 8; k++) {
    const d = [0, 1, 2].map((i) => ((k >> i) & 1 ? box.max[i] : box.min[i]) - target[i]);
    const dot = (v: Vec) => v[0] * d[0] + v[1] * d[1] + v[2] * d[2];
    const near = -dot(frame.forward);
    distance = Math.max(
      distance,
      near + (Math.abs(dot(frame.right)) * margin) / frame.halfWidth,
      near + (Math.abs(dot(frame.up)) * margin) / frame.halfHeight,
    );
  }
  return { ...shot.camera, target, distance: Math.max(0.02, distance) };
}

/** The front view of a box: straight on, a little from above, fitted. */
export function frontView(shot: Shot, box: Box): Camera {
  return fitted({ ...shot, camera: { ...shot.camera, azimuth: 0, elevation: 0.06 } }, box);
}

/** Height the block's centre must have so that its ink stands on the floor. */
export function standingHeight(bounds: [number, number, number, number], floor: number): number {
  return floor - bounds[1];
}
