/** Transforms of three rows and four columns, row by row: where the last column is the shift. */
export type Transform = Float32Array | Float64Array | readonly number[];

export const TRANSFORM = 12;
export const IDENTITY: readonly number[] = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0];

/** First `b`, then `a`; places in both lists count transforms. */
export function composed(a: Transform, i: number, b: Transform, j: number): Float64Array {
  const out = new Float64Array(TRANSFORM);
  const [p, q] = [i * TRANSFORM, j * TRANSFORM];
  for (let r = 0; r < 3; r++) {
    const [x, y, z, w] = [a[p + r * 4], a[p + r * 4 + 1], a[p + r * 4 + 2], a[p + r * 4 + 3]];
    for (let c = 0; c < 4; c++)
      out[r * 4 + c] = x * b[q + c] + y * b[q + 4 + c] + z * b[q + 8 + c] + (c === 3 ? w : 0);
  }
  return out;
}

/** The way back of a transform that scales alike in all directions; `at` counts transforms. */
export function inverseOf(m: Transform, at = 0): Float64Array {
  const out = new Float64Array(TRANSFORM);
  const p = at * TRANSFORM;
  const square = m[p] * m[p] + m[p + 4] * m[p + 4] + m[p + 8] * m[p + 8];
  for (let r = 0; r < 3; r++) {
    for (let c = 0; c < 3; c++) out[r * 4 + c] = m[p + c * 4 + r] / square;
    const [x, y, z] = out.subarray(r * 4, r * 4 + 3);
    out[r * 4 + 3] = -(x * m[p + 3] + y * m[p + 7] + z * m[p + 11]);
  }
  return out;
}

/** Length that a unit of length has after a transform that scales alike in all directions. */
export const scaleOf = (m: ArrayLike<number>, at = 0): number =>
  Math.sqrt(m[at] * m[at] + m[at + 4] * m[at + 4] + m[at + 8] * m[at + 8]);
