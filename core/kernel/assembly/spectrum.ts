// One wavelength for each path that glass has parted by colour: which it is, how it is bent, and what of light it is.
import { div, mad, most, mul, pick, splat, sub } from './lanes';
import { draw4, drawX } from './sampler4';

/** Pair of draws that chooses a path's wavelength: one for all of its glass. */
const OF_HUE: i32 = 1 << 19;
/** Shortest wavelength that is sent, and how many more there are, micrometres. */
const SHORTEST: f32 = 0.39;
const RANGE: f32 = 0.31;
/** Straight lines that make each channel's curve over the wavelengths; written by tools/hues.ts, which says what they are. */
const INTERVALS: i32 = 32;
const KNOTS: usize = memory.data<f32>([
  0.0000, 0.0000, 0.3021, 0,
  0.0000, 0.0000, 0.6270, 0,
  0.0000, 0.0000, 1.4977, 0,
  0.0000, 0.0000, 3.5473, 0,
  0.0000, 0.0000, 5.9633, 0,
  0.0000, 0.0000, 6.1458, 0,
  0.0000, 0.0000, 5.0721, 0,
  0.0000, 0.0000, 3.9029, 0,
  0.0000, 0.0000, 2.6165, 0,
  0.0000, 0.1761, 1.4127, 0,
  0.0000, 0.4420, 0.6677, 0,
  0.0000, 0.8361, 0.2943, 0,
  0.0000, 1.4300, 0.1018, 0,
  0.0000, 2.2528, 0.0000, 0,
  0.0000, 3.1447, 0.0000, 0,
  0.0000, 3.7628, 0.0000, 0,
  0.0000, 4.1192, 0.0000, 0,
  0.0064, 4.1786, 0.0000, 0,
  0.0656, 3.9120, 0.0000, 0,
  0.2133, 3.3383, 0.0000, 0,
  0.5174, 2.4787, 0.0000, 0,
  1.0471, 1.4625, 0.0000, 0,
  1.8644, 0.4345, 0.0000, 0,
  2.8674, 0.0000, 0.0000, 0,
  3.8312, 0.0000, 0.0000, 0,
  4.4848, 0.0000, 0.0000, 0,
  4.6214, 0.0000, 0.0000, 0,
  4.2022, 0.0000, 0.0000, 0,
  3.3743, 0.0000, 0.0000, 0,
  2.4005, 0.0000, 0.0000, 0,
  1.4974, 0.0000, 0.0000, 0,
  0.8155, 0.0211, 0.0000, 0,
  0.3818, 0.0214, 0.0000, 0,
], 16);
/** One over the square of the d line, whose index is the glass's, per square micrometre. */
const OF_D: f32 = 2.8962;

/** Where the wavelengths of four paths lie between the shortest and the longest, 0 … 1. */
let place: v128 = f32x4.splat(0);
/** What each channel has of them; over all wavelengths white. */
export let hueR: v128 = f32x4.splat(0);
export let hueG: v128 = f32x4.splat(0);
export let hueB: v128 = f32x4.splat(0);

/** Red, green and blue of the wavelength of one of the four. */
// @ts-ignore: decorator
@inline function hueAt(x: f32): v128 {
  const i = min(INTERVALS - 1, <i32>x);
  const at = KNOTS + (<usize>i << 4);
  const a = v128.load(at);
  return mad(sub(v128.load(at, 16), a), splat(x - <f32>i), a);
}

/** Chooses the wavelengths of four paths. @param pixels their seeds */
export function choose(pixels: v128, index: i32): void {
  draw4(pixels, index, i32x4.splat(OF_HUE));
  place = drawX;
  const x = mul(place, splat(<f32>INTERVALS));
  const a = hueAt(f32x4.extract_lane(x, 0));
  const b = hueAt(f32x4.extract_lane(x, 1));
  const c = hueAt(f32x4.extract_lane(x, 2));
  const d = hueAt(f32x4.extract_lane(x, 3));
  const ab = v128.shuffle<f32>(a, b, 0, 4, 1, 5);
  const cd = v128.shuffle<f32>(c, d, 0, 4, 1, 5);
  hueR = v128.shuffle<f32>(ab, cd, 0, 1, 4, 5);
  hueG = v128.shuffle<f32>(ab, cd, 2, 3, 6, 7);
  hueB = v128.shuffle<f32>(v128.shuffle<f32>(a, b, 2, 6, 2, 6), v128.shuffle<f32>(c, d, 2, 6, 2, 6), 0, 1, 4, 5);
}

/** Indices of a glass at the chosen wavelengths (Cauchy): what it has at the d line, and more by b / λ². */
export function indices(ior: v128, b: v128): v128 {
  const wavelength = mad(place, splat(RANGE), splat(SHORTEST));
  return most(splat(1.0001), mad(b, sub(div(splat(1), mul(wavelength, wavelength)), splat(OF_D)), ior));
}

/** Brings the hue over light that is parted here for the first time. @param parted which of the four are */
// @ts-ignore: decorator
@inline export function tinted(light: v128, hue: v128, parted: v128): v128 {
  return pick(parted, mul(light, hue), light);
}
