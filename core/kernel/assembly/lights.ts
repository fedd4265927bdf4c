// Choosing one of many lights in proportion to what each might give this point of this surface. Local lights and
// glowing parts are leaves of a tree of many children a node; a node's importance bounds what its lights send here
// (after Conty Estevez & Kulla, "Importance Sampling of Many Lights with Adaptive Tree Splitting", HPG 2018), times
// what the surface makes of it: its diffuse share by the cosine, its mirror share by the lobe about the mirrored
// view, widened by the node's own size. The surround and directional lights stand beside the tree.
import {
  AREA, BY_PHOTONS, CARD, CASTS, DIRECTIONAL, E_AREA, E_BLUE, E_CDF, E_COS_INNER, E_COS_OUTER, E_COUNT, E_FALL, E_FEEDS, E_FIRST, E_FLAGS,
  E_FORWARD_X, E_FORWARD_Y, E_FORWARD_Z, E_GREEN, E_GROUP, E_INSTANCE, E_KIND, E_LINKS, E_LUMINANCE, E_PARENT, E_RANGE, E_RED, E_REFERENCE,
  E_RIGHT_X, E_UP_X, E_X,
  EMITTER_BYTES, FALL_CLAMPED, FALL_LINEAR, FALL_NONE, FALL_SQUARE, FEEDS_DIFFUSE, FEEDS_MIRROR, FEEDS_THROUGH, GLOW, INSTANCE_BYTES, INSTANCE_TRIANGLES, LANE_WEIGHTS, LIGHT_CHILDREN, LIGHT_NODE_BYTES, LIGHT_NODE_RECORDS, P_VALPHA2, P_VDIFFUSE, P_VNX, P_VNY,
  P_VNZ, P_VRX, P_VRY, P_VRZ, P_VSPECULAR, P_VSUM, P_VTHROUGH, P_VX, P_VY, P_VZ, POINT, ROUND, SEEN, SPOT, TRIANGLE_BYTES, FED, WHITE,
} from './layout';
import { beamB, beamG, beamR, before } from './beams';
import { above, add, below, both, clamp01, div, dot3, flip, mad, most, mul, pick, root, splat, sub, where } from './lanes';
import { cosOut, sinOut, turn4 } from './maths4';
import { cards, directionals, emitters, instances, lane, lightNodes, lightTree } from './scene';
import { skyFeeds, skyWeight } from './surround';
import { isAway } from './traverse';

/** Least share of a node's power that its spread leaves: what is bounded to nothing is never chosen. */
const FAINT: f32 = 0.01;
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

/** Importance of four children of a node; nought where a child is missing. */
function importance(node: usize): v128 {
  return load<i32>(node, 200) !== 0 ? ofPoints(node) : ofClusters(node);
}

/** The same of single points and spots, of which nothing has to be bounded: in half the time. */
function ofPoints(node: usize): v128 {
  const dx = sub(v128.load(node), px);
  const dy = sub(v128.load(node, 16), py);
  const dz = sub(v128.load(node, 32), pz);
  const inv2 = div(splat(1), most(dot3(dx, dy, dz, dx, dy, dz), splat(1e-12)));
  const inv = root(inv2);
  const cosW = mul(flip(dot3(v128.load(node, 64), v128.load(node, 80), v128.load(node, 96), dx, dy, dz)), inv);
  const sent = pick(below(v128.load(node, 112), splat(0)), splat(1), cosW);
  let reached = above(sent, v128.load(node, 144));
  const cosN = mul(dot3(nx, ny, nz, dx, dy, dz), inv);
  const tilt = through ? f32x4.abs(cosN) : cosN;
  if (!through) reached = both(reached, above(tilt, splat(0)));
  if (!v128.any_true(reached)) return splat(0);
  const mirrored = mul(specular, lobe(mul(dot3(rx, ry, rz, dx, dy, dz), inv), alpha2));
  const share = mad(diffuse, most(tilt, splat(FAINT)), mirrored);
  const power = mul(v128.load(node, 160), most(fade(node, sent), splat(FAINT)));
  return where(reached, mul(mul(power, share), inv2));
}

