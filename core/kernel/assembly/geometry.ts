// Where a ray met a surface: place, true normal, interpolated normal and tangent, in the world, on the viewer's side.
import {
  INSTANCE_BYTES, INSTANCE_PART, INSTANCE_TRIANGLES, P_B1, P_B2, P_BEHIND, P_DX, P_DY, P_DZ, P_GX, P_GY, P_GZ,
  P_INSTANCE, P_LIFT, P_NX, P_NY, P_NZ, P_PART, P_TRIANGLE, P_UX, P_UY, P_UZ, P_X, P_Y, P_Z, TRIANGLE_BYTES,
  TRIANGLE_NORMALS, TRIANGLE_RUN, TRIANGLE_TANGENTS,
} from './layout';
import { add, mad, most, mul, splat, sub } from './lanes';
import { instances } from './scene';

/**
 * Ray origins are lifted off the surface by this share of the triangle's extent and of their own coordinates:
 * single-precision intersection errs in proportion to both.
 */
const LIFT: f32 = 6e-7;
const LEAST_LIFT: f32 = 2e-7;

// @ts-ignore: decorator
@inline function carried(c0: v128, c1: v128, c2: v128, v: v128): v128 {
  return add(
    add(mul(c0, v128.shuffle<f32>(v, v, 0, 0, 0, 0)), mul(c1, v128.shuffle<f32>(v, v, 1, 1, 1, 1))),
    mul(c2, v128.shuffle<f32>(v, v, 2, 2, 2, 2)),
  );
}
// @ts-ignore: decorator
@inline function keep(field: usize, v: v128): void {
  v128.store_lane<f32>(field, v, 0);
}
/** Greatest side of a vector, in its first lane. */
// @ts-ignore: decorator
@inline function largest(v: v128): v128 {
  const sides = f32x4.abs(v);
  return most(most(sides, v128.shuffle<f32>(sides, sides, 1, 1, 1, 1)), v128.shuffle<f32>(sides, sides, 2, 2, 2, 2));
}
/** Sum of a vector's sides, in its first lane. */
// @ts-ignore: decorator
@inline function extent(v: v128): v128 {
  const sides = f32x4.abs(v);
  return add(add(sides, v128.shuffle<f32>(sides, sides, 1, 1, 1, 1)), v128.shuffle<f32>(sides, sides, 2, 2, 2, 2));
}

/** Works out what a path's hit is shaded from. @param at wave + 4 · path */
export function standOnHit(at: usize): void {
  const instance = instances + <usize>load<i32>(at + P_INSTANCE) * INSTANCE_BYTES;
  const t = load<u32>(instance + INSTANCE_TRIANGLES) + <usize>load<i32>(at + P_TRIANGLE) * TRIANGLE_BYTES;
  store<i32>(at + P_PART, load<i32>(instance + INSTANCE_PART) + load<i32>(t + TRIANGLE_RUN));
  const f1 = load<f32>(at + P_B1);
  const f2 = load<f32>(at + P_B2);
  const b1 = splat(f1);
  const b2 = splat(f2);
  const b0 = splat(<f32>1 - f1 - f2);
  const c0 = v128.load(instance);
  const c1 = v128.load(instance, 16);
  const c2 = v128.load(instance, 32);
  const a = v128.load(t);
  // where: from the triangle's own corners, which is nearer the surface than origin + t · direction
  const e1 = carried(c0, c1, c2, sub(v128.load(t, 12), a));
  const e2 = carried(c0, c1, c2, sub(v128.load(t, 24), a));
  const p = mad(b2, e2, mad(b1, e1, add(carried(c0, c1, c2, a), v128.load(instance, 48))));
  const n = t + TRIANGLE_NORMALS;
  const normal = carried(c0, c1, c2, mad(b2, v128.load(n, 24), mad(b1, v128.load(n, 12), mul(b0, v128.load(n)))));
  const u = t + TRIANGLE_TANGENTS;
  const tangent = carried(c0, c1, c2, mad(b2, v128.load(u, 24), mad(b1, v128.load(u, 12), mul(b0, v128.load(u)))));
  const x1 = f32x4.extract_lane(e1, 0);
  const y1 = f32x4.extract_lane(e1, 1);
  const z1 = f32x4.extract_lane(e1, 2);
  const x2 = f32x4.extract_lane(e2, 0);
  const y2 = f32x4.extract_lane(e2, 1);
  const z2 = f32x4.extract_lane(e2, 2);
  let gx = y1 * z2 - z1 * y2;
  let gy = z1 * x2 - x1 * z2;
  let gz = x1 * y2 - y1 * x2;
  const gl: f32 = <f32>1 / sqrt<f32>(gx * gx + gy * gy + gz * gz);
  gx *= gl;
  gy *= gl;
  gz *= gl;
  let nx = f32x4.extract_lane(normal, 0);
  let ny = f32x4.extract_lane(normal, 1);
  let nz = f32x4.extract_lane(normal, 2);
  const nl: f32 = <f32>1 / sqrt<f32>(max<f32>(<f32>1e-30, nx * nx + ny * ny + nz * nz));
  nx *= nl;
  ny *= nl;
  nz *= nl;
  const dx = load<f32>(at + P_DX);
  const dy = load<f32>(at + P_DY);
  const dz = load<f32>(at + P_DZ);
  const behind = dx * gx + dy * gy + dz * gz > 0;
  store<i32>(at + P_BEHIND, behind ? 1 : 0);
  if (behind) {
    gx = -gx;
    gy = -gy;
    gz = -gz;
    nx = -nx;
    ny = -ny;
    nz = -nz;
  }
  let facing = -(dx * nx + dy * ny + dz * nz);
  if (facing < <f32>0.02) {
    // an interpolated normal that leans away from the viewer: lean it back towards the true one
    nx += gx;
    ny += gy;
    nz += gz;
    const l: f32 = <f32>1 / sqrt<f32>(max<f32>(<f32>1e-30, nx * nx + ny * ny + nz * nz));
    nx *= l;
    ny *= l;
    nz *= l;
    facing = -(dx * nx + dy * ny + dz * nz);
    if (facing < <f32>1e-4) {
      nx = gx;
      ny = gy;
      nz = gz;
    }
  }
  keep(at + P_X, p);
  store<f32>(at + P_Y, f32x4.extract_lane(p, 1));
  store<f32>(at + P_Z, f32x4.extract_lane(p, 2));
  store<f32>(at + P_GX, gx);
  store<f32>(at + P_GY, gy);
  store<f32>(at + P_GZ, gz);
  store<f32>(at + P_NX, nx);
  store<f32>(at + P_NY, ny);
  store<f32>(at + P_NZ, nz);
  keep(at + P_UX, tangent);
  store<f32>(at + P_UY, f32x4.extract_lane(tangent, 1));
  store<f32>(at + P_UZ, f32x4.extract_lane(tangent, 2));
  keep(at + P_LIFT, mad(most(largest(p), most(extent(e1), extent(e2))), splat(LIFT), splat(LEAST_LIFT)));
}
