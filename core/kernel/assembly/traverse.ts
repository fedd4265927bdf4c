// Closest-hit and any-hit traversal: one ray against four boxes, one ray against four triangles.
// Triangles are tested by the watertight method of Woop, Benthin and Wald (JCGT 2013) in single precision:
// a shared edge gives exactly opposite edge values on both sides, so no ray slips between neighbours.
import {
  CASTS_SHADOW, INSTANCE_BYTES, INSTANCE_FLAGS, INSTANCE_NODES, INSTANCE_PACKS, INSTANCE_TO_SOLID,
  IS_LIGHT, LANE_TOP_STACK, LEAF_SHIFT, NODE_BYTES, NODE_CHILDREN, PACK_BYTES, PACK_CORNER, PACK_IDS,
  STAYS,
} from './layout';

/** Slabs are widened by two roundings each way (Ize, "Robust BVH Ray Traversal", JCGT 2013). */
const WIDEN: f32 = 1.0000005;
const NARROW: f32 = 0.9999995;
const HUGE: f32 = 1e20;

/** The tree over instances, and the instances. */
export let topNodes: usize = 0;
export let instances: usize = 0;
/** Stacks of this thread: of the solids' trees, and of the tree over instances. */
export let stack: usize = 0;
export let topStack: usize = 0;

/** Whether rays meet only what stays, and lights. */
let alone: bool = false;

export function setAlone(yes: bool): void {
  alone = yes;
}

/** Whether an instance is not there now. */
// @ts-ignore: decorator
@inline export function isAway(instance: usize): bool {
  return alone && (load<i32>(instance, INSTANCE_FLAGS) & (STAYS | IS_LIGHT)) === 0;
}

/** Points this thread at a scene and at its lane. */
export function init(topAt: usize, instancesAt: usize, lane: usize): void {
  topNodes = topAt;
  instances = instancesAt;
  stack = lane;
  topStack = lane + LANE_TOP_STACK;
}

/** What the walk has found so far; shared by all instances it enters. */
let best: f32 = 0;
let bestB1: f32 = 0;
let bestB2: f32 = 0;
let bestId: i32 = -1;
let bestInstance: i32 = -1;

/** Whether a triangle is before what was found, of two at the same distance. */
// @ts-ignore: decorator
@inline function comesFirst(instance: i32, id: i32): bool {
  return bestId < 0 || instance < bestInstance || (instance === bestInstance && id < bestId);
}

/** Hits count from here on: by distance, then instance, then triangle. So a ray goes on behind a hit, skipping none. */
let afterT: f32 = 0;
let afterInstance: i32 = -1;
let afterTriangle: i32 = -1;

// @ts-ignore: decorator
@inline export function foundT(): f32 { return best; }
// @ts-ignore: decorator
@inline export function foundB1(): f32 { return bestB1; }
// @ts-ignore: decorator
@inline export function foundB2(): f32 { return bestB2; }
// @ts-ignore: decorator
@inline export function foundInstance(): i32 { return bestInstance; }

// The ray under way: per instance, set by aim().
let rox: v128 = f32x4.splat(0);
let roy: v128 = f32x4.splat(0);
let roz: v128 = f32x4.splat(0);
let rix: v128 = f32x4.splat(0);
let riy: v128 = f32x4.splat(0);
let riz: v128 = f32x4.splat(0);
let nearX: usize = 0;
let nearY: usize = 0;
let nearZ: usize = 0;
let kx: usize = 0;
let ky: usize = 0;
let kz: usize = 0;
let okx: v128 = f32x4.splat(0);
let oky: v128 = f32x4.splat(0);
let okz: v128 = f32x4.splat(0);
let shx: v128 = f32x4.splat(0);
let shy: v128 = f32x4.splat(0);
let shz: v128 = f32x4.splat(0);

// @ts-ignore: decorator
@inline function reciprocal(d: f32): f32 {
  const r = <f32>1 / d;
  return max(-HUGE, min(HUGE, r));
}

