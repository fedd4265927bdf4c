// Elementary functions of four numbers from + - × ÷ √ alone, so that every engine gives the same bits.
// Polynomials and reductions after Cephes, single precision (Moshier, 1989).
import { add, below, above, flip, least, mad, most, mul, pick, root, splat, sub, div, where } from './lanes';

const TURN: f32 = 6.283185307179586;
const PI: f32 = 3.141592653589793;

/** Results of turn4. */
export let cosOut: v128 = f32x4.splat(0);
export let sinOut: v128 = f32x4.splat(0);

/** Cosine and sine of whole turns u in [0, 1]. */
export function turn4(u: v128): void {
  const k = f32x4.floor(mad(u, splat(4), splat(0.5)));
  const r = mul(sub(u, mul(k, splat(0.25))), splat(TURN));
  const z = mul(r, r);
  const s = mad(mul(mad(mad(splat(-1.9515295891e-4), z, splat(8.3321608736e-3)), z, splat(-1.6666654611e-1)), z), r, r);
  const c = add(
    mul(mul(mad(mad(splat(2.443315711809948e-5), z, splat(-1.388731625493765e-3)), z, splat(4.166664568298827e-2)), z), z),
    sub(splat(1), mul(z, splat(0.5))),
  );
  const q = i32x4.trunc_sat_f32x4_s(k);
  const odd = i32x4.ne(v128.and(q, i32x4.splat(1)), i32x4.splat(0));
  const two = i32x4.shl(v128.and(q, i32x4.splat(2)), 30);
  const mixed = i32x4.shl(v128.and(i32x4.add(q, i32x4.splat(1)), i32x4.splat(2)), 30);
  sinOut = v128.xor(pick(odd, c, s), two);
  cosOut = v128.xor(pick(odd, s, c), mixed);
}

/** Angle of (x, y), -π … π. */
export function atan24(y: v128, x: v128): v128 {
  const ax = f32x4.abs(x);
  const ay = f32x4.abs(y);
  const steep = above(ay, ax);
  const big = most(most(ax, ay), splat(1e-30));
  const a = div(least(ax, ay), big);
  const far = above(a, splat(0.4142135623730950));
  const b = pick(far, div(sub(a, splat(1)), add(a, splat(1))), a);
  const z = mul(b, b);
  const p = mad(mad(mad(splat(8.05374449538e-2), z, splat(-1.38776856032e-1)), z, splat(1.99777106478e-1)), z, splat(-3.33329491539e-1));
  let r = mad(mul(p, z), b, b);
  r = add(r, where(far, splat(0.7853981633974483)));
  r = pick(steep, sub(splat(1.5707963267948966), r), r);
  r = pick(below(x, splat(0)), sub(splat(PI), r), r);
  return pick(below(y, splat(0)), flip(r), r);
}

/** Arc sine of -1 … 1. */
// @ts-ignore: decorator
@inline export function asin4(y: v128): v128 {
  return atan24(y, root(most(splat(0), mul(sub(splat(1), y), add(splat(1), y)))));
}

/** e to the x for x in -87 … 87; nought below. */
export function exp1(x: f32): f32 {
  if (x < -87) return 0;
  const k: f32 = floor<f32>(<f32>1.44269504088896341 * x + <f32>0.5);
  const r: f32 = x - k * <f32>0.693359375 + k * <f32>2.12194440e-4;
  const z = r * r;
  const p: f32 =
    (((((<f32>1.9875691500e-4 * r + <f32>1.3981999507e-3) * r + <f32>8.3334519073e-3) * r + <f32>4.1665795894e-2) * r +
      <f32>1.6666665459e-1) * r + <f32>5.0000001201e-1) * z + r + <f32>1;
  return p * reinterpret<f32>((<i32>k + 127) << 23);
}

/** Natural logarithm of a positive number, normal. */
export function log1(x: f32): f32 {
  const bits = reinterpret<i32>(x);
  let e = (bits >> 23) - 126;
  let m = reinterpret<f32>((bits & 0x7fffff) | 0x3f000000);
  if (m < <f32>0.70710678118654752) {
    e -= 1;
    m = m + m - <f32>1;
  } else {
    m -= 1;
  }
  const z = m * m;
  const p: f32 =
    ((((((((<f32>7.0376836292e-2 * m - <f32>1.1514610310e-1) * m + <f32>1.1676998740e-1) * m - <f32>1.2420140846e-1) * m +
      <f32>1.4249322787e-1) * m - <f32>1.6668057665e-1) * m + <f32>2.0000714765e-1) * m - <f32>2.4999993993e-1) * m +
      <f32>3.3333331174e-1) * m * z;
  const k = <f32>e;
  return m + (p - k * <f32>2.12194440e-4 - <f32>0.5 * z) + k * <f32>0.693359375;
}
