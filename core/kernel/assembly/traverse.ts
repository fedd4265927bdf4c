// Closest-hit and any-hit traversal: one ray against four boxes, one ray against four triangles.
// Triangles are tested by the watertight method of Woop, Benthin and Wald (JCGT 2013) in single precision:
// a shared edge gives exactly opposite edge values on both sides, so no ray slips between neighbours.
import {
  CASTS_SHADOW, INSTANCE_BYTES, INSTANCE_FLAGS, INSTANCE_NODES, INSTANCE_PACKS, INSTANCE_TO_SOLID, INSTANCE_TURN,
  IS_LIGHT, LANE_TOP_STACK, LEAF_SHIFT, NODE_BYTES, NODE_CHILDREN, PACK_BYTES, PACK_CORNER, PACK_IDS,
  STAYS,
} from './layout';

/**
 * Slabs are left later than rounding could have it that they are entered: two roundings each way (Ize, "Robust BVH Ray
 * Traversal", JCGT 2013).
 */
const WIDEN: f32 = 1.000001;
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

// The ray under way, as an instance has it: set by turnTo and startAt.
let rox: v128 = f32x4.splat(0);
let roy: v128 = f32x4.splat(0);
let roz: v128 = f32x4.splat(0);
let rix: v128 = f32x4.splat(0);
let riy: v128 = f32x4.splat(0);
let riz: v128 = f32x4.splat(0);
// one over the direction, widened
let wix: v128 = f32x4.splat(0);
let wiy: v128 = f32x4.splat(0);
let wiz: v128 = f32x4.splat(0);
// byte offsets of the near planes inside a node: minimum first, maximum 16 bytes on
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

/** One over a direction; huge where it is nought. Four at a time: least and greatest of single numbers take branches. */
// @ts-ignore: decorator
@inline function reciprocals(d: v128): v128 {
  return f32x4.pmax(f32x4.splat(-HUGE), f32x4.pmin(f32x4.splat(HUGE), f32x4.div(f32x4.splat(1), d)));
}
// @ts-ignore: decorator
@inline function lane0(v: v128): v128 { return v128.shuffle<f32>(v, v, 0, 0, 0, 0); }
// @ts-ignore: decorator
@inline function lane1(v: v128): v128 { return v128.shuffle<f32>(v, v, 1, 1, 1, 1); }
// @ts-ignore: decorator
@inline function lane2(v: v128): v128 { return v128.shuffle<f32>(v, v, 2, 2, 2, 2); }

/** Which way the ray goes. */
// @ts-ignore: decorator
@inline function turnTo(d: v128): void {
  const r = reciprocals(d);
  const signs = <usize>i32x4.bitmask(r);
  rix = lane0(r);
  riy = lane1(r);
  riz = lane2(r);
  const wide = f32x4.mul(r, f32x4.splat(WIDEN));
  wix = lane0(wide);
  wiy = lane1(wide);
  wiz = lane2(wide);
  nearX = (signs & 1) << 4;
  nearY = 32 + ((signs & 2) << 3);
  nearZ = 64 + ((signs & 4) << 2);
  const sides = f32x4.abs(d);
  const ax = f32x4.extract_lane(sides, 0);
  const ay = f32x4.extract_lane(sides, 1);
  const az = f32x4.extract_lane(sides, 2);
  // the longest side first, without a branch that nobody could foretell
  const isX = <usize>(ax > ay) & <usize>(ax > az);
  const isY = (<usize>(ay > az)) & (isX ^ 1);
  kz = 32 - (isX << 5) - (isY << 4);
  kx = (isX << 4) + (isY << 5);
  ky = 48 - kx - kz;
  const axes = stack;
  v128.store(axes, d);
  const sk: f32 = <f32>1 / load<f32>(axes + (kz >> 2));
  shx = f32x4.splat(load<f32>(axes + (kx >> 2)) * sk);
  shy = f32x4.splat(load<f32>(axes + (ky >> 2)) * sk);
  shz = f32x4.splat(sk);
}

