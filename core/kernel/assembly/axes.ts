// Axes over faces that feeds are laid along, 0 … 1, where a ray has met one: angle, height, noise, patterns.
// One place at a time: faces that are fed are few beside the rays that find them.
import {
  AXIS_BYTES, A_BREAKUP, A_CONTRAST, A_FROM, A_LATE, A_OCTAVES, A_OVER, A_PER, A_PER_BREAK, A_PER_SCALE, A_SEED,
  A_SOURCE, A_STRETCH, A_TURN_COS, A_TURN_SIN, INSTANCE_BYTES, INSTANCE_TRIANGLES, P_B1, P_B2, P_DX,
  P_DY, P_DZ, P_INSTANCE, P_NX, P_NY, P_NZ, P_TRIANGLE, SITE_BYTES, S_BLOCK_PER_X, S_BLOCK_X, S_LETTER_PER_X,
  S_LETTER_X, S_UNIT, S_UV, S_XX, S_YX, S_ZX, TRIANGLE_BYTES,
} from './layout';
import { bricks, cells, f1, f2, noise, owner, tiles, turbulence, weave } from './noise';
import { f, w } from './paths';
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
/** Along and across the outline, metres. */
let along: f32 = 0;
let across: f32 = 0;

// @ts-ignore: decorator
@inline function row(m: usize, x: f32, y: f32, z: f32): f32 {
  return load<f32>(m) * x + load<f32>(m, 4) * y + load<f32>(m, 8) * z;
}

/** Takes up where a path has met a face. */
export function face(at: usize): void {
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
  flat = abs(row(site + S_ZX, nx, ny, nz)) > FLAT;
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
}

// @ts-ignore: decorator
@inline function inBox(box: usize, per: usize, k: usize, v: f32): f32 {
  return (v - load<f32>(box + (k << 2))) * load<f32>(per + (k << 2));
}

// @ts-ignore: decorator
@inline function unit(v: f32): f32 { return min<f32>(1, max<f32>(0, v)); }

/** Along one side of the letter's or the block's box: 0 across, 1 up, 2 back to front. */
function inBoxes(axis: usize, k: usize): f32 {
  if (load<i32>(axis, A_OVER) === 0)
    return inBox(site + S_LETTER_X, site + S_LETTER_PER_X, k, k === 0 ? qx : k === 1 ? qy : qz);
  return inBox(site + S_BLOCK_X, site + S_BLOCK_PER_X, k, k === 0 ? mx : k === 1 ? my : mz);
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
