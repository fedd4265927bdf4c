// Axes over faces that feeds are laid along, 0 … 1, where a ray has met one: angle, height, noise, patterns.
// One place at a time: faces that are fed are few beside the rays that find them.
import {
  AXIS_BYTES, A_BREAKUP, A_CONTRAST, A_FROM, A_LATE, A_LAY, A_OCTAVES, A_OVER, A_PER, A_PER_BREAK, A_PER_SCALE,
  A_PICTURE, A_SEED, A_SHIFT_X, A_SHIFT_Y, A_SOURCE, A_STRETCH, A_TILE, A_TURN_COS, A_TURN_SIN, A_ZOOM, INSTANCE_BYTES,
  INSTANCE_TRIANGLES, PI_HEIGHT, PI_WIDTH, P_B1, P_B2, P_DX, P_DY, P_DZ, P_INSTANCE, P_NX, P_NY, P_NZ, P_TRIANGLE,
  SITE_BYTES, S_BLOCK_PER_X, S_BLOCK_WRAP_X, S_BLOCK_X, S_LETTER_PER_X, S_LETTER_X, S_PER_METRE, S_PLACEMENT, S_UNIT, S_UV, S_WORD_PER_X, S_WORD_WRAP_X, S_WORD_X, S_WRAP_X, S_XX, S_YX,
  S_ZX, TRIANGLE_BYTES,
} from './layout';
import { nearestOther } from './nearest';
import { bricks, cells, f1, f2, noise, owner, tiles, turbulence, weave } from './noise';
import { f, w } from './paths';
import { pictured } from './pictures';
import { instances, sites } from './scene';

/** Sources of axes, in the order of FEED_SOURCES (document/kinds.ts). */
const ANGLE: i32 = 0;
const ALONG: i32 = 1;
const THROUGH: i32 = 3;
const OUTLINE: i32 = 4;
const RIM: i32 = 5;
const UPWARD: i32 = 6;
const NOISE: i32 = 7;
const TURBULENCE: i32 = 8;
const CELLS: i32 = 9;
const CRACKS: i32 = 10;
const GRAIN: i32 = 11;
const WEAVE: i32 = 12;
const BRICKS: i32 = 13;
const TILES: i32 = 14;
const NEAR: i32 = 16;
/** Ways a picture is laid, in the order of the parameter's choices. */
const OVER_LETTER: i32 = 0;
const OVER_WORD: i32 = 1;
const OVER_BLOCK: i32 = 2;
/** Relief is felt over this share of its own size. */
const FINE: f32 = 0.02;
/** A face whose normal is nearer the reading plane's than this is laid out in that plane. */
const FLAT: f32 = 0.7;

let site: usize = 0;
let instance: usize = 0;
let triangle: usize = 0;
let uv: usize = 0;
let cosine: f32 = 1;
let upward: f32 = 0;
let flat: bool = false;
/** Place in the world, and in the block, metres. */
export let worldX: f32 = 0;
export let worldY: f32 = 0;
export let worldZ: f32 = 0;
let mx: f32 = 0;
let my: f32 = 0;
let mz: f32 = 0;
/** The same in the letter's own unit. */
let qx: f32 = 0;
let qy: f32 = 0;
let qz: f32 = 0;
/** In the plane of the letter, unrolled past the front's edge, in its own unit. */
let px: f32 = 0;
let py: f32 = 0;
/** Least width that is told apart, metres. */
let seen: f32 = 0;
/** Along and across the outline, metres. */
let along: f32 = 0;
let across: f32 = 0;

// @ts-ignore: decorator
@inline function row(m: usize, x: f32, y: f32, z: f32): f32 {
  return load<f32>(m) * x + load<f32>(m, 4) * y + load<f32>(m, 8) * z;
}

