/** Comparing linear pictures. */
import { luminance } from '../maths/colour.ts';
import type { LinearPicture } from './linear.ts';

/** The picture at another size, by bilinear interpolation of its pixel centres. */
export function resized(
  { width, height, data }: LinearPicture,
  toWidth: number,
  toHeight: number,
): LinearPicture {
  if (toWidth === width && toHeight === height) return { width, height, data };
  const out = new Float32Array(toWidth * toHeight * 4);
  for (let y = 0; y < toHeight; y++) {
    const fy = Math.min(height - 1, Math.max(0, ((y + 0.5) * height) / toHeight - 0.5));
    const y0 = Math.floor(fy);
    const y1 = Math.min(height - 1, y0 + 1);
    for (let x = 0; x < toWidth; x++) {
      const fx = Math.min(width - 1, Math.max(0, ((x + 0.5) * width) / toWidth - 0.5));
      const x0 = Math.floor(fx);
      const x1 = Math.min(width - 1, x0 + 1);
      for (let c = 0; c < 4; c++) {
        const at = (px: number, py: number) => data[(py * width + px) * 4 + c];
        const top = at(x0, y0) + (at(x1, y0) - at(x0, y0)) * (fx - x0);
        const low = at(x0, y1) + (at(x1, y1) - at(x0, y1)) * (fx - x0);
        out[(y * toWidth + x) * 4 + c] = top + (low - top) * (fy - y0);
      }
    }
  }
  return { width: toWidth, height: toHeight, data: out };
}

/** The picture with squares of `by` pixels a side made one, by their mean; what is left over at the far edges goes in. */
export function shrunk({ width, height, data }: LinearPicture, by: number): LinearPicture {
  const [w, h] = [Math.max(1, Math.floor(width / by)), Math.max(1, Math.floor(height / by))];
  const out = new Float32Array(w * h * 4);
  const counts = new Float32Array(w * h);
  for (let y = 0; y < height; y++) {
    const row = Math.min(h - 1, Math.floor(y / by)) * w;
    for (let x = 0; x < width; x++) {
      const to = row + Math.min(w - 1, Math.floor(x / by));
      const from = (y * width + x) * 4;
      counts[to]++;
      for (let c = 0; c < 4; c++) out[to * 4 + c] += data[from + c];
    }
  }
  for (let i = 0; i < out.length; i++) out[i] /= counts[i >> 2];
  return { width: w, height: h, data: out };
}

export interface Difference {
  /** |a − b| of each channel, linear, opaque; as large as the first picture. */
  picture: LinearPicture;
  /** Mean luminance of the difference over the mean luminance of the first picture. */
  mean: number;
  /** Largest luminance of the difference, in the pictures' own unit. */
  most: number;
}

/** How two linear pictures differ; the second is brought to the size of the first. */
export function differenceOf(a: LinearPicture, b: LinearPicture): Difference {
  const other = resized(b, a.width, a.height);
  const data = new Float32Array(a.data.length);
  let [sum, whole, most] = [0, 0, 0];
  for (let i = 0; i < data.length; i += 4) {
    for (let c = 0; c < 3; c++) data[i + c] = Math.abs(a.data[i + c] - other.data[i + c]);
    data[i + 3] = 1;
    const l = luminance(data[i], data[i + 1], data[i + 2]);
    sum += l;
    most = Math.max(most, l);
    whole += luminance(a.data[i], a.data[i + 1], a.data[i + 2]);
  }
  return {
    picture: { width: a.width, height: a.height, data },
    mean: whole > 0 ? sum / whole : sum > 0 ? Infinity : 0,
    most,
  };
}
