// Finishes of coats and feeds: which of its plain surfaces a path meets, and how relief leans its normal.
import {
  COAT_BYTES, COAT_DIMS, C_COVER, C_COVER_AT, C_COVER_AXIS, C_COVER_COUNT, C_DIMS, C_FIRST, C_RELIEF_AT, C_RELIEF_AXIS,
  C_RELIEF_COUNT, F_RECIPE, P_B1, P_B2, P_BEHIND, P_DX, P_DY, P_DZ, P_GX, P_GY, P_GZ, P_INSTANCE, P_NX, P_NY, P_NZ, P_PIXEL,
  P_TRIANGLE, AXIS_BYTES, A_PER_SCALE, INSTANCE_BYTES, INSTANCE_TRIANGLES, RECIPE_BYTES, R_AXES, R_COATS, TRIANGLE_BYTES,
} from './layout';
import { along01, face, place } from './axes';
import { f, w } from './paths';
import { draw1, drawX, drawY } from './sampler4';
import { instances, finishAt } from './scene';

/** First pairs of draws that choose coats and surfaces: of paths, of shadow rays through panes, and of lights. */
export const OF_PATHS: i32 = 1 << 20;
export const OF_PANES: i32 = 1 << 21;
export const OF_LIGHTS: i32 = 1 << 22;
/** Relief is felt over this share of its own size. */
const FELT: f32 = 0.02;
/** Steepest relief. */
const STEEPEST: f32 = 4;
const LEAST_FACING: f32 = 0.02;

// @ts-ignore: decorator
@inline export function hasRecipe(finish: usize): bool { return load<u32>(finish, F_RECIPE) !== 0; }

/** Place in a list of rising places: the last that is not beyond u. */
function before(at: usize, count: i32, u: f32): i32 {
  let lo = 0;
  let hi = count;
  while (hi - lo > 1) {
    const mid = (lo + hi) >> 1;
    if (load<f32>(at + (<usize>mid << 2)) <= u) lo = mid;
    else hi = mid;
  }
  return lo;
}

/** Share of the way from a place to the next. */
// @ts-ignore: decorator
@inline function beyond(at: usize, i: i32, count: i32, u: f32): f32 {
  if (i + 1 >= count) return 0;
  const a = load<f32>(at + (<usize>i << 2));
  const b = load<f32>(at + (<usize>i << 2), 4);
  return b > a ? min<f32>(1, max<f32>(0, (u - a) / (b - a))) : 0;
}

/** Value of a course: its places, then as many values. */
function valueOf(at: usize, count: i32, u: f32): f32 {
  const i = before(at, count, u);
  const values = at + (<usize>count << 2) + (<usize>i << 2);
  const value = load<f32>(values);
  const t = beyond(at, i, count, u);
  return t > 0 ? value + (load<f32>(values, 4) - value) * t : value;
}

/**
 * Chooses the plain surface a path meets where a finish has coats or feeds, and leans the path's normal by its relief.
 * @param at the path, standing on its hit; @param pair its draws
 * @returns the number of a finish without a recipe
 */
export function resolved(at: usize, number: i32, index: i32, pair: i32): i32 {
  const recipe = <usize>load<u32>(finishAt(number), F_RECIPE);
  draw1(w(P_PIXEL, at), index, pair);
  let lot = f32x4.extract_lane(drawX, 0);
  let fraction = f32x4.extract_lane(drawY, 0);
  face(at);
  const axes = recipe + load<u32>(recipe, R_AXES);
  const coats = load<i32>(recipe, R_COATS);
  let coat = recipe + RECIPE_BYTES;
  for (let i = 1; i < coats; i++) {
    const axis = load<i32>(coat, C_COVER_AXIS);
    const cover: f32 = axis < 0 ? load<f32>(coat, C_COVER)
      : valueOf(recipe + load<u32>(coat, C_COVER_AT), load<i32>(coat, C_COVER_COUNT), along01(axes, axis));
    if (lot < cover) break;
    lot = (lot - cover) / (<f32>1 - cover);
    coat += COAT_BYTES;
  }
  let surface = load<i32>(coat, C_FIRST);
  let stride = 1;
  const dims = load<i32>(coat, C_DIMS);
  for (let d = 0; d < dims; d++) {
    const dim = coat + COAT_DIMS + <usize>d * 12;
    const count = load<i32>(dim, 4);
    const places = recipe + load<u32>(dim, 8);
    const u = along01(axes, load<i32>(dim));
    let i = before(places, count, u);
    const t = beyond(places, i, count, u);
    // what is left of the draw serves the next axis
    if (fraction < t) {
      i++;
      fraction /= t;
    } else fraction = (fraction - t) / (<f32>1 - t);
    fraction = min<f32>(fraction, <f32>0.99999994);
    surface += i * stride;
    stride *= count;
  }
  if (load<i32>(coat, C_RELIEF_AXIS) >= 0) lean(at, recipe, axes, coat);
  return surface;
}

