/**
 * Owen-scrambled Sobol points, two dimensions at a time, each pair shuffled on its own (Burley, "Practical
 * Hash-based Owen Scrambling", JCGT 2020). A point depends on seed, pixel, sample and pair alone.
 */

/** Samples of a pixel after which the sequence starts again under another scramble. */
const BLOCK_BITS = 16;
const BLOCK = 1 << BLOCK_BITS;

/** First two Sobol dimensions for every index of a block, as reversed bits for the scramble. */
const sobolX = new Uint32Array(BLOCK);
const sobolY = new Uint32Array(BLOCK);

function reverseBits(v: number): number {
  let x = v;
  x = ((x >>> 1) & 0x55555555) | ((x & 0x55555555) << 1);
  x = ((x >>> 2) & 0x33333333) | ((x & 0x33333333) << 2);
  x = ((x >>> 4) & 0x0f0f0f0f) | ((x & 0x0f0f0f0f) << 4);
  x = ((x >>> 8) & 0x00ff00ff) | ((x & 0x00ff00ff) << 8);
  return ((x >>> 16) | (x << 16)) >>> 0;
}

{
  // dimension 1 is the radical inverse; dimension 2 has direction numbers v ^ v >> 1 (Pascal matrix mod 2)
  const directions: number[] = [];
  let v = 1 << 31;
  for (let i = 0; i < 32; i++) {
    directions.push(v >>> 0);
    v = v ^ (v >>> 1);
  }
  for (let i = 0; i < BLOCK; i++) {
    let y = 0;
    for (let bit = 0, n = i; n !== 0; bit++, n >>>= 1) if (n & 1) y ^= directions[bit];
    // the scramble works from the low bit up: both are kept reversed (for dimension 1 that is the index)
    sobolX[i] = i;
    sobolY[i] = reverseBits(y >>> 0);
  }
}

/** Laine–Karras permutation in the improved form of Vegdahl; acts on reversed bits. */
function permute(value: number, seed: number): number {
  let x = value | 0;
  x ^= Math.imul(x, 0x3d20adea);
  x = (x + seed) | 0;
  x = Math.imul(x, (seed >>> 16) | 1);
  x ^= Math.imul(x, 0x05526c56);
  x ^= Math.imul(x, 0x53a22864);
  return x;
}

/** A well-mixed 32-bit hash (lowbias32, Wellons). */
export function hash(value: number): number {
  let x = value | 0;
  x ^= x >>> 16;
  x = Math.imul(x, 0x7feb352d);
  x ^= x >>> 15;
  x = Math.imul(x, 0x846ca68b);
  x ^= x >>> 16;
  return x >>> 0;
}

/** The current point; each in [0, 1). */
export const point = { x: 0, y: 0 };

/** Hash that names a pixel under a seed. */
export function pixelSeed(seed: number, x: number, y: number): number {
  return hash(hash(hash(seed + 0x9e3779b9) ^ x) ^ Math.imul(y + 1, 0x27d4eb2f));
}

/** Sets `point` to the two-dimensional sample `index` of dimension pair `pair`. */
export function draw(pixel: number, index: number, pair: number): void {
  const block = index >>> BLOCK_BITS;
  const base = hash(pixel ^ Math.imul(pair + 1, 0x9e3779b1) ^ Math.imul(block, 0x85ebca6b));
  // shuffle the index inside its block: scramble its reversed bits, top bits only
  const shuffled = reverseBits(permute(reverseBits(index & (BLOCK - 1)) >>> BLOCK_BITS, base) << BLOCK_BITS);
  const at = shuffled & (BLOCK - 1);
  const sx = hash(base ^ 0x68bc21eb);
  const sy = hash(base ^ 0x02e5be93);
  point.x = reverseBits(permute(sobolX[at], sx)) * 2.3283064365386963e-10;
  point.y = reverseBits(permute(sobolY[at], sy)) * 2.3283064365386963e-10;
}
