// Relief: heights along an axis lean the normal that a face is shaded with.
import {
  C_RELIEF_AT, C_RELIEF_AXIS, C_RELIEF_COUNT, P_B1, P_B2, P_BEHIND, P_DX, P_DY, P_DZ, P_GX,
  P_GY, P_GZ, P_NX, P_NY, P_NZ,
} from './layout';
import { along01, fine, place, worldX, worldY, worldZ } from './axes';
import { valueOf } from './courses';
import { f, w } from './paths';

/** Steepest relief. */
const STEEPEST: f32 = 4;
const LEAST_FACING: f32 = 0.02;

/** Leans a path's normal by the slope of its surface's height (Blinn, "Simulation of wrinkled surfaces", 1978). */
export function lean(at: usize, recipe: usize, axes: usize, coat: usize): void {
  const number = load<i32>(coat, C_RELIEF_AXIS);
  const count = load<i32>(coat, C_RELIEF_COUNT);
  const places = recipe + load<u32>(coat, C_RELIEF_AT);
  place(0, 0);
  const x0 = worldX;
  const y0 = worldY;
  const z0 = worldZ;
  place(1, 0);
  const e1x: f32 = worldX - x0;
  const e1y: f32 = worldY - y0;
  const e1z: f32 = worldZ - z0;
  place(0, 1);
  const e2x: f32 = worldX - x0;
  const e2y: f32 = worldY - y0;
  const e2z: f32 = worldZ - z0;
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
