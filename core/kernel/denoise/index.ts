// Convolutions of the denoiser's network, four pixels by eight channels at a time, in single precision from + and ×
// alone: the same bits in every engine, whatever the threads.
//
//   A tensor is rows of pixels of channels. Every row has a pixel of noughts before and after it, and there is a row of
//   noughts before and after them, so that taps beyond the border need no asking.

// @ts-ignore: decorator
@inline function mad(a: v128, b: v128, c: v128): v128 { return f32x4.add(c, f32x4.mul(a, b)); }

// accumulators of four pixels by eight channels
let a0: v128 = f32x4.splat(0);
let a1: v128 = f32x4.splat(0);
let b0: v128 = f32x4.splat(0);
let b1: v128 = f32x4.splat(0);
let c0: v128 = f32x4.splat(0);
let c1: v128 = f32x4.splat(0);
let d0: v128 = f32x4.splat(0);
let d1: v128 = f32x4.splat(0);

/** Adds one row of taps: `run` numbers in a row of memory for each pixel, which is taps × channels. */
// @ts-ignore: decorator
@inline function addRow(row: usize, step: usize, run: i32, weights: usize): void {
  let p0 = a0;
  let p1 = a1;
  let q0 = b0;
  let q1 = b1;
  let r0 = c0;
  let r1 = c1;
  let s0 = d0;
  let s1 = d1;
  let w = weights;
  let x = a0;
  let w0 = a0;
  let w1 = a0;
  let x0 = row;
  let x1 = row + step;
  let x2 = row + 2 * step;
  let x3 = row + 3 * step;
  const end = row + (<usize>run << 2);
  // channels come in fours
  while (x0 < end) {
    w0 = v128.load(w, 0);
    w1 = v128.load(w, 16);
    x = v128.load32_splat(x0, 0);
    p0 = mad(x, w0, p0);
    p1 = mad(x, w1, p1);
    x = v128.load32_splat(x1, 0);
    q0 = mad(x, w0, q0);
    q1 = mad(x, w1, q1);
    x = v128.load32_splat(x2, 0);
    r0 = mad(x, w0, r0);
    r1 = mad(x, w1, r1);
    x = v128.load32_splat(x3, 0);
    s0 = mad(x, w0, s0);
    s1 = mad(x, w1, s1);
    w0 = v128.load(w, 32);
    w1 = v128.load(w, 48);
    x = v128.load32_splat(x0, 4);
    p0 = mad(x, w0, p0);
    p1 = mad(x, w1, p1);
    x = v128.load32_splat(x1, 4);
    q0 = mad(x, w0, q0);
    q1 = mad(x, w1, q1);
    x = v128.load32_splat(x2, 4);
    r0 = mad(x, w0, r0);
    r1 = mad(x, w1, r1);
    x = v128.load32_splat(x3, 4);
    s0 = mad(x, w0, s0);
    s1 = mad(x, w1, s1);
    w0 = v128.load(w, 64);
    w1 = v128.load(w, 80);
    x = v128.load32_splat(x0, 8);
    p0 = mad(x, w0, p0);
    p1 = mad(x, w1, p1);
    x = v128.load32_splat(x1, 8);
    q0 = mad(x, w0, q0);
    q1 = mad(x, w1, q1);
    x = v128.load32_splat(x2, 8);
    r0 = mad(x, w0, r0);
    r1 = mad(x, w1, r1);
    x = v128.load32_splat(x3, 8);
    s0 = mad(x, w0, s0);
    s1 = mad(x, w1, s1);
    w0 = v128.load(w, 96);
    w1 = v128.load(w, 112);
    x = v128.load32_splat(x0, 12);
    p0 = mad(x, w0, p0);
    p1 = mad(x, w1, p1);
    x = v128.load32_splat(x1, 12);
    q0 = mad(x, w0, q0);
    q1 = mad(x, w1, q1);
    x = v128.load32_splat(x2, 12);
    r0 = mad(x, w0, r0);
    r1 = mad(x, w1, r1);
    x = v128.load32_splat(x3, 12);
    s0 = mad(x, w0, s0);
    s1 = mad(x, w1, s1);
    w += 128;
    x0 += 16;
    x1 += 16;
    x2 += 16;
    x3 += 16;
  }
  a0 = p0;
  a1 = p1;
  b0 = q0;
  b1 = q1;
  c0 = r0;
  c1 = r1;
  d0 = s0;
  d1 = s1;
}

