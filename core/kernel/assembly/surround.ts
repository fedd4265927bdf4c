// The surround as a light: bilinear lookup in a picture of half floats, and directions drawn in proportion to the
// luminance of a smaller map by inverting its distributions (which keeps the points' even spread, where an alias
// table would scatter them).
import { flip, mad, mul, pick, root, splat, sub } from './lanes';
import { asin4, atan24, cosOut, sinOut, turn4 } from './maths4';

const INV_TURN: f32 = 0.15915494309189535;
const INV_PI: f32 = 0.3183098861837907;
const TURN: f32 = 6.283185307179586;
/** Brings the bits of a half float, moved to where a float has them, to its value: 2^112. */
const HALF: f32 = 5.192296858534828e33;

/** Pixels of four half floats, RGBA; the alpha is free. */
let picture: usize = 0;
let width: i32 = 1;
let height: i32 = 1;
/** Nits of a stored unit. */
let gain: f32 = 0;
let cosTurn: f32 = 1;
let sinTurn: f32 = 0;
/** The map: cumulative rows, cells of each row (columns + 1 each), where to begin searching both, sines of the rows' edges. */
let columns: i32 = 1;
let rows: i32 = 1;
let rowCdf: usize = 0;
let cellCdf: usize = 0;
let rowGuide: usize = 0;
let cellGuide: usize = 0;
let bands: usize = 0;
/** Mean luminance over the sphere times π: what it gives a plane at most about. */
export let skyWeight: f32 = 0;
/** Whether the camera sees it. */
export let skySeen: bool = true;
/** Its share group. */
export let skyGroup: i32 = -1;

export function setSurround(
  pictureAt: usize, w: i32, h: i32, unit: f32, turnCos: f32, turnSin: f32, seen: i32,
  mapAt: usize, mapColumns: i32, mapRows: i32, weight: f32, group: i32,
): void {
  skyGroup = group;
  picture = pictureAt;
  width = w;
  height = h;
  gain = unit;
  cosTurn = turnCos;
  sinTurn = turnSin;
  skySeen = seen !== 0;
  columns = mapColumns;
  rows = mapRows;
  rowCdf = mapAt;
  bands = rowCdf + (<usize>(rows + 1) << 2);
  rowGuide = bands + (<usize>(rows + 1) << 2);
  cellCdf = rowGuide + (<usize>rows << 2);
  cellGuide = cellCdf + (<usize>(rows * (columns + 1)) << 2);
  skyWeight = weight;
}

/** Results of look4 and skyDraw: radiance, density; and of skyDraw the direction. */
export let skyR: v128 = f32x4.splat(0);
export let skyG: v128 = f32x4.splat(0);
export let skyB: v128 = f32x4.splat(0);
export let skyDensity: v128 = f32x4.splat(0);
export let skyX: v128 = f32x4.splat(0);
export let skyY: v128 = f32x4.splat(0);
export let skyZ: v128 = f32x4.splat(0);

// @ts-ignore: decorator
@inline function pixelAt(x: i32, y: i32): v128 {
  const bits = v128.load64_zero(picture + (<usize>(y * width + x) << 3));
  return mul(i32x4.shl(i32x4.extend_low_i16x8_u(bits), 13), splat(HALF));
}

/** Bilinear radiance at a place of the picture, one path: r g b in a vector. */
// @ts-ignore: decorator
@inline function fetch(u: f32, v: f32): v128 {
  let fx: f32 = u * <f32>width - <f32>0.5;
  let fy: f32 = v * <f32>height - <f32>0.5;
  if (fx < 0) fx += <f32>width;
  fy = max(<f32>0, min(<f32>(height - 1), fy));
  const x0 = min(width - 1, <i32>fx);
  const y0 = <i32>fy;
  const x1 = x0 + 1 === width ? 0 : x0 + 1;
  const y1 = y0 + 1 < height ? y0 + 1 : y0;
  const tx = splat(fx - <f32>x0);
  const ty = splat(fy - <f32>y0);
  const a = pixelAt(x0, y0);
  const b = pixelAt(x1, y0);
  const c = pixelAt(x0, y1);
  const d = pixelAt(x1, y1);
  const top = mad(sub(b, a), tx, a);
  const low = mad(sub(d, c), tx, c);
  return mul(mad(sub(low, top), ty, top), splat(gain));
}

// @ts-ignore: decorator
@inline function density(row: i32, column: i32): f32 {
  const base = cellCdf + (<usize>(row * (columns + 1) + column) << 2);
  const r = <usize>row << 2;
  const inRow = (load<f32>(base, 4) - load<f32>(base)) * (load<f32>(rowCdf + r, 4) - load<f32>(rowCdf + r));
  return (inRow * <f32>columns) / (TURN * (load<f32>(bands + r) - load<f32>(bands + r, 4)));
}

/** Turns four vectors of r g b x into r, g, b of four paths. */
// @ts-ignore: decorator
@inline function spread(a: v128, b: v128, c: v128, d: v128): void {
  const ab = v128.shuffle<f32>(a, b, 0, 4, 1, 5);
  const cd = v128.shuffle<f32>(c, d, 0, 4, 1, 5);
  skyR = v128.shuffle<f32>(ab, cd, 0, 1, 4, 5);
  skyG = v128.shuffle<f32>(ab, cd, 2, 3, 6, 7);
  skyB = v128.shuffle<f32>(
    v128.shuffle<f32>(a, b, 2, 6, 2, 6), v128.shuffle<f32>(c, d, 2, 6, 2, 6), 0, 1, 4, 5,
  );
}

