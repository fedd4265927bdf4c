// Rough diffuse reflection that keeps its energy: EON (Portsmouth, Kutz & Hill, "EON: A practical energy-preserving
// rough diffuse BRDF", JCGT 2025), with its fit of the directional albedo.
import { above, add, div, mad, most, mul, pick, splat, sub, where } from '../lanes';

const FON_A: f32 = 0.2877934092108062; // 1/2 - 2 / 3π
const FON_B: f32 = 0.07248821245692394; // 2/3 - 28 / 15π

let singleScatter: v128 = f32x4.splat(1);
let multipleScatter: v128 = f32x4.splat(0);
let meanSingle: v128 = f32x4.splat(1);

// @ts-ignore: decorator
@inline function albedo(mu: v128, roughness: v128, scale: v128): v128 {
  const m = sub(splat(1), mu);
  const g = mul(
    m,
    mad(mad(mad(splat(0.0714429953), m, splat(-0.332181442)), m, splat(0.491881867)), m, splat(0.0571085289)),
  );
  return mul(mad(roughness, g, splat(1)), scale);
}

/** Prepares diffuseOf for pairs of directions with cosine `oi` between them. */
export function roughDiffuse(roughness: v128, oi: v128, oz: v128, iz: v128): void {
  const s = sub(oi, mul(oz, iz));
  const t = pick(above(s, splat(0)), div(s, most(most(oz, iz), splat(1e-9))), s);
  const scale = div(splat(1), mad(splat(FON_A), roughness, splat(1)));
  singleScatter = mul(scale, mad(roughness, t, splat(1)));
  meanSingle = mul(scale, mad(splat(FON_B), roughness, splat(1)));
  const lost = mul(sub(splat(1), albedo(oz, roughness, scale)), sub(splat(1), albedo(iz, roughness, scale)));
  multipleScatter = where(above(lost, splat(0)), div(lost, most(sub(splat(1), meanSingle), splat(1e-9))));
}

/** π times the rough diffuse BRDF of an albedo. */
// @ts-ignore: decorator
@inline export function diffuseOf(rho: v128): v128 {
  const again = div(mul(mul(rho, rho), meanSingle), sub(splat(1), mul(rho, sub(splat(1), meanSingle))));
  return add(mul(rho, singleScatter), mul(again, multipleScatter));
}
