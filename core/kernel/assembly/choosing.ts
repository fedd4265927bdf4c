// Choosing one of many lights in proportion to what each might give this point of this surface. Local lights and
// glowing parts are leaves of a tree of many children a node; a node's importance bounds what its lights send here
// (after Conty Estevez & Kulla, "Importance Sampling of Many Lights with Adaptive Tree Splitting", HPG 2018), times
// what the surface makes of it: its diffuse share by the cosine, its mirror share by the lobe about the mirrored
// view, widened by the node's own size. The surround and directional lights stand beside the tree.
import {
  E_COS_INNER, E_FORWARD_X, E_FORWARD_Y, E_FORWARD_Z, E_LUMINANCE, E_PARENT, E_RADIUS, E_X, FEEDS_DIFFUSE, FEEDS_MIRROR,
  LANE_WEIGHTS, LIGHT_CHILDREN, LIGHT_NODE_BYTES, LIGHT_NODE_RECORDS, P_VALPHA2, P_VDIFFUSE, P_VNX, P_VNY, P_VNZ,
  P_VRX, P_VRY, P_VRZ, P_VSPECULAR, P_VSUM, P_VTHROUGH, P_VX, P_VY, P_VZ,
} from './layout';
import { beamB, beamG, beamR, before } from './beams';
import { above, add, below, both, clamp01, div, dot3, flip, mad, most, mul, pick, root, splat, sub, where } from './lanes';
import { directionals, emitterAt, lane, lightNodes, lightTree } from './scene';
import { skyFeeds, skyWeight } from './surround';

/** Least share of a node's power that its spread leaves: what is bounded to nothing is never chosen. */
const FAINT: f32 = 0.01;
/** The same of a beam whose light starts anywhere on a disc: what its middle sends says less. */
const FAINT_SOFT: f32 = 0.2;
const PI: f32 = 3.141592653589793;

// the point under way, four times over
let px: v128 = f32x4.splat(0);
let py: v128 = f32x4.splat(0);
let pz: v128 = f32x4.splat(0);
let nx: v128 = f32x4.splat(0);
let ny: v128 = f32x4.splat(0);
let nz: v128 = f32x4.splat(0);
let rx: v128 = f32x4.splat(0);
let ry: v128 = f32x4.splat(0);
let rz: v128 = f32x4.splat(0);
let diffuse: v128 = f32x4.splat(0);
let specular: v128 = f32x4.splat(0);
let alpha2: v128 = f32x4.splat(0);
let through: bool = false;
let sum: f32 = 0;
/** Record of the root's children among which the last choice lies, and the importance of those before it. */
let scanned: i32 = 0;
let passed: f32 = 0;

// @ts-ignore: decorator
@inline function fl(field: usize, at: usize): f32 { return load<f32>(field + at); }

/** Looks from where a path's ray started. @param at wave + 4 · path */
export function standAt(at: usize): void {
  px = v128.load32_splat(at + P_VX);
  py = v128.load32_splat(at + P_VY);
  pz = v128.load32_splat(at + P_VZ);
  nx = v128.load32_splat(at + P_VNX);
  ny = v128.load32_splat(at + P_VNY);
  nz = v128.load32_splat(at + P_VNZ);
  rx = v128.load32_splat(at + P_VRX);
  ry = v128.load32_splat(at + P_VRY);
  rz = v128.load32_splat(at + P_VRZ);
  diffuse = v128.load32_splat(at + P_VDIFFUSE);
  specular = v128.load32_splat(at + P_VSPECULAR);
  alpha2 = v128.load32_splat(at + P_VALPHA2);
  through = load<i32>(at + P_VTHROUGH) !== 0;
  sum = fl(P_VSUM, at);
}

/** Cosine of the angle a - b, or 1 where b is the greater. */
// @ts-ignore: decorator
@inline function cosLess(sa: v128, ca: v128, sb: v128, cb: v128): v128 {
  return pick(above(ca, cb), splat(1), mad(ca, cb, mul(sa, sb)));
}
// @ts-ignore: decorator
@inline function sinLess(sa: v128, ca: v128, sb: v128, cb: v128): v128 {
  return pick(above(ca, cb), splat(0), sub(mul(sa, cb), mul(ca, sb)));
}
// @ts-ignore: decorator
@inline function sine(c: v128): v128 {
  return root(most(splat(0), sub(splat(1), mul(c, c))));
}

