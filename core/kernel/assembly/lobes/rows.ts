// A finish's rows over the cosine, read for four paths at once.
import { AGAIN_ROWS, BRUSHED_ROWS, FILM_GLOSS_ROWS, FILM_ROWS, FUZZ_ROWS, LAYER_ROWS, METAL_ROWS, ROWS } from '../layout';
import { clamp01, mad, mul, root, splat, sub } from '../lanes';

/** Results: the four numbers of a row at each path's cosine. */
export let row0: v128 = f32x4.splat(0);
export let row1: v128 = f32x4.splat(0);
export let row2: v128 = f32x4.splat(0);
export let row3: v128 = f32x4.splat(0);

// @ts-ignore: decorator
@inline function between(rows: usize, i: i32, t: v128): v128 {
  const at = rows + (<usize>i << 4);
  const a = v128.load(at);
  return mad(sub(v128.load(at, 16), a), t, a);
}

/** Rows are even in the root of the cosine. */
function read(rows: usize, cosine: v128): void {
  const x = mul(root(clamp01(cosine)), splat(<f32>(ROWS - 1)));
  const i = i32x4.min_s(i32x4.trunc_sat_f32x4_s(x), i32x4.splat(ROWS - 2));
  const t = sub(x, f32x4.convert_i32x4_s(i));
  const a = between(rows, i32x4.extract_lane(i, 0), v128.shuffle<f32>(t, t, 0, 0, 0, 0));
  const b = between(rows, i32x4.extract_lane(i, 1), v128.shuffle<f32>(t, t, 1, 1, 1, 1));
  const c = between(rows, i32x4.extract_lane(i, 2), v128.shuffle<f32>(t, t, 2, 2, 2, 2));
  const d = between(rows, i32x4.extract_lane(i, 3), v128.shuffle<f32>(t, t, 3, 3, 3, 3));
  const ab = v128.shuffle<f32>(a, b, 0, 4, 1, 5);
  const cd = v128.shuffle<f32>(c, d, 0, 4, 1, 5);
  const abHigh = v128.shuffle<f32>(a, b, 2, 6, 3, 7);
  const cdHigh = v128.shuffle<f32>(c, d, 2, 6, 3, 7);
  row0 = v128.shuffle<f32>(ab, cd, 0, 1, 4, 5);
  row1 = v128.shuffle<f32>(ab, cd, 2, 3, 6, 7);
  row2 = v128.shuffle<f32>(abHigh, cdHigh, 0, 1, 4, 5);
  row3 = v128.shuffle<f32>(abHigh, cdHigh, 2, 3, 6, 7);
}

/** Red, green and blue of the metal's reflectance, and what a sheet's spread keeps. */
export function metalRows(finish: usize, cosine: v128): void {
  read(finish + METAL_ROWS, cosine);
}

/** Gloss, coat, and what single scattering loses outside and inside. */
export function layerRows(finish: usize, cosine: v128): void {
  read(finish + LAYER_ROWS, cosine);
}

/** Red, green and blue of what an interface under a film reflects, and their mean. @param cosine outside */
export function filmRows(finish: usize, cosine: v128): void {
  read(finish + FILM_ROWS, cosine);
}

/** What of the gloss each channel is under a film, over their mean. @param cosine outside */
export function filmGlossRows(finish: usize, cosine: v128): void {
  read(finish + FILM_GLOSS_ROWS, cosine);
}

/** What fuzz reflects, and the two numbers of its lobe. */
export function fuzzRows(finish: usize, cosine: v128): void {
  read(finish + FUZZ_ROWS, cosine);
}

/** What the widened lobe returns along and across, and what the metal loses more there than on the whole. */
export function brushedRows(finish: usize, cosine: v128): void {
  read(finish + BRUSHED_ROWS, cosine);
}

/** Red, green and blue of the light that the metal loses and gives back, and the slack between along and across. */
export function againRows(finish: usize, cosine: v128): void {
  read(finish + AGAIN_ROWS, cosine);
}

/** One number of a row at one cosine. @param rows where that number of the first row is */
function one(rows: usize, cosine: f32): f32 {
  const x: f32 = sqrt<f32>(min<f32>(1, max<f32>(0, cosine))) * <f32>(ROWS - 1);
  const i = min(ROWS - 2, <i32>x);
  const at = rows + (<usize>i << 4);
  const a = load<f32>(at);
  return a + (load<f32>(at, 16) - a) * (x - <f32>i);
}

/** Gloss at one cosine. */
export function glossAt(finish: usize, cosine: f32): f32 {
  return one(finish + LAYER_ROWS, cosine);
}

/** What of the gloss a channel is under a film, over the mean, at one cosine. */
export function filmAt(finish: usize, cosine: f32, channel: usize): f32 {
  return one(finish + FILM_GLOSS_ROWS + (channel << 2), cosine);
}
