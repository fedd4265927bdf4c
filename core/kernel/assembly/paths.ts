// The fields of the paths of a wave: `at` is where the wave's fields begin, plus four times the path's number.
import { LANE_WAVE } from './layout';
import { lane } from './scene';

// @ts-ignore: decorator
@inline export function f(field: usize, at: usize): f32 { return load<f32>(at + field); }
// @ts-ignore: decorator
@inline export function w(field: usize, at: usize): i32 { return load<i32>(at + field); }
// @ts-ignore: decorator
@inline export function grow(field: usize, at: usize, by: f32): void { store<f32>(at + field, load<f32>(at + field) + by); }
// @ts-ignore: decorator
@inline export function scale(field: usize, at: usize, by: f32): void { store<f32>(at + field, load<f32>(at + field) * by); }
/** Where the fields of this thread's wave begin. */
// @ts-ignore: decorator
@inline export function waveAt(): usize { return lane + LANE_WAVE; }
/** Offset of a path's fields in a list of paths. */
// @ts-ignore: decorator
@inline export function entry(list: usize, i: i32): usize { return <usize>load<u32>(list + (<usize>i << 2)); }
