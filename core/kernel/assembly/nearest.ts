// How far away the nearest of other things is: the trees over instances and triangles, walked by distance to their
// boxes. Instances turn, shift and scale alike in all directions, so distances are those of the solid times its unit.
import {
  INSTANCE_BYTES, INSTANCE_FLAGS, INSTANCE_NODES, INSTANCE_PACKS, INSTANCE_TO_SOLID, IS_LIGHT, LEAF_SHIFT, NODE_BYTES,
  NODE_CHILDREN, PACK_BYTES, PACK_CORNER, PACK_IDS, SITE_BYTES, S_KIND, S_PER_METRE, S_PLACEMENT, S_UNIT,
} from './layout';
import { add, most, mul, splat, sub } from './lanes';
import { sites } from './scene';
import { topNodes, instances, stack, topStack } from './traverse';

/** Number of what fills up a pack (build.ts). */
const NO_TRIANGLE: i32 = 0x7fffffff;

/** Squared distances of a point to the four boxes of a node. */
// @ts-ignore: decorator
@inline function toBoxes(node: usize, x: v128, y: v128, z: v128): v128 {
  const zero = splat(0);
  const dx = most(zero, most(sub(v128.load(node), x), sub(x, v128.load(node, 16))));
  const dy = most(zero, most(sub(v128.load(node, 32), y), sub(y, v128.load(node, 48))));
  const dz = most(zero, most(sub(v128.load(node, 64), z), sub(z, v128.load(node, 80))));
  return add(mul(dx, dx), add(mul(dy, dy), mul(dz, dz)));
}

/** Puts a node's children that are nearer than the limit on a stack. @returns its new top */
function push(node: usize, d: v128, limit: f32, top: usize): usize {
  let mask = i32x4.bitmask(f32x4.lt(d, splat(limit)));
  while (mask !== 0) {
    const k = ctz(mask);
    mask &= mask - 1;
    store<i32>(top, load<i32>(node + NODE_CHILDREN + (<usize>k << 2)));
    top += 4;
  }
  return top;
}

/**
 * Squared distance of a point to a triangle (Ericson, "Real-Time Collision Detection", 2004, §5.1.5).
 * @param t where the first number of its first corner is; corners stand PACK_CORNER apart, numbers 16 bytes
 */
function toTriangle(t: usize, px: f32, py: f32, pz: f32): f32 {
  const ax = load<f32>(t);
  const ay = load<f32>(t, 16);
  const az = load<f32>(t, 32);
  const b = t + PACK_CORNER;
  const c = b + PACK_CORNER;
  const abx = load<f32>(b) - ax;
  const aby = load<f32>(b, 16) - ay;
  const abz = load<f32>(b, 32) - az;
  const acx = load<f32>(c) - ax;
  const acy = load<f32>(c, 16) - ay;
  const acz = load<f32>(c, 32) - az;
  const apx = px - ax;
  const apy = py - ay;
  const apz = pz - az;
  const d1 = abx * apx + aby * apy + abz * apz;
  const d2 = acx * apx + acy * apy + acz * apz;
  let v: f32 = 0;
  let u: f32 = 0;
  if (d1 > 0 || d2 > 0) {
    const bb = abx * abx + aby * aby + abz * abz;
    const bc = abx * acx + aby * acy + abz * acz;
    const cc = acx * acx + acy * acy + acz * acz;
    const d3 = d1 - bb;
    const d4 = d2 - bc;
    const d5 = d1 - bc;
    const d6 = d2 - cc;
    const vc = d1 * d4 - d3 * d2;
    const vb = d5 * d2 - d1 * d6;
    const va = d3 * d6 - d5 * d4;
    if (d3 >= 0 && d4 <= d3) v = 1;
    else if (vc <= 0 && d1 >= 0 && d3 <= 0) v = d1 / (d1 - d3);
    else if (d6 >= 0 && d5 <= d6) u = 1;
    else if (vb <= 0 && d2 >= 0 && d6 <= 0) u = d2 / (d2 - d6);
    else if (va <= 0 && d4 - d3 >= 0 && d5 - d6 >= 0) {
      u = (d4 - d3) / (d4 - d3 + (d5 - d6));
      v = <f32>1 - u;
    } else {
      const all = va + vb + vc;
      v = vb / all;
      u = vc / all;
    }
  }
  const dx = apx - abx * v - acx * u;
  const dy = apy - aby * v - acy * u;
  const dz = apz - abz * v - acz * u;
  return dx * dx + dy * dy + dz * dz;
}