function ofClusters(node: usize): v128 {
  const dx = sub(v128.load(node), px);
  const dy = sub(v128.load(node, 16), py);
  const dz = sub(v128.load(node, 32), pz);
  const radius2 = v128.load(node, 48);
  const d2 = dot3(dx, dy, dz, dx, dy, dz);
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
@inline export function emitterAt(i: i32): usize { return emitters + <usize>i * EMITTER_BYTES; }

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
  for (let q = 0; q < records; q++) {
    const w = importance(at + <usize>q * LIGHT_NODE_BYTES);
    v128.store(to + (<usize>q << 4), w);
    all = add(all, w);
  }
  return total(all);
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

/** Sum of all importances where the path stands: what chances divide by. */
export function weighLights(): f32 {
  let all = skyShare();
  for (let i = 0; i < directionals; i++) all += distant(i);
  if (lightTree > 0) all += weigh(0);
  sum = all;
  return all;
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
    const all = weigh(node);
    const mine = load<f32>(weightsAt(node) + (<usize>child << 2));
    if (!(mine > 0)) return 0;
    if (node === 0) return (chance * mine) / sum;
    chance *= mine / all;
    // a node's own place in its parent stands behind its children
    ref = load<i32>(nodeAt(node), 192);
  }
}

/** Of the last choice. */
export let chosenChance: f32 = 0;

/**
 * Chooses a light by u in [0, 1): an emitter, -1 for the surround, -2 when nothing shines. Lights are weighed before,
 * at the same place.
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
    let four = -1;
    let from: f32 = 0;
    let to: f32 = 0;
    for (let q = 0; q < records; q++) {
      const own = total(v128.load(weights + (<usize>q << 4)));
      if (!(own > 0)) continue;
      four = q;
      from = to;
      to += own;
      if (rest < to) break;
    }
    if (four < 0) return -2;
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

// A point on a light, and what it gives there.
export let lightX: f32 = 0;
export let lightY: f32 = 0;
export let lightZ: f32 = 0;
export let lightNx: f32 = 0;
export let lightNy: f32 = 0;
export let lightNz: f32 = 0;
/** Results of lightFrom: direction, distance, radiance (or for points intensity over distance²), density. */
export let toX: f32 = 0;
export let toY: f32 = 0;
export let toZ: f32 = 0;
export let toDistance: f32 = 0;
export let giveR: f32 = 0;
export let giveG: f32 = 0;
export let giveB: f32 = 0;
export let giveDensity: f32 = 0;
/** Whether no bounce could find this light. */
export let givePoint: bool = false;

/** Takes a point of an emitter by u and v; lightFrom says what it gives. */
export function pointOn(i: i32, u: f32, v: f32): void {
  const e = emitterAt(i);
  const kind = load<i32>(e, E_KIND);
  lightX = load<f32>(e, E_X);
  lightY = load<f32>(e, E_X + 4);
  lightZ = load<f32>(e, E_X + 8);
  lightNx = load<f32>(e, E_FORWARD_X);
  lightNy = load<f32>(e, E_FORWARD_Y);
  lightNz = load<f32>(e, E_FORWARD_Z);
  if (kind === AREA) {
    let a: f32 = u - <f32>0.5;
    let b: f32 = v - <f32>0.5;
    if ((load<i32>(e, E_FLAGS) & ROUND) !== 0) {
      turn4(splat(v));
      const r: f32 = <f32>0.5 * sqrt<f32>(u);
      a = r * f32x4.extract_lane(cosOut, 0);
      b = r * f32x4.extract_lane(sinOut, 0);
    }
    lightX += load<f32>(e, E_RIGHT_X) * a + load<f32>(e, E_UP_X) * b;
    lightY += load<f32>(e, E_RIGHT_X + 4) * a + load<f32>(e, E_UP_X + 4) * b;
    lightZ += load<f32>(e, E_RIGHT_X + 8) * a + load<f32>(e, E_UP_X + 8) * b;
  } else if (kind === GLOW) {
    glowPoint(e, u, v);
  } else if (kind === DIRECTIONAL && load<f32>(e, E_COS_INNER) < 1) {
    // a direction within its cone, evenly over the solid angle
    const cosine: f32 = <f32>1 - u * (<f32>1 - load<f32>(e, E_COS_INNER));
    const sine: f32 = sqrt<f32>(max<f32>(0, <f32>1 - cosine * cosine));
    turn4(splat(v));
    const a: f32 = sine * f32x4.extract_lane(cosOut, 0);
    const b: f32 = sine * f32x4.extract_lane(sinOut, 0);
    lightNx = lightNx * cosine + load<f32>(e, E_RIGHT_X) * a + load<f32>(e, E_UP_X) * b;
    lightNy = lightNy * cosine + load<f32>(e, E_RIGHT_X + 4) * a + load<f32>(e, E_UP_X + 4) * b;
    lightNz = lightNz * cosine + load<f32>(e, E_RIGHT_X + 8) * a + load<f32>(e, E_UP_X + 8) * b;
  }
}