/** Takes up where a path has met a face. @param width that is told apart there at least, metres */
export function face(at: usize, width: f32): void {
  seen = width;
  const number = <usize>w(P_INSTANCE, at);
  instance = instances + number * INSTANCE_BYTES;
  site = sites + number * SITE_BYTES;
  const t = <usize>w(P_TRIANGLE, at);
  triangle = load<u32>(instance + INSTANCE_TRIANGLES) + t * TRIANGLE_BYTES;
  const coordinates = load<u32>(site, S_UV);
  uv = coordinates === 0 ? 0 : coordinates + t * 48;
  const nx = f(P_NX, at);
  const ny = f(P_NY, at);
  const nz = f(P_NZ, at);
  cosine = min<f32>(1, abs(f(P_DX, at) * nx + f(P_DY, at) * ny + f(P_DZ, at) * nz));
  upward = ny;
  flat = abs(row(site + S_ZX, nx, ny, nz)) > FLAT * load<f32>(site, S_PER_METRE);
  place(f(P_B1, at), f(P_B2, at));
}

/** Stands on a place of the face's triangle, or beside it in its plane. */
export function place(b1: f32, b2: f32): void {
  const b0: f32 = <f32>1 - b1 - b2;
  const t = triangle;
  qx = load<f32>(t) * b0 + load<f32>(t, 12) * b1 + load<f32>(t, 24) * b2;
  qy = load<f32>(t, 4) * b0 + load<f32>(t, 16) * b1 + load<f32>(t, 28) * b2;
  qz = load<f32>(t, 8) * b0 + load<f32>(t, 20) * b1 + load<f32>(t, 32) * b2;
  const m = instance;
  worldX = load<f32>(m) * qx + load<f32>(m, 16) * qy + load<f32>(m, 32) * qz + load<f32>(m, 48);
  worldY = load<f32>(m, 4) * qx + load<f32>(m, 20) * qy + load<f32>(m, 36) * qz + load<f32>(m, 52);
  worldZ = load<f32>(m, 8) * qx + load<f32>(m, 24) * qy + load<f32>(m, 40) * qz + load<f32>(m, 56);
  mx = row(site + S_XX, worldX, worldY, worldZ) + load<f32>(site + S_XX, 12);
  my = row(site + S_YX, worldX, worldY, worldZ) + load<f32>(site + S_YX, 12);
  mz = row(site + S_ZX, worldX, worldY, worldZ) + load<f32>(site + S_ZX, 12);
  if (uv === 0) return;
  const unit = load<f32>(site, S_UNIT);
  along = (load<f32>(uv) * b0 + load<f32>(uv, 16) * b1 + load<f32>(uv, 32) * b2) * unit;
  across = (load<f32>(uv, 4) * b0 + load<f32>(uv, 20) * b1 + load<f32>(uv, 36) * b2) * unit;
  px = load<f32>(uv, 8) * b0 + load<f32>(uv, 24) * b1 + load<f32>(uv, 40) * b2;
  py = load<f32>(uv, 12) * b0 + load<f32>(uv, 28) * b1 + load<f32>(uv, 44) * b2;
}

/** Along which a face is brushed, of any length: a result. */
export let brushedX: f32 = 0;
export let brushedY: f32 = 0;
export let brushedZ: f32 = 0;

/** Finds it where a path has met a face that is not brushed along its outline: along the line, or around its middle. */
export function brushedWay(at: usize, aroundMiddle: bool): void {
  face(at, 0);
  if (!aroundMiddle) {
    brushedX = load<f32>(site, S_XX);
    brushedY = load<f32>(site, S_XX + 4);
    brushedZ = load<f32>(site, S_XX + 8);
    return;
  }
  const perX = load<f32>(site, S_LETTER_PER_X);
  const perY = load<f32>(site, S_LETTER_PER_X + 4);
  const x: f32 = qx - load<f32>(site, S_LETTER_X) - (perX > 0 ? <f32>0.5 / perX : 0);
  const y: f32 = qy - load<f32>(site, S_LETTER_X + 4) - (perY > 0 ? <f32>0.5 / perY : 0);
  const m = instance;
  brushedX = load<f32>(m, 16) * x - load<f32>(m) * y;
  brushedY = load<f32>(m, 20) * x - load<f32>(m, 4) * y;
  brushedZ = load<f32>(m, 24) * x - load<f32>(m, 8) * y;
}

// @ts-ignore: decorator
@inline function inBox(box: usize, per: usize, k: usize, v: f32): f32 {
  return (v - load<f32>(box + (k << 2))) * load<f32>(per + (k << 2));
}

// @ts-ignore: decorator
@inline function unit(v: f32): f32 { return min<f32>(1, max<f32>(0, v)); }

