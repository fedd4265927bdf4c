// The surround as a light: bilinear lookup in a picture of half floats, and directions drawn in proportion to the
// luminance of a smaller map by inverting its distributions (which keeps the points' even spread, where an alias
// table would scatter them).
import {
  FEEDS_ALL, SU_BEHIND, SU_BEHIND_HEIGHT, SU_BEHIND_UNIT, SU_BEHIND_WIDTH, SU_BLUE, SU_COLUMNS, SU_EYE_HEIGHT, SU_FEEDS, SU_GREEN,
  SU_GROUNDED, SU_GROUND_X, SU_GROUND_Y, SU_GROUND_Z, SU_GROUP, SU_HEIGHT, SU_MAP, SU_MIRRORED, SU_MIRRORED_HEIGHT, SU_MIRRORED_UNIT, SU_MIRRORED_WIDTH, SU_PICTURE,
  SU_RED, SU_ROWS, SU_SEEN, SU_UNIT, SU_WEIGHT, SU_WIDTH, SU_XX, SU_XY, SU_XZ, SU_YX, SU_YY, SU_YZ, SU_ZX, SU_ZY,
  SU_ZZ,
} from './layout';
import { add, below, clamp01, div, dot3, flip, gather, least, mad, most, mul, pick, root, splat, sub, where } from './lanes';
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
@inline function pixelAt(from: usize, number: i32): v128 {
  const bits = v128.load64_zero(from + (<usize>number << 3));
  return mul(i32x4.shl(i32x4.extend_low_i16x8_u(bits), 13), splat(HALF));
}

/** Results of fetch4 and of all that looks pictures up: r g b of four paths. */
let fetchedR: v128 = f32x4.splat(0);
let fetchedG: v128 = f32x4.splat(0);
let fetchedB: v128 = f32x4.splat(0);

/** Radiance between the four pixels about a place, one path: r g b in a vector. @param a b c d numbers of the pixels */
// @ts-ignore: decorator
@inline function between(from: usize, a: i32, b: i32, c: i32, d: i32, tx: v128, ty: v128): v128 {
  const first = pixelAt(from, a);
  const third = pixelAt(from, c);
  const top = mad(sub(pixelAt(from, b), first), tx, first);
  const low = mad(sub(pixelAt(from, d), third), tx, third);
  return mad(sub(low, top), ty, top);
}

