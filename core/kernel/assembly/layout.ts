// Written by core/kernel/compile.mjs from layout.mjs, where it is drawn: change it there.

// Bytes of a node.
// @ts-ignore: decorator
@inline export const NODE_BYTES: usize = 128;

// Where a node has its child references.
// @ts-ignore: decorator
@inline export const NODE_CHILDREN: usize = 96;

// Bytes of a pack of four triangles.
// @ts-ignore: decorator
@inline export const PACK_BYTES: usize = 160;

// From one corner of a pack to the next.
// @ts-ignore: decorator
@inline export const PACK_CORNER: usize = 48;

// Where a pack has its triangle numbers.
// @ts-ignore: decorator
@inline export const PACK_IDS: usize = 144;

// A leaf reference is the complement of (first pack << this | packs).
// @ts-ignore: decorator
@inline export const LEAF_SHIFT: i32 = 3;

// Bytes of a ray: origin, tmin, direction, tmax.
// @ts-ignore: decorator
@inline export const RAY_BYTES: usize = 32;

// Bytes of a hit: t, b1, b2, triangle.
// @ts-ignore: decorator
@inline export const HIT_BYTES: usize = 16;

// Where a hit has its triangle; t and the barycentrics come before.
// @ts-ignore: decorator
@inline export const HIT_TRIANGLE: usize = 12;

// The kernel keeps its own constants below this address.
// @ts-ignore: decorator
@inline export const FLOOR: usize = 4096;

// Bytes of one instance’s stack.
// @ts-ignore: decorator
@inline export const STACK_BYTES: usize = 16384;

// Where a lane has its last hit.
// @ts-ignore: decorator
@inline export const LANE_HIT: usize = 16384;

// Where a lane has the rays of a batch.
// @ts-ignore: decorator
@inline export const LANE_RAYS: usize = 16448;

// Where a lane has the hits of a batch.
// @ts-ignore: decorator
@inline export const LANE_HITS: usize = 49216;

// Bytes of a lane.
// @ts-ignore: decorator
@inline export const LANE_BYTES: usize = 65600;

// Rays a batch may hold.
// @ts-ignore: decorator
@inline export const BATCH_RAYS: i32 = 1024;

// Most memory the shared module declares, in pages of 64 KiB.
// @ts-ignore: decorator
@inline export const MOST_PAGES: i32 = 32768;
