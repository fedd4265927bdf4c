/**
 * The kernel's sample points, one at a time (kernel/assembly/sampler4.ts): Owen-scrambled Sobol, two dimensions at a
 * time, each pair with an order and scrambles of its own (Burley, JCGT 2020).
 */

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

/** Second dimension of Sobol's sequence, with direction numbers v ^ v >> 1, over an index whose first bit is the last. */
function second(index: number): number {
  let [sum, v] = [0, 1 << 31];
  for (let n = index; n !== 0; n >>>= 1) {
    if (n & 1) sum ^= v;
    v ^= v >>> 1;
  }
  return sum;
}

/** The current point; each coordinate in [0, 1). */
export const point = { x: 0, y: 0 };

/** Hash that names a pixel under a seed. */
export function pixelSeed(seed: number, x: number, y: number): number {
  return hash(hash(hash(seed + 0x9e3779b9) ^ x) ^ Math.imul(y + 1, 0x27d4eb2f));
}

/** Sets `point` to the two-dimensional sample `index` of dimension pair `pair`. */
export function draw(pixel: number, index: number, pair: number): void {
  const h = hash(pixel ^ Math.imul(pair + 1, 0x9e3779b9));
  const order = reverseBits(permute(reverseBits(index), h));
  const unit = (v: number) => (v >>> 8) * 2 ** -24;
  point.x = unit(reverseBits(permute(order, hash(h ^ 0x68bc21eb))));
  point.y = unit(reverseBits(permute(reverseBits(second(order)), hash(h ^ 0x02e5be93))));
}
