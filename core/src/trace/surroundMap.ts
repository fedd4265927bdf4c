/** The surround as the kernel reads it: pictures of half floats, and a smaller map by which directions are drawn. */
import { luminance } from '../maths/colour.ts';
import { sin } from '../maths/reproducible.ts';
import { reduced, type SurroundPicture } from '../light/surround.ts';

/**
 * Widest map, by how far the brightest of a picture stands out of its mean: small suns need fine cells, and a soft sky's
 * coarse ones stay in a processor's cache.
 */
const WIDEST = { sunny: 2048, soft: 128 };
const SUNNY = 100;
/** Times the mean above which light of the surround is a sun's. */
const SUN = 100;
/** Largest half float kept, below the format's 65504. */
const MOST_HALF = 60000;

export interface SurroundMap {
  columns: number;
  rows: number;
  /**
   * Cumulative rows (rows + 1), sines of the rows' edges from the top (rows + 1), where to begin searching rows (rows),
   * cumulative cells of each row (columns + 1 each), where to begin searching those (columns each).
   */
  map: ArrayBuffer;
  /** Mean luminance over the sphere, nits. */
  mean: number;
  /** Whether something in it stands far out of the rest. */
  sunny: boolean;
  /** Luminance that only suns exceed, nits, and what they give beyond it a plane across them, lux. */
  sun: { clip: number; excess: number };
}

const floats = new Float32Array(1);
const bits = new Uint32Array(floats.buffer);

/** Nearest half float's bits of a number from nought to 65504 (IEEE 754, ties to even). */
export function halfBits(value: number): number {
  // times 2^-112 a float's bits are the half's, ten places higher; the rounding is done on them
  floats[0] = value * 1.925929944387236e-34;
  const low = bits[0] & 0x1fff;
  const half = bits[0] >>> 13;
  return low > 0x1000 || (low === 0x1000 && (half & 1) === 1) ? half + 1 : half;
}

/** Guides: for each k the last i in 0 … n − 1 with cdf[at + i] ≤ k / n (indexed search, Chen & Asau 1974). */
function guide(cdf: Float32Array, at: number, n: number, out: Int32Array, to: number): void {
  let i = 0;
  for (let k = 0; k < n; k++) {
    while (i + 1 < n && cdf[at + i + 1] <= k / n) i++;
    out[to + k] = i;
  }
}

/** A picture as four half floats a pixel, r g b and nothing, and what a stored one stands for, nits. */
export function halfFloats({ width, height, data }: SurroundPicture): { halves: Uint16Array; unit: number } {
  let peak = 0;
  for (let i = 0; i < data.length; i++) if (data[i] > peak) peak = data[i];
  const unit = peak > MOST_HALF ? peak / MOST_HALF : 1;
  const halves = new Uint16Array(width * height * 4);
  for (let i = 0, o = 0; i < data.length; i += 3, o += 4)
    for (let c = 0; c < 3; c++) halves[o + c] = halfBits(Math.max(0, data[i + c]) / unit);
  return { halves, unit };
}

/**
 * Makes the map. Its cells lie between pixel centres and weigh the mean of their four corners, so that a bright
 * pixel raises every cell that its bilinear footprint reaches and no direction is undersampled.
 */
export function surroundMap(picture: SurroundPicture): SurroundMap {
  const { data } = picture;
  let peak = 0;
  let sum = 0;
  for (let i = 0; i < data.length; i++) {
    if (data[i] > peak) peak = data[i];
    sum += data[i];
  }
  const sunny = peak * data.length > SUNNY * sum;

  const small = reduced(picture, sunny ? WIDEST.sunny : WIDEST.soft);
  const [w, h] = [small.width, small.height];
  const rows = h + 1;
  const lum = new Float32Array(w * h);
  for (let i = 0; i < lum.length; i++)
    lum[i] = luminance(small.data[i * 3], small.data[i * 3 + 1], small.data[i * 3 + 2]);
  const map = new ArrayBuffer(4 * (3 * rows + 2 + rows * (2 * w + 1)));
  const rowCdf = new Float32Array(map, 0, rows + 1);
  const bands = new Float32Array(map, 4 * (rows + 1), rows + 1);
  const rowGuide = new Int32Array(map, 8 * (rows + 1), rows);
  const cellCdf = new Float32Array(map, 8 * (rows + 1) + 4 * rows, rows * (w + 1));
  const cellGuide = new Int32Array(map, 8 * (rows + 1) + 4 * rows + 4 * rows * (w + 1), rows * w);
  for (let r = 0; r <= rows; r++)
    bands[r] = r === 0 ? 1 : r === rows ? -1 : sin((0.5 - (r - 0.5) / h) * Math.PI);
  const sums = new Float64Array(w + 1);
  const rowSums = new Float64Array(rows + 1);
  for (let r = 0; r < rows; r++) {
    const above = Math.max(0, r - 1) * w;
    const below = Math.min(h - 1, r) * w;
    for (let c = 0; c < w; c++) {
      const d = c + 1 === w ? 0 : c + 1;
      sums[c + 1] = sums[c] + (lum[above + c] + lum[above + d] + lum[below + c] + lum[below + d]) / 4;
    }
    for (let c = 1; c <= w; c++) cellCdf[r * (w + 1) + c] = sums[w] > 0 ? sums[c] / sums[w] : c / w;
    rowSums[r + 1] = rowSums[r] + (sums[w] * (bands[r] - bands[r + 1])) / w;
  }
  const total = rowSums[rows];
  for (let r = 1; r <= rows; r++) rowCdf[r] = total > 0 ? rowSums[r] / total : r / rows;
  guide(rowCdf, 0, rows, rowGuide, 0);
  for (let r = 0; r < rows; r++) guide(cellCdf, r * (w + 1), w, cellGuide, r * w);
  const mean = total / 2;
  return { columns: w, rows, map, mean, sunny, sun: sunOf(picture, SUN * mean) };
}

/** What stands out of a picture above a luminance. */
function sunOf({ width, height, data }: SurroundPicture, clip: number): SurroundMap['sun'] {
  let excess = 0;
  for (let y = 0; y < height; y++) {
    let row = 0;
    for (let i = y * width * 3; i < (y + 1) * width * 3; i += 3)
      row += Math.max(0, luminance(data[i], data[i + 1], data[i + 2]) - clip);
    // a row's pixels are as wide as its circle of latitude
    if (row > 0)
      excess += (row * sin(((y + 0.5) / height) * Math.PI) * 2 * Math.PI * Math.PI) / (width * height);
  }
  return { clip, excess };
}
