/** A model from a file: triangles, what its parts wear, and the pictures that goes by. */
import type { Surface } from '../document/index.ts';
import type { Box } from '../stage/camera.ts';

/** A file that is no usable model; the message says what and where. */
export class ModelError extends Error {}

/** What of a picture counts: its colours, one of its channels as numbers, or all of them as normals. */
export type Channel = 'colour' | 'alpha' | 'green' | 'blue' | 'normal';

/** A picture in the file that a parameter of a material is fed from. */
export interface ModelFeed {
  parameter:
    'base_color' | 'emission_color' | 'specular_roughness' | 'base_metalness' | 'geometry_opacity' | 'relief';
  /** A place in the model's pictures. */
  picture: number;
  channel: Channel;
  /** What its values are multiplied by: red, green, blue, or all alike; of normals, what leans them. */
  factor: readonly number[];
  edges: 'repeat' | 'mirror' | 'once';
}

export interface ModelMaterial {
  name: string;
  surface: Surface;
  feeds: ModelFeed[];
}

/** Triangles with one name and material: a primitive of a node's mesh. */
export interface ModelPart {
  /** No other part's. */
  name: string;
  first: number;
  triangles: number;
  /** A place in the model's materials. */
  material: number;
  twoSided: boolean;
}

export interface Model {
  /** Nine floats a triangle, in the file's own unit, which glTF says is the metre. */
  positions: Float32Array;
  normals: Float32Array;
  tangents: Float32Array;
  /** Twelve floats a triangle: places of pictures from their middle, in widths, twice. */
  uv: Float32Array;
  triangles: number;
  parts: ModelPart[];
  materials: ModelMaterial[];
  /** Bytes of the pictures in the file. */
  pictures: Uint8Array[];
  box: Box;
  /** What of the file was not read, in words. */
  leftOut: string[];
}
