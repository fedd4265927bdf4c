/**
 * Glow: a share of the light spread as a lens spreads it, over everything and without a threshold. No light is added and
 * none is lost: the spread is even blurs by running sums, mirrored at the borders, which keep the sum exactly (three in
 * a row are near a Gaussian, Wells 1986; a sum of three widths has the long tail of measured lens glare, after Spencer
 * et al., "Physically-Based Glare Effects for Digital Images", 1995).
 */
import type { Grade } from '../document/index.ts';
import type { LinearPicture } from './linear.ts';

/** Widths, as shares of the size, and how much of the spread light goes to each. */
const SPREAD = [
  { width: 0.25, share: 0.55 },
  { width: 1, share: 0.33 },
  { width: 3, share: 0.12 },
] as const;
const BLURS = 3;

/** Mean of 2r + 1 numbers about each, in a line of `n` that is mirrored at its ends. */
function blurLine(
  from: Float32Array,
  to: Float32Array,
  at: number,
  step: number,
  n: number,
  r: number,
): void {
  const mirrored = (i: number) => {
    const k = ((i % (2 * n)) + 2 * n) % (2 * n);
    return from[at + (k < n ? k : 2 * n - 1 - k) * step];
  };
  let sum = 0;
  for (let i = -r; i <= r; i++) sum += mirrored(i);
  const scale = 1 / (2 * r + 1);
  for (let i = 0; i < n; i++) {
    to[at + i * step] = sum * scale;
    sum +=
      i + r + 1 < n && i - r >= 0
        ? from[at + (i + r + 1) * step] - from[at + (i - r) * step]
        : mirrored(i + r + 1) - mirrored(i - r);
  }
}

/** Blurs one channel to about a standard deviation, pixels. */
function blurred(channel: Float32Array, width: number, height: number, deviation: number): Float32Array {
  // three blurs of 2r + 1 have the variance ((2r + 1)² − 1) / 4
  const r = Math.max(0, Math.round((Math.sqrt(4 * deviation * deviation + 1) - 1) / 2));
  if (r === 0) return channel;
  let from = channel.slice();
  let to = new Float32Array(channel.length);
  for (let k = 0; k < BLURS; k++) {
    for (let y = 0; y < height; y++) blurLine(from, to, y * width, 1, width, r);
    [from, to] = [to, from];
    for (let x = 0; x < width; x++) blurLine(from, to, x, width, height, r);
    [from, to] = [to, from];
  }
  return from;
}

/** The picture with its grade's glow; itself when there is none. */
export function glowing(
  picture: LinearPicture,
  { glow, glow_size }: Pick<Grade, 'glow' | 'glow_size'>,
): LinearPicture {
  if (!(glow > 0)) return picture;
  const { width, height, data } = picture;
  const out = Float32Array.from(data);
  const channel = new Float32Array(width * height);
  for (let c = 0; c < 3; c++) {
    for (let i = 0; i < channel.length; i++) channel[i] = data[i * 4 + c];
    for (let i = 0; i < channel.length; i++) out[i * 4 + c] *= 1 - glow;
    for (const { width: wide, share } of SPREAD) {
      const spread = blurred(channel, width, height, glow_size * wide * height);
      for (let i = 0; i < channel.length; i++) out[i * 4 + c] += glow * share * spread[i];
    }
  }
  return { width, height, data: out };
}
