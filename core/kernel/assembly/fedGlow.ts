// What a face whose light is fed gives, at the point of it that was taken for a path.
import {
  F_CAST, F_EMISSION_R, P_B1, P_B2, P_DEPTH, P_DX, P_DY, P_DZ, P_INSTANCE, P_PART, P_PIXEL, P_TRIANGLE, WAVE,
} from './layout';
import { standOnHit } from './geometry';
import { glowB1, glowB2, glowInstance, glowTriangle, toX, toY, toZ } from './lights';
import { w, waveAt } from './paths';
import { hasRecipe, OF_LIGHTS, resolved } from './recipe';
import { finishAt, partAt } from './scene';

/** Results of fedGlow, nits. */
export let fedR: f32 = 0;
export let fedG: f32 = 0;
export let fedB: f32 = 0;

/** Seen from a path along the direction to its light. */
export function fedGlow(at: usize, index: i32): void {
  const spare = waveAt() + (<usize>WAVE << 2);
  store<i32>(spare + P_INSTANCE, glowInstance);
  store<i32>(spare + P_TRIANGLE, glowTriangle);
  store<f32>(spare + P_B1, glowB1);
  store<f32>(spare + P_B2, glowB2);
  store<f32>(spare + P_DX, toX);
  store<f32>(spare + P_DY, toY);
  store<f32>(spare + P_DZ, toZ);
  store<i32>(spare + P_PIXEL, w(P_PIXEL, at));
  standOnHit(spare);
  let number = load<i32>(partAt(w(P_PART, spare)));
  if (hasRecipe(finishAt(number))) number = resolved(spare, number, index, OF_LIGHTS + w(P_DEPTH, at), 0);
  const finish = finishAt(number);
  const cast = load<f32>(finish, F_CAST);
  fedR = load<f32>(finish, F_EMISSION_R) * cast;
  fedG = load<f32>(finish, F_EMISSION_R + 4) * cast;
  fedB = load<f32>(finish, F_EMISSION_R + 8) * cast;
}
