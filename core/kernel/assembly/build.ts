// Surface-area-heuristic builder: a binned binary tree whose leaf cost counts packs of four triangles,
// then collapsed to four children a node (Wald et al., "Getting Rid of Packets", 2008).
import {
  INSTANCE_BYTES, INSTANCE_NODES, LEAF_SHIFT, NODE_BYTES, NODE_CHILDREN, PACK_BYTES, PACK_IDS, TRIANGLE_BYTES,
} from './layout';

/** A box no ray enters. */
const NOWHERE: f32 = 1e30;

const BINS: i32 = 16;
/** Most triangles of a leaf; leaves of the tree over instances hold one. */
const MAX_LEAF: i32 = 8;
/** Cost of visiting a node against testing one pack. */
const VISIT_COST: f32 = 1.1;
/** Boxes are widened by this share of their coordinates, so that rounding never culls a true hit. */
const PAD: f32 = 1e-6;

// Binary node, 40 bytes: min xyz, max xyz, left child or first triangle, count (0: inner), spare.
const BIN_BYTES: usize = 40;

/** Bytes of scratch the builder needs for `n` triangles. */
export function scratchBytes(n: i32): i32 {
  return n * 24 + n * 4 + (2 * n + 2) * <i32>BIN_BYTES + BINS * 32 * 3 + 4096 * 4 + 64;
}
/** Upper bound of the bytes of finished nodes for `n` triangles. */
export function nodeBytes(n: i32): i32 {
  return (n + 1) * <i32>NODE_BYTES;
}
/** Upper bound of the bytes of finished packs for `n` triangles. */
export function packBytes(n: i32): i32 {
  return (n + 1) * <i32>PACK_BYTES;
}

let boxes: usize = 0;
let order: usize = 0;
let tree: usize = 0;
let bins: usize = 0;
let work: usize = 0;
let treeCount: i32 = 0;
let nodesOut: usize = 0;
let packsOut: usize = 0;
let nodeCount: i32 = 0;
let packCount: i32 = 0;
let source: usize = 0;
/** Whether the boxes are of instances rather than triangles. */
let overInstances: bool = false;
let maxLeaf: i32 = MAX_LEAF;

// @ts-ignore: decorator
@inline function ld(p: usize, i: i32): f32 {
  return load<f32>(p + (<usize>i << 2));
}
// @ts-ignore: decorator
@inline function st(p: usize, i: i32, v: f32): void {
  store<f32>(p + (<usize>i << 2), v);
}
// @ts-ignore: decorator
@inline function centroid(tri: u32, axis: i32): f32 {
  const b = boxes + <usize>tri * 24;
  return ld(b, axis) + ld(b, axis + 3);
}
// @ts-ignore: decorator
@inline function halfArea(p: usize): f32 {
  const dx = ld(p, 3) - ld(p, 0);
  const dy = ld(p, 4) - ld(p, 1);
  const dz = ld(p, 5) - ld(p, 2);
  return dx * dy + dy * dz + dz * dx;
}
// @ts-ignore: decorator
@inline function emptyBox(p: usize): void {
  for (let a = 0; a < 3; a++) {
    st(p, a, NOWHERE);
    st(p, a + 3, -NOWHERE);
  }
}
// @ts-ignore: decorator
@inline function growBox(p: usize, q: usize): void {
  for (let a = 0; a < 3; a++) {
    st(p, a, min(ld(p, a), ld(q, a)));
    st(p, a + 3, max(ld(p, a + 3), ld(q, a + 3)));
  }
}

/** Nodes and packs the last build wrote. */
export function nodesBuilt(): i32 {
  return nodeCount;
}
export function packsBuilt(): i32 {
  return packCount;
}

// @ts-ignore: decorator
@inline function begin(n: i32, scratch: usize, nodes: usize): void {
  boxes = scratch;
  order = boxes + <usize>n * 24;
  tree = order + <usize>n * 4;
  bins = tree + <usize>(2 * n + 2) * BIN_BYTES;
  work = bins + <usize>(BINS * 32 * 3);
  nodesOut = nodes;
  nodeCount = 0;
  packCount = 0;
  for (let i = 0; i < n; i++) store<u32>(order + (<usize>i << 2), i);
}

/** Writes a box, widened against rounding. */
// @ts-ignore: decorator
@inline function padded(b: usize, a: i32, lo: f32, hi: f32): void {
  const pad = max(abs(lo), abs(hi)) * PAD + <f32>1e-9;
  st(b, a, lo - pad);
  st(b, a + 3, hi + pad);
}

/** Builds the tree over `n` triangles, TRIANGLE_BYTES each. Writes nodes and packs; node 0 is the root. */
export function build(triangles: usize, n: i32, scratch: usize, nodes: usize, packs: usize): void {
  source = triangles;
  overInstances = false;
  maxLeaf = MAX_LEAF;
  begin(n, scratch, nodes);
  packsOut = packs;
  for (let i = 0; i < n; i++) {
    const b = boxes + <usize>i * 24;
    const p = triangles + <usize>i * TRIANGLE_BYTES;
    for (let a = 0; a < 3; a++) {
      const lo = min(ld(p, a), min(ld(p, a + 3), ld(p, a + 6)));
      const hi = max(ld(p, a), max(ld(p, a + 3), ld(p, a + 6)));
      padded(b, a, lo, hi);
    }
  }
  split(n);
  emitNode(0);
}

