// Rough interfaces: GGX (Walter et al. 2007; Heitz 2014), visible normals by spherical caps (Dupuy & Benyoub 2023),
// and the Fresnel share of a dielectric (Born & Wolf §1.5).
import { add, div, mad, mul, most, pick, root, splat, sub } from '../lanes';
import { cosOut, sinOut, turn4 } from '../maths4';

const INV_PI: f32 = 0.3183098861837907;

/** Smith's Λ. */
// @ts-ignore: decorator
@inline export function lambda(ax: v128, ay: v128, x: v128, y: v128, z: v128): v128 {
  const a = mul(ax, x);
  const b = mul(ay, y);
  const t = div(mad(a, a, mul(b, b)), most(mul(z, z), splat(1e-14)));
  return mul(sub(root(add(splat(1), t)), splat(1)), splat(0.5));
}

/** Density of normals. */
// @ts-ignore: decorator
@inline export function normals(ax: v128, ay: v128, x: v128, y: v128, z: v128): v128 {
  const a = div(x, ax);
  const b = div(y, ay);
  const c = mad(a, a, mad(b, b, mul(z, z)));
  return div(splat(INV_PI), mul(mul(ax, ay), mul(c, c)));
}

/** Reflected share at a cosine, for the index beyond over the index before. */
// @ts-ignore: decorator
@inline export function fresnel(c: v128, eta: v128): v128 {
  const sin2 = div(sub(splat(1), mul(c, c)), mul(eta, eta));
  const t = root(most(splat(0), sub(splat(1), sin2)));
  const et = mul(eta, t);
  const ec = mul(eta, c);
  const s = div(sub(c, et), add(c, et));
  const p = div(sub(ec, t), add(ec, t));
  return pick(f32x4.ge(sin2, splat(1)), splat(1), mul(splat(0.5), mad(s, s, mul(p, p))));
}

/** Results of visibleNormal. */
export let halfX: v128 = f32x4.splat(0);
export let halfY: v128 = f32x4.splat(0);
export let halfZ: v128 = f32x4.splat(0);

/** A normal as the viewer sees them, by u and v. */
export function visibleNormal(ax: v128, ay: v128, ox: v128, oy: v128, oz: v128, u: v128, v: v128): void {
  let sx = mul(ox, ax);
  let sy = mul(oy, ay);
  let sz = oz;
  const l = div(splat(1), root(mad(sx, sx, mad(sy, sy, mul(sz, sz)))));
  sx = mul(sx, l);
  sy = mul(sy, l);
  sz = mul(sz, l);
  turn4(u);
  const z = sub(mul(sub(splat(1), v), add(splat(1), sz)), sz);
  const s = root(most(splat(0), sub(splat(1), mul(z, z))));
  const x = mul(mad(s, cosOut, sx), ax);
  const y = mul(mad(s, sinOut, sy), ay);
  const w = add(z, sz);
  const n = div(splat(1), root(most(mad(x, x, mad(y, y, mul(w, w))), splat(1e-30))));
  halfX = mul(x, n);
  halfY = mul(y, n);
  halfZ = mul(w, n);
}