/** Of what glows, where pointOn took its point. */
export let glowInstance: i32 = 0;
export let glowTriangle: i32 = 0;
export let glowB1: f32 = 0;
export let glowB2: f32 = 0;

function glowPoint(e: usize, u: f32, v: f32): void {
  const cdf = load<u32>(e, E_CDF);
  let lo = 0;
  let hi = load<i32>(e, E_COUNT);
  while (hi - lo > 1) {
    const mid = (lo + hi) >> 1;
    if (load<f32>(cdf + (<usize>mid << 2)) <= u) lo = mid;
    else hi = mid;
  }
  const low = load<f32>(cdf + (<usize>lo << 2));
  const s = sqrt<f32>(min(<f32>1, max(<f32>0, (u - low) / (load<f32>(cdf + (<usize>lo << 2), 4) - low))));
  const b1: f32 = s * (<f32>1 - v);
  const b2: f32 = s * v;
  glowInstance = load<i32>(e, E_INSTANCE);
  glowTriangle = load<i32>(e, E_FIRST) + lo;
  glowB1 = b1;
  glowB2 = b2;
  const instance = instances + <usize>glowInstance * INSTANCE_BYTES;
  const t = load<u32>(instance + INSTANCE_TRIANGLES) + <usize>glowTriangle * TRIANGLE_BYTES;
  const c0 = v128.load(instance);
  const c1 = v128.load(instance, 16);
  const c2 = v128.load(instance, 32);
  const a = v128.load(t);
  const e1 = sub(v128.load(t, 12), a);
  const e2 = sub(v128.load(t, 24), a);
  const w1 = carried(c0, c1, c2, e1);
  const w2 = carried(c0, c1, c2, e2);
  const p = add(add(carried(c0, c1, c2, a), v128.load(instance, 48)), add(mul(w1, splat(b1)), mul(w2, splat(b2))));
  lightX = f32x4.extract_lane(p, 0);
  lightY = f32x4.extract_lane(p, 1);
  lightZ = f32x4.extract_lane(p, 2);
  const x1 = f32x4.extract_lane(w1, 0);
  const y1 = f32x4.extract_lane(w1, 1);
  const z1 = f32x4.extract_lane(w1, 2);
  const x2 = f32x4.extract_lane(w2, 0);
  const y2 = f32x4.extract_lane(w2, 1);
  const z2 = f32x4.extract_lane(w2, 2);
  const x = y1 * z2 - z1 * y2;
  const y = z1 * x2 - x1 * z2;
  const z = x1 * y2 - y1 * x2;
  const l = sqrt<f32>(x * x + y * y + z * z);
  const s1: f32 = l > 0 ? <f32>1 / l : 0;
  lightNx = x * s1;
  lightNy = y * s1;
  lightNz = z * s1;
}

// @ts-ignore: decorator
@inline function carried(c0: v128, c1: v128, c2: v128, v: v128): v128 {
  return add(
    add(mul(c0, v128.shuffle<f32>(v, v, 0, 0, 0, 0)), mul(c1, v128.shuffle<f32>(v, v, 1, 1, 1, 1))),
    mul(c2, v128.shuffle<f32>(v, v, 2, 2, 2, 2)),
  );
}

/** Spot fall-off after KHR_lights_punctual: squared linear ramp between the cone's cosines. */
// @ts-ignore: decorator
@inline export function spotFade(e: usize, cosine: f32): f32 {
  const inner = load<f32>(e, E_COS_INNER);
  const outer = load<f32>(e, E_COS_OUTER);
  const span = inner - outer;
  const t: f32 = span > <f32>1e-6 ? (cosine - outer) / span : cosine >= outer ? <f32>1 : <f32>0;
  const c = min(<f32>1, max(<f32>0, t));
  return c * c;
}