/** Where the ray starts; after turnTo. */
// @ts-ignore: decorator
@inline function startAt(o: v128): void {
  rox = lane0(o);
  roy = lane1(o);
  roz = lane2(o);
  const axes = stack;
  v128.store(axes, o);
  okx = v128.load32_splat(axes + (kx >> 2));
  oky = v128.load32_splat(axes + (ky >> 2));
  okz = v128.load32_splat(axes + (kz >> 2));
}

/**
 * A child and where the ray enters it: the distance's bits above the reference, so that the nearer is the lesser number
 * (distances before the start are all alike).
 */
// @ts-ignore: decorator
@inline function entry(lanes: usize, refs: usize, lane: i32): i64 {
  return (<i64>load<i32>(lanes + (<usize>lane << 2)) << 32) | <i64>load<u32>(refs + (<usize>lane << 2));
}
// @ts-ignore: decorator
@inline function least(a: i64, b: i64): i64 { return select<i64>(a, b, a < b); }
// @ts-ignore: decorator
@inline function greatest(a: i64, b: i64): i64 { return select<i64>(b, a, a < b); }

/** What a walk asks for: `Closest` and `Any` are told apart when the kernel is compiled. */
type Closest = i32;
type Any = f32;

/**
 * Walks one solid's tree along a ray in its frame. Any: whether something lies on it. Closest: betters what has been
 * found so far.
 * Invariants: the stack holds (reference, entry distance) pairs; entries of one node lie nearest on top; the 48 bytes
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
  const wideX = wix;
  const wideY = wiy;
  const wideZ = wiz;
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
  let reach: f32 = nearest * WIDEN;
  let top: usize = floor;
  let current: i32 = 0;
  while (true) {
    if (current >= 0) {
      const at = nodes + <usize>current * NODE_BYTES;
      const farX = nx ^ 16;
      const farY = ny ^ 16;
      const farZ = nz ^ 16;
      const enter = f32x4.pmax(
        f32x4.pmax(
          f32x4.mul(f32x4.sub(v128.load(at + nx), orgX), invX),
          f32x4.mul(f32x4.sub(v128.load(at + ny), orgY), invY),
        ),
        f32x4.pmax(f32x4.mul(f32x4.sub(v128.load(at + nz), orgZ), invZ), vmin),
      );
      const leave = f32x4.pmin(
        f32x4.pmin(
          f32x4.mul(f32x4.sub(v128.load(at + farX), orgX), wideX),
          f32x4.mul(f32x4.sub(v128.load(at + farY), orgY), wideY),
        ),
        f32x4.pmin(f32x4.mul(f32x4.sub(v128.load(at + farZ), orgZ), wideZ), f32x4.splat(reach)),
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
        // two of them are the most frequent, and are told apart without a branch
        v128.store(top + 32, enter);
        const lanes = top + 32;
        let nearer = entry(lanes, refs, first);
        let other = entry(lanes, refs, ctz(mask));
        mask &= mask - 1;
        let low = least(nearer, other);
        let high = greatest(nearer, other);
        if (mask !== 0) {
          const third = entry(lanes, refs, ctz(mask));
          mask &= mask - 1;
          let middle = greatest(low, third);
          low = least(low, third);
          let far = greatest(middle, high);
          middle = least(middle, high);
          if (mask !== 0) {
            const fourth = entry(lanes, refs, ctz(mask));
            const second = greatest(low, fourth);
            low = least(low, fourth);
            const next = greatest(middle, second);
            middle = least(middle, second);
            store<i64>(top, greatest(far, next));
            top += 8;
            far = least(far, next);
          }
          store<i64>(top, far);
          top += 8;
          high = middle;
        }
        store<i64>(top, high);
        top += 8;
        current = <i32>low;
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
              reach = tl * WIDEN;
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
      if (load<f32>(top + 4) <= reach) break;
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
  const start: f32 = near < tmin ? near : tmin;
  const orgX = f32x4.splat(ox);
  const orgY = f32x4.splat(oy);
  const orgZ = f32x4.splat(oz);
  const world = f32x4.replace_lane(f32x4.replace_lane(f32x4.splat(dx), 1, dy), 2, dz);
  const inverse = reciprocals(world);
  const signs = <usize>i32x4.bitmask(inverse);
  const invX = lane0(inverse);
  const invY = lane1(inverse);
  const invZ = lane2(inverse);
  const wide = f32x4.mul(inverse, f32x4.splat(WIDEN));
  const wideX = lane0(wide);
  const wideY = lane1(wide);
  const wideZ = lane2(wide);
  // the turn the ray is aimed by: letters of a word mostly stand alike
  let aimed = -1;
  const nx: usize = (signs & 1) << 4;
  const ny: usize = 32 + ((signs & 2) << 3);
  const nz: usize = 64 + ((signs & 4) << 2);
  const vmin = f32x4.splat(start);
  const floor = topStack;
  let top = floor;
  let current: i32 = 0;
  while (true) {
    if (current >= 0) {
      const at = topNodes + <usize>current * NODE_BYTES;
      const enter = f32x4.pmax(
        f32x4.pmax(
          f32x4.mul(f32x4.sub(v128.load(at + nx), orgX), invX),
          f32x4.mul(f32x4.sub(v128.load(at + ny), orgY), invY),
        ),
        f32x4.pmax(f32x4.mul(f32x4.sub(v128.load(at + nz), orgZ), invZ), vmin),
      );
      const leave = f32x4.pmin(
        f32x4.pmin(
          f32x4.mul(f32x4.sub(v128.load(at + (nx ^ 16)), orgX), wideX),
          f32x4.mul(f32x4.sub(v128.load(at + (ny ^ 16)), orgY), wideY),
        ),
        f32x4.pmin(
          f32x4.mul(f32x4.sub(v128.load(at + (nz ^ 16)), orgZ), wideZ),
          f32x4.splat(best * WIDEN),
        ),
      );
      let mask = i32x4.bitmask(f32x4.le(enter, leave));
      if (mask !== 0) {
        const refs = at + NODE_CHILDREN;
        const lane = ctz(mask);
        mask &= mask - 1;
        if (mask === 0) {
          current = load<i32>(refs + (<usize>lane << 2));
          continue;
        }
        // the nearest next, the others on the stack as they come: there are few, and what is past is dropped
        const lanes = top + 32;
        v128.store(lanes, enter);
        let nearer = entry(lanes, refs, lane);
        while (mask !== 0) {
          const other = entry(lanes, refs, ctz(mask));
          mask &= mask - 1;
          store<i64>(top, greatest(nearer, other));
          top += 8;
          nearer = least(nearer, other);
        }
        current = <i32>nearer;
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
        const turn = load<i32>(at + INSTANCE_TURN);
        if (turn !== aimed) {
          const d = f32x4.add(
            f32x4.add(f32x4.mul(c0, f32x4.splat(dx)), f32x4.mul(c1, f32x4.splat(dy))),
            f32x4.mul(c2, f32x4.splat(dz)),
          );
          turnTo(d);
          aimed = turn;
        }
        const o = f32x4.add(
          f32x4.add(f32x4.mul(c0, orgX), f32x4.mul(c1, orgY)),
          f32x4.add(f32x4.mul(c2, orgZ), v128.load(m, 48)),
        );
        startAt(o);
        const met = walkSolid<Q>(
          load<u32>(at + INSTANCE_NODES), load<u32>(at + INSTANCE_PACKS), number, number === from ? tmin : start,
        );
        if (isFloat<Q>() && met) return 1;
      }
    }
    while (true) {
      if (top === floor) return isFloat<Q>() ? 0 : bestId;
      top -= 8;
      if (load<f32>(top + 4) <= best * WIDEN) break;
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