/** Least squared distance of a point to a solid, in its frame, where that is under a limit. */
function toSolid(nodes: usize, packs: usize, x: f32, y: f32, z: f32, limit: f32): f32 {
  let best = limit;
  const vx = splat(x);
  const vy = splat(y);
  const vz = splat(z);
  let top = stack;
  store<i32>(top, 0);
  top += 4;
  while (top > stack) {
    top -= 4;
    const ref = load<i32>(top);
    if (ref >= 0) {
      const node = nodes + <usize>ref * NODE_BYTES;
      top = push(node, toBoxes(node, vx, vy, vz), best, top);
      continue;
    }
    const leaf = ~ref;
    const count = leaf & ((1 << LEAF_SHIFT) - 1);
    let pack = packs + <usize>(leaf >> LEAF_SHIFT) * PACK_BYTES;
    for (let i = 0; i < count; i++, pack += PACK_BYTES)
      for (let k: usize = 0; k < 4; k++)
        if (load<i32>(pack + PACK_IDS + (k << 2)) !== NO_TRIANGLE) best = least1(best, toTriangle(pack + (k << 2), x, y, z));
  }
  return best;
}

// not a number is no distance
// @ts-ignore: decorator
@inline function least1(a: f32, b: f32): f32 { return b < a ? b : a; }

/**
 * Distance to the nearest thing of a kind that is not of a placement, metres, at most `farthest`.
 * @param kind as sites have it: 0 the stage's pieces, 1 type
 */
export function nearestOther(x: f32, y: f32, z: f32, kind: i32, placement: i32, farthest: f32): f32 {
  let best: f32 = farthest * farthest;
  const vx = splat(x);
  const vy = splat(y);
  const vz = splat(z);
  let top = topStack;
  store<i32>(top, 0);
  top += 4;
  while (top > topStack) {
    top -= 4;
    const ref = load<i32>(top);
    if (ref >= 0) {
      const node = topNodes + <usize>ref * NODE_BYTES;
      top = push(node, toBoxes(node, vx, vy, vz), best, top);
      continue;
    }
    const number = <usize>(~ref >> LEAF_SHIFT);
    const at = instances + number * INSTANCE_BYTES;
    if ((load<i32>(at, INSTANCE_FLAGS) & IS_LIGHT) !== 0) continue;
    const site = sites + number * SITE_BYTES;
    if (load<i32>(site, S_KIND) !== kind || load<i32>(site, S_PLACEMENT) === placement) continue;
    const m = at + INSTANCE_TO_SOLID;
    const lx: f32 = load<f32>(m) * x + load<f32>(m, 16) * y + load<f32>(m, 32) * z + load<f32>(m, 48);
    const ly: f32 = load<f32>(m, 4) * x + load<f32>(m, 20) * y + load<f32>(m, 36) * z + load<f32>(m, 52);
    const lz: f32 = load<f32>(m, 8) * x + load<f32>(m, 24) * y + load<f32>(m, 40) * z + load<f32>(m, 56);
    const unit: f32 = load<f32>(site, S_UNIT) / load<f32>(site, S_PER_METRE);
    const found = toSolid(
      load<u32>(at, INSTANCE_NODES), load<u32>(at, INSTANCE_PACKS), lx, ly, lz, best / (unit * unit),
    );
    best = least1(best, found * unit * unit);
  }
  return sqrt<f32>(best);
}
