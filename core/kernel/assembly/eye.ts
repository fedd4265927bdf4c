// Primary rays: a tent filter two pixels wide, by inverting its cumulative distribution.
import { LANE_HITS, P_DX, P_DY, P_DZ, P_OX, P_OY, P_OZ, P_PIXEL } from './layout';
import { add, below, div, dot3, mad, mul, pick, root, splat, sub } from './lanes';
import { cosOut, sinOut, turn4 } from './maths4';
import { draw4, drawX, drawY } from './sampler4';
import { lane } from './scene';

let orthographic: bool = false;
/** Rays come as they are, six floats a path at LANE_HITS. */
let given: bool = false;
let width: f32 = 1;
let height: f32 = 1;
/** Height of a pixel, a metre away or anywhere. */
let pixel: f32 = 0;
let orgX: f32 = 0;
let orgY: f32 = 0;
let orgZ: f32 = 0;
let fwdX: f32 = 0;
let fwdY: f32 = 0;
let fwdZ: f32 = 0;
let rightX: f32 = 0;
let rightY: f32 = 0;
let rightZ: f32 = 0;
let upX: f32 = 0;
let upY: f32 = 0;
let upZ: f32 = 0;
let shiftX: f32 = 0;
let shiftY: f32 = 0;
/** Of the lens: radius of its opening, 0 for a point; distance that is sharp; sides of the opening, and its turn. */
let radius: f32 = 0;
let focus: f32 = 1;
let blades: f32 = 0;
let bladeTurn: f32 = 0;
/** Pair of draws that place a ray on the lens. */
const LENS_PAIR: i32 = 1 << 26;

/** @param at eighteen floats: origin, forward, right, up, shift, lens's radius, focus, blades and their turn; @param way 0 in perspective, 1 orthographic, 2 for given rays */
export function setEye(at: usize, w: f32, h: f32, way: i32): void {
  orgX = load<f32>(at);
  orgY = load<f32>(at, 4);
  orgZ = load<f32>(at, 8);
  fwdX = load<f32>(at, 12);
  fwdY = load<f32>(at, 16);
  fwdZ = load<f32>(at, 20);
  rightX = load<f32>(at, 24);
  rightY = load<f32>(at, 28);
  rightZ = load<f32>(at, 32);
  upX = load<f32>(at, 36);
  upY = load<f32>(at, 40);
  upZ = load<f32>(at, 44);
  shiftX = load<f32>(at, 48);
  shiftY = load<f32>(at, 52);
  radius = load<f32>(at, 56);
  focus = load<f32>(at, 60);
  blades = load<f32>(at, 64);
  bladeTurn = load<f32>(at, 68);
  width = w;
  height = h;
  orthographic = way === 1;
  given = way === 2;
  pixel = (<f32>2 * sqrt<f32>(upX * upX + upY * upY + upZ * upZ)) / h;
}

/** Width of what a pixel sees at a distance along its ray, metres. */
// @ts-ignore: decorator
@inline export function pixelAt(distance: f32): f32 {
  return orthographic ? pixel : pixel * distance;
}

/** Distance of a point along the eye's axis. */
// @ts-ignore: decorator
@inline export function depthOf(x: f32, y: f32, z: f32): f32 {
  return (x - orgX) * fwdX + (y - orgY) * fwdY + (z - orgZ) * fwdZ;
}

// @ts-ignore: decorator
@inline function tent(u: v128): v128 {
  const twice = add(u, u);
  return pick(
    below(u, splat(0.5)),
    sub(root(twice), splat(1)),
    sub(splat(1), root(sub(splat(2), twice))),
  );
}

/** Results of onLens: places on the opening, in half widths and heights of the frame a metre away. */
let lensX: v128 = f32x4.splat(0);
let lensY: v128 = f32x4.splat(0);

