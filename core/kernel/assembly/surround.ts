// The surround as a light: bilinear lookup in a picture of half floats, and directions drawn in proportion to the
// luminance of a smaller map by inverting its distributions (which keeps the points' even spread, where an alias
// table would scatter them).
import {
  FEEDS_ALL, SU_BEHIND, SU_BEHIND_HEIGHT, SU_BEHIND_UNIT, SU_BEHIND_WIDTH, SU_BLUE, SU_COLUMNS, SU_EYE_HEIGHT, SU_FEEDS, SU_GREEN,
  SU_GROUNDED, SU_GROUND_X, SU_GROUND_Y, SU_GROUND_Z, SU_GROUP, SU_HEIGHT, SU_MAP, SU_MIRRORED, SU_MIRRORED_HEIGHT, SU_MIRRORED_UNIT, SU_MIRRORED_WIDTH, SU_PICTURE,
  SU_RED, SU_ROWS, SU_SEEN, SU_UNIT, SU_WEIGHT, SU_WIDTH, SU_XX, SU_XY, SU_XZ, SU_YX, SU_YY, SU_YZ, SU_ZX, SU_ZY,
  SU_ZZ,
} from './layout';
import { div, dot3, flip, mad, mul, pick, root, splat, sub } from './lanes';
import { asin4, atan24, cosOut, sinOut, turn4 } from './maths4';

const INV_TURN: f32 = 0.15915494309189535;
const INV_PI: f32 = 0.3183098861837907;
const TURN: f32 = 6.283185307179586;
/** Brings the bits of a half float, moved to where a float has them, to its value: 2^112. */
const HALF: f32 = 5.192296858534828e33;

/** Pixels of four half floats, RGBA, and nits of a stored unit: the picture that lights. */
let picture: usize = 0;
let width: i32 = 1;
let height: i32 = 1;
let unit: f32 = 0;
/** The picture the camera sees and the one mirrors see, where they are blurred; else the same. */
let behind: usize = 0;
let behindWidth: i32 = 1;
let behindHeight: i32 = 1;
let behindUnit: f32 = 0;
let mirrored: usize = 0;
let mirroredWidth: i32 = 1;
let mirroredHeight: i32 = 1;
let mirroredUnit: f32 = 0;
/** Strength by channel: r g b and nothing. */
let gains: v128 = f32x4.splat(0);
/** From the world into the picture, row by row. */
let xx: f32 = 1;
let xy: f32 = 0;
let xz: f32 = 0;
let yx: f32 = 0;
let yy: f32 = 1;
let yz: f32 = 0;
let zx: f32 = 0;
let zy: f32 = 0;
let zz: f32 = 1;
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
/** What of a surface it reaches: FEEDS_DIFFUSE, FEEDS_MIRROR, FEEDS_THROUGH. */
export let skyFeeds: i32 = FEEDS_ALL;
/** Whether its lower half lies on the ground where the camera sees it, and where: beneath the eye that took it. */
let grounded: bool = false;
let groundX: f32 = 0;
let groundY: f32 = 0;
let groundZ: f32 = 0;
let eyeHeight: f32 = 1;
/** Radius of the dome that the rest of it stands on, in heights of that eye. */
const DOME: f32 = 12;
/** Whether mirrors see another picture of it. */
export let skyBlurred: bool = false;

/** @param at where its words are (see SURROUND in layout.mjs); they are taken at once */
export function setSurround(at: usize): void {
  picture = load<u32>(at, SU_PICTURE);
  width = load<i32>(at, SU_WIDTH);
  height = load<i32>(at, SU_HEIGHT);
  unit = load<f32>(at, SU_UNIT);
  behind = load<u32>(at, SU_BEHIND);
  behindWidth = load<i32>(at, SU_BEHIND_WIDTH);
  behindHeight = load<i32>(at, SU_BEHIND_HEIGHT);
  behindUnit = load<f32>(at, SU_BEHIND_UNIT);
  mirrored = load<u32>(at, SU_MIRRORED);
  mirroredWidth = load<i32>(at, SU_MIRRORED_WIDTH);
  mirroredHeight = load<i32>(at, SU_MIRRORED_HEIGHT);
  mirroredUnit = load<f32>(at, SU_MIRRORED_UNIT);
  skyBlurred = mirrored !== picture;
  gains = f32x4(load<f32>(at, SU_RED), load<f32>(at, SU_GREEN), load<f32>(at, SU_BLUE), 0);
  xx = load<f32>(at, SU_XX);
  xy = load<f32>(at, SU_XY);
  xz = load<f32>(at, SU_XZ);
  yx = load<f32>(at, SU_YX);
  yy = load<f32>(at, SU_YY);
  yz = load<f32>(at, SU_YZ);
  zx = load<f32>(at, SU_ZX);
  zy = load<f32>(at, SU_ZY);
  zz = load<f32>(at, SU_ZZ);
  columns = load<i32>(at, SU_COLUMNS);
  rows = load<i32>(at, SU_ROWS);
  rowCdf = load<u32>(at, SU_MAP);
  bands = rowCdf + (<usize>(rows + 1) << 2);
  rowGuide = bands + (<usize>(rows + 1) << 2);
  cellCdf = rowGuide + (<usize>rows << 2);
  cellGuide = cellCdf + (<usize>(rows * (columns + 1)) << 2);
  skyWeight = load<f32>(at, SU_WEIGHT);
  skyGroup = load<i32>(at, SU_GROUP);
  skySeen = load<i32>(at, SU_SEEN) !== 0;
  skyFeeds = load<i32>(at, SU_FEEDS);
  grounded = load<i32>(at, SU_GROUNDED) !== 0;
  groundX = load<f32>(at, SU_GROUND_X);
  groundY = load<f32>(at, SU_GROUND_Y);
  groundZ = load<f32>(at, SU_GROUND_Z);
  eyeHeight = load<f32>(at, SU_EYE_HEIGHT);
}

