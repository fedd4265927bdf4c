// Noises and patterns, from + − × ÷ √ and whole numbers alone. A unit is one lump, cell or thread.

/** Largest value of one octave of gradient noise (Perlin, "Improving Noise", 2002), to bring it to −1 … 1. */
const LARGEST: f32 = 1.036;
const AMPLITUDE: f32 = 0.5;
/** Joints of bricks and tiles, as a share of a brick's length, and the slope beside them. */
const JOINT: f32 = 0.03;
const SLOPE: f32 = 0.03;
const BRICK_HEIGHT: f32 = 0.36;
/** Darkest of a wall's bricks, on its axis. */
const DARKEST: f32 = 0.5;

// @ts-ignore: decorator
@inline function hash3(x: i32, y: i32, z: i32, seed: i32): u32 {
  let h: u32 = <u32>seed * 0x9e3779b9;
  h = (h ^ <u32>x) * 0x85ebca6b;
  h ^= h >> 15;
  h = (h ^ <u32>y) * 0xc2b2ae35;
  h ^= h >> 13;
  h = (h ^ <u32>z) * 0x27d4eb2f;
  h ^= h >> 16;
  h *= 0x7feb352d;
  return h ^ (h >> 15);
}

// @ts-ignore: decorator
@inline function share(h: u32): f32 { return <f32>(h >> 8) * <f32>5.9604644775390625e-8; }

/** One of twelve gradients, times the way from its corner. */
function gradient(h: u32, x: f32, y: f32, z: f32): f32 {
  const k = h & 15;
  const u: f32 = k < 8 ? x : y;
  const v: f32 = k < 4 ? y : k === 12 || k === 14 ? x : z;
  return ((k & 1) === 0 ? u : -u) + ((k & 2) === 0 ? v : -v);
}

// @ts-ignore: decorator
@inline function ease(t: f32): f32 { return t * t * t * (t * (t * <f32>6 - <f32>15) + <f32>10); }
// @ts-ignore: decorator
@inline function mix(a: f32, b: f32, t: f32): f32 { return a + (b - a) * t; }

function octave(x: f32, y: f32, z: f32, seed: i32): f32 {
  const fx = floor<f32>(x);
  const fy = floor<f32>(y);
  const fz = floor<f32>(z);
  const i = <i32>fx;
  const j = <i32>fy;
  const k = <i32>fz;
  const a: f32 = x - fx;
  const b: f32 = y - fy;
  const c: f32 = z - fz;
  const u = ease(a);
  const v = ease(b);
  const e = ease(c);
  const a1: f32 = a - 1;
  const b1: f32 = b - 1;
  const c1: f32 = c - 1;
  const low = mix(
    mix(gradient(hash3(i, j, k, seed), a, b, c), gradient(hash3(i + 1, j, k, seed), a1, b, c), u),
    mix(gradient(hash3(i, j + 1, k, seed), a, b1, c), gradient(hash3(i + 1, j + 1, k, seed), a1, b1, c), u), v,
  );
  const high = mix(
    mix(gradient(hash3(i, j, k + 1, seed), a, b, c1), gradient(hash3(i + 1, j, k + 1, seed), a1, b, c1), u),
    mix(gradient(hash3(i, j + 1, k + 1, seed), a, b1, c1), gradient(hash3(i + 1, j + 1, k + 1, seed), a1, b1, c1), u), v,
  );
  return mix(low, high, e) / LARGEST;
}

/** Octaves of gradient noise, each of half the size and half the height, −½ … ½. */
export function noise(x: f32, y: f32, z: f32, octaves: i32, seed: i32): f32 {
  let sum: f32 = 0;
  let size: f32 = 1;
  let height: f32 = AMPLITUDE;
  for (let i = 0; i < octaves; i++) {
    sum += octave(x * size, y * size, z * size, seed + i) * height;
    size *= 2;
    height *= <f32>0.5;
  }
  return sum;
}

/** The same with each octave's depths turned up, 0 … 1. */
export function turbulence(x: f32, y: f32, z: f32, octaves: i32, seed: i32): f32 {
  let sum: f32 = 0;
  let size: f32 = 1;
  let height: f32 = 1;
  for (let i = 0; i < octaves; i++) {
    sum += abs(octave(x * size, y * size, z * size, seed + i)) * height;
    size *= 2;
    height *= <f32>0.5;
  }
  return sum;
}

/** Results of cells: distance to the nearest point and the next (Worley, 1996), and a number of the nearest's own. */
export let f1: f32 = 0;
export let f2: f32 = 0;
export let owner: f32 = 0;

export function cells(x: f32, y: f32, z: f32, seed: i32): void {
  const fx = floor<f32>(x);
  const fy = floor<f32>(y);
  const fz = floor<f32>(z);
  let near: f32 = 1e30;
  let next: f32 = 1e30;
  let own: u32 = 0;
  for (let k = -1; k <= 1; k++)
    for (let j = -1; j <= 1; j++)
      for (let i = -1; i <= 1; i++) {
        const h = hash3(<i32>fx + i, <i32>fy + j, <i32>fz + k, seed);
        const dx: f32 = fx + <f32>i + share(h) - x;
        const dy: f32 = fy + <f32>j + share(h * 0x9e3779b1) - y;
        const dz: f32 = fz + <f32>k + share(h * 0x85ebca77) - z;
        const d: f32 = dx * dx + dy * dy + dz * dz;
        if (d < near) {
          next = near;
          near = d;
          own = h;
        } else if (d < next) next = d;
      }
  f1 = sqrt<f32>(near);
  f2 = sqrt<f32>(next);
  owner = share(own * 0xc2b2ae3d);
}

/** Twill of threads one unit wide, two over and two under: the lower half is the one way's, the upper the other's. */
export function weave(x: f32, y: f32): f32 {
  const i = floor<f32>(x);
  const j = floor<f32>(y);
  const over = ((<i32>i + <i32>j) & 3) < 2;
  const t: f32 = over ? y - j : x - i;
  const height: f32 = <f32>4 * t * (<f32>1 - t);
  return (over ? <f32>0.5 : <f32>0) + <f32>0.4999 * height;
}

/** Joints at nought, and a level of its own for each brick or tile; `y` counts its heights. */
function laid(x: f32, y: f32, height: f32, seed: i32): f32 {
  const i = floor<f32>(x);
  const j = floor<f32>(y);
  const a: f32 = x - i;
  const b: f32 = (y - j) * height;
  const edge: f32 = min(min(a, <f32>1 - a), min(b, height - b));
  const rise: f32 = min<f32>(1, max<f32>(0, (edge - JOINT * <f32>0.5) / SLOPE));
  return rise * (DARKEST + (<f32>1 - DARKEST) * share(hash3(<i32>i, <i32>j, 0, seed)));
}

/** Bricks one unit long, each course half a brick further. */
export function bricks(x: f32, y: f32, seed: i32): f32 {
  const v: f32 = y / BRICK_HEIGHT;
  const odd = (<i32>floor<f32>(v) & 1) !== 0;
  return laid(odd ? x + <f32>0.5 : x, v, BRICK_HEIGHT, seed);
}

/** Square tiles of one unit. */
export function tiles(x: f32, y: f32, seed: i32): f32 { return laid(x, y, 1, seed); }