/** Bilinear radiance at four places of a picture. */
function fetch4(from: usize, wide: i32, high: i32, nits: f32, u: v128, v: v128): void {
  const across = splat(<f32>wide);
  const least4 = sub(mul(u, across), splat(0.5));
  const fx = add(least4, where(below(least4, splat(0)), across));
  const fy = most(splat(0), least(splat(<f32>(high - 1)), sub(mul(v, splat(<f32>high)), splat(0.5))));
  const x0 = i32x4.min_s(i32x4.splat(wide - 1), i32x4.trunc_sat_f32x4_s(fx));
  const y0 = i32x4.trunc_sat_f32x4_s(fy);
  const one = i32x4.splat(1);
  const x1 = v128.andnot(i32x4.add(x0, one), i32x4.eq(x0, i32x4.splat(wide - 1)));
  const y1 = i32x4.min_s(i32x4.add(y0, one), i32x4.splat(high - 1));
  const tx = sub(fx, f32x4.convert_i32x4_s(x0));
  const ty = sub(fy, f32x4.convert_i32x4_s(y0));
  const upper = i32x4.mul(y0, i32x4.splat(wide));
  const lower = i32x4.mul(y1, i32x4.splat(wide));
  const a = i32x4.add(upper, x0);
  const b = i32x4.add(upper, x1);
  const c = i32x4.add(lower, x0);
  const d = i32x4.add(lower, x1);
  const scale = mul(splat(nits), gains);
  const p0 = mul(
    between(
      from, i32x4.extract_lane(a, 0), i32x4.extract_lane(b, 0), i32x4.extract_lane(c, 0), i32x4.extract_lane(d, 0),
      v128.shuffle<f32>(tx, tx, 0, 0, 0, 0), v128.shuffle<f32>(ty, ty, 0, 0, 0, 0),
    ),
    scale,
  );
  const p1 = mul(
    between(
      from, i32x4.extract_lane(a, 1), i32x4.extract_lane(b, 1), i32x4.extract_lane(c, 1), i32x4.extract_lane(d, 1),
      v128.shuffle<f32>(tx, tx, 1, 1, 1, 1), v128.shuffle<f32>(ty, ty, 1, 1, 1, 1),
    ),
    scale,
  );
  const p2 = mul(
    between(
      from, i32x4.extract_lane(a, 2), i32x4.extract_lane(b, 2), i32x4.extract_lane(c, 2), i32x4.extract_lane(d, 2),
      v128.shuffle<f32>(tx, tx, 2, 2, 2, 2), v128.shuffle<f32>(ty, ty, 2, 2, 2, 2),
    ),
    scale,
  );
  const p3 = mul(
    between(
      from, i32x4.extract_lane(a, 3), i32x4.extract_lane(b, 3), i32x4.extract_lane(c, 3), i32x4.extract_lane(d, 3),
      v128.shuffle<f32>(tx, tx, 3, 3, 3, 3), v128.shuffle<f32>(ty, ty, 3, 3, 3, 3),
    ),
    scale,
  );
  // four vectors of r g b x as r, g, b of four paths
  const low = v128.shuffle<f32>(p0, p1, 0, 4, 1, 5);
  const high4 = v128.shuffle<f32>(p2, p3, 0, 4, 1, 5);
  fetchedR = v128.shuffle<f32>(low, high4, 0, 1, 4, 5);
  fetchedG = v128.shuffle<f32>(low, high4, 2, 3, 6, 7);
  fetchedB = v128.shuffle<f32>(
    v128.shuffle<f32>(p0, p1, 2, 6, 2, 6), v128.shuffle<f32>(p2, p3, 2, 6, 2, 6), 0, 1, 4, 5,
  );
}

/** What lights, and what mirrors see, of four places of the picture. */
function fetchSky(u: v128, v: v128): void {
  if (skyBlurred) {
    fetch4(mirrored, mirroredWidth, mirroredHeight, mirroredUnit, u, v);
    skyMirrorR = fetchedR;
    skyMirrorG = fetchedG;
    skyMirrorB = fetchedB;
  }
  fetch4(picture, width, height, unit, u, v);
  skyR = fetchedR;
  skyG = fetchedG;
  skyB = fetchedB;
}

/** Where in the map a cell's cumulative share begins. */
// @ts-ignore: decorator
@inline function cellAt(row: i32, column: i32): usize {
  return cellCdf + (<usize>(row * (columns + 1) + column) << 2);
}

/** Density of four cells of the map. @param r0 … r3 where their rows begin, bytes; @param c0 … c3 their cells */
// @ts-ignore: decorator
@inline function density4(
  r0: usize, r1: usize, r2: usize, r3: usize, c0: usize, c1: usize, c2: usize, c3: usize,
): v128 {
  const cells = sub(gather(4, c0, c1, c2, c3), gather(0, c0, c1, c2, c3));
  const inRows = sub(gather(rowCdf + 4, r0, r1, r2, r3), gather(rowCdf, r0, r1, r2, r3));
  const sides = sub(gather(bands, r0, r1, r2, r3), gather(bands + 4, r0, r1, r2, r3));
  return div(mul(mul(cells, inRows), splat(<f32>columns)), mul(splat(TURN), sides));
}