// @ts-ignore: decorator
@inline function keep(out: usize, step: usize): void {
  const zero = f32x4.splat(0);
  v128.store(out, f32x4.pmax(zero, a0));
  v128.store(out, f32x4.pmax(zero, a1), 16);
  v128.store(out + step, f32x4.pmax(zero, b0));
  v128.store(out + step, f32x4.pmax(zero, b1), 16);
  v128.store(out + 2 * step, f32x4.pmax(zero, c0));
  v128.store(out + 2 * step, f32x4.pmax(zero, c1), 16);
  v128.store(out + 3 * step, f32x4.pmax(zero, d0));
  v128.store(out + 3 * step, f32x4.pmax(zero, d1), 16);
}

/**
 * One row of a convolution with its rectifier, from up to two sources, each of up to three rows of taps (nought: none).
 * @param out first pixel written; @param outStep bytes to the next; @param fours pixels, four at a time
 * @param eights channels written, eight at a time; @param bias one number for each
 * @param rowA0 first tap of the first pixel; stepA bytes from pixel to pixel, runA numbers a row of taps
 * @param weightsA for each eight channels: rows of taps, taps, channels read, eight channels written
 */
export function convRow(
  out: usize, outStep: usize, fours: i32, eights: i32, bias: usize,
  rowA0: usize, rowA1: usize, rowA2: usize, stepA: usize, runA: i32, weightsA: usize,
  rowB0: usize, rowB1: usize, rowB2: usize, stepB: usize, runB: i32, weightsB: usize,
): void {
  const bytesA = <usize>runA << 5;
  const bytesB = <usize>runB << 5;
  let wa = weightsA;
  let wb = weightsB;
  for (let e = 0; e < eights; e++) {
    const bias0 = v128.load(bias + (<usize>e << 5));
    const bias1 = v128.load(bias + (<usize>e << 5), 16);
    for (let f = 0; f < fours; f++) {
      const ra = <usize>f * 4 * stepA;
      const rb = <usize>f * 4 * stepB;
      a0 = bias0;
      a1 = bias1;
      b0 = bias0;
      b1 = bias1;
      c0 = bias0;
      c1 = bias1;
      d0 = bias0;
      d1 = bias1;
      addRow(rowA0 + ra, stepA, runA, wa);
      addRow(rowA1 + ra, stepA, runA, wa + bytesA);
      if (rowA2 !== 0) addRow(rowA2 + ra, stepA, runA, wa + 2 * bytesA);
      if (rowB0 !== 0) {
        addRow(rowB0 + rb, stepB, runB, wb);
        addRow(rowB1 + rb, stepB, runB, wb + bytesB);
        addRow(rowB2 + rb, stepB, runB, wb + 2 * bytesB);
      }
      keep(out + <usize>f * 4 * outStep + (<usize>e << 5), outStep);
    }
    wa += (rowA2 !== 0 ? 3 : 2) * bytesA;
    wb += 3 * bytesB;
  }
}

/** One row of the greatest of two by two. @param step bytes of a pixel of `channels` numbers, a multiple of four */
export function poolRow(out: usize, row0: usize, row1: usize, pixels: i32, step: usize): void {
  for (let x = 0; x < pixels; x++) {
    const at = <usize>x * 2 * step;
    for (let c: usize = 0; c < step; c += 16) {
      v128.store(
        out + <usize>x * step + c,
        f32x4.pmax(
          f32x4.pmax(v128.load(row0 + at + c), v128.load(row0 + at + step + c)),
          f32x4.pmax(v128.load(row1 + at + c), v128.load(row1 + at + step + c)),
        ),
      );
    }
  }
}
