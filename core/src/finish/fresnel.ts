/** Fresnel reflectance of smooth interfaces, unpolarised. Cosines are of the angle to the normal. */

/**
 * Dielectric: exact, after Born & Wolf §1.5.
 * @param cosine of the incident ray, 0 … 1
 * @param eta index beyond the surface over index before it
 */
export function dielectric(cosine: number, eta: number): number {
  const sin2 = (1 - cosine * cosine) / (eta * eta);
  if (sin2 >= 1) return 1;
  const t = Math.sqrt(1 - sin2);
  const s = (cosine - eta * t) / (cosine + eta * t);
  const p = (eta * cosine - t) / (eta * cosine + t);
  return 0.5 * (s * s + p * p);
}

/**
 * Conductor in air: exact, after Born & Wolf §14.2.
 * @param n real and `k` imaginary part of the complex index
 */
export function conductor(cosine: number, n: number, k: number): number {
  const c2 = cosine * cosine;
  const s2 = 1 - c2;
  const t0 = n * n - k * k - s2;
  const a2b2 = Math.sqrt(t0 * t0 + 4 * n * n * k * k);
  const a = Math.sqrt(Math.max(0, 0.5 * (a2b2 + t0)));
  const rs = (a2b2 + c2 - 2 * cosine * a) / (a2b2 + c2 + 2 * cosine * a);
  const big = c2 * a2b2 + s2 * s2;
  const small = 2 * cosine * a * s2;
  const rp = (rs * (big - small)) / (big + small);
  return 0.5 * (rs + rp);
}

/** Schlick's fifth power. */
function schlick(cosine: number): number {
  const m = 1 - cosine;
  return m * m * m * m * m;
}

/**
 * Metal by colour: F82-tint (Kutz, Hašan, Edmondson 2021), the metal model of OpenPBR.
 * @param f0 reflectance facing, `tint82` tint at 82° (1: none)
 */
export function f82Tint(cosine: number, f0: number, tint82: number): number {
  const at = 1 / 7;
  const atF = f0 + (1 - f0) * schlick(at);
  const m = 1 - at;
  const b = (atF * (1 - tint82)) / (at * m * m * m * m * m * m);
  const c6 = (1 - cosine) * schlick(cosine);
  return Math.min(1, Math.max(0, f0 + (1 - f0) * schlick(cosine) - b * cosine * c6));
}

/** Reflectance of a dielectric at normal incidence. */
export const f0OfIor = (ior: number) => ((ior - 1) / (ior + 1)) ** 2;