/** Along one side of the letter's, the word's or the block's box: 0 across, 1 up, 2 back to front. */
function inBoxes(axis: usize, k: usize): f32 {
  const over = load<i32>(axis, A_OVER);
  if (over === OVER_LETTER)
    return inBox(site + S_LETTER_X, site + S_LETTER_PER_X, k, k === 0 ? qx : k === 1 ? qy : qz);
  const v = k === 0 ? mx : k === 1 ? my : mz;
  if (over === OVER_WORD) return inBox(site + S_WORD_X, site + S_WORD_PER_X, k, v);
  return inBox(site + S_BLOCK_X, site + S_BLOCK_PER_X, k, v);
}

/** Noises and patterns of a size. */
function patterned(axis: usize, source: i32): f32 {
  const per = load<f32>(axis, A_PER_SCALE);
  const c = load<f32>(axis, A_TURN_COS);
  const s = load<f32>(axis, A_TURN_SIN);
  const seed = load<i32>(axis, A_SEED);
  const contrast = load<f32>(axis, A_CONTRAST);
  const stretch = load<f32>(axis, A_STRETCH);
  if (source >= WEAVE) {
    const px: f32 = (flat || uv === 0 ? mx : along) * per;
    const py: f32 = (flat || uv === 0 ? my : across) * per;
    const x: f32 = (px * c + py * s) / stretch;
    const y: f32 = py * c - px * s;
    return source === WEAVE ? weave(x, y) : source === BRICKS ? bricks(x, y, seed) : tiles(x, y, seed);
  }
  const x: f32 = ((mx * c + my * s) * per) / stretch;
  const y: f32 = (my * c - mx * s) * per;
  const z: f32 = mz * per;
  const octaves = load<i32>(axis, A_OCTAVES);
  if (source === NOISE) return <f32>0.5 + noise(x, y, z, octaves, seed) * contrast;
  if (source === TURBULENCE) return turbulence(x, y, z, octaves, seed) * contrast;
  cells(x, y, z, seed);
  if (source === CELLS) return f1 * contrast;
  if (source === CRACKS) return (f2 - f1) * contrast;
  return <f32>0.5 + (owner - <f32>0.5) * contrast;
}

/** Where a site has what a picture covers that is laid over the letter, its word or its block. */
// @ts-ignore: decorator
@inline function wrapOf(lay: i32): usize {
  return lay === OVER_LETTER ? S_WRAP_X : lay === OVER_WORD ? S_WORD_WRAP_X : S_BLOCK_WRAP_X;
}

/** Width of the picture as it is laid, in the letter's unit or in metres. */
function pictureWidth(axis: usize, picture: usize): f32 {
  const lay = load<i32>(axis, A_LAY);
  let width = load<f32>(axis, A_TILE);
  if (lay <= OVER_BLOCK) {
    const box = site + wrapOf(lay);
    const aspect: f32 = <f32>load<i32>(picture, PI_WIDTH) / <f32>load<i32>(picture, PI_HEIGHT);
    width = max<f32>(<f32>1e-9, max<f32>(load<f32>(box, 8), load<f32>(box, 12) * aspect));
  }
  return width * load<f32>(axis, A_ZOOM);
}

// @ts-ignore: decorator
@inline function metresOf(axis: usize): f32 {
  return load<i32>(axis, A_LAY) === OVER_LETTER ? load<f32>(site, S_UNIT) : 1;
}

/** Length over which an axis changes little, metres. */
export function fine(axes: usize, number: i32): f32 {
  const axis = axes + <usize>number * AXIS_BYTES;
  const picture = <usize>load<u32>(axis, A_PICTURE);
  if (picture === 0) return FINE / load<f32>(axis, A_PER_SCALE);
  return (pictureWidth(axis, picture) * metresOf(axis)) / <f32>load<i32>(picture, PI_WIDTH);
}

/** Where the place lies in the plane that an axis's picture is laid in: its results. */
export let laidX: f32 = 0;
export let laidY: f32 = 0;

/** Whether an axis has a picture, and its face a plane to lay it in. */
export function isLaid(axis: usize): bool { return load<u32>(axis, A_PICTURE) !== 0 && uv !== 0; }

