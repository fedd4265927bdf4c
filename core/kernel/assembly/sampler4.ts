// Owen-scrambled Sobol points, computed: two dimensions at a time, each pair with an order and scrambles of its own
// (Burley, "Practical Hash-based Owen Scrambling", JCGT 2020; hash of Vegdahl, 2021; lowbias32 of Wellons, 2018).
import { mul, splat } from './lanes';

// @ts-ignore: decorator
@inline function hash4(v: v128): v128 {
  let x = v;
  x = v128.xor(x, i32x4.shr_u(x, 16));
  x = i32x4.mul(x, i32x4.splat(0x7feb352d));
  x = v128.xor(x, i32x4.shr_u(x, 15));
  x = i32x4.mul(x, i32x4.splat(0x846ca68b));
  return v128.xor(x, i32x4.shr_u(x, 16));
}

// @ts-ignore: decorator
@inline function reverse4(v: v128): v128 {
  let x = v;
  x = v128.or(
    v128.and(i32x4.shr_u(x, 1), i32x4.splat(0x55555555)),
    i32x4.shl(v128.and(x, i32x4.splat(0x55555555)), 1),
  );
  x = v128.or(
    v128.and(i32x4.shr_u(x, 2), i32x4.splat(0x33333333)),
    i32x4.shl(v128.and(x, i32x4.splat(0x33333333)), 2),
  );
  x = v128.or(
    v128.and(i32x4.shr_u(x, 4), i32x4.splat(0x0f0f0f0f)),
    i32x4.shl(v128.and(x, i32x4.splat(0x0f0f0f0f)), 4),
  );
  return i8x16.swizzle(x, i8x16(3, 2, 1, 0, 7, 6, 5, 4, 11, 10, 9, 8, 15, 14, 13, 12));
}

// @ts-ignore: decorator
@inline function permute4(v: v128, seed: v128): v128 {
  let x = v;
  x = v128.xor(x, i32x4.mul(x, i32x4.splat(0x3d20adea)));
  x = i32x4.add(x, seed);
  x = i32x4.mul(x, v128.or(i32x4.shr_u(seed, 16), i32x4.splat(1)));
  x = v128.xor(x, i32x4.mul(x, i32x4.splat(0x05526c56)));
  return v128.xor(x, i32x4.mul(x, i32x4.splat(0x53a22864)));
}

/** Second dimension of Sobol's: the subsets of the index's bits (Pascal's triangle modulo 2). */
// @ts-ignore: decorator
@inline function second4(v: v128): v128 {
  let x = v;
  x = v128.xor(x, v128.and(i32x4.shr_u(x, 1), i32x4.splat(0x55555555)));
  x = v128.xor(x, v128.and(i32x4.shr_u(x, 2), i32x4.splat(0x33333333)));
  x = v128.xor(x, v128.and(i32x4.shr_u(x, 4), i32x4.splat(0x0f0f0f0f)));
  x = v128.xor(x, v128.and(i32x4.shr_u(x, 8), i32x4.splat(0x00ff00ff)));
  return v128.xor(x, v128.and(i32x4.shr_u(x, 16), i32x4.splat(0x0000ffff)));
}

// @ts-ignore: decorator
@inline function unit4(v: v128): v128 {
  return mul(f32x4.convert_i32x4_u(i32x4.shr_u(v, 8)), splat(5.9604644775390625e-8));
}

/** Results of draw4, in [0, 1). */
export let drawX: v128 = f32x4.splat(0);
export let drawY: v128 = f32x4.splat(0);

/** Sample `index` of dimension pair `pair` for four pixels, by their seeds. */
// @ts-ignore: decorator
@inline export function draw4(pixel: v128, index: i32, pair: v128): void {
  drawEach4(pixel, i32x4.splat(index), pair);
}

/** The same with a sample number of its own for each. */
export function drawEach4(pixel: v128, index: v128, pair: v128): void {
  const h = hash4(v128.xor(pixel, i32x4.mul(i32x4.add(pair, i32x4.splat(1)), i32x4.splat(0x9e3779b9))));
  const order = reverse4(permute4(reverse4(index), h));
  drawX = unit4(reverse4(permute4(order, hash4(v128.xor(h, i32x4.splat(0x68bc21eb))))));
  drawY = unit4(reverse4(permute4(second4(order), hash4(v128.xor(h, i32x4.splat(0x02e5be93))))));
}

/** The same for one pixel. */
// @ts-ignore: decorator
@inline export function draw1(pixel: i32, index: i32, pair: i32): void {
  draw4(i32x4.splat(pixel), index, i32x4.splat(pair));
}

// @ts-ignore: decorator
@inline function hash1(v: u32): u32 {
  let x = v;
  x ^= x >> 16;
  x *= 0x7feb352d;
  x ^= x >> 15;
  x *= 0x846ca68b;
  return x ^ (x >> 16);
}

/** Names a pixel under a seed. */
export function pixelSeed(seed: u32, x: u32, y: u32): u32 {
  return hash1(hash1(hash1(seed + 0x9e3779b9) ^ x) ^ ((y + 1) * 0x27d4eb2f));
}
