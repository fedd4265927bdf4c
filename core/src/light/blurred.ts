/** Surrounds out of focus: what is seen of them behind the type or in it, not what light they give. */
import { cos, exp, sin } from '../maths/reproducible.ts';
import { directionAt, reduced, type SurroundPicture } from './surround.ts';

/** Pixels that a standard deviation spans in the blurred picture: more are not told apart. */
const FINENESS = 2;
const [NARROWEST, WIDEST] = [64, 512];
/** Standard deviations beyond which nothing counts. */
const REACH = 3;

/**
 * A surround blurred over the sphere, alike in all directions and without seams or poles; it keeps its light.
 * @param radians standard deviation, above 0
 */
export function blurredSurround(picture: SurroundPicture, radians: number): SurroundPicture {
  let wide = NARROWEST;
  while (wide < WIDEST && (wide * radians) / (2 * Math.PI) < FINENESS) wide *= 2;
  const { width, height, data } = reduced(picture, wide);
  const out = new Float32Array(data.length);
  const reach = Math.min(Math.PI, REACH * radians);
  const rows = Math.min(height, Math.ceil((reach * height) / Math.PI));
  const directions = Array.from({ length: height }, (_, y) =>
    Float64Array.from(
      Array.from({ length: width }, (_, x) => directionAt((x + 0.5) / width, (y + 0.5) / height)).flat(),
    ),
  );
  const scale = 1 / (radians * radians);
  const least = cos(reach);
  // what of the other rows reaches one is the same all along it
  for (let y = 0; y < height; y++) {
    const [ox, oy, oz] = directions[y];
    const weights: { row: number; across: number; weight: Float64Array }[] = [];
    let sum = 0;
    for (let r = Math.max(0, y - rows); r <= Math.min(height - 1, y + rows); r++) {
      const area = sin(((r + 0.5) / height) * Math.PI);
      const row = directions[r];
      const weight: number[] = [];
      for (let k = 0; k <= width / 2; k++) {
        const cosine = row[k * 3] * ox + row[k * 3 + 1] * oy + row[k * 3 + 2] * oz;
        if (cosine < least) break;
        // a bell by the chord, which near its middle is the angle
        const w = exp((cosine - 1) * scale) * area;
        weight.push(w);
        sum += k === 0 || k === width / 2 ? w : 2 * w;
      }
      if (weight.length > 0)
        weights.push({ row: r, across: weight.length, weight: Float64Array.from(weight) });
    }
    for (let x = 0; x < width; x++) {
      let red = 0;
      let green = 0;
      let blue = 0;
      for (const { row, across, weight } of weights) {
        const base = row * width;
        for (let k = 1 - across; k < across; k++) {
          // half around the sphere both ways meet
          if (2 * k === -width) continue;
          let column = x + k;
          if (column < 0) column += width;
          else if (column >= width) column -= width;
          const at = (base + column) * 3;
          const w = weight[k < 0 ? -k : k];
          red += data[at] * w;
          green += data[at + 1] * w;
          blue += data[at + 2] * w;
        }
      }
      const to = (y * width + x) * 3;
      out[to] = red / sum;
      out[to + 1] = green / sum;
      out[to + 2] = blue / sum;
    }
  }
  return { width, height, data: out };
}