/** Places of four paths on the opening, alike everywhere: a disc, or a regular polygon within it. */
function onLens(pixels: v128, index: i32): void {
  draw4(pixels, index, i32x4.splat(LENS_PAIR));
  const out = root(drawX);
  const around = drawY;
  if (blades === 0) {
    turn4(around);
    lensX = mul(out, cosOut);
    lensY = mul(out, sinOut);
  } else {
    // one of the triangles about the middle, and a place in it
    const scaled = mul(around, splat(blades));
    const k = f32x4.floor(scaled);
    const along = sub(scaled, k);
    const first = add(div(k, splat(blades)), splat(bladeTurn));
    turn4(sub(first, f32x4.floor(first)));
    const x0 = cosOut;
    const y0 = sinOut;
    const next = add(div(add(k, splat(1)), splat(blades)), splat(bladeTurn));
    turn4(sub(next, f32x4.floor(next)));
    lensX = mul(out, mad(sub(cosOut, x0), along, x0));
    lensY = mul(out, mad(sub(sinOut, y0), along, y0));
  }
  lensX = mul(lensX, splat(radius / sqrt<f32>(rightX * rightX + rightY * rightY + rightZ * rightZ)));
  lensY = mul(lensY, splat(radius / sqrt<f32>(upX * upX + upY * upY + upZ * upZ)));
}

/** Aims the primary rays of four paths whose pixels' middles are at (px, py). @param at byte offset of the first path */
export function aimPaths(wave: usize, at: usize, px: v128, py: v128, index: i32): void {
  if (given) {
    for (let i: usize = 0; i < 16; i += 4) {
      const ray = lane + LANE_HITS + ((at + i) >> 2) * 24;
      store<f32>(wave + at + i + P_OX, load<f32>(ray));
      store<f32>(wave + at + i + P_OY, load<f32>(ray, 4));
      store<f32>(wave + at + i + P_OZ, load<f32>(ray, 8));
      store<f32>(wave + at + i + P_DX, load<f32>(ray, 12));
      store<f32>(wave + at + i + P_DY, load<f32>(ray, 16));
      store<f32>(wave + at + i + P_DZ, load<f32>(ray, 20));
    }
    return;
  }
  draw4(v128.load(wave + P_PIXEL + at), index, i32x4.splat(0));
  const jx = tent(drawX);
  const jy = tent(drawY);
  const sx = add(sub(div(mul(add(px, jx), splat(2)), splat(width)), splat(1)), splat(shiftX));
  const sy = add(sub(splat(1), div(mul(add(py, jy), splat(2)), splat(height))), splat(shiftY));
  const ax = mad(splat(rightX), sx, mul(splat(upX), sy));
  const ay = mad(splat(rightY), sx, mul(splat(upY), sy));
  const az = mad(splat(rightZ), sx, mul(splat(upZ), sy));
  if (orthographic) {
    v128.store(wave + P_OX + at, add(splat(orgX), ax));
    v128.store(wave + P_OY + at, add(splat(orgY), ay));
    v128.store(wave + P_OZ + at, add(splat(orgZ), az));
    v128.store(wave + P_DX + at, splat(fwdX));
    v128.store(wave + P_DY + at, splat(fwdY));
    v128.store(wave + P_DZ + at, splat(fwdZ));
    return;
  }
  let dx = add(splat(fwdX), ax);
  let dy = add(splat(fwdY), ay);
  let dz = add(splat(fwdZ), az);
  if (radius > 0) {
    onLens(v128.load(wave + P_PIXEL + at), index);
    const lx = mad(splat(rightX), lensX, mul(splat(upX), lensY));
    const ly = mad(splat(rightY), lensX, mul(splat(upY), lensY));
    const lz = mad(splat(rightZ), lensX, mul(splat(upZ), lensY));
    // through the place that is sharp, as seen from the middle of the lens
    dx = sub(mul(dx, splat(focus)), lx);
    dy = sub(mul(dy, splat(focus)), ly);
    dz = sub(mul(dz, splat(focus)), lz);
    const l = div(splat(1), root(dot3(dx, dy, dz, dx, dy, dz)));
    v128.store(wave + P_OX + at, add(splat(orgX), lx));
    v128.store(wave + P_OY + at, add(splat(orgY), ly));
    v128.store(wave + P_OZ + at, add(splat(orgZ), lz));
    v128.store(wave + P_DX + at, mul(dx, l));
    v128.store(wave + P_DY + at, mul(dy, l));
    v128.store(wave + P_DZ + at, mul(dz, l));
    return;
  }
  const l = div(splat(1), root(dot3(dx, dy, dz, dx, dy, dz)));
  v128.store(wave + P_OX + at, splat(orgX));
  v128.store(wave + P_OY + at, splat(orgY));
  v128.store(wave + P_OZ + at, splat(orgZ));
  v128.store(wave + P_DX + at, mul(dx, l));
  v128.store(wave + P_DY + at, mul(dy, l));
  v128.store(wave + P_DZ + at, mul(dz, l));
}