/** Leans a path's normal by the slope of its surface's height (Blinn, "Simulation of wrinkled surfaces", 1978). */
function lean(at: usize, recipe: usize, axes: usize, coat: usize): void {
  const number = load<i32>(coat, C_RELIEF_AXIS);
  const count = load<i32>(coat, C_RELIEF_COUNT);
  const places = recipe + load<u32>(coat, C_RELIEF_AT);
  const instance = instances + <usize>w(P_INSTANCE, at) * INSTANCE_BYTES;
  const t = <usize>load<u32>(instance + INSTANCE_TRIANGLES) + <usize>w(P_TRIANGLE, at) * TRIANGLE_BYTES;
  const ax: f32 = load<f32>(t, 12) - load<f32>(t);
  const ay: f32 = load<f32>(t, 16) - load<f32>(t, 4);
  const az: f32 = load<f32>(t, 20) - load<f32>(t, 8);
  const bx: f32 = load<f32>(t, 24) - load<f32>(t);
  const by: f32 = load<f32>(t, 28) - load<f32>(t, 4);
  const bz: f32 = load<f32>(t, 32) - load<f32>(t, 8);
  const m = instance;
  const e1x: f32 = load<f32>(m) * ax + load<f32>(m, 16) * ay + load<f32>(m, 32) * az;
  const e1y: f32 = load<f32>(m, 4) * ax + load<f32>(m, 20) * ay + load<f32>(m, 36) * az;
  const e1z: f32 = load<f32>(m, 8) * ax + load<f32>(m, 24) * ay + load<f32>(m, 40) * az;
  const e2x: f32 = load<f32>(m) * bx + load<f32>(m, 16) * by + load<f32>(m, 32) * bz;
  const e2y: f32 = load<f32>(m, 4) * bx + load<f32>(m, 20) * by + load<f32>(m, 36) * bz;
  const e2z: f32 = load<f32>(m, 8) * bx + load<f32>(m, 24) * by + load<f32>(m, 40) * bz;
  const felt: f32 = FELT / load<f32>(axes + <usize>number * AXIS_BYTES, A_PER_SCALE);
  const s1: f32 = felt / max<f32>(<f32>1e-12, sqrt<f32>(e1x * e1x + e1y * e1y + e1z * e1z));
  const s2: f32 = felt / max<f32>(<f32>1e-12, sqrt<f32>(e2x * e2x + e2y * e2y + e2z * e2z));
  const b1 = f(P_B1, at);
  const b2 = f(P_B2, at);
  const here = valueOf(places, count, along01(axes, number));
  place(b1 + s1, b2);
  const h1: f32 = (valueOf(places, count, along01(axes, number)) - here) / s1;
  place(b1, b2 + s2);
  const h2: f32 = (valueOf(places, count, along01(axes, number)) - here) / s2;
  // the gradient in the triangle's plane: g · e1 = h1, g · e2 = h2
  const e11: f32 = e1x * e1x + e1y * e1y + e1z * e1z;
  const e12: f32 = e1x * e2x + e1y * e2y + e1z * e2z;
  const e22: f32 = e2x * e2x + e2y * e2y + e2z * e2z;
  const whole: f32 = e11 * e22 - e12 * e12;
  if (!(whole > 0)) return;
  const c1: f32 = (h1 * e22 - h2 * e12) / whole;
  const c2: f32 = (h2 * e11 - h1 * e12) / whole;
  let gx: f32 = c1 * e1x + c2 * e2x;
  let gy: f32 = c1 * e1y + c2 * e2y;
  let gz: f32 = c1 * e1z + c2 * e2z;
  const slope = sqrt<f32>(gx * gx + gy * gy + gz * gz);
  // seen from within, heights are depths
  const sign: f32 = (w(P_BEHIND, at) !== 0 ? <f32>-1 : <f32>1) * (slope > STEEPEST ? STEEPEST / slope : <f32>1);
  gx *= sign;
  gy *= sign;
  gz *= sign;
  let nx: f32 = f(P_NX, at) - gx;
  let ny: f32 = f(P_NY, at) - gy;
  let nz: f32 = f(P_NZ, at) - gz;
  const l: f32 = <f32>1 / sqrt<f32>(nx * nx + ny * ny + nz * nz);
  nx *= l;
  ny *= l;
  nz *= l;
  // what leans away from the viewer is leant back as far as it must
  const facing: f32 = -(f(P_DX, at) * nx + f(P_DY, at) * ny + f(P_DZ, at) * nz);
  if (facing < LEAST_FACING) {
    const by2: f32 = LEAST_FACING - facing;
    nx -= f(P_DX, at) * by2;
    ny -= f(P_DY, at) * by2;
    nz -= f(P_DZ, at) * by2;
    const k: f32 = <f32>1 / sqrt<f32>(nx * nx + ny * ny + nz * nz);
    nx *= k;
    ny *= k;
    nz *= k;
  }
  // and never beyond the true surface
  if (nx * f(P_GX, at) + ny * f(P_GY, at) + nz * f(P_GZ, at) < LEAST_FACING) return;
  store<f32>(at + P_NX, nx);
  store<f32>(at + P_NY, ny);
  store<f32>(at + P_NZ, nz);
}
