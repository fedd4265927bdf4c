// Finishes of coats and feeds: which of its plain surfaces a path meets.
import {
  COAT_BYTES, COAT_DIMS, C_COVER, C_COVER_AT, C_COVER_AXIS, C_COVER_COUNT, C_DIMS, C_FIRST, C_RELIEF_AXIS, F_RECIPE,
  DIM_BYTES, P_PIXEL, RECIPE_BYTES, R_AXES, R_COATS,
} from './layout';
import { along01, face } from './axes';
import { before, beyond, valueOf } from './courses';
import { w } from './paths';
import { lean } from './relief';
import { draw1, drawX, drawY } from './sampler4';
import { finishAt } from './scene';

/** First pairs of draws that choose coats and surfaces: of paths, of shadow rays through panes, and of lights. */
export const OF_PATHS: i32 = 1 << 20;
export const OF_PANES: i32 = 1 << 21;
export const OF_LIGHTS: i32 = 1 << 22;

// @ts-ignore: decorator
@inline export function hasRecipe(finish: usize): bool { return load<u32>(finish, F_RECIPE) !== 0; }

/**
 * Chooses the plain surface a path meets where a finish has coats or feeds, and leans the path's normal by its relief.
 * @param at the path, standing on its hit; @param pair its draws
 * @param seen width that is told apart where it stands at least, metres
 * @returns the number of a finish without a recipe
 */
export function resolved(at: usize, number: i32, index: i32, pair: i32, seen: f32): i32 {
  const recipe = <usize>load<u32>(finishAt(number), F_RECIPE);
  draw1(w(P_PIXEL, at), index, pair);
  let lot = f32x4.extract_lane(drawX, 0);
  let fraction = f32x4.extract_lane(drawY, 0);
  face(at, seen);
  const axes = recipe + load<u32>(recipe, R_AXES);
  const coats = load<i32>(recipe, R_COATS);
  let coat = recipe + RECIPE_BYTES;
  for (let i = 1; i < coats; i++) {
    const axis = load<i32>(coat, C_COVER_AXIS);
    const cover: f32 = axis < 0 ? load<f32>(coat, C_COVER)
      : valueOf(recipe + load<u32>(coat, C_COVER_AT), load<i32>(coat, C_COVER_COUNT), along01(axes, axis));
    if (lot < cover) break;
    lot = (lot - cover) / (<f32>1 - cover);
    coat += COAT_BYTES;
  }
  let surface = load<i32>(coat, C_FIRST);
  let stride = 1;
  const dims = load<i32>(coat, C_DIMS);
  for (let d = 0; d < dims; d++) {
    const dim = coat + COAT_DIMS + <usize>d * DIM_BYTES;
    const count = load<i32>(dim, 4);
    const places = recipe + load<u32>(dim, 8);
    const u = along01(axes, load<i32>(dim));
    let i = before(places, count, u);
    const t = beyond(places, i, count, u);
    const up = fraction < t;
    if (up) i++;
    if (load<i32>(dim, 12) === 0) {
      // what is left of the draw serves the next axis
      fraction = min<f32>(up ? fraction / t : (fraction - t) / (<f32>1 - t), <f32>0.99999994);
    }
    surface += i * stride;
    stride *= count;
  }
  if (load<i32>(coat, C_RELIEF_AXIS) >= 0) lean(at, recipe, axes, coat);
  return surface;
}
