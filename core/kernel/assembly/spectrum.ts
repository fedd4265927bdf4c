// One wavelength for each path that glass has parted by colour: which it is, how it is bent, and what of light it is.
import { add, div, mad, most, mul, pick, splat, sub } from './lanes';
import { draw4, drawX } from './sampler4';

/** Pair of draws that chooses a path's wavelength: one for all of its glass. */
const OF_HUE: i32 = 1 << 19;
/** Shortest wavelength that is sent, and how many more there are, micrometres. */
const SHORTEST: f32 = 0.43;
const RANGE: f32 = 0.24;
/** One over the square of the d line, whose index is the glass's, per square micrometre. */
const OF_D: f32 = 2.8962;

/** Where the wavelengths of four paths lie between the shortest and the longest, 0 … 1. */
let place: v128 = f32x4.splat(0);
/** What each channel has of them; over all wavelengths white. */
export let hueR: v128 = f32x4.splat(0);
export let hueG: v128 = f32x4.splat(0);
export let hueB: v128 = f32x4.splat(0);

// @ts-ignore: decorator
@inline function hat(at: f32, height: f32): v128 {
  return mul(splat(height), most(splat(0), sub(splat(1), f32x4.abs(mul(sub(place, splat(at)), splat(4))))));
}

/** Chooses the wavelengths of four paths. @param pixels their seeds */
export function choose(pixels: v128, index: i32): void {
  draw4(pixels, index, i32x4.splat(OF_HUE));
  place = drawX;
  // straight lines between violet, blue, green, orange and red, each channel's mean 1
  hueR = add(hat(0, 0.3), add(hat(0.75, 2.2), hat(1, 3.3)));
  hueG = add(hat(0.25, 0.3), add(hat(0.5, 2.7), hat(0.75, 1)));
  hueB = add(hat(0, 3), add(hat(0.25, 2.4), hat(0.5, 0.1)));
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
