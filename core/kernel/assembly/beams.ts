// What stands before a light: a picture it is thrown through, and how its strength differs by direction.
import {
  E_FORWARD_X, E_PATTERN, E_PATTERN_LEVEL, E_PATTERN_SCALE, E_PROFILE, E_RIGHT_X, E_UP_X,
} from './layout';
import { opened, pixelB, pixelG, pixelOf, pixelR } from './pictures';

/** Results of before: what of each channel goes that way. */
export let beamR: f32 = 1;
export let beamG: f32 = 1;
export let beamB: f32 = 1;

let red: f32 = 0;
let green: f32 = 0;
let blue: f32 = 0;

// @ts-ignore: decorator
@inline function side(e: usize, axis: usize, x: f32, y: f32, z: f32): f32 {
  return x * load<f32>(e + axis) + y * load<f32>(e + axis, 4) + z * load<f32>(e + axis, 8);
}

/** Colour between the pixels of a level. @param u across, @param v down, 0 … 1 from the first pixel's middle to the last's */
function between(picture: usize, level: i32, u: f32, v: f32): void {
  opened(picture, level);
  pixelOf(u, v);
}

/** The picture at a level between two, which is out of focus. */
function blurred(picture: usize, level: f32, u: f32, v: f32): void {
  const lower = <i32>floor<f32>(level);
  const share: f32 = level - <f32>lower;
  between(picture, lower, u, v);
  red = pixelR;
  green = pixelG;
  blue = pixelB;
  if (!(share > 0)) return;
  between(picture, lower + 1, u, v);
  red += (pixelR - red) * share;
  green += (pixelG - green) * share;
  blue += (pixelB - blue) * share;
}

/**
 * What goes from a light in a unit direction. A pattern lies across its cone; a profile over all directions, as the
 * square that an octahedron about it unfolds to (Meyer et al., "On Floating-Point Normal Vectors", 2010), its middle
 * straight ahead.
 */
export function before(e: usize, x: f32, y: f32, z: f32): void {
  beamR = 1;
  beamG = 1;
  beamB = 1;
  const pattern = <usize>load<u32>(e, E_PATTERN);
  const profile = <usize>load<u32>(e, E_PROFILE);
  if (pattern === 0 && profile === 0) return;
  const a = side(e, E_RIGHT_X, x, y, z);
  const b = side(e, E_UP_X, x, y, z);
  const c = side(e, E_FORWARD_X, x, y, z);
  if (pattern !== 0) {
    // as whoever stands behind the light sees it thrown
    const scale: f32 = load<f32>(e, E_PATTERN_SCALE) / max<f32>(c, <f32>1e-6);
    const u: f32 = <f32>0.5 + <f32>0.5 * a * scale;
    const v: f32 = <f32>0.5 - <f32>0.5 * b * scale;
    if (u < 0 || u > 1 || v < 0 || v > 1) {
      beamR = 0;
      beamG = 0;
      beamB = 0;
      return;
    }
    blurred(pattern, load<f32>(e, E_PATTERN_LEVEL), u, v);
    beamR = red;
    beamG = green;
    beamB = blue;
  }
  if (profile === 0) return;
  const all: f32 = abs(a) + abs(b) + abs(c);
  let p: f32 = a / all;
  let q: f32 = b / all;
  if (c < 0) {
    const folded: f32 = <f32>1 - abs(q);
    q = copysign<f32>(<f32>1 - abs(p), q);
    p = copysign<f32>(folded, p);
  }
  blurred(profile, 0, <f32>0.5 + <f32>0.5 * p, <f32>0.5 - <f32>0.5 * q);
  beamR *= red;
  beamG *= red;
  beamB *= red;
}