/** Results of look4 and skyDraw: radiance, density; and of skyDraw the direction. */
export let skyR: v128 = f32x4.splat(0);
export let skyG: v128 = f32x4.splat(0);
export let skyB: v128 = f32x4.splat(0);
export let skyDensity: v128 = f32x4.splat(0);
export let skyX: v128 = f32x4.splat(0);
export let skyY: v128 = f32x4.splat(0);
export let skyZ: v128 = f32x4.splat(0);

/** What mirrors see where it is blurred; after look4 and skyDraw4. */
export let skyMirrorR: v128 = f32x4.splat(0);
export let skyMirrorG: v128 = f32x4.splat(0);
export let skyMirrorB: v128 = f32x4.splat(0);

// @ts-ignore: decorator
@inline function pixelAt(from: usize, wide: i32, x: i32, y: i32): v128 {
  const bits = v128.load64_zero(from + (<usize>(y * wide + x) << 3));
  return mul(i32x4.shl(i32x4.extend_low_i16x8_u(bits), 13), splat(HALF));
}

/** Bilinear radiance at a place of a picture, one path: r g b in a vector. */
// @ts-ignore: decorator
@inline function fetchFrom(from: usize, wide: i32, high: i32, nits: f32, u: f32, v: f32): v128 {
  let fx: f32 = u * <f32>wide - <f32>0.5;
  let fy: f32 = v * <f32>high - <f32>0.5;
  if (fx < 0) fx += <f32>wide;
  fy = max(<f32>0, min(<f32>(high - 1), fy));
  const x0 = min(wide - 1, <i32>fx);
  const y0 = <i32>fy;
  const x1 = x0 + 1 === wide ? 0 : x0 + 1;
  const y1 = y0 + 1 < high ? y0 + 1 : y0;
  const tx = splat(fx - <f32>x0);
  const ty = splat(fy - <f32>y0);
  const a = pixelAt(from, wide, x0, y0);
  const b = pixelAt(from, wide, x1, y0);
  const c = pixelAt(from, wide, x0, y1);
  const d = pixelAt(from, wide, x1, y1);
  const top = mad(sub(b, a), tx, a);
  const low = mad(sub(d, c), tx, c);
  return mul(mad(sub(low, top), ty, top), mul(splat(nits), gains));
}

// @ts-ignore: decorator
@inline function fetch(u: f32, v: f32): v128 { return fetchFrom(picture, width, height, unit, u, v); }
// @ts-ignore: decorator
@inline function fetchMirrored(u: f32, v: f32): v128 {
  return fetchFrom(mirrored, mirroredWidth, mirroredHeight, mirroredUnit, u, v);
}

