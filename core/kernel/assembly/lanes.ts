// Four numbers at a time: shorthand for what the integrator writes most.

// @ts-ignore: decorator
@inline export function splat(v: f32): v128 { return f32x4.splat(v); }
// @ts-ignore: decorator
@inline export function add(a: v128, b: v128): v128 { return f32x4.add(a, b); }
// @ts-ignore: decorator
@inline export function sub(a: v128, b: v128): v128 { return f32x4.sub(a, b); }
// @ts-ignore: decorator
@inline export function mul(a: v128, b: v128): v128 { return f32x4.mul(a, b); }
// @ts-ignore: decorator
@inline export function div(a: v128, b: v128): v128 { return f32x4.div(a, b); }
// @ts-ignore: decorator
@inline export function mad(a: v128, b: v128, c: v128): v128 { return f32x4.add(f32x4.mul(a, b), c); }
// @ts-ignore: decorator
@inline export function root(a: v128): v128 { return f32x4.sqrt(a); }
// @ts-ignore: decorator
@inline export function least(a: v128, b: v128): v128 { return f32x4.pmin(a, b); }
// @ts-ignore: decorator
@inline export function most(a: v128, b: v128): v128 { return f32x4.pmax(a, b); }
// @ts-ignore: decorator
@inline export function below(a: v128, b: v128): v128 { return f32x4.lt(a, b); }
// @ts-ignore: decorator
@inline export function above(a: v128, b: v128): v128 { return f32x4.gt(a, b); }
/** Where `mask`, `a`, else `b`. */
// @ts-ignore: decorator
@inline export function pick(mask: v128, a: v128, b: v128): v128 { return v128.bitselect(a, b, mask); }
/** `a` where `mask`, else nought. */
// @ts-ignore: decorator
@inline export function where(mask: v128, a: v128): v128 { return v128.and(mask, a); }
// @ts-ignore: decorator
@inline export function both(a: v128, b: v128): v128 { return v128.and(a, b); }
// @ts-ignore: decorator
@inline export function dot3(ax: v128, ay: v128, az: v128, bx: v128, by: v128, bz: v128): v128 {
  return add(add(mul(ax, bx), mul(ay, by)), mul(az, bz));
}
// @ts-ignore: decorator
@inline export function clamp01(a: v128): v128 { return least(most(a, splat(0)), splat(1)); }
// @ts-ignore: decorator
@inline export function flip(a: v128): v128 { return f32x4.neg(a); }

/** A number of each of four paths. */
// @ts-ignore: decorator
@inline export function gather(field: usize, a: usize, b: usize, c: usize, d: usize): v128 {
  let v = v128.load32_zero(field + a);
  v = v128.load_lane<f32>(field + b, v, 1);
  v = v128.load_lane<f32>(field + c, v, 2);
  return v128.load_lane<f32>(field + d, v, 3);
}
/** Back to their paths; the first lane last, so that it stands where lanes repeat it. */
// @ts-ignore: decorator
@inline export function scatter(field: usize, a: usize, b: usize, c: usize, d: usize, v: v128): void {
  v128.store_lane<f32>(field + d, v, 3);
  v128.store_lane<f32>(field + c, v, 2);
  v128.store_lane<f32>(field + b, v, 1);
  v128.store_lane<f32>(field + a, v, 0);
}
