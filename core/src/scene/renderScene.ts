/** What a picture is made from: flat arrays and small records, nothing of the document left to interpret. */
import type { Camera, Surface, Zone } from '../document/index.ts';
import type { PlacedLight } from '../light/placing.ts';
import type { SurroundPicture } from '../light/surround.ts';
import type { Box } from '../stage/camera.ts';

/** A run of triangles with one finish: one zone of one letter, or one piece. */
export interface Part {
  block: string | null;
  letter: string | null;
  zone: Zone | null;
  /** Which of its strip's colours a part's points of light have; null for all else. */
  colour: number | null;
  piece: string | null;
  /** Index into the scene's finishes; 0 is the bare, undressed surface. */
  finish: number;
  firstTriangle: number;
  triangles: number;
  /** Unit vectors that lie along the reading direction and out of the front. */
  right: [number, number, number];
  out: [number, number, number];
}

export type SceneLight =
  | { kind: 'area'; name: string; placed: PlacedLight; width: number; height: number; shadow: boolean }
  /** `range`: metres at which it has faded to nothing; only lights from files have one. */
  | {
      kind: 'spot';
      name: string;
      placed: PlacedLight;
      cosInner: number;
      cosOuter: number;
      shadow: boolean;
      range?: number;
    }
  /** Shines alike all around; only scenes from files have it. */
  | { kind: 'point'; name: string; placed: PlacedLight; shadow: boolean; range?: number }
  | { kind: 'directional'; name: string; placed: PlacedLight; shadow: boolean };

export interface SceneSurround {
  picture: SurroundPicture;
  /** Linear factor (2 to the stops). */
  gain: number;
  turn: number;
  seen: boolean;
}

export interface RenderScene {
  /** Nine floats a triangle, metres; area lights follow the geometry, two triangles each. */
  positions: Float32Array;
  /** Nine floats a triangle, for the geometry only. */
  normals: Float32Array;
  /** Nine floats a triangle: unit vectors along the outline, or along the line of text. Geometry only. */
  tangents: Float32Array;
  /** Twelve floats a triangle, metres: along and across the outline, then the plane's x and y. Geometry only. */
  uv: Float32Array;
  /** Part of each geometry triangle. */
  partOf: Uint32Array;
  geometryTriangles: number;
  parts: Part[];
  finishes: Surface[];
  lights: SceneLight[];
  surround: SceneSurround;
  /** Bounds of the type, metres. */
  typeBox: Box;
  camera: Camera;
  aspect: number;
  bounces: number;
}
