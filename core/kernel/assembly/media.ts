// What a path is in: glass within glass, the innermost first, each with the solid it belongs to. Where solids overlap,
// the one of higher priority counts, and of two alike the one entered last; faces of the others are not there (after
// Schmidt & Budge, "Simple Nested Dielectrics in Ray Traced Images", 2002).
import {
  BENEATH, F_GLASS, F_IOR, F_PRIORITY, P_FINISH, P_BEHIND, P_INSTANCE, P_MEDIUM, P_MEDIUM_OF, P_UNDER0, P_UNDER0_OF, P_UNDER1,
  P_UNDER1_OF, P_UNDER2, P_UNDER2_OF,
} from './layout';
import { w } from './paths';
import { finishAt } from './scene';

/** A path in nothing but air. */
export function inAir(at: usize): void {
  store<i32>(at + P_MEDIUM, -1);
  store<i32>(at + P_UNDER0, -1);
  store<i32>(at + P_UNDER1, -1);
  store<i32>(at + P_UNDER2, -1);
}

/** Puts a medium on top of what a path is in; more than four within each other are forgotten. */
export function enter(at: usize, medium: i32, instance: i32): void {
  if (w(P_MEDIUM, at) >= 0) pushUnder(at, w(P_MEDIUM, at), w(P_MEDIUM_OF, at));
  store<i32>(at + P_MEDIUM, medium);
  store<i32>(at + P_MEDIUM_OF, instance);
}

function pushUnder(at: usize, medium: i32, instance: i32): void {
  store<i32>(at + P_UNDER2, w(P_UNDER1, at));
  store<i32>(at + P_UNDER2_OF, w(P_UNDER1_OF, at));
  store<i32>(at + P_UNDER1, w(P_UNDER0, at));
  store<i32>(at + P_UNDER1_OF, w(P_UNDER0_OF, at));
  store<i32>(at + P_UNDER0, medium);
  store<i32>(at + P_UNDER0_OF, instance);
}

/** Takes the innermost medium away. */
export function leave(at: usize): void {
  store<i32>(at + P_MEDIUM, w(P_UNDER0, at));
  store<i32>(at + P_MEDIUM_OF, w(P_UNDER0_OF, at));
  dropUnder0(at);
}

function dropUnder0(at: usize): void {
  store<i32>(at + P_UNDER0, w(P_UNDER1, at));
  store<i32>(at + P_UNDER0_OF, w(P_UNDER1_OF, at));
  dropUnder1(at);
}

function dropUnder1(at: usize): void {
  store<i32>(at + P_UNDER1, w(P_UNDER2, at));
  store<i32>(at + P_UNDER1_OF, w(P_UNDER2_OF, at));
  store<i32>(at + P_UNDER2, -1);
}

/** Index of a medium; air's, and that of what lies beneath a surface, is one. */
// @ts-ignore: decorator
@inline export function indexOf(medium: i32): f32 {
  return medium < 0 || (medium & BENEATH) !== 0 ? <f32>1 : load<f32>(finishAt(medium), F_IOR);
}

/** The medium on the far side of a face of glass for a path within it. */
// @ts-ignore: decorator
@inline export function beyondGlass(at: usize): i32 { return w(P_UNDER0, at); }

/** Whether a face a path meets is not there, lying in a solid that counts more; what it is in is kept up. */
export function isOverruled(at: usize): bool {
  const medium = w(P_MEDIUM, at);
  if (medium < 0 || (medium & BENEATH) !== 0) return false;
  const finish = finishAt(w(P_FINISH, at));
  if (!(load<f32>(finish, F_GLASS) > 0)) return false;
  const instance = w(P_INSTANCE, at);
  if (w(P_MEDIUM_OF, at) === instance) return false;
  if (w(P_BEHIND, at) === 0) {
    if (load<f32>(finish, F_PRIORITY) >= load<f32>(finishAt(medium), F_PRIORITY)) return false;
    pushUnder(at, w(P_FINISH, at), instance);
    return true;
  }
  if (w(P_UNDER0, at) >= 0 && w(P_UNDER0_OF, at) === instance) dropUnder0(at);
  else if (w(P_UNDER1, at) >= 0 && w(P_UNDER1_OF, at) === instance) dropUnder1(at);
  else if (w(P_UNDER2, at) >= 0 && w(P_UNDER2_OF, at) === instance) store<i32>(at + P_UNDER2, -1);
  else return false;
  return true;
}