/** Window that ends a light at its range, after KHR_lights_punctual: 1 - (d / range)⁴. */
// @ts-ignore: decorator
@inline export function rangeFade(e: usize, d2: f32): f32 {
  const range = load<f32>(e, E_RANGE);
  if (!(range > 0)) return 1;
  const share = d2 / (range * range);
  return share >= 1 ? <f32>0 : <f32>1 - share * share;
}

/** What the distance leaves of a light's intensity: one over its square, or what its way of falling off says. */
// @ts-ignore: decorator
@inline export function distanceFade(e: usize, d2: f32): f32 {
  const fall = load<i32>(e, E_FALL);
  if (fall === FALL_SQUARE) return <f32>1 / d2;
  const reference = load<f32>(e, E_REFERENCE);
  if (fall === FALL_LINEAR) return <f32>1 / (reference * sqrt<f32>(d2));
  if (fall === FALL_NONE) return <f32>1 / (reference * reference);
  return <f32>1 / max(d2, reference * reference);
}

/** What the point taken gives a place; false for nothing. */
export function lightFrom(i: i32, x: f32, y: f32, z: f32, chance: f32): bool {
  const e = emitterAt(i);
  const kind = load<i32>(e, E_KIND);
  giveR = load<f32>(e, E_RED);
  giveG = load<f32>(e, E_GREEN);
  giveB = load<f32>(e, E_BLUE);
  giveDensity = chance;
  givePoint = true;
  if (kind === DIRECTIONAL) {
    toX = -lightNx;
    toY = -lightNy;
    toZ = -lightNz;
    toDistance = 1e30;
    if (load<f32>(e, E_COS_INNER) < 1) {
      givePoint = false;
      giveDensity = chance / load<f32>(e, E_AREA);
    }
    return true;
  }
  const dx = lightX - x;
  const dy = lightY - y;
  const dz = lightZ - z;
  const d2 = dx * dx + dy * dy + dz * dz;
  const d = sqrt<f32>(d2);
  if (!(d > <f32>1e-7)) return false;
  if (kind === GLOW && isAway(instances + <usize>load<i32>(e, E_INSTANCE) * INSTANCE_BYTES)) return false;
  toX = dx / d;
  toY = dy / d;
  toZ = dz / d;
  toDistance = d;
  if (kind === POINT || kind === SPOT) {
    let factor: f32 = rangeFade(e, d2) * distanceFade(e, d2);
    if (kind === SPOT) factor *= spotFade(e, -(toX * lightNx + toY * lightNy + toZ * lightNz));
    if (!(factor > 0)) return false;
    before(e, -toX, -toY, -toZ);
    giveR *= factor * beamR;
    giveG *= factor * beamG;
    giveB *= factor * beamB;
    return true;
  }
  const cosine = -(toX * lightNx + toY * lightNy + toZ * lightNz);
  if (!(cosine > 0)) return false;
  givePoint = false;
  giveDensity = (chance * d2) / (load<f32>(e, E_AREA) * cosine);
  return true;
}

// @ts-ignore: decorator
@inline export function castsShadow(i: i32): bool { return (load<i32>(emitterAt(i), E_FLAGS) & CASTS) !== 0; }
/** What of a surface an emitter reaches. */
// @ts-ignore: decorator
@inline export function feedsOf(i: i32): i32 { return load<i32>(emitterAt(i), E_FEEDS); }
/** Whether an emitter's light falls on things with these links. */
// @ts-ignore: decorator
@inline export function fallsOn(i: i32, links: i32): bool {
  const own = load<i32>(emitterAt(i), E_LINKS);
  return own === 0 || (own & links) !== 0;
}
/** Whether an area light's instance stands in the way of what mirrors see. */
// @ts-ignore: decorator
@inline export function isCard(i: i32): bool { return (load<i32>(emitterAt(i), E_FLAGS) & CARD) !== 0; }
/** Whether a card shows mirrors its own lit surface. */
// @ts-ignore: decorator
@inline export function isWhite(i: i32): bool { return (load<i32>(emitterAt(i), E_FLAGS) & WHITE) !== 0; }
/** Whether the camera sees a light. */
// @ts-ignore: decorator
@inline export function isSeen(i: i32): bool { return (load<i32>(emitterAt(i), E_FLAGS) & SEEN) !== 0; }
// @ts-ignore: decorator
@inline export function kindOf(i: i32): i32 { return load<i32>(emitterAt(i), E_KIND); }

