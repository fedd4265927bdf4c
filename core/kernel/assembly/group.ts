// The four paths that are shaded at once: their numbers as vectors, the frames they are shaded in, and room for one
// number of each while something is done one path at a time.
import { brushedWay, brushedX, brushedY, brushedZ } from './axes';
import {
  F_ALPHA_X, F_ALPHA_Y, F_BRUSH, F_IOR, F_TURN_COS, F_TURN_SIN, LANE_SCRATCH, P_NX, P_NY, P_NZ, P_UX, P_UY, P_UZ,
} from './layout';
import { above, add, below, div, dot3, flip, gather, mad, most, mul, pick, root, scatter, splat, sub } from './lanes';
import { indexOf } from './media';
import { lane } from './scene';

/** Of the group under way: its paths' byte offsets, and how many are real. */
export let p0: usize = 0;
export let p1: usize = 0;
export let p2: usize = 0;
export let p3: usize = 0;
export let count: i32 = 0;
export let base: usize = 0;

// @ts-ignore: decorator
@inline export function get(field: usize): v128 { return gather(base + field, p0, p1, p2, p3); }
// @ts-ignore: decorator
@inline export function put(field: usize, v: v128): void { scatter(base + field, p0, p1, p2, p3, v); }
// @ts-ignore: decorator
@inline export function offset(k: i32): usize { return k === 0 ? p0 : k === 1 ? p1 : k === 2 ? p2 : p3; }

// the shading frame of the four
export let ux: v128 = f32x4.splat(0);
export let uy: v128 = f32x4.splat(0);
export let uz: v128 = f32x4.splat(0);
export let vx: v128 = f32x4.splat(0);
export let vy: v128 = f32x4.splat(0);
export let vz: v128 = f32x4.splat(0);
export let nx: v128 = f32x4.splat(0);
export let ny: v128 = f32x4.splat(0);
export let nz: v128 = f32x4.splat(0);

/** Takes four paths up: where their fields are, their offsets, and how many are real. Their normals come along. */
export function take(wave: usize, a: usize, b: usize, c: usize, d: usize, n: i32): void {
  base = wave;
  p0 = a;
  p1 = b;
  p2 = c;
  p3 = d;
  count = n;
  nx = get(P_NX);
  ny = get(P_NY);
  nz = get(P_NZ);
}

/** Squared sine of the angle to a way from which on a face can be brushed along it. */
const ALONG_IT: f32 = 1e-4;
/** Ways of brushing, in the order of the parameter's choices; nought is along the outline. */
const AROUND: f32 = 2;
let wayX: v128 = f32x4.splat(0);
let wayY: v128 = f32x4.splat(0);
let wayZ: v128 = f32x4.splat(0);

// @ts-ignore: decorator
@inline function wayOf(k: i32, brush: f32): void {
  brushedWay(base + offset(k), brush === AROUND);
  wayX = laneOf(wayX, k, brushedX);
  wayY = laneOf(wayY, k, brushedY);
  wayZ = laneOf(wayZ, k, brushedZ);
}

// @ts-ignore: decorator
@inline function laneOf(v: v128, k: i32, value: f32): v128 {
  return k === 0
    ? f32x4.replace_lane(v, 0, value)
    : k === 1
      ? f32x4.replace_lane(v, 1, value)
      : k === 2
        ? f32x4.replace_lane(v, 2, value)
        : f32x4.replace_lane(v, 3, value);
}

/** Any frame will do for round lobes (Duff et al., JCGT 2017); brushed ones follow the tangent. */
export function frame(finish: usize): void {
  if (load<f32>(finish + F_ALPHA_X) === load<f32>(finish + F_ALPHA_Y)) {
    const sign = pick(below(nz, splat(0)), splat(-1), splat(1));
    const p = div(splat(-1), add(sign, nz));
    const q = mul(mul(nx, ny), p);
    ux = mad(mul(mul(sign, nx), nx), p, splat(1));
    uy = mul(sign, q);
    uz = flip(mul(sign, nx));
    vx = q;
    vy = mad(mul(ny, ny), p, sign);
    vz = flip(ny);
    return;
  }
  let tx = get(P_UX);
  let ty = get(P_UY);
  let tz = get(P_UZ);
  const brush = load<f32>(finish + F_BRUSH);
  if (brush !== 0) {
    wayOf(0, brush);
    wayOf(1, brush);
    wayOf(2, brush);
    wayOf(3, brush);
    // faces that look along it are brushed along their outline
    const aside = dot3(wayX, wayY, wayZ, nx, ny, nz);
    const length2 = dot3(wayX, wayY, wayZ, wayX, wayY, wayZ);
    const known = above(sub(length2, mul(aside, aside)), mul(length2, splat(ALONG_IT)));
    tx = pick(known, wayX, tx);
    ty = pick(known, wayY, ty);
    tz = pick(known, wayZ, tz);
  }
  const off = dot3(tx, ty, tz, nx, ny, nz);
  tx = sub(tx, mul(off, nx));
  ty = sub(ty, mul(off, ny));
  tz = sub(tz, mul(off, nz));
  const l = div(splat(1), root(most(dot3(tx, ty, tz, tx, ty, tz), splat(1e-20))));
  tx = mul(tx, l);
  ty = mul(ty, l);
  tz = mul(tz, l);
  const bx = sub(mul(ny, tz), mul(nz, ty));
  const by = sub(mul(nz, tx), mul(nx, tz));
  const bz = sub(mul(nx, ty), mul(ny, tx));
  const c = v128.load32_splat(finish + F_TURN_COS);
  const s = v128.load32_splat(finish + F_TURN_SIN);
  ux = mad(tx, c, mul(bx, s));
  uy = mad(ty, c, mul(by, s));
  uz = mad(tz, c, mul(bz, s));
  vx = sub(mul(bx, c), mul(tx, s));
  vy = sub(mul(by, c), mul(ty, s));
  vz = sub(mul(bz, c), mul(tz, s));
}

/** Places for one number of each of the four, while lights are sought one path at a time. */
// @ts-ignore: decorator
@inline export function row(i: usize): usize { return lane + LANE_SCRATCH + (i << 4); }

// @ts-ignore: decorator
@inline export function squaredIndex(finish: usize): f32 {
  const ior = load<f32>(finish + F_IOR);
  return ior * ior;
}

/** Squared index of what a path is in: of its glass; air and what lies beneath surfaces count as one. */
// @ts-ignore: decorator
@inline export function squaredIndexIn(medium: i32): f32 {
  const index = indexOf(medium);
  return index * index;
}