/** What a mirror lobe sends towards the viewer from a direction at a cosine from its middle (GGX). */
// @ts-ignore: decorator
@inline function lobe(cosine: v128, a2: v128): v128 {
  const half2 = mul(add(splat(1), cosine), splat(0.5));
  const d = mad(half2, sub(a2, splat(1)), splat(1));
  return div(a2, mul(splat(PI), most(mul(d, d), splat(1e-12))));
}

/** Half of what is bounded, and half of what is meant in the middle. */
// @ts-ignore: decorator
@inline function mid(bound: v128, middle: v128): v128 { return mul(add(bound, most(middle, splat(0))), splat(0.5)); }

/** What four children send at a cosine from their axes: spots fade by a square, all else by the cosine. */
// @ts-ignore: decorator
@inline function fade(node: usize, cosine: v128): v128 {
  const faded = clamp01(div(sub(cosine, v128.load(node, 144)), v128.load(node, 208)));
  return mul(faded, mad(v128.load(node, 224), sub(faded, splat(1)), splat(1)));
}

/** A single light is weighed by its middle from so many of its radii on, squared. */
const APART2: f32 = 16;

/** Importance of four children of a node; nought where a child is missing. */
function importance(node: usize): v128 {
  const dx = sub(v128.load(node), px);
  const dy = sub(v128.load(node, 16), py);
  const dz = sub(v128.load(node, 32), pz);
  const d2 = dot3(dx, dy, dz, dx, dy, dz);
  const radius2 = v128.load(node, 48);
  const bySelf = load<i32>(node, 200) !== 0 && v128.all_true<i32>(f32x4.le(mul(radius2, splat(APART2)), d2));
  return bySelf ? ofSingles(node, dx, dy, dz, d2, radius2) : ofClusters(node, dx, dy, dz, d2, radius2);
}

/** The same of single lights that are small from here, of which little has to be bounded: in half the time. */
// @ts-ignore: decorator
@inline function ofSingles(node: usize, dx: v128, dy: v128, dz: v128, d2: v128, radius2: v128): v128 {
  const inv2 = div(splat(1), most(d2, splat(1e-12)));
  const inv = root(inv2);
  const cosW = mul(flip(dot3(v128.load(node, 64), v128.load(node, 80), v128.load(node, 96), dx, dy, dz)), inv);
  const sent = pick(below(v128.load(node, 112), splat(0)), splat(1), cosW);
  let reached = above(sent, v128.load(node, 144));
  const cosN = mul(dot3(nx, ny, nz, dx, dy, dz), inv);
  const tilt = through ? f32x4.abs(cosN) : cosN;
  // as long as any of it is above the surface
  const sinB2 = mul(radius2, inv2);
  if (!through) reached = both(reached, above(add(tilt, root(sinB2)), splat(0)));
  if (!v128.any_true(reached)) return splat(0);
  const wide = mad(sinB2, splat(0.25), alpha2);
  const mirrored = mul(specular, lobe(mul(dot3(rx, ry, rz, dx, dy, dz), inv), wide));
  const share = mad(diffuse, most(tilt, splat(FAINT)), mirrored);
  const power = mul(v128.load(node, 160), most(fade(node, sent), splat(FAINT)));
  return where(reached, mul(mul(power, share), inv2));
}

function ofClusters(node: usize, dx: v128, dy: v128, dz: v128, d2: v128, radius2: v128): v128 {
  const inv = div(splat(1), root(most(d2, splat(1e-20))));
  const wx = mul(dx, inv);
  const wy = mul(dy, inv);
  const wz = mul(dz, inv);
  // half the angle under which the node is seen; all around from within
  const within = f32x4.le(d2, radius2);
  const sinB2 = div(radius2, most(d2, splat(1e-20)));
  const cosB = pick(within, splat(-1), root(most(splat(0), sub(splat(1), sinB2))));
  const sinB = pick(within, splat(0), root(f32x4.pmin(splat(1), sinB2)));
  // towards the point
  const cosW = flip(dot3(v128.load(node, 64), v128.load(node, 80), v128.load(node, 96), wx, wy, wz));
  const sinW = sine(cosW);
  const cosO = v128.load(node, 112);
  const sinO = v128.load(node, 128);
  const cosX = cosLess(sinW, cosW, sinO, cosO);
  const sinX = sinLess(sinW, cosW, sinO, cosO);
  const sent = cosLess(sinX, cosX, sinB, cosB);
  let reached = above(sent, v128.load(node, 144));
  // at the surface
  const cosN = dot3(nx, ny, nz, wx, wy, wz);
  const tilt = through ? f32x4.abs(cosN) : cosN;
  const met = cosLess(sine(tilt), tilt, sinB, cosB);
  if (!through) reached = both(reached, above(met, splat(0)));
  const wide = mad(f32x4.pmin(splat(1), sinB2), splat(0.25), alpha2);
  const mirrored = mul(specular, lobe(dot3(rx, ry, rz, wx, wy, wz), wide));
  const share = mad(diffuse, most(mid(met, tilt), splat(FAINT)), mirrored);
  // spots fade by a square from their inner to their outer cone, all else by the cosine
  const power = mul(v128.load(node, 160), most(mid(fade(node, sent), fade(node, pick(below(cosO, splat(0)), sent, cosW))), splat(FAINT)));
  return where(reached, div(mul(power, share), most(most(d2, radius2), splat(1e-12))));
}