// @ts-ignore: decorator
@inline function aim(ox: f32, oy: f32, oz: f32, dx: f32, dy: f32, dz: f32): void {
  rox = f32x4.splat(ox);
  roy = f32x4.splat(oy);
  roz = f32x4.splat(oz);
  rix = f32x4.splat(reciprocal(dx));
  riy = f32x4.splat(reciprocal(dy));
  riz = f32x4.splat(reciprocal(dz));
  // byte offset of the near plane inside a node: minimum first, maximum 16 bytes on
  nearX = reciprocal(dx) < 0 ? 16 : 0;
  nearY = reciprocal(dy) < 0 ? 48 : 32;
  nearZ = reciprocal(dz) < 0 ? 80 : 64;
  const ax = abs(dx);
  const ay = abs(dy);
  const az = abs(dz);
  let sk: f32;
  if (ax > ay && ax > az) {
    kz = 0; kx = 16; ky = 32;
    okz = rox; okx = roy; oky = roz;
    sk = <f32>1 / dx;
    shx = f32x4.splat(dy * sk);
    shy = f32x4.splat(dz * sk);
  } else if (ay > az) {
    kz = 16; kx = 32; ky = 0;
    okz = roy; okx = roz; oky = rox;
    sk = <f32>1 / dy;
    shx = f32x4.splat(dz * sk);
    shy = f32x4.splat(dx * sk);
  } else {
    kz = 32; kx = 0; ky = 16;
    okz = roz; okx = rox; oky = roy;
    sk = <f32>1 / dz;
    shx = f32x4.splat(dx * sk);
    shy = f32x4.splat(dy * sk);
  }
  shz = f32x4.splat(sk);
}

/** What a walk asks for: `Closest` and `Any` are told apart when the kernel is compiled. */
type Closest = i32;
type Any = f32;

/**
 * Walks one solid's tree along a ray in its frame. Any: whether something lies on it. Closest: betters what has been
 * found so far.
 * Invariants: the stack holds (reference, entry distance) pairs; entries of one node lie nearest on top; the 16 bytes
 * above the top are free.
 */