/** Finds the place in the plane that an axis's picture is laid in: the letter's, in its unit, or the block's, metres. */
export function inPlane(axis: usize): void {
  const lay = load<i32>(axis, A_LAY);
  let x = px;
  let y = py;
  if (lay !== OVER_LETTER) {
    const m = instance;
    const wx: f32 = load<f32>(m) * px + load<f32>(m, 16) * py + load<f32>(m, 48);
    const wy: f32 = load<f32>(m, 4) * px + load<f32>(m, 20) * py + load<f32>(m, 52);
    const wz: f32 = load<f32>(m, 8) * px + load<f32>(m, 24) * py + load<f32>(m, 56);
    x = row(site + S_XX, wx, wy, wz) + load<f32>(site + S_XX, 12);
    y = row(site + S_YX, wx, wy, wz) + load<f32>(site + S_YX, 12);
  }
  if (lay <= OVER_BLOCK) {
    const box = site + wrapOf(lay);
    x -= load<f32>(box);
    y -= load<f32>(box, 4);
  }
  laidX = x;
  laidY = y;
}

/** Where in an axis's picture the place lies, in its widths and heights, and how much of it is told apart: its results. */
export let pictureU: f32 = 0;
export let pictureV: f32 = 0;
export let pictureSeen: f32 = 0;

/** Finds the place in an axis's picture. */
export function inPicture(axis: usize): void {
  inPlane(axis);
  const x = laidX;
  const y = laidY;
  const picture = <usize>load<u32>(axis, A_PICTURE);
  const width = pictureWidth(axis, picture);
  const aspect: f32 = <f32>load<i32>(picture, PI_WIDTH) / <f32>load<i32>(picture, PI_HEIGHT);
  const c = load<f32>(axis, A_TURN_COS);
  const s = load<f32>(axis, A_TURN_SIN);
  pictureU = (x * c + y * s) / width + <f32>0.5 - load<f32>(axis, A_SHIFT_X);
  pictureV = ((y * c - x * s) / width) * aspect + <f32>0.5 - load<f32>(axis, A_SHIFT_Y);
  pictureSeen = seen / (width * metresOf(axis));
}

/** A channel of the picture that is laid over the letter or the block, or that tiles the plane. */
function laid(axis: usize): f32 {
  if (!isLaid(axis)) return 0;
  inPicture(axis);
  return pictured(axis, pictureU, pictureV, pictureSeen);
}

/** Distance to type or to the stage, whichever is meant, that is not of this block, over its farthest. */
function near(axis: usize): f32 {
  const per = load<f32>(axis, A_PER_SCALE);
  const kind = load<i32>(axis, A_OVER);
  return per * nearestOther(worldX, worldY, worldZ, kind, load<i32>(site, S_PLACEMENT), <f32>1 / per);
}

function sourced(axis: usize, source: i32): f32 {
  if (source === ANGLE) {
    const rest: f32 = <f32>1 - cosine;
    if (load<i32>(axis, A_LATE) === 0) return rest;
    const two = rest * rest;
    return two * two * rest;
  }
  if (source <= THROUGH) return inBoxes(axis, <usize>(source - ALONG));
  if (source === OUTLINE) {
    const turns: f32 = along * load<f32>(axis, A_PER_SCALE);
    return turns - floor<f32>(turns);
  }
  if (source === RIM) return across * load<f32>(axis, A_PER_SCALE);
  if (source === UPWARD) return <f32>0.5 + <f32>0.5 * upward;
  if (source === NEAR) return near(axis);
  if (source > TILES) return laid(axis);
  return patterned(axis, source);
}

/** Where on its axis the place stood on lies, 0 … 1. @param axes of the recipe */
export function along01(axes: usize, number: i32): f32 {
  const axis = axes + <usize>number * AXIS_BYTES;
  let u = sourced(axis, load<i32>(axis, A_SOURCE));
  const breakup = load<f32>(axis, A_BREAKUP);
  if (breakup > 0) {
    const per = load<f32>(axis, A_PER_BREAK);
    u += breakup * noise(mx * per, my * per, mz * per, 3, load<i32>(axis, A_SEED) + 7919);
  }
  return unit((unit(u) - load<f32>(axis, A_FROM)) * load<f32>(axis, A_PER));
}
