/** Between the world and the picture on the stage. */
import type { Block, Camera } from '@wemlox/core/document';
import { axisOf, blockTransform, carried } from '@wemlox/core/stage/blockPlace';
import { cameraFrame, inFrame, rayOf } from '@wemlox/core/stage/camera';
import type { FrameRect } from '../engine/draft.ts';

type Vec = readonly number[];
const dot = (a: Vec, b: Vec) => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];

/** A point of a block's plane in the world. @param z from the block's zero plane; all in metres */
export function inWorld({ place }: Pick<Block, 'place'>, x: number, y: number, z = 0): number[] {
  return carried(blockTransform(place), [x, y, z]);
}

/** Where a point of the world is on the stage, CSS pixels; null behind the camera. */
export function onStage(camera: Camera, frame: FrameRect, point: Vec): [number, number] | null {
  const { across, up, depth } = inFrame(cameraFrame(camera, frame.width / frame.height), point);
  if (depth <= 1e-6) return null;
  return [frame.x + ((across + 1) / 2) * frame.width, frame.y + ((1 - up) / 2) * frame.height];
}

/** The point of a plane under a point of the stage; null where the plane is seen edge on, or lies behind. */
export function onPlane(
  camera: Camera,
  frame: FrameRect,
  plane: { origin: Vec; normal: Vec },
  x: number,
  y: number,
): number[] | null {
  const eye = cameraFrame(camera, frame.width / frame.height);
  const across = ((x - frame.x) / frame.width) * 2 - 1;
  const { origin: from, direction: ray } = rayOf(eye, across, 1 - ((y - frame.y) / frame.height) * 2);
  const facing = dot(ray, plane.normal);
  if (Math.abs(facing) < 1e-6) return null;
  const way = plane.origin.map((o, i) => o - from[i]);
  const t = dot(way, plane.normal) / facing;
  return t > 0 ? from.map((p, i) => p + ray[i] * t) : null;
}

/** The point of a block's zero plane under a point of the stage; null where the plane is seen edge on. */
export function inPlane(
  camera: Camera,
  frame: FrameRect,
  { place }: Pick<Block, 'place'>,
  x: number,
  y: number,
): [number, number] | null {
  const point = onPlane(camera, frame, { origin: place.position, normal: axisOf(place, 2) }, x, y);
  if (!point) return null;
  const at = point.map((p, i) => p - place.position[i]);
  return [dot(axisOf(place, 0), at), dot(axisOf(place, 1), at)];
}