// @ts-ignore: decorator
@inline function total(v: v128): f32 {
  return (
    f32x4.extract_lane(v, 0) + f32x4.extract_lane(v, 1) + (f32x4.extract_lane(v, 2) + f32x4.extract_lane(v, 3))
  );
}

// @ts-ignore: decorator
@inline function nodeAt(node: i32): usize { return lightNodes + <usize>node * LIGHT_NODE_BYTES; }

/** Importances of a node's children where the path stands: the root's, which stay while it stands there, or another's. */
// @ts-ignore: decorator
@inline function weightsAt(node: i32): usize { return lane + LANE_WEIGHTS + (node === 0 ? 0 : LIGHT_NODE_RECORDS << 4); }

/** Weighs all children of a node. @returns the sum */
function weigh(node: i32): f32 {
  const at = nodeAt(node);
  const records = load<i32>(at, 196);
  const to = weightsAt(node);
  let all = splat(0);
  for (let q = 0; q < records; q++) all = add(all, weighFour(at + <usize>q * LIGHT_NODE_BYTES, to + (<usize>q << 4)));
  return total(all);
}

/** Weighs the four children of a record, their importances at `to`. */
// @ts-ignore: decorator
@inline function weighFour(record: usize, to: usize): v128 {
  v128.store(to, importance(record));
  const beams = load<i32>(record, 204);
  if (beams !== 0) throughBeams(record, beams, to);
  return v128.load(to);
}

/**
 * Weighs the lights of a record that are thrown through something by what of it goes this way.
 * @param beams a bit for each of them
 */
function throughBeams(record: usize, beams: i32, weights: usize): void {
  for (let k: usize = 0; k < 4; k++) {
    if ((beams & (1 << <i32>k)) === 0) continue;
    const weight = load<f32>(weights + (k << 2));
    if (!(weight > 0)) continue;
    const e = emitterAt(~load<i32>(record + 176 + (k << 2)));
    const dx = f32x4.extract_lane(px, 0) - load<f32>(e, E_X);
    const dy = f32x4.extract_lane(py, 0) - load<f32>(e, E_X + 4);
    const dz = f32x4.extract_lane(pz, 0) - load<f32>(e, E_X + 8);
    const d2 = dx * dx + dy * dy + dz * dz;
    if (!(d2 > 0)) continue;
    const by: f32 = <f32>1 / sqrt<f32>(d2);
    before(e, dx * by, dy * by, dz * by);
    const seen: f32 = <f32>0.2126 * beamR + <f32>0.7152 * beamG + <f32>0.0722 * beamB;
    const floor: f32 = load<f32>(e, E_RADIUS) > 0 ? FAINT_SOFT : FAINT;
    store<f32>(weights + (k << 2), weight * (seen > floor ? seen : floor));
  }
}

/** What a directional light might give. */
function distant(i: i32): f32 {
  const e = emitterAt(i);
  const x = -load<f32>(e, E_FORWARD_X);
  const y = -load<f32>(e, E_FORWARD_Y);
  const z = -load<f32>(e, E_FORWARD_Z);
  const cosN =
    f32x4.extract_lane(nx, 0) * x + f32x4.extract_lane(ny, 0) * y + f32x4.extract_lane(nz, 0) * z;
  if (!through && cosN <= 0) return 0;
  const cosR = f32x4.extract_lane(rx, 0) * x + f32x4.extract_lane(ry, 0) * y + f32x4.extract_lane(rz, 0) * z;
  // one with a size widens the lobe by its own
  const sine2: f32 = <f32>1 - load<f32>(e, E_COS_INNER) * load<f32>(e, E_COS_INNER);
  const wide = add(alpha2, splat(<f32>0.25 * sine2));
  const mirrored = f32x4.extract_lane(mul(specular, lobe(splat(cosR), wide)), 0);
  return load<f32>(e, E_LUMINANCE) * (f32x4.extract_lane(diffuse, 0) * max(abs(cosN), FAINT) + mirrored);
}