/** Builds the tree over `n` instances, from the boxes of their solids' roots. Node 0 is the root. */
export function buildTop(instances: usize, n: i32, scratch: usize, nodes: usize): void {
  overInstances = true;
  maxLeaf = 1;
  begin(n, scratch, nodes);
  for (let i = 0; i < n; i++) worldBox(instances + <usize>i * INSTANCE_BYTES, boxes + <usize>i * 24);
  split(n);
  emitNode(0);
}

/** Box in the world of an instance's solid: by axis, what each side of its root's box gives at least and at most. */
function worldBox(instance: usize, out: usize): void {
  const root = load<u32>(instance + INSTANCE_NODES);
  for (let a = 0; a < 3; a++) {
    let lo: f32 = ld(instance, 12 + a);
    let hi: f32 = lo;
    for (let c = 0; c < 3; c++) {
      let least: f32 = NOWHERE;
      let most: f32 = -NOWHERE;
      for (let k = 0; k < 4; k++) {
        least = min(least, ld(root + <usize>(c * 32), k));
        most = max(most, ld(root + <usize>(c * 32 + 16), k));
      }
      const m = ld(instance, c * 4 + a);
      lo += min(m * least, m * most);
      hi += max(m * least, m * most);
    }
    padded(out, a, lo, hi);
  }
}

function makeTreeNode(first: i32, count: i32): i32 {
  const at = tree + <usize>treeCount * BIN_BYTES;
  emptyBox(at);
  for (let i = first; i < first + count; i++) {
    growBox(at, boxes + <usize>load<u32>(order + (<usize>i << 2)) * 24);
  }
  store<i32>(at + 24, first);
  store<i32>(at + 28, count);
  return treeCount++;
}

/** Splits the binary tree from the root down, with an explicit stack of node numbers. */
function split(n: i32): void {
  treeCount = 0;
  makeTreeNode(0, n);
  let top = 0;
  store<i32>(work, 0);
  top = 1;
  while (top > 0) {
    top--;
    const id = load<i32>(work + (<usize>top << 2));
    const at = tree + <usize>id * BIN_BYTES;
    const first = load<i32>(at + 24);
    const count = load<i32>(at + 28);
    if (count === 1 || (count <= maxLeaf && (count <= 4 || top > 4000))) continue;
    const middle = partition(at, first, count);
    if (middle < 0) continue;
    const left = makeTreeNode(first, middle - first);
    makeTreeNode(middle, first + count - middle);
    store<i32>(at + 24, left);
    store<i32>(at + 28, 0);
    store<i32>(work + (<usize>top << 2), left);
    store<i32>(work + (<usize>(top + 1) << 2), left + 1);
    top += 2;
  }
}

/** Finds the cheapest binned split and reorders; the first triangle of the right half, or -1 for a leaf. */
function partition(at: usize, first: i32, count: i32): i32 {
  let bestAxis = -1;
  let bestBin = 0;
  let bestCost: f32 = <f32>1e38;
  let bestLow: f32 = 0;
  let bestScale: f32 = 0;
  const parentArea = max(halfArea(at), <f32>1e-30);
  for (let axis = 0; axis < 3; axis++) {
    let lo: f32 = <f32>1e38;
    let hi: f32 = <f32>-1e38;
    for (let i = first; i < first + count; i++) {
      const c = centroid(load<u32>(order + (<usize>i << 2)), axis);
      lo = min(lo, c);
      hi = max(hi, c);
    }
    if (!(hi > lo)) continue;
    const scale = <f32>BINS * <f32>0.99999 / (hi - lo);
    // bin: box 24 bytes, count 4 bytes, spare 4 bytes
    for (let b = 0; b < BINS; b++) {
      emptyBox(bins + <usize>b * 32);
      store<i32>(bins + <usize>b * 32 + 24, 0);
    }
    for (let i = first; i < first + count; i++) {
      const tri = load<u32>(order + (<usize>i << 2));
      const bin = bins + <usize>(<i32>((centroid(tri, axis) - lo) * scale)) * 32;
      growBox(bin, boxes + <usize>tri * 24);
      store<i32>(bin + 24, load<i32>(bin + 24) + 1);
    }
    // right-to-left sweep keeps areas and counts, left-to-right sweep prices each cut
    const right = bins + <usize>(BINS * 32);
    const run = right + <usize>(BINS * 8);
    emptyBox(run);
    let seen = 0;
    for (let b = BINS - 1; b > 0; b--) {
      const bin = bins + <usize>b * 32;
      growBox(run, bin);
      seen += load<i32>(bin + 24);
      store<f32>(right + <usize>b * 8, seen > 0 ? halfArea(run) : <f32>0);
      store<i32>(right + <usize>b * 8 + 4, seen);
    }
    emptyBox(run);
    seen = 0;
    for (let b = 0; b < BINS - 1; b++) {
      const bin = bins + <usize>b * 32;
      growBox(run, bin);
      seen += load<i32>(bin + 24);
      const other = load<i32>(right + <usize>(b + 1) * 8 + 4);
      if (seen === 0 || other === 0) continue;
      const cost =
        halfArea(run) * <f32>((seen + 3) >> 2) +
        load<f32>(right + <usize>(b + 1) * 8) * <f32>((other + 3) >> 2);
      if (cost < bestCost) {
        bestCost = cost;
        bestAxis = axis;
        bestBin = b;
        bestLow = lo;
        bestScale = scale;
      }
    }
  }
  if (bestAxis < 0) {
    // all centroids coincide: halve by number
    return count <= maxLeaf ? -1 : first + (count >> 1);
  }
  if (count <= maxLeaf && VISIT_COST + bestCost / parentArea >= <f32>((count + 3) >> 2)) return -1;
  let i = first;
  let j = first + count - 1;
  while (i <= j) {
    const tri = load<u32>(order + (<usize>i << 2));
    if (<i32>((centroid(tri, bestAxis) - bestLow) * bestScale) <= bestBin) {
      i++;
    } else {
      store<u32>(order + (<usize>i << 2), load<u32>(order + (<usize>j << 2)));
      store<u32>(order + (<usize>j << 2), tri);
      j--;
    }
  }
  return i;
}