/** Whether a place is on an area light's face: its rectangle, or the ellipse in it. */
export function isOnFace(i: i32, x: f32, y: f32, z: f32): bool {
  const e = emitterAt(i);
  if ((load<i32>(e, E_FLAGS) & ROUND) === 0) return true;
  const a = along(e, E_RIGHT_X, x, y, z);
  const b = along(e, E_UP_X, x, y, z);
  return a * a + b * b <= <f32>0.25;
}

/** How far along a side of a light a place is, counted from its middle, one over the whole side. */
// @ts-ignore: decorator
@inline function along(e: usize, side: usize, x: f32, y: f32, z: f32): f32 {
  const sx = load<f32>(e + side);
  const sy = load<f32>(e + side, 4);
  const sz = load<f32>(e + side, 8);
  const d = (x - load<f32>(e, E_X)) * sx + (y - load<f32>(e, E_X + 4)) * sy + (z - load<f32>(e, E_X + 8)) * sz;
  return d / (sx * sx + sy * sy + sz * sz);
}

/** Whether a card stands across a ray before its end. */
export function cardAcross(x: f32, y: f32, z: f32, dx: f32, dy: f32, dz: f32, reach: f32): bool {
  for (let i = directionals; i < directionals + cards; i++) {
    const e = emitterAt(i);
    const nx = load<f32>(e, E_FORWARD_X);
    const ny = load<f32>(e, E_FORWARD_Y);
    const nz = load<f32>(e, E_FORWARD_Z);
    const slope = dx * nx + dy * ny + dz * nz;
    if (slope === 0) continue;
    const t: f32 =
      ((load<f32>(e, E_X) - x) * nx + (load<f32>(e, E_X + 4) - y) * ny + (load<f32>(e, E_X + 8) - z) * nz) / slope;
    if (!(t > 0 && t < reach)) continue;
    const px = x + dx * t;
    const py = y + dy * t;
    const pz = z + dz * t;
    if (abs(along(e, E_RIGHT_X, px, py, pz)) <= <f32>0.5 && abs(along(e, E_UP_X, px, py, pz)) <= <f32>0.5 && isOnFace(i, px, py, pz))
      return true;
  }
  return false;
}

/** Cosine of the angle between the middle of a directional light and its edge. */
// @ts-ignore: decorator
@inline export function cosineOfEdge(i: i32): f32 { return load<f32>(emitterAt(i), E_COS_INNER); }
/** Solid angle of a directional light that has a size. */
// @ts-ignore: decorator
@inline export function solidAngleOf(i: i32): f32 { return load<f32>(emitterAt(i), E_AREA); }

/** Whether what it gives differs over its face. */
// @ts-ignore: decorator
@inline export function isFed(i: i32): bool { return (load<i32>(emitterAt(i), E_FLAGS) & FED) !== 0; }
/** Whether its caustics come by photons. */
// @ts-ignore: decorator
@inline export function byPhotons(i: i32): bool { return (load<i32>(emitterAt(i), E_FLAGS) & BY_PHOTONS) !== 0; }
// @ts-ignore: decorator
@inline export function groupOf(i: i32): i32 { return load<i32>(emitterAt(i), E_GROUP); }
// @ts-ignore: decorator
@inline export function colourOf(i: i32, channel: usize): f32 {
  return load<f32>(emitterAt(i) + E_RED + (channel << 2));
}
/** Cosine at which a ray along d meets the shining side of an area light; negative on its back. */
// @ts-ignore: decorator
@inline export function facing(i: i32, dx: f32, dy: f32, dz: f32): f32 {
  const e = emitterAt(i);
  return -(dx * load<f32>(e, E_FORWARD_X) + dy * load<f32>(e, E_FORWARD_Y) + dz * load<f32>(e, E_FORWARD_Z));
}
/** Density with which sampling from where the path stands would have found a point of emitter `i`. */
export function densityOf(i: i32, distance: f32, cosine: f32): f32 {
  const area = load<f32>(emitterAt(i), E_AREA);
  if (!(area > 0) || cosine <= 0) return 0;
  return (chanceOf(i) * distance * distance) / (area * cosine);
}