/** Density with which four places of the picture would be drawn. */
// @ts-ignore: decorator
@inline function densityAt4(u: v128, v: v128): v128 {
  const across = splat(<f32>columns);
  const c = sub(mul(u, across), splat(0.5));
  const column = i32x4.min_s(
    i32x4.splat(columns - 1), i32x4.trunc_sat_f32x4_s(add(c, where(below(c, splat(0)), across))),
  );
  const down = f32x4.floor(mad(v, splat(<f32>(rows - 1)), splat(0.5)));
  const row = i32x4.max_s(i32x4.splat(0), i32x4.min_s(i32x4.splat(rows - 1), i32x4.trunc_sat_f32x4_s(down)));
  const r0 = i32x4.extract_lane(row, 0);
  const r1 = i32x4.extract_lane(row, 1);
  const r2 = i32x4.extract_lane(row, 2);
  const r3 = i32x4.extract_lane(row, 3);
  return density4(
    <usize>r0 << 2, <usize>r1 << 2, <usize>r2 << 2, <usize>r3 << 2, cellAt(r0, i32x4.extract_lane(column, 0)),
    cellAt(r1, i32x4.extract_lane(column, 1)), cellAt(r2, i32x4.extract_lane(column, 2)),
    cellAt(r3, i32x4.extract_lane(column, 3)),
  );
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
  fetchSky(placeU, placeV);
  skyDensity = skyWeight > 0 ? densityAt4(placeU, placeV) : splat(0);
}

/** Radiance that the camera sees by itself along four rays. */
export function lookBehind(ox: v128, oy: v128, oz: v128, x: v128, y: v128, z: v128): void {
  if (grounded) {
    onGround(ox, oy, oz, x, y, z);
    intoPicture(groundedX, groundedY, groundedZ);
  } else intoPicture(x, y, z);
  fetch4(behind, behindWidth, behindHeight, behindUnit, placeU, placeV);
  skyBehindR = fetchedR;
  skyBehindG = fetchedG;
  skyBehindB = fetchedB;
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

/** How far four values are between two neighbours of a distribution, 0 … 1. */
// @ts-ignore: decorator
@inline function within(low: v128, high: v128, value: v128): v128 {
  return clamp01(div(sub(value, low), sub(high, low)));
}

/** Column of a row of the map. */
// @ts-ignore: decorator
@inline function columnOf(row: i32, value: f32): i32 {
  return search(cellAt(row, 0), columns, cellGuide + (<usize>(row * columns) << 2), value);
}

/** Draws four directions in proportion to luminance. */
export function skyDraw4(u: v128, v: v128): void {
  const r0 = search(rowCdf, rows, rowGuide, f32x4.extract_lane(v, 0));
  const r1 = search(rowCdf, rows, rowGuide, f32x4.extract_lane(v, 1));
  const r2 = search(rowCdf, rows, rowGuide, f32x4.extract_lane(v, 2));
  const r3 = search(rowCdf, rows, rowGuide, f32x4.extract_lane(v, 3));
  const c0 = columnOf(r0, f32x4.extract_lane(u, 0));
  const c1 = columnOf(r1, f32x4.extract_lane(u, 1));
  const c2 = columnOf(r2, f32x4.extract_lane(u, 2));
  const c3 = columnOf(r3, f32x4.extract_lane(u, 3));
  const w0 = <usize>r0 << 2;
  const w1 = <usize>r1 << 2;
  const w2 = <usize>r2 << 2;
  const w3 = <usize>r3 << 2;
  const b0 = cellAt(r0, c0);
  const b1 = cellAt(r1, c1);
  const b2 = cellAt(r2, c2);
  const b3 = cellAt(r3, c3);
  const top = gather(bands, w0, w1, w2, w3);
  const down = within(gather(rowCdf, w0, w1, w2, w3), gather(rowCdf + 4, w0, w1, w2, w3), v);
  const cy = mad(sub(gather(bands + 4, w0, w1, w2, w3), top), down, top);
  const column = f32x4(<f32>c0, <f32>c1, <f32>c2, <f32>c3);
  const aside = within(gather(0, b0, b1, b2, b3), gather(4, b0, b1, b2, b3), u);
  const cu = div(add(add(column, splat(0.5)), aside), splat(<f32>columns));
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
  fetchSky(wrapped, sub(splat(0.5), mul(asin4(cy), splat(INV_PI))));
  skyDensity = density4(w0, w1, w2, w3, b0, b1, b2, b3);
}
