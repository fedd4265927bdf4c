// Byte layout shared by the builder and the traversal.

/** Four child boxes as six lanes of four floats, then four child references. */
// @ts-ignore: decorator
@inline export const NODE_BYTES: usize = 128;
// @ts-ignore: decorator
@inline export const NODE_CHILDREN: usize = 96;

/** Four triangles: nine lanes of four floats (v0 xyz, v1 xyz, v2 xyz), then four triangle numbers. */
// @ts-ignore: decorator
@inline export const PACK_BYTES: usize = 160;
// @ts-ignore: decorator
@inline export const PACK_IDS: usize = 144;

/** A leaf reference is the complement of (first pack << 3 | packs). */
// @ts-ignore: decorator
@inline export const LEAF_SHIFT: i32 = 3;

/** A box no ray enters. */
// @ts-ignore: decorator
@inline export const NOWHERE: f32 = 1e30;