/** What mirrors see of four places of the picture. */
function spreadMirrored(u: v128, v: v128): void {
  const r = skyR;
  const g = skyG;
  const b = skyB;
  spread(
    fetchMirrored(f32x4.extract_lane(u, 0), f32x4.extract_lane(v, 0)),
    fetchMirrored(f32x4.extract_lane(u, 1), f32x4.extract_lane(v, 1)),
    fetchMirrored(f32x4.extract_lane(u, 2), f32x4.extract_lane(v, 2)),
    fetchMirrored(f32x4.extract_lane(u, 3), f32x4.extract_lane(v, 3)),
  );
  skyMirrorR = skyR;
  skyMirrorG = skyG;
  skyMirrorB = skyB;
  skyR = r;
  skyG = g;
  skyB = b;
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

let placeU: v128 = f32x4.splat(0);
let placeV: v128 = f32x4.splat(0);

/** Where in the picture four directions are. */
function intoPicture(x: v128, y: v128, z: v128): void {
  const px = mad(splat(xz), z, mad(splat(xy), y, mul(splat(xx), x)));
  const py = mad(splat(yz), z, mad(splat(yx), x, mul(splat(yy), y)));
  const pz = mad(splat(zx), x, mad(splat(zy), y, mul(splat(zz), z)));
  placeU = mad(atan24(pz, px), splat(INV_TURN), splat(0.5));
  placeV = sub(splat(0.5), mul(asin4(py), splat(INV_PI)));
}

/** What the camera sees of it by itself; after lookBehind. */
export let skyBehindR: v128 = f32x4.splat(0);
export let skyBehindG: v128 = f32x4.splat(0);
export let skyBehindB: v128 = f32x4.splat(0);

/** Radiance from four unit directions, and the density with which they would be drawn. */
export function look4(x: v128, y: v128, z: v128): void {
  intoPicture(x, y, z);
  const u = placeU;
  const v = placeV;
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
  if (skyBlurred) spreadMirrored(u, v);
}

/** Radiance that the camera sees by itself along four rays. */
export function lookBehind(ox: v128, oy: v128, oz: v128, x: v128, y: v128, z: v128): void {
  if (grounded) {
    onGround(ox, oy, oz, x, y, z);
    intoPicture(groundedX, groundedY, groundedZ);
  } else intoPicture(x, y, z);
  const r = skyR;
  const g = skyG;
  const b = skyB;
  spread(
    fetchFrom(behind, behindWidth, behindHeight, behindUnit, f32x4.extract_lane(placeU, 0), f32x4.extract_lane(placeV, 0)),
    fetchFrom(behind, behindWidth, behindHeight, behindUnit, f32x4.extract_lane(placeU, 1), f32x4.extract_lane(placeV, 1)),
    fetchFrom(behind, behindWidth, behindHeight, behindUnit, f32x4.extract_lane(placeU, 2), f32x4.extract_lane(placeV, 2)),
    fetchFrom(behind, behindWidth, behindHeight, behindUnit, f32x4.extract_lane(placeU, 3), f32x4.extract_lane(placeV, 3)),
  );
  skyBehindR = skyR;
  skyBehindG = skyG;
  skyBehindB = skyB;
  skyR = r;
  skyG = g;
  skyB = b;
}

/** Whether the camera sees something else of it than lights: a blurred picture, or its ground. */
// @ts-ignore: decorator
@inline export function behindApart(): bool { return behind !== picture || grounded; }

/**
 * Where from the eye that took the picture lies what a ray from elsewhere meets of it: the ground beneath, or a dome
 * about it on which all else stands.
 */
function onGround(ox: v128, oy: v128, oz: v128, x: v128, y: v128, z: v128): void {
  const px = sub(ox, splat(groundX));
  const py = sub(oy, splat(groundY));
  const pz = sub(oz, splat(groundZ));
  const radius = eyeHeight * DOME;
  // the far side of the dome
  const along = dot3(px, py, pz, x, y, z);
  const off = sub(dot3(px, py, pz, px, py, pz), splat(radius * radius));
  const reach = sub(root(f32x4.pmax(splat(0), sub(mul(along, along), off))), along);
  const fall = div(flip(py), y);
  const below = v128.and(f32x4.lt(y, splat(0)), v128.and(f32x4.gt(py, splat(0)), f32x4.lt(fall, reach)));
  const t = pick(below, fall, reach);
  const dx = mad(x, t, px);
  const dy = sub(mad(y, t, py), splat(eyeHeight));
  const dz = mad(z, t, pz);
  const inv = div(splat(1), root(f32x4.pmax(splat(1e-20), dot3(dx, dy, dz, dx, dy, dz))));
  // whoever stands beyond the dome sees it infinitely far
  const within = f32x4.lt(off, splat(0));
  groundedX = pick(within, mul(dx, inv), x);
  groundedY = pick(within, mul(dy, inv), y);
  groundedZ = pick(within, mul(dz, inv), z);
}
let groundedX: v128 = f32x4.splat(0);
let groundedY: v128 = f32x4.splat(0);
let groundedZ: v128 = f32x4.splat(0);

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
  // back into the world: a turn's inverse is its transpose
  skyX = mad(splat(yx), cy, mad(splat(xx), px, mul(splat(zx), pz)));
  skyY = mad(splat(zy), pz, mad(splat(xy), px, mul(splat(yy), cy)));
  skyZ = mad(splat(yz), cy, mad(splat(xz), px, mul(splat(zz), pz)));
  const v4 = sub(splat(0.5), mul(asin4(cy), splat(INV_PI)));
  spread(
    fetch(f32x4.extract_lane(wrapped, 0), f32x4.extract_lane(v4, 0)),
    fetch(f32x4.extract_lane(wrapped, 1), f32x4.extract_lane(v4, 1)),
    fetch(f32x4.extract_lane(wrapped, 2), f32x4.extract_lane(v4, 2)),
    fetch(f32x4.extract_lane(wrapped, 3), f32x4.extract_lane(v4, 3)),
  );
  skyDensity = cd;
  if (skyBlurred) spreadMirrored(wrapped, v4);
}
