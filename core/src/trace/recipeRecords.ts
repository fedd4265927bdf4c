/** Recipes as the kernel reads them (RECIPE, COAT and AXIS in kernel/layout.mjs): offsets count from each one's own start. */
import { FEED_SOURCES } from '../document/index.ts';
import type { Axis, Course, LaidPicture, Recipe, RecipeCoat } from '../finish/recipe.ts';
import { cos, sin } from '../maths/reproducible.ts';
import { CHANNELS } from '../texture/texture.ts';
import * as K from './kernelLayout.ts';

/** Words at the front of what is being written, and lists that follow them. */
class Words {
  private readonly values: number[] = [];
  private readonly whole = new Set<number>();

  get bytes(): number {
    return this.values.length * 4;
  }

  /** Appends floats. @returns their offset in bytes */
  floats(values: readonly number[]): number {
    const at = this.bytes;
    this.values.push(...values);
    return at;
  }

  /** Appends room. */
  room(bytes: number): number {
    return this.floats(new Array<number>(bytes / 4).fill(0));
  }

  float(at: number, ...values: number[]): void {
    values.forEach((v, i) => (this.values[at / 4 + i] = v));
  }

  integer(at: number, value: number): void {
    this.values[at / 4] = value;
    this.whole.add(at / 4);
  }

  built(): Uint8Array {
    const floats = Float32Array.from(this.values);
    const words = new Int32Array(floats.buffer);
    for (const i of this.whole) words[i] = this.values[i]!;
    return new Uint8Array(floats.buffer);
  }
}

/** A window narrower than this is an edge. */
const NARROWEST = 1e-6;

/** A picture in the kernel's memory. */
export interface PictureAddress {
  at: number;
  peak: number;
}
export type Pictures = (laid: LaidPicture) => PictureAddress;

const SPANS = ['letter', 'word', 'block'] as const;
const TOWARDS = ['stage', 'type'] as const;
const LAYS = [...SPANS, 'tiles'] as const;
const EDGES = ['repeat', 'mirror', 'once'] as const;

function writeLaid(out: Words, at: number, laid: LaidPicture, pictures: Pictures): void {
  const { at: address, peak } = pictures(laid);
  out.integer(at + K.A_PICTURE, address);
  out.integer(at + K.A_CHANNEL, CHANNELS.indexOf(laid.channel));
  out.integer(at + K.A_LAY, LAYS.indexOf(laid.lay));
  out.integer(at + K.A_EDGES, EDGES.indexOf(laid.edges));
  out.float(at + K.A_ZOOM, laid.zoom, ...laid.shift, laid.toPeak && peak > 0 ? 1 / peak : 1);
  out.float(at + K.A_TILE, laid.tile);
}

function writeAxis(out: Words, at: number, axis: Axis, pictures: Pictures): void {
  if (axis.laid) writeLaid(out, at, axis.laid, pictures);
  out.integer(at + K.A_SOURCE, FEED_SOURCES.indexOf(axis.source));
  out.integer(at + K.A_OVER, axis.source === 'near' ? TOWARDS.indexOf(axis.toward) : SPANS.indexOf(axis.of));
  out.integer(at + K.A_LATE, axis.late ? 1 : 0);
  out.integer(at + K.A_OCTAVES, axis.octaves);
  out.float(at + K.A_PER_SCALE, 1 / axis.scale, axis.stretch, cos(axis.turn), sin(axis.turn));
  const width = axis.to - axis.from;
  const per = Math.abs(width) < NARROWEST ? 1 / NARROWEST : 1 / width;
  out.float(at + K.A_CONTRAST, axis.contrast);
  out.integer(at + K.A_SEED, axis.seed);
  out.float(at + K.A_FROM, axis.from, per);
  out.float(at + K.A_BREAKUP, axis.breakup, 1 / axis.breakupScale);
}

const writeCourse = (out: Words, { at, values }: Course) =>
  out.floats([...at, ...values.map((value) => value[0]!)]);

/** Whether an axis is a channel of a picture's colour that another one follows: both go by one draw. */
const sharesDraw = ({ laid }: Axis) => laid !== null && (laid.channel === 'red' || laid.channel === 'green');

function writeCoat(out: Words, at: number, coat: RecipeCoat, first: number, axes: readonly Axis[]): void {
  const { cover, relief, grid } = coat;
  const plain = typeof cover === 'number';
  out.integer(at + K.C_COVER_AXIS, plain ? -1 : cover.axis);
  out.float(at + K.C_COVER, plain ? cover : 1);
  out.integer(at + K.C_COVER_COUNT, plain ? 0 : cover.at.length);
  out.integer(at + K.C_COVER_AT, plain ? 0 : writeCourse(out, cover));
  out.integer(at + K.C_RELIEF_AXIS, relief ? relief.axis : -1);
  out.integer(at + K.C_RELIEF_COUNT, relief ? relief.at.length : 0);
  out.integer(at + K.C_RELIEF_AT, relief ? writeCourse(out, relief) : 0);
  out.integer(at + K.C_FIRST, first);
  out.integer(at + K.C_DIMS, grid.length);
  grid.forEach((dim, i) => {
    const to = at + K.COAT_DIMS + i * K.DIM_BYTES;
    out.integer(to, dim.axis);
    out.integer(to + 4, dim.at.length);
    out.integer(to + 8, out.floats(dim.at));
    out.integer(to + 12, sharesDraw(axes[dim.axis]!) ? 1 : 0);
  });
}

/**
 * Writes a recipe.
 * @param first number of the first surface of each coat, from the top one down
 * @param pictures where they lie
 */
export function recipeWords(
  { axes, coats }: Recipe,
  first: readonly number[],
  pictures: Pictures,
): Uint8Array {
  const out = new Words();
  out.room(K.RECIPE_BYTES + coats.length * K.COAT_BYTES);
  const axesAt = out.room(axes.length * K.AXIS_BYTES);
  out.integer(K.R_COATS, coats.length);
  out.integer(K.R_AXES, axesAt);
  axes.forEach((axis, i) => writeAxis(out, axesAt + i * K.AXIS_BYTES, axis, pictures));
  coats.forEach((coat, i) => writeCoat(out, K.RECIPE_BYTES + i * K.COAT_BYTES, coat, first[i]!, axes));
  return out.built();
}

/** Whether a recipe lies along the outline or in the plane of a face, and needs the triangles' coordinates. */
export const isLaidOut = ({ axes }: Recipe): boolean =>
  axes.some(({ source }) => ['outline', 'rim', 'weave', 'bricks', 'tiles', 'picture'].includes(source));