// @ts-ignore: decorator
@inline function densityAt(u: f32, v: f32): f32 {
  const row = max(0, min(rows - 1, <i32>floor<f32>(v * <f32>(rows - 1) + <f32>0.5)));
  let c: f32 = u * <f32>columns - <f32>0.5;
  if (c < 0) c += <f32>columns;
  return density(row, min(columns - 1, <i32>c));
}

/** Radiance from four unit directions, and the density with which they would be drawn. */
export function look4(x: v128, y: v128, z: v128): void {
  // the picture turns with the surround: look up the direction turned back
  const px = sub(mul(splat(cosTurn), x), mul(splat(sinTurn), z));
  const pz = mad(splat(sinTurn), x, mul(splat(cosTurn), z));
  const u = mad(atan24(pz, px), splat(INV_TURN), splat(0.5));
  const v = sub(splat(0.5), mul(asin4(y), splat(INV_PI)));
  const u0 = f32x4.extract_lane(u, 0);
  const u1 = f32x4.extract_lane(u, 1);
  const u2 = f32x4.extract_lane(u, 2);
  const u3 = f32x4.extract_lane(u, 3);
  const v0 = f32x4.extract_lane(v, 0);
  const v1 = f32x4.extract_lane(v, 1);
  const v2 = f32x4.extract_lane(v, 2);
  const v3 = f32x4.extract_lane(v, 3);
  spread(fetch(u0, v0), fetch(u1, v1), fetch(u2, v2), fetch(u3, v3));
  if (skyWeight > 0)
    skyDensity = f32x4(densityAt(u0, v0), densityAt(u1, v1), densityAt(u2, v2), densityAt(u3, v3));
  else skyDensity = splat(0);
}

/** Last i in 0 … n - 1 with cdf[i] ≤ value. */
// @ts-ignore: decorator
@inline function search(cdf: usize, n: i32, guide: usize, value: f32): i32 {
  let i = load<i32>(guide + (<usize>min(n - 1, <i32>(value * <f32>n)) << 2));
  while (i + 1 < n && load<f32>(cdf + (<usize>i << 2), 4) <= value) i++;
  return i;
}

// @ts-ignore: decorator
@inline function within(cdf: usize, i: i32, value: f32): f32 {
  const low = load<f32>(cdf + (<usize>i << 2));
  return min(<f32>1, max(<f32>0, (value - low) / (load<f32>(cdf + (<usize>i << 2), 4) - low)));
}

// of one direction under way
let cellU: f32 = 0;
let cellY: f32 = 0;
let cellDensity: f32 = 0;

// @ts-ignore: decorator
@inline function cell(u: f32, v: f32): void {
  const row = search(rowCdf, rows, rowGuide, v);
  const base = cellCdf + (<usize>(row * (columns + 1)) << 2);
  const column = search(base, columns, cellGuide + (<usize>(row * columns) << 2), u);
  const top = load<f32>(bands + (<usize>row << 2));
  cellY = top + (load<f32>(bands + (<usize>row << 2), 4) - top) * within(rowCdf, row, v);
  cellU = (<f32>column + <f32>0.5 + within(base, column, u)) / <f32>columns;
  cellDensity = density(row, column);
}

/** Draws four directions in proportion to luminance. */
export function skyDraw4(u: v128, v: v128): void {
  cell(f32x4.extract_lane(u, 0), f32x4.extract_lane(v, 0));
  let cu = splat(cellU);
  let cy = splat(cellY);
  let cd = splat(cellDensity);
  cell(f32x4.extract_lane(u, 1), f32x4.extract_lane(v, 1));
  cu = f32x4.replace_lane(cu, 1, cellU);
  cy = f32x4.replace_lane(cy, 1, cellY);
  cd = f32x4.replace_lane(cd, 1, cellDensity);
  cell(f32x4.extract_lane(u, 2), f32x4.extract_lane(v, 2));
  cu = f32x4.replace_lane(cu, 2, cellU);
  cy = f32x4.replace_lane(cy, 2, cellY);
  cd = f32x4.replace_lane(cd, 2, cellDensity);
  cell(f32x4.extract_lane(u, 3), f32x4.extract_lane(v, 3));
  cu = f32x4.replace_lane(cu, 3, cellU);
  cy = f32x4.replace_lane(cy, 3, cellY);
  cd = f32x4.replace_lane(cd, 3, cellDensity);
  // half a turn on: the picture's middle looks along +x
  const wrapped = pick(f32x4.ge(cu, splat(1)), sub(cu, splat(1)), cu);
  const s = root(f32x4.pmax(splat(0), sub(splat(1), mul(cy, cy))));
  turn4(wrapped);
  const px = flip(mul(s, cosOut));
  const pz = flip(mul(s, sinOut));
  skyX = mad(splat(cosTurn), px, mul(splat(sinTurn), pz));
  skyY = cy;
  skyZ = sub(mul(splat(cosTurn), pz), mul(splat(sinTurn), px));
  const v4 = sub(splat(0.5), mul(asin4(cy), splat(INV_PI)));
  spread(
    fetch(f32x4.extract_lane(wrapped, 0), f32x4.extract_lane(v4, 0)),
    fetch(f32x4.extract_lane(wrapped, 1), f32x4.extract_lane(v4, 1)),
    fetch(f32x4.extract_lane(wrapped, 2), f32x4.extract_lane(v4, 2)),
    fetch(f32x4.extract_lane(wrapped, 3), f32x4.extract_lane(v4, 3)),
  );
  skyDensity = cd;
}
