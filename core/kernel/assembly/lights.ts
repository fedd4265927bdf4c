// What lights give: a point taken on one, what reaches a place from there, and what rays find of them.
import {
  AREA, BY_PHOTONS, CARD, CASTS, DIRECTIONAL, E_AREA, E_BLUE, E_CDF, E_COS_INNER, E_COS_OUTER, E_COUNT, E_FALL,
  E_FEEDS, E_FIRST, E_FLAGS, E_FORWARD_X, E_FORWARD_Y, E_FORWARD_Z, E_GREEN, E_GROUP, E_INSTANCE, E_KIND, E_LINKS,
  E_RADIUS, E_RANGE, E_RED, E_REFERENCE, E_RIGHT_X, E_UP_X, E_X, FALL_LINEAR, FALL_NONE, FALL_SQUARE, GLOW, INSTANCE_BYTES,
  INSTANCE_TRIANGLES, POINT, ROUND, SEEN, SPOT, TRIANGLE_BYTES, FED, WHITE,
} from './layout';
import { beamB, beamG, beamR, before } from './beams';
import { chanceOf } from './choosing';
import { add, mul, splat, sub } from './lanes';
import { cosOut, sinOut, turn4 } from './maths4';
import { cards, directionals, emitterAt, instances } from './scene';
import { isAway } from './traverse';

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
  } else if (load<f32>(e, E_RADIUS) > 0) {
    softPoint(e, kind === SPOT, u, v);
  }
}

/** A point of the disc that a spot shines from, or of the ball that a lamp with a profile does. */
function softPoint(e: usize, flat: bool, u: f32, v: f32): void {
  const radius = load<f32>(e, E_RADIUS);
  const ahead: f32 = flat ? <f32>0 : <f32>1 - <f32>2 * u;
  const r: f32 = radius * sqrt<f32>(flat ? u : <f32>4 * u * (<f32>1 - u));
  turn4(splat(v));
  const a: f32 = r * f32x4.extract_lane(cosOut, 0);
  const b: f32 = r * f32x4.extract_lane(sinOut, 0);
  const c: f32 = radius * ahead;
  lightX += load<f32>(e, E_RIGHT_X) * a + load<f32>(e, E_UP_X) * b + lightNx * c;
  lightY += load<f32>(e, E_RIGHT_X + 4) * a + load<f32>(e, E_UP_X + 4) * b + lightNy * c;
  lightZ += load<f32>(e, E_RIGHT_X + 8) * a + load<f32>(e, E_UP_X + 8) * b + lightNz * c;
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