function walkSolid<Q>(nodes: usize, packs: usize, instance: i32, tmin: f32): bool {
  // copied from the globals: locals stay in registers
  const orgX = rox;
  const orgY = roy;
  const orgZ = roz;
  const invX = rix;
  const invY = riy;
  const invZ = riz;
  const nx = nearX;
  const ny = nearY;
  const nz = nearZ;
  const lx = kx;
  const ly = ky;
  const lz = kz;
  const ox4 = okx;
  const oy4 = oky;
  const oz4 = okz;
  const shearX = shx;
  const shearY = shy;
  const scaleZ = shz;
  const floor = stack;
  const zero = f32x4.splat(0);
  const vmin = f32x4.splat(tmin);
  let nearest = best;
  let top: usize = floor;
  let current: i32 = 0;
  while (true) {
    if (current >= 0) {
      const at = nodes + <usize>current * NODE_BYTES;
      const farX = nx ^ 16;
      const farY = ny ^ 16;
      const farZ = nz ^ 16;
      const enter = f32x4.mul(
        f32x4.pmax(
          f32x4.pmax(
            f32x4.mul(f32x4.sub(v128.load(at + nx), orgX), invX),
            f32x4.mul(f32x4.sub(v128.load(at + ny), orgY), invY),
          ),
          f32x4.pmax(f32x4.mul(f32x4.sub(v128.load(at + nz), orgZ), invZ), vmin),
        ),
        f32x4.splat(NARROW),
      );
      const leave = f32x4.pmin(
        f32x4.mul(
          f32x4.pmin(
            f32x4.pmin(
              f32x4.mul(f32x4.sub(v128.load(at + farX), orgX), invX),
              f32x4.mul(f32x4.sub(v128.load(at + farY), orgY), invY),
            ),
            f32x4.mul(f32x4.sub(v128.load(at + farZ), orgZ), invZ),
          ),
          f32x4.splat(WIDEN),
        ),
        f32x4.splat(nearest),
      );
      let mask = i32x4.bitmask(f32x4.le(enter, leave));
      if (mask !== 0) {
        const first = ctz(mask);
        mask &= mask - 1;
        const refs = at + NODE_CHILDREN;
        if (mask === 0) {
          current = load<i32>(refs + (<usize>first << 2));
          continue;
        }
        if (isFloat<Q>()) {
          // in any order: the first hit ends the walk
          current = load<i32>(refs + (<usize>first << 2));
          while (mask !== 0) {
            store<i32>(top, load<i32>(refs + (<usize>ctz(mask) << 2)));
            top += 8;
            mask &= mask - 1;
          }
          continue;
        }
        const entries = top;
        const t0 = f32x4.extract_lane(enter, 0);
        const t1 = f32x4.extract_lane(enter, 1);
        const t2 = f32x4.extract_lane(enter, 2);
        const t3 = f32x4.extract_lane(enter, 3);
        let closer = first === 0 ? t0 : first === 1 ? t1 : t2;
        let chosen = load<i32>(refs + (<usize>first << 2));
        while (mask !== 0) {
          const lane = ctz(mask);
          mask &= mask - 1;
          const t = lane === 1 ? t1 : lane === 2 ? t2 : t3;
          const ref = load<i32>(refs + (<usize>lane << 2));
          let pushT = t;
          let pushRef = ref;
          if (t < closer) {
            pushT = closer;
            pushRef = chosen;
            closer = t;
            chosen = ref;
          }
          // keep this node's entries sorted, nearest on top
          let slot = top;
          while (slot > entries && load<f32>(slot - 4) < pushT) {
            store<i64>(slot, load<i64>(slot - 8));
            slot -= 8;
          }
          store<i32>(slot, pushRef);
          store<f32>(slot + 4, pushT);
          top += 8;
        }
        current = chosen;
        continue;
      }
    } else {
      const ref = ~current;
      let pack = packs + <usize>(ref >> LEAF_SHIFT) * PACK_BYTES;
      let left = ref & 7;
      while (left > 0) {
        const az = f32x4.sub(v128.load(pack + lz), oz4);
        const bz = f32x4.sub(v128.load(pack + PACK_CORNER + lz), oz4);
        const cz = f32x4.sub(v128.load(pack + 2 * PACK_CORNER + lz), oz4);
        const ax = f32x4.sub(f32x4.sub(v128.load(pack + lx), ox4), f32x4.mul(shearX, az));
        const ay = f32x4.sub(f32x4.sub(v128.load(pack + ly), oy4), f32x4.mul(shearY, az));
        const bx = f32x4.sub(f32x4.sub(v128.load(pack + PACK_CORNER + lx), ox4), f32x4.mul(shearX, bz));
        const by = f32x4.sub(f32x4.sub(v128.load(pack + PACK_CORNER + ly), oy4), f32x4.mul(shearY, bz));
        const cx = f32x4.sub(f32x4.sub(v128.load(pack + 2 * PACK_CORNER + lx), ox4), f32x4.mul(shearX, cz));
        const cy = f32x4.sub(f32x4.sub(v128.load(pack + 2 * PACK_CORNER + ly), oy4), f32x4.mul(shearY, cz));
        const u = f32x4.sub(f32x4.mul(cx, by), f32x4.mul(cy, bx));
        const v = f32x4.sub(f32x4.mul(ax, cy), f32x4.mul(ay, cx));
        const w = f32x4.sub(f32x4.mul(bx, ay), f32x4.mul(by, ax));
        const low = f32x4.pmin(f32x4.pmin(u, v), w);
        const high = f32x4.pmax(f32x4.pmax(u, v), w);
        const inside = v128.or(f32x4.ge(low, zero), f32x4.le(high, zero));
        if (v128.any_true(inside)) {
          const det = f32x4.add(f32x4.add(u, v), w);
          const scaled = f32x4.add(
            f32x4.add(f32x4.mul(u, f32x4.mul(scaleZ, az)), f32x4.mul(v, f32x4.mul(scaleZ, bz))),
            f32x4.mul(w, f32x4.mul(scaleZ, cz)),
          );
          const t = f32x4.div(scaled, det);
          const met = v128.and(
            v128.and(inside, f32x4.ne(det, zero)),
            v128.and(f32x4.ge(t, vmin), f32x4.le(t, f32x4.splat(nearest))),
          );
          if (isFloat<Q>()) {
            if (v128.any_true(met)) return true;
            pack += PACK_BYTES;
            left--;
            continue;
          }
          let mask = i32x4.bitmask(met);
          while (mask !== 0) {
            const lane = ctz(mask);
            mask &= mask - 1;
            // read lanes through the free floor slots above the top
            v128.store(top, t);
            const tl = load<f32>(top + (<usize>lane << 2));
            const id = load<i32>(pack + PACK_IDS + (<usize>lane << 2));
            if (tl === afterT && (instance < afterInstance || (instance === afterInstance && id <= afterTriangle)))
              continue;
            if (tl < nearest || (tl === nearest && comesFirst(instance, id))) {
              nearest = tl;
              bestId = id;
              bestInstance = instance;
              v128.store(top, f32x4.div(v, det));
              bestB1 = load<f32>(top + (<usize>lane << 2));
              v128.store(top, f32x4.div(w, det));
              bestB2 = load<f32>(top + (<usize>lane << 2));
            }
          }
        }
        pack += PACK_BYTES;
        left--;
      }
    }
    // next from the floor, skipping what a nearer hit has made pointless
    while (true) {
      if (top === floor) {
        best = nearest;
        return false;
      }
      top -= 8;
      if (isFloat<Q>()) break;
      if (load<f32>(top + 4) <= nearest) break;
    }
    current = load<i32>(top);
  }
}

