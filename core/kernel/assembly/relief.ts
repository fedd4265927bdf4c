// Relief: heights along an axis, or a normal map, lean the normal that a face is shaded with.
import {
  AXIS_BYTES, A_CHANNEL, A_PICTURE, A_TURN_COS, A_TURN_SIN, C_RELIEF_AT, C_RELIEF_AXIS, C_RELIEF_COUNT, P_B1, P_B2,
  P_BEHIND, P_DX, P_DY, P_DZ, P_GX, P_GY, P_GZ, P_NX, P_NY, P_NZ,
} from './layout';
import {
  along01, fine, inPicture, inPlane, isLaid, laidX, laidY, pictureSeen, pictureU, pictureV, place, worldX, worldY, worldZ,
} from './axes';
import { valueOf } from './courses';
import { f, w } from './paths';
import { channelOf } from './pictures';

/** Steepest relief. */
const STEEPEST: f32 = 4;
const LEAST_FACING: f32 = 0.02;

/** Channels, in the order of CHANNELS (texture/texture.ts); all of a normal map's count. */
const NORMALS: i32 = 5;
const RED: i32 = 1;
const GREEN: i32 = 2;
const BLUE: i32 = 3;
/** Normals that lie flatter are taken as lying so. */
const LEAST_UPRIGHT: f32 = 0.05;

/** Edges of the face's triangle, metres: results of edges(). */
let e1x: f32 = 0;
let e1y: f32 = 0;
let e1z: f32 = 0;
let e2x: f32 = 0;
let e2y: f32 = 0;
let e2z: f32 = 0;
/** Slope of the face, upward on it: results of sloped() and normalMapSloped(). */
let gx: f32 = 0;
let gy: f32 = 0;
let gz: f32 = 0;

function edges(): void {
  place(0, 0);
  const x0 = worldX;
  const y0 = worldY;
  const z0 = worldZ;
  place(1, 0);
  e1x = worldX - x0;
  e1y = worldY - y0;
  e1z = worldZ - z0;
  place(0, 1);
  e2x = worldX - x0;
  e2y = worldY - y0;
  e2z = worldZ - z0;
}

/** The slope of heights along an axis. @returns false where there is none */
function sloped(at: usize, recipe: usize, axes: usize, coat: usize): bool {
  const number = load<i32>(coat, C_RELIEF_AXIS);
  const count = load<i32>(coat, C_RELIEF_COUNT);
  const places = recipe + load<u32>(coat, C_RELIEF_AT);
  edges();
  const felt = fine(axes, number);
  const s1: f32 = felt / max<f32>(<f32>1e-12, sqrt<f32>(e1x * e1x + e1y * e1y + e1z * e1z));
  const s2: f32 = felt / max<f32>(<f32>1e-12, sqrt<f32>(e2x * e2x + e2y * e2y + e2z * e2z));
  const b1 = f(P_B1, at);
  const b2 = f(P_B2, at);
  place(b1, b2);
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
  if (!(whole > 0)) return false;
  const c1: f32 = (h1 * e22 - h2 * e12) / whole;
  const c2: f32 = (h2 * e11 - h1 * e12) / whole;
  gx = c1 * e1x + c2 * e2x;
  gy = c1 * e1y + c2 * e2y;
  gz = c1 * e1z + c2 * e2z;
  return true;
}

/**
 * The slope that a normal map says: red along the picture, green up it, blue out of the face, each from −1 to
 * 1 (glTF 2.0, "Normal texture"). @returns false where the face has no plane to lay it in
 */
function normalMapSloped(at: usize, axis: usize): bool {
  if (!isLaid(axis)) return false;
  edges();
  place(0, 0);
  inPlane(axis);
  const x0 = laidX;
  const y0 = laidY;
  place(1, 0);
  inPlane(axis);
  const u1: f32 = laidX - x0;
  const v1: f32 = laidY - y0;
  place(0, 1);
  inPlane(axis);
  const u2: f32 = laidX - x0;
  const v2: f32 = laidY - y0;
  const whole: f32 = u1 * v2 - u2 * v1;
  if (whole === 0) return false;
  place(f(P_B1, at), f(P_B2, at));
  inPicture(axis);
  const r: f32 = <f32>2 * channelOf(axis, RED, pictureU, pictureV, pictureSeen) - 1;
  const g: f32 = <f32>2 * channelOf(axis, GREEN, pictureU, pictureV, pictureSeen) - 1;
  const out: f32 = max<f32>(LEAST_UPRIGHT, <f32>2 * channelOf(axis, BLUE, pictureU, pictureV, pictureSeen) - 1);
  // across and up the plane, then across and up the picture, which is turned in it
  const c = load<f32>(axis, A_TURN_COS);
  const s = load<f32>(axis, A_TURN_SIN);
  const sx: f32 = (-r * c + g * s) / out;
  const sy: f32 = (-r * s - g * c) / out;
  const tx: f32 = (e1x * v2 - e2x * v1) / whole;
  const ty: f32 = (e1y * v2 - e2y * v1) / whole;
  const tz: f32 = (e1z * v2 - e2z * v1) / whole;
  const bx: f32 = (e2x * u1 - e1x * u2) / whole;
  const by: f32 = (e2y * u1 - e1y * u2) / whole;
  const bz: f32 = (e2z * u1 - e1z * u2) / whole;
  const t = sqrt<f32>(tx * tx + ty * ty + tz * tz);
  const b = sqrt<f32>(bx * bx + by * by + bz * bz);
  if (!(t > 0 && b > 0)) return false;
  gx = (tx * sx) / t + (bx * sy) / b;
  gy = (ty * sx) / t + (by * sy) / b;
  gz = (tz * sx) / t + (bz * sy) / b;
  return true;
}

/** Leans a path's normal by the slope of its surface (Blinn, "Simulation of wrinkled surfaces", 1978). */
export function lean(at: usize, recipe: usize, axes: usize, coat: usize): void {
  const axis = axes + <usize>load<i32>(coat, C_RELIEF_AXIS) * AXIS_BYTES;
  const pictured = load<u32>(axis, A_PICTURE) !== 0 && load<i32>(axis, A_CHANNEL) === NORMALS;
  if (!(pictured ? normalMapSloped(at, axis) : sloped(at, recipe, axes, coat))) return;
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
    const back: f32 = LEAST_FACING - facing;
    nx -= f(P_DX, at) * back;
    ny -= f(P_DY, at) * back;
    nz -= f(P_DZ, at) * back;
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
