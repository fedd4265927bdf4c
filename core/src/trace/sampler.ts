/**
 * Owen-scrambled Sobol points, two dimensions at a time (Burley, "Practical Hash-based Owen Scrambling", JCGT
 * 2020). Each pair of dimensions has its own scrambled table; each pixel shifts it digitally (exclusive or of
 * index and value), which keeps every elementary interval as evenly filled as the table's. A point depends on
 * seed, pixel, sample and pair alone.
 */

/** Samples of a pixel after which the tables start again under other shifts. */
const BLOCK_BITS = 12;
const BLOCK = 1 << BLOCK_BITS;
/** Pairs with a table of their own; further ones share under other shifts. */
const TABLES = 40;

const points = new Uint32Array(TABLES * BLOCK * 2);

function reverseBits(v: number): number {
  let x = v;
  x = ((x >>> 1) & 0x55555555) | ((x & 0x55555555) << 1);
  x = ((x >>> 2) & 0x33333333) | ((x & 0x33333333) << 2);
  x = ((x >>> 4) & 0x0f0f0f0f) | ((x & 0x0f0f0f0f) << 4);
  x = ((x >>> 8) & 0x00ff00ff) | ((x & 0x00ff00ff) << 8);
  return (x >>> 16) | (x << 16) | 0;
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
function hash(value: number): number {
  let x = value | 0;
  x ^= x >>> 16;
  x = Math.imul(x, 0x7feb352d);
  x ^= x >>> 15;
  x = Math.imul(x, 0x846ca68b);
  x ^= x >>> 16;
  return x;
}

{
  // dimension 1 is the radical inverse; dimension 2 has direction numbers v ^ v >> 1 (Pascal matrix mod 2)
  const directions: number[] = [];
  let v = 1 << 31;
  for (let i = 0; i < 32; i++) {
    directions.push(v);
    v = v ^ (v >>> 1);
  }
  for (let table = 0; table < TABLES; table++) {
    const seedX = hash(table * 2 + 0x68bc21eb);
    const seedY = hash(table * 2 + 0x02e5be93);
    const order = hash(table + 0x51ed270b);
    for (let i = 0; i < BLOCK; i++) {
      // the scramble works on reversed bits, where the radical inverse is the index itself
      const at =
        reverseBits(permute(reverseBits(i) >>> (32 - BLOCK_BITS), order) << (32 - BLOCK_BITS)) & (BLOCK - 1);
      let y = 0;
      for (let bit = 0, n = at; n !== 0; bit++, n >>>= 1) if (n & 1) y ^= directions[bit];
      const o = (table * BLOCK + i) * 2;
      points[o] = reverseBits(permute(at, seedX));
      points[o + 1] = reverseBits(permute(reverseBits(y), seedY));
    }
  }
}

/** The current point; each coordinate in [0, 1). */
export const point = { x: 0, y: 0 };

/** Hash that names a pixel under a seed. */
export function pixelSeed(seed: number, x: number, y: number): number {
  return hash(hash(hash(seed + 0x9e3779b9) ^ x) ^ Math.imul(y + 1, 0x27d4eb2f));
}

/** Sets `point` to the two-dimensional sample `index` of dimension pair `pair`. */
export function draw(pixel: number, index: number, pair: number): void {
  const h = hash(pixel ^ Math.imul(pair + 1 + (index >>> BLOCK_BITS) * 0x3779b1, 0x9e3779b1));
  const h2 = Math.imul(h ^ 0x2545f491, 0x5bd1e995);
  const at = ((pair % TABLES) * BLOCK + ((index ^ h) & (BLOCK - 1))) * 2;
  point.x = ((points[at] ^ h) >>> 0) * 2.3283064365386963e-10;
  point.y = ((points[at + 1] ^ h2 ^ (h2 >>> 15)) >>> 0) * 2.3283064365386963e-10;
}