/**
 * Walks the tree over instances. Any: 1 when something that casts a shadow lies on the ray, else 0. Closest: the
 * triangle number or -1.
 * @param from instance the ray leaves, or -1; it is met from `tmin` on, others already from `near` behind the start,
 * so that what touches the surface is not skipped
 */
// @ts-ignore: decorator
@inline function walk<Q>(
  ox: f32, oy: f32, oz: f32, tmin: f32, dx: f32, dy: f32, dz: f32, tmax: f32, from: i32, near: f32,
): i32 {
  best = tmax;
  bestId = -1;
  bestInstance = -1;
  const start = min(tmin, near);
  const orgX = f32x4.splat(ox);
  const orgY = f32x4.splat(oy);
  const orgZ = f32x4.splat(oz);
  const rx = reciprocal(dx);
  const ry = reciprocal(dy);
  const rz = reciprocal(dz);
  const invX = f32x4.splat(rx);
  const invY = f32x4.splat(ry);
  const invZ = f32x4.splat(rz);
  const nx: usize = rx < 0 ? 16 : 0;
  const ny: usize = ry < 0 ? 48 : 32;
  const nz: usize = rz < 0 ? 80 : 64;
  const vmin = f32x4.splat(start);
  const floor = topStack;
  let top = floor;
  let current: i32 = 0;
  while (true) {
    if (current >= 0) {
      const at = topNodes + <usize>current * NODE_BYTES;
      const enter = f32x4.pmax(
        f32x4.mul(
          f32x4.pmax(
            f32x4.pmax(
              f32x4.mul(f32x4.sub(v128.load(at + nx), orgX), invX),
              f32x4.mul(f32x4.sub(v128.load(at + ny), orgY), invY),
            ),
            f32x4.mul(f32x4.sub(v128.load(at + nz), orgZ), invZ),
          ),
          f32x4.splat(NARROW),
        ),
        vmin,
      );
      const leave = f32x4.pmin(
        f32x4.mul(
          f32x4.pmin(
            f32x4.pmin(
              f32x4.mul(f32x4.sub(v128.load(at + (nx ^ 16)), orgX), invX),
              f32x4.mul(f32x4.sub(v128.load(at + (ny ^ 16)), orgY), invY),
            ),
            f32x4.mul(f32x4.sub(v128.load(at + (nz ^ 16)), orgZ), invZ),
          ),
          f32x4.splat(WIDEN),
        ),
        f32x4.splat(best),
      );
      let mask = i32x4.bitmask(f32x4.le(enter, leave));
      if (mask !== 0) {
        const refs = at + NODE_CHILDREN;
        let nearer = ctz(mask);
        mask &= mask - 1;
        if (mask !== 0) {
          // the nearest next, the others on the stack as they come: there are few, and what is past is dropped
          v128.store(top + 64, enter);
          const lanes = top + 64;
          let t = load<f32>(lanes + (<usize>nearer << 2));
          while (mask !== 0) {
            const lane = ctz(mask);
            mask &= mask - 1;
            const other = load<f32>(lanes + (<usize>lane << 2));
            const swap = other < t;
            store<i32>(top, load<i32>(refs + (<usize>(swap ? nearer : lane) << 2)));
            store<f32>(top + 4, swap ? t : other);
            top += 8;
            if (swap) {
              nearer = lane;
              t = other;
            }
          }
        }
        current = load<i32>(refs + (<usize>nearer << 2));
        continue;
      }
    } else {
      const number = ~current >> LEAF_SHIFT;
      const at = instances + <usize>number * INSTANCE_BYTES;
      if ((isInteger<Q>() || (load<i32>(at + INSTANCE_FLAGS) & CASTS_SHADOW) !== 0) && !isAway(at)) {
        const m = at + INSTANCE_TO_SOLID;
        const c0 = v128.load(m);
        const c1 = v128.load(m, 16);
        const c2 = v128.load(m, 32);
        const d = f32x4.add(
          f32x4.add(f32x4.mul(c0, f32x4.splat(dx)), f32x4.mul(c1, f32x4.splat(dy))),
          f32x4.mul(c2, f32x4.splat(dz)),
        );
        const o = f32x4.add(
          f32x4.add(f32x4.mul(c0, orgX), f32x4.mul(c1, orgY)),
          f32x4.add(f32x4.mul(c2, orgZ), v128.load(m, 48)),
        );
        aim(
          f32x4.extract_lane(o, 0), f32x4.extract_lane(o, 1), f32x4.extract_lane(o, 2),
          f32x4.extract_lane(d, 0), f32x4.extract_lane(d, 1), f32x4.extract_lane(d, 2),
        );
        const met = walkSolid<Q>(
          load<u32>(at + INSTANCE_NODES), load<u32>(at + INSTANCE_PACKS), number, number === from ? tmin : start,
        );
        if (isFloat<Q>() && met) return 1;
      }
    }
    while (true) {
      if (top === floor) return isFloat<Q>() ? 0 : bestId;
      top -= 8;
      if (load<f32>(top + 4) <= best) break;
    }
    current = load<i32>(top);
  }
}

/** Closest hit from `tmin` on; see walk. */
export function closest(
  ox: f32, oy: f32, oz: f32, tmin: f32, dx: f32, dy: f32, dz: f32, tmax: f32, from: i32, near: f32,
): i32 {
  afterT = -HUGE;
  return walk<Closest>(ox, oy, oz, tmin, dx, dy, dz, tmax, from, near);
}

/** Closest hit behind one already met on the same ray, or beside it at the same distance. */
export function closestAfter(
  ox: f32, oy: f32, oz: f32, dx: f32, dy: f32, dz: f32, tmax: f32, t: f32, instance: i32, triangle: i32,
): i32 {
  afterT = t;
  afterInstance = instance;
  afterTriangle = triangle;
  return walk<Closest>(ox, oy, oz, t, dx, dy, dz, tmax, -1, t);
}

/** Whether anything that casts a shadow lies on the ray: 1 or 0. */
export function occluded(
  ox: f32, oy: f32, oz: f32, tmin: f32, dx: f32, dy: f32, dz: f32, tmax: f32, from: i32, near: f32,
): i32 {
  return walk<Any>(ox, oy, oz, tmin, dx, dy, dz, tmax, from, near);
}
