// Where places of faces lie on the axes that a finish is fed along, for those who lay feeds down as pictures.
import { along01, face } from './axes';
import { F_RECIPE, LANE_WAVE, P_B1, P_B2, P_DX, P_DY, P_DZ, P_INSTANCE, P_NX, P_NY, P_NZ, P_TRIANGLE, R_AXES } from './layout';
import { finishAt, lane } from './scene';

/** Bytes of a place: its instance and triangle, two weights of the triangle's corners, the normal, one free. */
const PLACE_BYTES: usize = 32;

/**
 * Stands on places one after the other, looking straight at them.
 * @param finish number of one that has a recipe; @param axes of it, whose values stand one after the other at `out`
 * @param seen width that is told apart at least, metres
 */
export function axesAt(finish: i32, axes: i32, seen: f32, places: usize, count: i32, out: usize): void {
  const recipe = <usize>load<u32>(finishAt(finish), F_RECIPE);
  const first = recipe + load<u32>(recipe, R_AXES);
  const at = lane + LANE_WAVE;
  for (let i = 0; i < count; i++) {
    const place = places + <usize>i * PLACE_BYTES;
    store<i32>(at + P_INSTANCE, load<i32>(place));
    store<i32>(at + P_TRIANGLE, load<i32>(place, 4));
    store<f32>(at + P_B1, load<f32>(place, 8));
    store<f32>(at + P_B2, load<f32>(place, 12));
    store<f32>(at + P_NX, load<f32>(place, 16));
    store<f32>(at + P_NY, load<f32>(place, 20));
    store<f32>(at + P_NZ, load<f32>(place, 24));
    store<f32>(at + P_DX, -load<f32>(place, 16));
    store<f32>(at + P_DY, -load<f32>(place, 20));
    store<f32>(at + P_DZ, -load<f32>(place, 24));
    face(at, seen);
    for (let k = 0; k < axes; k++) store<f32>(out + (<usize>(i * axes + k) << 2), along01(first, k));
  }
}