function emitLeaf(at: usize): i32 {
  const first = load<i32>(at + 24);
  if (overInstances) return ~((load<i32>(order + (<usize>first << 2)) << LEAF_SHIFT) | 1);
  const count = load<i32>(at + 28);
  const start = packCount;
  const packs = (count + 3) >> 2;
  for (let k = 0; k < packs; k++) {
    const out = packsOut + <usize>packCount * PACK_BYTES;
    memory.fill(out, 0, PACK_IDS);
    for (let lane = 0; lane < 4; lane++) {
      const i = k * 4 + lane;
      if (i < count) {
        const tri = load<u32>(order + (<usize>(first + i) << 2));
        const p = source + <usize>tri * TRIANGLE_BYTES;
        for (let c = 0; c < 9; c++) store<f32>(out + <usize>(c * 16 + lane * 4), ld(p, c));
        store<u32>(out + PACK_IDS + <usize>(lane * 4), tri);
      } else {
        // all three corners alike: the determinant is exactly zero, so the lane never hits
        store<u32>(out + PACK_IDS + <usize>(lane * 4), 0x7fffffff);
      }
    }
    packCount++;
  }
  return ~((start << LEAF_SHIFT) | packs);
}

/** Emits the four-wide node for binary node `id` (a leaf root gets a node of one child). */
function emitNode(id: i32): i32 {
  const mine = nodeCount++;
  let c0 = id;
  let c1 = -1;
  let c2 = -1;
  let c3 = -1;
  let used = 1;
  while (used < 4) {
    // open the inner child of greatest area
    let widest = -1;
    let area: f32 = -1;
    for (let k = 0; k < used; k++) {
      const c = k === 0 ? c0 : k === 1 ? c1 : c2;
      const at = tree + <usize>c * BIN_BYTES;
      if (load<i32>(at + 28) === 0 && halfArea(at) > area) {
        area = halfArea(at);
        widest = k;
      }
    }
    if (widest < 0) break;
    const opened = widest === 0 ? c0 : widest === 1 ? c1 : c2;
    const left = load<i32>(tree + <usize>opened * BIN_BYTES + 24);
    if (widest === 0) c0 = left;
    else if (widest === 1) c1 = left;
    else c2 = left;
    if (used === 1) c1 = left + 1;
    else if (used === 2) c2 = left + 1;
    else c3 = left + 1;
    used++;
  }
  const out = nodesOut + <usize>mine * NODE_BYTES;
  for (let k = 0; k < 4; k++) {
    const c = k === 0 ? c0 : k === 1 ? c1 : k === 2 ? c2 : c3;
    const lane = <usize>(k * 4);
    if (k >= used) {
      for (let a = 0; a < 3; a++) {
        store<f32>(out + <usize>(a * 32) + lane, NOWHERE);
        store<f32>(out + <usize>(a * 32 + 16) + lane, -NOWHERE);
      }
      store<i32>(out + NODE_CHILDREN + lane, -1);
      continue;
    }
    const at = tree + <usize>c * BIN_BYTES;
    for (let a = 0; a < 3; a++) {
      store<f32>(out + <usize>(a * 32) + lane, ld(at, a));
      store<f32>(out + <usize>(a * 32 + 16) + lane, ld(at, a + 3));
    }
    const child = load<i32>(at + 28) > 0 ? emitLeaf(at) : emitNode(c);
    store<i32>(out + NODE_CHILDREN + lane, child);
  }
  return mine;
}
