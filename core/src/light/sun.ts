/** The sun of a surround: what stands far out of the rest of it, as a disc that can be a light of its own. */
import { luminance } from '../maths/colour.ts';
import { acos, sin } from '../maths/reproducible.ts';
import { directionAt, type SurroundPicture } from './surround.ts';

export interface Sun {
  /** Unit direction in the picture. */
  direction: [number, number, number];
  /** Radians: of the disc, and of what covers all that is bright about it. */
  radius: number;
  reach: number;
  /** What it gives a plane across it beyond what is around it, lux by channel. */
  lux: [number, number, number];
  /** What is around it, nits by channel. */
  around: [number, number, number];
}

/** A sun is at least so many times as bright as the mean of the picture, */
const OUTSHINES = 20;
/** and reaches as far as a picture stays above this share of its peak. */
const EDGE = 0.02;
/** What is larger than this is no sun, radians. */
const LARGEST = 0.35;
/** Its surroundings are seen from its reach to so many times that. */
const RIM = 1.6;

/** The sun of a picture; null where nothing stands out of it so far, or what does is large. */
export function sunOf({ width, height, data }: SurroundPicture): Sun | null {
  const light = new Float32Array(width * height);
  let [sum, weight, peak, at] = [0, 0, 0, 0];
  for (let y = 0; y < height; y++) {
    const w = sin(((y + 0.5) / height) * Math.PI);
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      light[i] = luminance(data[i * 3], data[i * 3 + 1], data[i * 3 + 2]);
      sum += light[i] * w;
      weight += w;
      if (light[i] > peak) [peak, at] = [light[i], i];
    }
  }
  const mean = sum / weight;
  if (!(peak > OUTSHINES * mean)) return null;
  const edge = Math.max(EDGE * peak, 4 * mean);
  // what hangs together with the brightest pixel
  const bright = new Set([at]);
  const next = [at];
  let apart = 0;
  const [px, py, pz] = directionAt(((at % width) + 0.5) / width, (Math.floor(at / width) + 0.5) / height);
  while (next.length > 0) {
    const i = next.pop()!;
    const [x, y] = [i % width, Math.floor(i / width)];
    for (const [nx, ny] of [
      [(x + 1) % width, y],
      [(x + width - 1) % width, y],
      [x, Math.min(height - 1, y + 1)],
      [x, Math.max(0, y - 1)],
    ]) {
      const n = ny * width + nx;
      if (bright.has(n) || light[n] < edge) continue;
      const d = directionAt((nx + 0.5) / width, (ny + 0.5) / height);
      apart = Math.max(apart, acos(Math.min(1, d[0] * px + d[1] * py + d[2] * pz)));
      if (apart > LARGEST) return null;
      bright.add(n);
      next.push(n);
    }
  }
  const pixel = ((2 * Math.PI) / width) * (Math.PI / height);
  const direction = [0, 0, 0];
  let [power, solid] = [0, 0];
  for (const i of bright) {
    const [u, v] = [((i % width) + 0.5) / width, (Math.floor(i / width) + 0.5) / height];
    const area = pixel * sin(v * Math.PI);
    directionAt(u, v).forEach((d, k) => (direction[k] += d * light[i] * area));
    power += light[i] * area;
    // how large it would be if it were as bright all over
    solid += (light[i] / peak) * area;
  }
  const length = Math.sqrt(direction.reduce((s, d) => s + d * d, 0));
  const middle = direction.map((d) => d / length) as Sun['direction'];
  let reach = 0;
  for (const i of bright) {
    const d = directionAt(((i % width) + 0.5) / width, (Math.floor(i / width) + 0.5) / height);
    reach = Math.max(reach, acos(Math.min(1, d[0] * middle[0] + d[1] * middle[1] + d[2] * middle[2])));
  }
  reach += (2 * Math.PI) / width;
  const around: Sun['around'] = [0, 0, 0];
  const lux: Sun['lux'] = [0, 0, 0];
  let rim = 0;
  const each = (far: number, take: (i: number, angle: number, area: number) => void) => {
    for (let y = 0; y < height; y++) {
      const v = (y + 0.5) / height;
      const area = pixel * sin(v * Math.PI);
      for (let x = 0; x < width; x++) {
        const d = directionAt((x + 0.5) / width, v);
        const angle = acos(Math.min(1, d[0] * middle[0] + d[1] * middle[1] + d[2] * middle[2]));
        if (angle < far) take(y * width + x, angle, area);
      }
    }
  };
  each(reach * RIM, (i, angle, area) => {
    if (angle < reach) return;
    for (let c = 0; c < 3; c++) around[c] += data[i * 3 + c] * area;
    rim += area;
  });
  for (let c = 0; c < 3; c++) around[c] = rim > 0 ? around[c] / rim : 0;
  each(reach, (i, _, area) => {
    for (let c = 0; c < 3; c++) lux[c] += (data[i * 3 + c] - around[c]) * area;
  });
  if (!(power > 0) || lux.some((v) => v < 0)) return null;
  return { direction: middle, radius: acos(Math.max(-1, 1 - solid / (2 * Math.PI))), reach, lux, around };
}
