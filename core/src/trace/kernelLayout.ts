/** Written by core/kernel/compile.mjs from layout.mjs, where it is drawn: change it there. */

/** Bytes of a node. */
export const NODE_BYTES = 128;

/** Where a node has its child references. */
export const NODE_CHILDREN = 96;

/** Bytes of a pack of four triangles. */
export const PACK_BYTES = 160;

/** From one corner of a pack to the next. */
export const PACK_CORNER = 48;

/** Where a pack has its triangle numbers. */
export const PACK_IDS = 144;

/** A leaf reference is the complement of (first pack << this | packs). */
export const LEAF_SHIFT = 3;

/** Bytes of a ray: origin, tmin, direction, tmax. */
export const RAY_BYTES = 32;

/** Bytes of a hit: t, b1, b2, triangle. */
export const HIT_BYTES = 16;

/** Where a hit has its triangle; t and the barycentrics come before. */
export const HIT_TRIANGLE = 12;

/** The kernel keeps its own constants below this address. */
export const FLOOR = 4096;

/** Bytes of one instance’s stack. */
export const STACK_BYTES = 16384;

/** Where a lane has its last hit. */
export const LANE_HIT = 16384;

/** Where a lane has the rays of a batch. */
export const LANE_RAYS = 16448;

/** Where a lane has the hits of a batch. */
export const LANE_HITS = 49216;

/** Bytes of a lane. */
export const LANE_BYTES = 65600;

/** Rays a batch may hold. */
export const BATCH_RAYS = 1024;

/** Most memory the shared module declares, in pages of 64 KiB. */
export const MOST_PAGES = 32768;
