// Pictures laid over faces: one channel of one, in light, at the detail of what is seen of it.
import {
  A_CHANNEL, A_EDGES, A_PER_PEAK, A_PICTURE, PICTURE_LEVELS, PICTURE_TABLE, PI_DEEP, PI_HEIGHT, PI_LEVELS, PI_WIDTH,
} from './layout';

/** Channels, in the order of CHANNELS (texture/texture.ts). */
const LIGHT: i32 = 0;
const COVER: i32 = 4;
/** What lies beyond a picture's edge, in the order of the parameter's choices. */
const REPEAT: i32 = 0;
const MIRROR: i32 = 1;
/** Brings the bits of a half float, moved to where a float has them, to its value: 2^112. */
const HALF: f32 = 5.192296858534828e33;

let table: usize = 0;
let pixels: usize = 0;
let deep: bool = false;
let wide: i32 = 1;

// @ts-ignore: decorator
@inline function half(at: usize): f32 {
  return reinterpret<f32>(<u32>load<u16>(at) << 13) * HALF;
}

// @ts-ignore: decorator
@inline function number(at: usize, c: i32): f32 {
  if (deep) return half(at + (<usize>c << 1));
  const byte = load<u8>(at + <usize>c);
  return c === 3 ? <f32>byte * <f32>0.00392156862745098 : load<f32>(table + (<usize>byte << 2));
}

/** One channel of a pixel; brightness by Rec. 709. */
function texel(x: i32, y: i32, channel: i32): f32 {
  const at = pixels + (<usize>(y * wide + x) << (deep ? 3 : 2));
  if (channel !== LIGHT) return number(at, channel === COVER ? 3 : channel - 1);
  return <f32>0.2126 * number(at, 0) + <f32>0.7152 * number(at, 1) + <f32>0.0722 * number(at, 2);
}

/** Brings a pixel's place within a side. */
// @ts-ignore: decorator
@inline function within(i: i32, side: i32, edges: i32): i32 {
  if (edges === REPEAT) return i < 0 ? i + side : i >= side ? i - side : i;
  return i < 0 ? 0 : i >= side ? side - 1 : i;
}

/** Brings a place into the picture, 0 … 1. */
// @ts-ignore: decorator
@inline function folded(u: f32, edges: i32): f32 {
  if (edges === REPEAT) return u - floor<f32>(u);
  if (edges !== MIRROR) return min<f32>(1, max<f32>(0, u));
  const half: f32 = u * <f32>0.5;
  const t: f32 = <f32>2 * (half - floor<f32>(half));
  return t > 1 ? <f32>2 - t : t;
}

/**
 * A channel of an axis's picture, between its pixels: 0 … 1.
 * @param u across, @param v up, in widths and heights of the picture
 * @param seen how much of the picture's width what is looked at takes at least: finer detail is not told apart
 */
export function pictured(axis: usize, u: f32, v: f32, seen: f32): f32 {
  return channelOf(axis, load<i32>(axis, A_CHANNEL), u, v, seen);
}

/** As pictured, whichever channel the axis is of. */
export function channelOf(axis: usize, channel: i32, u: f32, v: f32, seen: f32): f32 {
  const picture = <usize>load<u32>(axis, A_PICTURE);
  if (picture === 0) return 0;
  const edges = load<i32>(axis, A_EDGES);
  if (channel === COVER && edges > MIRROR && (u < 0 || u > 1 || v < 0 || v > 1)) return 0;
  wide = load<i32>(picture, PI_WIDTH);
  let high = load<i32>(picture, PI_HEIGHT);
  const last = load<i32>(picture, PI_LEVELS) - 1;
  let level = 0;
  let texels: f32 = seen * <f32>wide;
  while (texels >= 2 && level < last) {
    texels *= 0.5;
    level++;
    wide = max(1, wide >> 1);
    high = max(1, high >> 1);
  }
  pixels = <usize>load<u32>(picture + (<usize>level << 2), PICTURE_LEVELS);
  table = picture + PICTURE_TABLE;
  deep = load<i32>(picture, PI_DEEP) !== 0;
  const x: f32 = folded(u, edges) * <f32>wide - <f32>0.5;
  const y: f32 = (<f32>1 - folded(v, edges)) * <f32>high - <f32>0.5;
  const fx = floor<f32>(x);
  const fy = floor<f32>(y);
  const a: f32 = x - fx;
  const b: f32 = y - fy;
  const x0 = within(<i32>fx, wide, edges);
  const x1 = within(<i32>fx + 1, wide, edges);
  const y0 = within(<i32>fy, high, edges);
  const y1 = within(<i32>fy + 1, high, edges);
  return mixed(x0, y0, x1, y1, a, b, channel) * load<f32>(axis, A_PER_PEAK);
}

let high: i32 = 1;

/** Opens a level of a picture, or its last; then pixelOf looks at it. */
export function opened(picture: usize, level: i32): void {
  const to = min(level, load<i32>(picture, PI_LEVELS) - 1);
  wide = max(1, load<i32>(picture, PI_WIDTH) >> to);
  high = max(1, load<i32>(picture, PI_HEIGHT) >> to);
  pixels = <usize>load<u32>(picture + (<usize>to << 2), PICTURE_LEVELS);
  table = picture + PICTURE_TABLE;
  deep = load<i32>(picture, PI_DEEP) !== 0;
}

/** Results of pixelOf. */
export let pixelR: f32 = 0;
export let pixelG: f32 = 0;
export let pixelB: f32 = 0;

/** Colour between the pixels of what is opened. @param u across, @param v down, 0 … 1 from the first middle to the last */
export function pixelOf(u: f32, v: f32): void {
  const x: f32 = u * <f32>(wide - 1);
  const y: f32 = v * <f32>(high - 1);
  const x0 = <i32>x;
  const y0 = <i32>y;
  const x1 = min(wide - 1, x0 + 1);
  const y1 = min(high - 1, y0 + 1);
  const a: f32 = x - <f32>x0;
  const b: f32 = y - <f32>y0;
  pixelR = mixed(x0, y0, x1, y1, a, b, 1);
  pixelG = mixed(x0, y0, x1, y1, a, b, 2);
  pixelB = mixed(x0, y0, x1, y1, a, b, 3);
}

// @ts-ignore: decorator
@inline function mixed(x0: i32, y0: i32, x1: i32, y1: i32, a: f32, b: f32, channel: i32): f32 {
  const p = texel(x0, y0, channel);
  const q = texel(x1, y0, channel);
  const r = texel(x0, y1, channel);
  const s = texel(x1, y1, channel);
  const top: f32 = p + (q - p) * a;
  const below: f32 = r + (s - r) * a;
  return top + (below - top) * b;
}
