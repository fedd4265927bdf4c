// Fine fibres over a surface: a cosine lobe bent by a linear map that depends on the view (Zeltner, Burley & Chiang,
// "Practical Multiple-Scattering Sheen Using Linearly Transformed Cosines", SIGGRAPH 2022 Talks).
import { div, dot3, mad, most, mul, pick, root, splat, sub, below } from '../lanes';
import { cosOut, sinOut, turn4 } from '../maths4';
import { fuzzRows, row0, row1, row2 } from './rows';

const INV_PI: f32 = 0.3183098861837907;

/** Share of light the fuzz reflects for this view. */
export let fuzzReflects: v128 = f32x4.splat(0);
let along: v128 = f32x4.splat(1);
let lean: v128 = f32x4.splat(0);
/** The view's direction in the plane of the surface. */
let turnX: v128 = f32x4.splat(1);
let turnY: v128 = f32x4.splat(0);

/** Prepares the lobe for four views. */
export function viewFuzz(finish: usize, x: v128, y: v128, z: v128): void {
  fuzzRows(finish, z);
  fuzzReflects = row0;
  along = row1;
  lean = row2;
  const l = root(mad(x, x, mul(y, y)));
  const flat = below(l, splat(1e-6));
  const by = div(splat(1), most(l, splat(1e-6)));
  turnX = pick(flat, splat(1), mul(x, by));
  turnY = pick(flat, splat(0), mul(y, by));
}

/** Density of the lobe for four directions; with the reflected share it is f · cos. */
export function fuzzDensity(ix: v128, iy: v128, iz: v128): v128 {
  const x = mad(ix, turnX, mul(iy, turnY));
  const y = sub(mul(iy, turnX), mul(ix, turnY));
  const bx = mad(along, x, mul(lean, iz));
  const by = mul(along, y);
  const l2 = dot3(bx, by, iz, bx, by, iz);
  // the cosine of the straight lobe over its length, and the map's own measure: a² over the length cubed
  return mul(splat(INV_PI), div(mul(most(splat(0), iz), mul(along, along)), mul(l2, l2)));
}

/** Results of drawFuzz. */
export let fuzzX: v128 = f32x4.splat(0);
export let fuzzY: v128 = f32x4.splat(0);
export let fuzzZ: v128 = f32x4.splat(0);

/** Directions drawn from the lobe. */
export function drawFuzz(u: v128, v: v128): void {
  const radius = root(u);
  turn4(v);
  const sz = root(most(splat(0), sub(splat(1), u)));
  const sx = mul(radius, cosOut);
  const sy = mul(radius, sinOut);
  const a = div(splat(1), along);
  const x = mul(sub(sx, mul(sz, lean)), a);
  const y = mul(sy, a);
  const l = div(splat(1), root(most(dot3(x, y, sz, x, y, sz), splat(1e-20))));
  fuzzX = mul(l, sub(mul(x, turnX), mul(y, turnY)));
  fuzzY = mul(l, mad(x, turnY, mul(y, turnX)));
  fuzzZ = mul(l, sz);
}
