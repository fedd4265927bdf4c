/** The integrals that the energy tables hold. */

/** Points of the plane, by the powers of 1 / 1.32471… (Roberts's sequence R2, 2018), and turns a brushed surface is averaged over. */
export const POINTS = 6000;
const BRUSHED_POINTS = 600;
const TURNS = 24;
const ALL_AROUND = Array.from({ length: TURNS }, (_, k) => ((k + 0.5) / TURNS) * Math.PI);
const [ACROSS, UP] = [0.7548776662466927, 0.5698402909980532];

function fresnel(c: number, eta: number): number {
  const sin2 = (1 - c * c) / (eta * eta);
  if (sin2 >= 1) return 1;
  const t = Math.sqrt(1 - sin2);
  const s = (c - eta * t) / (c + eta * t);
  const p = (eta * c - t) / (eta * c + t);
  return 0.5 * (s * s + p * p);
}

const lambda = (ax: number, ay: number, x: number, y: number, z: number) =>
  0.5 * (Math.sqrt(1 + ((ax * x) ** 2 + (ay * y) ** 2) / (z * z)) - 1);

/**
 * Share of light a GGX interface sends back (and, for `outside` and `inside`, through) by single scattering.
 * @param index inside over outside; `inside` looks from within
 * @param seenFrom turns from which it is looked at, their mean
 */
export function returned(
  what: 'mirror' | 'reflected' | 'outside' | 'inside',
  ax: number,
  ay: number,
  index: number,
  mu: number,
  points = ax === ay ? POINTS : BRUSHED_POINTS,
  seenFrom: readonly number[] = ax === ay ? [0] : ALL_AROUND,
): number {
  const eta = what === 'inside' ? 1 / index : index;
  const sin = Math.sqrt(1 - mu * mu);
  let sum = 0;
  for (const turn of seenFrom) {
    const [ox, oy, oz] = [sin * Math.cos(turn), sin * Math.sin(turn), mu];
    const lo = lambda(ax, ay, ox, oy, oz);
    const l = Math.hypot(ox * ax, oy * ay, oz);
    const [sx, sy, sz] = [(ox * ax) / l, (oy * ay) / l, oz / l];
    for (let i = 1; i <= points; i++) {
      const phi = 2 * Math.PI * ((0.5 + i * ACROSS) % 1);
      const z = (1 - ((0.5 + i * UP) % 1)) * (1 + sz) - sz;
      const s = Math.sqrt(Math.max(0, 1 - z * z));
      const hx = (s * Math.cos(phi) + sx) * ax;
      const hy = (s * Math.sin(phi) + sy) * ay;
      const hz = z + sz;
      const n = Math.hypot(hx, hy, hz);
      const oh = (ox * hx + oy * hy + oz * hz) / n;
      const f = what === 'mirror' ? 1 : fresnel(oh, eta);
      const ix = (2 * oh * hx) / n - ox;
      const iy = (2 * oh * hy) / n - oy;
      const iz = (2 * oh * hz) / n - oz;
      if (iz > 0) sum += (f * (1 + lo)) / (1 + lo + lambda(ax, ay, ix, iy, iz));
      if (what === 'outside' || what === 'inside') {
        const kk = 1 / eta;
        const t2 = 1 - kk * kk * (1 - oh * oh);
        if (t2 <= 0) continue;
        const m = kk * oh - Math.sqrt(t2);
        const tx = (m * hx) / n - kk * ox;
        const ty = (m * hy) / n - kk * oy;
        const tz = (m * hz) / n - kk * oz;
        if (tz < 0) sum += (1 - f) / (1 + lambda(ax, ay, tx, ty, tz));
      }
    }
  }
  return sum / (seenFrom.length * points);
}
