/** What a rough interface under a thin film reflects on the whole, by channel. */
import { cos, sin } from '../maths/reproducible.ts';
import { cosineOf, rowValue, SMOOTHEST, type Row } from './energy.ts';
import { ENTRIES } from './optics.ts';

/** Of the channels' mean what is reflected, and each channel's share of it, over the cosine. */
export interface FilmGloss {
  mean: Row;
  shares: Row[];
}

/** Places of the square that normals are drawn from, each way. */
const SIDE = 10;

/**
 * Sums what a GGX lobe reflects over visible normals (Dupuy & Benyoub 2023), on a fixed grid of them.
 * @param over reflectance over the cosine: ENTRIES of red, green and blue
 */
export function filmGloss(over: Float32Array, roughness: number): FilmGloss {
  const alpha = Math.max(SMOOTHEST, roughness * roughness);
  const shares = [0, 1, 2].map(() => new Float32Array(ENTRIES));
  const mean = new Float32Array(ENTRIES);
  const channels = [0, 1, 2].map((c) => over.subarray(c * ENTRIES, (c + 1) * ENTRIES));
  for (let i = 0; i < ENTRIES; i++) {
    const sums = reflected(channels, alpha, Math.max(1e-4, cosineOf(i)));
    mean[i] = Math.min(1, (sums[0] + sums[1] + sums[2]) / 3);
    sums.forEach((v, c) => (shares[c][i] = v / Math.max(1e-6, mean[i])));
  }
  return { mean, shares };
}

function reflected(channels: readonly Float32Array[], alpha: number, mu: number): number[] {
  const s = Math.sqrt(1 - mu * mu);
  const length = Math.hypot(alpha * s, mu);
  const [vx, vz] = [(alpha * s) / length, mu / length];
  const sums = [0, 0, 0];
  for (let k = 0; k < SIDE * SIDE; k++) {
    const phi = (2 * Math.PI * ((k % SIDE) + 0.5)) / SIDE;
    const z = (1 - (Math.floor(k / SIDE) + 0.5) / SIDE) * (1 + vz) - vz;
    const r = Math.sqrt(Math.max(0, 1 - z * z));
    const [hx, hy, hz] = [alpha * (r * cos(phi) + vx), alpha * r * sin(phi), z + vz];
    const l = Math.hypot(hx, hy, hz);
    const oh = (s * hx + mu * hz) / l;
    const iz = (2 * oh * hz) / l - mu;
    if (iz <= 0) continue;
    // Smith's masking of both directions together over that of the view
    const lambda = (c: number) => (Math.sqrt(1 + alpha * alpha * (1 / (c * c) - 1)) - 1) / 2;
    const kept = (1 + lambda(mu)) / (1 + lambda(mu) + lambda(iz));
    channels.forEach((row, c) => (sums[c] += (kept * rowValue(row, oh)) / (SIDE * SIDE)));
  }
  return sums;
}
