// Caustics come from photons: light sent from small lamps and suns through glass and off mirrors ("casters") that then
// lands on anything else ("receivers") is kept where it lands, and what a path sees at a receiver is the density of the
// light landed near it (Jensen, "Global Illumination using Photon Maps", 1996; the radius shrinks from sample to sample
// after Knaus & Zwicker, "Progressive Photon Mapping: A Probabilistic Approach", TOG 2011). A path that finds such light
// by itself, from a receiver over casters, does not count it, so that no light is counted twice; only what a receiver's
// sharp lobes sent there stays with the path, as photons are too few for those.
import {
  CELLS, P_GX, P_GY, P_GZ, P_X, P_Y, P_Z, PH_ENDS, PH_X, PH_Y, PH_Z, PHOTON_BYTES,
} from './layout';
import { tellSharp } from './lobes/surface';
import { f } from './paths';

/** Photons further from a path's plane than this share of the radius lie on another surface. */
const OFF_PLANE: f32 = 0.35;

/** Where photons are kept: a place for each sent, those landed sorted by cell, and the first of each cell. */
let landed: usize = 0;
let sorted: usize = 0;
let cells: usize = 0;
/** Luminance above which the surround sends photons, nits. */
export let skyClip: f32 = 1e30;
/** Radius within which photons are taken in, metres; nought where there are none. */
export let radius: f32 = 0;
let perCell: f32 = 0;

export function setPhotons(landedAt: usize, sortedAt: usize, cellsAt: usize, clip: f32): void {
  landed = landedAt;
  sorted = sortedAt;
  cells = cellsAt;
  skyClip = clip;
}

/** @param r radius of the photons sorted last; nought: paths find all light by themselves */
export function usePhotons(r: f32): void {
  radius = r;
  perCell = r > 0 ? <f32>0.5 / r : 0;
  tellSharp(r > 0);
}

// @ts-ignore: decorator
@inline export function byPhotonsHere(): bool { return radius > 0; }
// @ts-ignore: decorator
@inline export function placeOf(photon: i32): usize { return landed + <usize>photon * PHOTON_BYTES; }

/** A cell's place among the sorted; far cells may share one (after Teschner et al., VMV 2003). */
// @ts-ignore: decorator
@inline function cellAt(x: i32, y: i32, z: i32): i32 {
  return ((x * 73856093) ^ (y * 19349663) ^ (z * 83492791)) & (CELLS - 1);
}
// @ts-ignore: decorator
@inline function along(v: f32): i32 { return <i32>floor<f32>(v * perCell); }
// @ts-ignore: decorator
@inline function cellOf(at: usize): i32 {
  return cellAt(along(load<f32>(at, PH_X)), along(load<f32>(at, PH_Y)), along(load<f32>(at, PH_Z)));
}

/** Sorts the photons of `count` places that landed, by cells twice the radius wide. @returns how many landed */
export function sortPhotons(count: i32, r: f32): i32 {
  usePhotons(r);
  memory.fill(cells, 0, (<usize>CELLS + 1) << 2);
  for (let i = 0; i < count; i++) {
    const at = placeOf(i);
    if (load<i32>(at, PH_ENDS) === 0) continue;
    const c = cells + (<usize>cellOf(at) << 2);
    store<i32>(c, load<i32>(c, 4) + 1, 4);
  }
  // each cell's count stands behind it: running sums are where each begins
  let sum = 0;
  for (let i = 0; i < CELLS; i++) {
    const c = cells + (<usize>i << 2);
    sum += load<i32>(c, 4);
    store<i32>(c, sum, 4);
  }
  // filled from behind, so that first places come out right and the order stays
  for (let i = count - 1; i >= 0; i--) {
    const at = placeOf(i);
    if (load<i32>(at, PH_ENDS) === 0) continue;
    const c = cells + (<usize>cellOf(at) << 2);
    const place = load<i32>(c, 4) - 1;
    store<i32>(c, place, 4);
    memory.copy(sorted + <usize>place * PHOTON_BYTES, at, PHOTON_BYTES);
  }
  // now each cell's beginning stands one too far on
  for (let i = 0; i < CELLS; i++) {
    const c = cells + (<usize>i << 2);
    store<i32>(c, load<i32>(c, 4));
  }
  store<i32>(cells + (<usize>CELLS << 2), sum);
  return sum;
}

/** Of photonsNear: how many photons each of those listed stands for. */
export let standsFor: i32 = 1;

/** Lists the addresses of photons within the radius of where a path stands. @param room how many fit, even */
export function photonsNear(at: usize, list: usize, room: i32): i32 {
  const x = f(P_X, at);
  const y = f(P_Y, at);
  const z = f(P_Z, at);
  const gx = f(P_GX, at);
  const gy = f(P_GY, at);
  const gz = f(P_GZ, at);
  const r2 = radius * radius;
  const off = radius * OFF_PLANE;
  // the eight cells that the ball may reach: from half a cell below
  const x0 = <i32>floor<f32>(x * perCell - <f32>0.5);
  const y0 = <i32>floor<f32>(y * perCell - <f32>0.5);
  const z0 = <i32>floor<f32>(z * perCell - <f32>0.5);
  standsFor = 1;
  let found = 0;
  let passed = 0;
  let seen0 = -1;
  let seen1 = -1;
  let seen2 = -1;
  let seen3 = -1;
  let seen4 = -1;
  let seen5 = -1;
  let seen6 = -1;
  for (let k = 0; k < 8; k++) {
    const cell = cellAt(x0 + (k & 1), y0 + ((k >> 1) & 1), z0 + (k >> 2));
    // cells may share a place
    if (
      cell === seen0 || cell === seen1 || cell === seen2 || cell === seen3 || cell === seen4 || cell === seen5 ||
      cell === seen6
    ) continue;
    if (k === 0) seen0 = cell;
    else if (k === 1) seen1 = cell;
    else if (k === 2) seen2 = cell;
    else if (k === 3) seen3 = cell;
    else if (k === 4) seen4 = cell;
    else if (k === 5) seen5 = cell;
    else if (k === 6) seen6 = cell;
    const c = cells + (<usize>cell << 2);
    const end = load<i32>(c, 4);
    for (let i = load<i32>(c); i < end; i++) {
      const photon = sorted + <usize>i * PHOTON_BYTES;
      const dx = load<f32>(photon, PH_X) - x;
      const dy = load<f32>(photon, PH_Y) - y;
      const dz = load<f32>(photon, PH_Z) - z;
      if (!(dx * dx + dy * dy + dz * dz < r2)) continue;
      if (abs(dx * gx + dy * gy + dz * gz) > off) continue;
      // photons of a cell lie in the order they were sent, which is by chance: each so manieth stands for the rest
      if (passed++ % standsFor !== 0) continue;
      if (found === room) {
        for (let j = 0; j < room >> 1; j++) store<u32>(list + (<usize>j << 2), load<u32>(list + (<usize>j << 3)));
        found = room >> 1;
        standsFor <<= 1;
        if ((passed - 1) % standsFor !== 0) continue;
      }
      store<u32>(list + (<usize>found << 2), <u32>photon);
      found++;
    }
  }
  return found;
}
