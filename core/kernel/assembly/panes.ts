// Smooth sheets, which light goes straight through: panes and the like, met by paths and by shadow rays.
import {
  F_FILM, F_SHEET, F_SHEET_ALPHA, F_TINT_R, INSTANCE_BYTES, INSTANCE_FLAGS, IS_LIGHT, P_B1, P_B2, P_BEHIND, P_DEPTH,
  P_DX, P_DY, P_DZ, P_INSTANCE, P_NX, P_NY, P_NZ, P_PART, P_PIXEL, P_SDX, P_SDY, P_SDZ, P_SFROM, P_SNEAR, P_SX, P_SY,
  P_SZ, P_TB, P_TG, P_TR, P_TRIANGLE, WAVE,
} from './layout';
import { standOnHit } from './geometry';
import { filmAt, glossAt } from './lobes/rows';
import { f, scale, w, waveAt } from './paths';
import { hasRecipe, OF_PANES, resolved } from './recipe';
import { draw1, drawX } from './sampler4';
import { finishAt, instances, partAt, seenFrom } from './scene';
import { closest, closestAfter, foundB1, foundB2, foundInstance, foundT } from './traverse';

/** Area lights, sheets and hidden parts a ray may pass before it is given up. */
export const MOST_PASSES: i32 = 64;
/** First pair of draws of those that choose between a sheet's reflection and what lies behind it. */
const SHEET_PAIR: i32 = 4096;

/** Share of a smooth sheet's light that goes straight through, before its tint. @param cosine with its normal */
// @ts-ignore: decorator
@inline function straight(finish: usize, cosine: f32): f32 {
  return load<f32>(finish, F_SHEET) * (<f32>1 - glossAt(finish, cosine));
}

/** A channel of the tint of what goes straight through: the sheet's own, and what its film leaves. */
function tintOf(finish: usize, cosine: f32, channel: usize): f32 {
  const tint = load<f32>(finish + (channel << 2), F_TINT_R);
  if (load<f32>(finish, F_FILM) === 0) return tint;
  const gloss = glossAt(finish, cosine);
  return (tint * max<f32>(0, <f32>1 - gloss * filmAt(finish, cosine, channel))) / max<f32>(<f32>1 - gloss, 1e-6);
}

// @ts-ignore: decorator
@inline export function isPane(finish: usize): bool {
  return load<f32>(finish, F_SHEET) > 0 && load<f32>(finish, F_SHEET_ALPHA) === 0;
}

/** Whether a path goes straight on through a smooth sheet; its throughput is what is left of that choice. */
export function passesPane(at: usize, finish: usize, index: i32, passes: i32): bool {
  const cosine = -(f(P_DX, at) * f(P_NX, at) + f(P_DY, at) * f(P_NY, at) + f(P_DZ, at) * f(P_NZ, at));
  const share = straight(finish, cosine);
  draw1(w(P_PIXEL, at), index, SHEET_PAIR + w(P_DEPTH, at) * MOST_PASSES + passes);
  if (f32x4.extract_lane(drawX, 0) < share) {
    scale(P_TR, at, tintOf(finish, cosine, 0));
    scale(P_TG, at, tintOf(finish, cosine, 1));
    scale(P_TB, at, tintOf(finish, cosine, 2));
    return true;
  }
  const rest: f32 = <f32>1 / (<f32>1 - share);
  scale(P_TR, at, rest);
  scale(P_TG, at, rest);
  scale(P_TB, at, rest);
  return false;
}

/** Results of throughPanes: what of the light gets through, and the rays that took. */
export let paneR: f32 = 1;
export let paneG: f32 = 1;
export let paneB: f32 = 1;
export let paneRays: i32 = 0;

/** What gets through smooth sheets along a blocked shadow ray; false when something else stands there. */
export function throughPanes(at: usize, reach: f32, index: i32): bool {
  paneR = 1;
  paneG = 1;
  paneB = 1;
  paneRays = 0;
  const ox = f(P_SX, at);
  const oy = f(P_SY, at);
  const oz = f(P_SZ, at);
  const dx = f(P_SDX, at);
  const dy = f(P_SDY, at);
  const dz = f(P_SDZ, at);
  let id = closest(ox, oy, oz, 0, dx, dy, dz, reach, w(P_SFROM, at), f(P_SNEAR, at));
  for (let k = 0; k < MOST_PASSES; k++) {
    paneRays++;
    if (id < 0) return true;
    const t = foundT();
    const instance = foundInstance();
    const record = instances + <usize>instance * INSTANCE_BYTES;
    if ((load<i32>(record, INSTANCE_FLAGS) & IS_LIGHT) === 0) {
      // stood on in the place to spare
      const spare = waveAt() + (<usize>WAVE << 2);
      store<i32>(spare + P_INSTANCE, instance);
      store<i32>(spare + P_TRIANGLE, id);
      store<f32>(spare + P_B1, foundB1());
      store<f32>(spare + P_B2, foundB2());
      store<f32>(spare + P_DX, dx);
      store<f32>(spare + P_DY, dy);
      store<f32>(spare + P_DZ, dz);
      standOnHit(spare);
      let number = seenFrom(load<i32>(partAt(w(P_PART, spare))), w(P_BEHIND, spare) !== 0);
      if (hasRecipe(finishAt(number))) {
        store<i32>(spare + P_PIXEL, w(P_PIXEL, at));
        number = resolved(spare, number, index, OF_PANES + w(P_DEPTH, at) * MOST_PASSES + k, 0);
      }
      const finish = finishAt(number);
      if (!isPane(finish)) return false;
      const cosine = -(dx * f(P_NX, spare) + dy * f(P_NY, spare) + dz * f(P_NZ, spare));
      const share = straight(finish, cosine);
      paneR *= share * tintOf(finish, cosine, 0);
      paneG *= share * tintOf(finish, cosine, 1);
      paneB *= share * tintOf(finish, cosine, 2);
    }
    id = closestAfter(ox, oy, oz, dx, dy, dz, reach, t, instance, id);
  }
  return false;
}