// @ts-ignore: decorator
@inline function skyShare(): f32 {
  const scattered: f32 = (skyFeeds & FEEDS_DIFFUSE) !== 0 ? f32x4.extract_lane(diffuse, 0) : 0;
  const mirrored: f32 = (skyFeeds & FEEDS_MIRROR) !== 0 ? f32x4.extract_lane(specular, 0) : 0;
  return skyWeight * (scattered + mirrored);
}

/** Whether the surround is all the light there is. */
// @ts-ignore: decorator
@inline export function onlySky(): bool { return lightTree === 0 && directionals === 0; }

/**
 * Weighs all lights where the path stands.
 * @param times lights that are sought there at once: chances are those of all of them together, and may be beyond one
 * @returns what chances divide by
 */
export function weighLights(times: f32): f32 {
  let all = skyShare();
  for (let i = 0; i < directionals; i++) all += distant(i);
  if (lightTree > 0) all += weigh(0);
  sum = all / times;
  scanned = 0;
  passed = 0;
  return sum;
}

/** Chance with which the surround is chosen there. */
export function skyChance(): f32 {
  return sum > 0 ? skyShare() / sum : 0;
}

/** Chance with which an emitter is chosen there. */
export function chanceOf(i: i32): f32 {
  if (!(sum > 0)) return 0;
  if (i < directionals) return distant(i) / sum;
  let chance: f32 = 1;
  let ref = load<i32>(emitterAt(i), E_PARENT);
  while (true) {
    const child = ref & (LIGHT_CHILDREN - 1);
    const node = ref / LIGHT_CHILDREN;
    const mineAt = weightsAt(node) + (<usize>child << 2);
    if (node === 0) {
      // what all give here is known
      weighFour(nodeAt(child >> 2), weightsAt(0) + (<usize>(child >> 2) << 4));
      return (chance * load<f32>(mineAt)) / sum;
    }
    const all = weigh(node);
    const mine = load<f32>(mineAt);
    if (!(mine > 0)) return 0;
    chance *= mine / all;
    // a node's own place in its parent stands behind its children
    ref = load<i32>(nodeAt(node), 192);
  }
}

/** Of the last choice. */
export let chosenChance: f32 = 0;

/**
 * Chooses a light: an emitter, -1 for the surround, -2 when nothing shines. Lights are weighed before, at the same place.
 * @param u from nought to the times they are weighed for; of several choices, none is smaller than the one before
 */
export function chooseLight(u: f32): i32 {
  if (!(sum > 0)) return -2;
  let rest: f32 = u * sum;
  const sky = skyShare();
  if (rest < sky) {
    chosenChance = sky / sum;
    return -1;
  }
  rest -= sky;
  for (let i = 0; i < directionals; i++) {
    const w = distant(i);
    if (rest < w) {
      chosenChance = w / sum;
      return i;
    }
    rest -= w;
  }
  if (lightTree === 0) return -2;
  let node = 0;
  let chance: f32 = 1;
  let all = sum;
  while (true) {
    const weights = weightsAt(node);
    const records = load<i32>(nodeAt(node), 196);
    // the four among which it lies, then which of them; the last that gives anything where rounding leads behind all
    const first = node === 0 ? scanned : 0;
    let four = -1;
    let from: f32 = 0;
    let to: f32 = node === 0 ? passed : 0;
    for (let q = first; q < records; q++) {
      const own = total(v128.load(weights + (<usize>q << 4)));
      if (!(own > 0)) continue;
      four = q;
      from = to;
      to += own;
      if (rest < to) break;
    }
    if (four < 0) return -2;
    if (node === 0) {
      scanned = four;
      passed = from;
    }
    let child = 0;
    let mine: f32 = 0;
    to = from;
    for (let k = four << 2; k < (four << 2) + 4; k++) {
      const own = load<f32>(weights + (<usize>k << 2));
      if (!(own > 0)) continue;
      child = k;
      mine = own;
      from = to;
      to += own;
      if (rest < to) break;
    }
    chance *= mine / all;
    const next = load<i32>(nodeAt(node + four) + 176 + (<usize>(child & 3) << 2));
    if (next < 0) {
      chosenChance = chance;
      return ~next;
    }
    const share = min(<f32>0.9999999, max(<f32>0, (rest - from) / mine));
    node = next;
    all = weigh(node);
    if (!(all > 0)) return -2;
    rest = share * all;
  }
}
