/**
 * Sums of samples per pixel. Tiles and sample ranges merge by addition.
 *
 *   state   | sums: CHANNELS a pixel, with layers LAYERS more | stopped: one a square | shares: r g b a pixel, by group |
 *
 * Squares of WAVE_SIDE pixels stop on their own where a film has a target for its noise.
 */
import { WAVE_SIDE } from './kernelLayout.ts';

/** Floats a pixel: sums of r g b alpha, of squared luminance, of luminance past the limits, and what was set aside. */
export const AT = { lum2: 4, lost: 5, aside: 6, events: 9 } as const;
const CHANNELS = 10;
/** With layers, also sums over first hits of: albedo r g b, world normal x y z, depth, and their count. */
const LAYERS = 8;
/** Where shadows are caught, also sums of: r g b of what was caught and its count; see catching.ts. */
export const CAUGHT = { light: 0, count: 3, alone: 4, aloneCount: 7, behind: 8 } as const;
const CATCHING = 12;

export interface Film {
  width: number;
  height: number;
  /** Floats a pixel. */
  channels: number;
  /** All there is to know, to keep and to go on with. */
  state: Float32Array;
  /** Rows from the top; a part of the state like the next two. */
  sums: Float32Array;
  /** Samples at which each square was good enough; 0 goes on. Row by row. */
  stopped: Float32Array;
  /** Sums of each group's r g b, one picture after the other; empty when they are not kept apart. */
  shares: Float32Array;
  /** Share groups kept apart. */
  groups: number;
  /** Noise at which squares stop; 0: never. */
  target: number;
  /** Where a pixel has what it needs to show caught shadows; 0 where none are caught. */
  catchAt: number;
  layers: boolean;
}

export interface FilmOptions {
  /** Over memory that threads share. */
  shared?: boolean;
  /** Also gather albedo, normal and depth of what is seen first. */
  layers?: boolean;
  /** Share groups to keep apart, 12 bytes a pixel each. */
  groups?: number;
  /** Noise (noiseOf) at which squares of pixels stop; 0: never. */
  target?: number;
  /** Something in the scene leaves only shadow and reflection. */
  catches?: boolean;
}

const squaresAcross = (width: number) => Math.ceil(width / WAVE_SIDE);

export function createFilm(width: number, height: number, options: FilmOptions = {}): Film {
  const { shared = false, layers = false, groups = 0, target = 0, catches = false } = options;
  const plain = layers ? CHANNELS + LAYERS : CHANNELS;
  const channels = catches ? plain + CATCHING : plain;
  const pixels = width * height;
  const squares = squaresAcross(width) * squaresAcross(height);
  const bytes = (pixels * (channels + 3 * groups) + squares) * 4;
  const state = new Float32Array(shared ? new SharedArrayBuffer(bytes) : new ArrayBuffer(bytes));
  const sums = state.subarray(0, pixels * channels);
  const stopped = state.subarray(sums.length, sums.length + squares);
  const shares = state.subarray(sums.length + squares);
  const catchAt = catches ? plain : 0;
  return { width, height, channels, state, sums, stopped, shares, groups, target, catchAt, layers };
}

/** The square a pixel is in. */
export const squareOf = (film: Film, x: number, y: number) =>
  Math.floor(y / WAVE_SIDE) * squaresAcross(film.width) + Math.floor(x / WAVE_SIDE);

/** Samples a pixel has of the `samples` the film was traced for. */
export const samplesAt = (film: Film, pixel: number, samples: number) =>
  film.stopped[squareOf(film, pixel % film.width, Math.floor(pixel / film.width))] || samples;

/** Whether every square is good enough. */
export const isFinished = (film: Film) => film.target > 0 && film.stopped.every((s) => s > 0);

/** Share groups a film keeps apart at most; the last one has the light of all others. */
export const MOST_GROUPS = 32;
/** Bytes of a group's share of a pixel. */
const SHARE_BYTES = 12;

/** Groups of `all` that a film of so many pixels keeps apart within `bytes`: none when not even two fit. */
export function groupsWithin(all: number, pixels: number, bytes: number): number {
  const most = Math.min(MOST_GROUPS, Math.floor(bytes / (SHARE_BYTES * pixels)));
  return most < Math.min(2, all) ? 0 : Math.min(all, most);
}

/** Names of the groups that a film keeps apart. */
export const groupNames = ({ groups }: Film, names: readonly string[]): string[] =>
  names.length <= groups ? [...names] : [...names.slice(0, groups - 1), 'All others'];

/** Where a pixel's layers begin. */
export const LAYERS_AT = CHANNELS;
