// What paths do where they meet something: light they find, glass that dims it, limits they reach.
import {
  BENEATH, F_ABSORPTION_B, F_ABSORPTION_G, F_ABSORPTION_R, F_ALBEDO_R, F_CAST, F_EMISSION_R, F_GLASS, F_IOR, PART_EMITTER, PART_FLAGS,
  PART_CATCHES, PART_GROUP, PART_TWO_SIDED, P_ALBEDO_B, P_ALBEDO_G, P_ALBEDO_R, P_ALPHA, P_BEHIND, P_BEYOND, P_CASTER,
  P_CAUGHT, P_COUNT,
  P_DEPTH, P_DISTANCE, P_DX, P_DY, P_DZ, P_FINISH, P_GX, P_GY, P_GZ, P_INSIDE, P_KINDS, P_MEDIUM, P_NORMAL_X,
  P_NORMAL_Y, P_NORMAL_Z, P_NOW, P_NX, P_NY, P_NZ, P_PART, P_PDF, P_PIXEL, P_T, P_TB, P_TG, P_TR, P_TRAVELLED, P_X,
  P_Y, P_Z,
} from './layout';
import { byPhotonsHere } from './caustics';
import { depthOf } from './eye';
import { gain, ONE_IN } from './film';
import { standAt } from './choosing';
import { byPhotons, densityOf } from './lights';
import { exp1 } from './maths4';
import { f, scale, w } from './paths';
import { land } from './photons';
import { draw1, drawX } from './sampler4';
import { finishAt, partAt } from './scene';
import { REFLECTED, TRANSMITTED } from './shade';

/** Pair of draws that chooses the paths followed past their limits. */
const BEYOND_PAIR: i32 = 1 << 24;

/** Most bounces in all, and of each kind as a path counts them. */
let mostBounces: i32 = 0;
let mostScattered: i32 = 1023;
let mostReflected: i32 = 1023;
let mostTransmitted: i32 = 1023;

/** @param n most bounces in all */
export function setBounces(n: i32): void {
  mostBounces = n;
}

/** Bounces of each kind after which surfaces are still shaded, 0 … 1023. */
export function setLimits(scattered: i32, reflected: i32, transmitted: i32): void {
  mostScattered = scattered;
  mostReflected = reflected;
  mostTransmitted = transmitted;
}

/** What light that a bounce finds by chance counts, beside that which is sought. */
// @ts-ignore: decorator
@inline export function balance(at: usize, emitter: i32, t: f32, cosine: f32): f32 {
  const pdf = f(P_PDF, at);
  // light that photons bring over casters is theirs
  const own: f32 = byPhotonsHere() && byPhotons(emitter) ? f(P_NOW, at) : 1;
  if (pdf <= 0) return own;
  standAt(at);
  return (own * pdf) / (pdf + densityOf(emitter, t, cosine));
}

/** Adds light that a path meets. */
// @ts-ignore: decorator
@inline export function gives(at: usize, share: f32, r: f32, g: f32, b: f32, group: i32): void {
  const medium = w(P_MEDIUM, at);
  let s = share;
  if (medium >= 0 && (medium & BENEATH) === 0) {
    // radiance is carried divided by the squared index
    const ior = load<f32>(finishAt(medium), F_IOR);
    s /= ior * ior;
  }
  gain(at, f(P_TR, at) * s * r, f(P_TG, at) * s * g, f(P_TB, at) * s * b, group);
}

/** Absorption of the glass a path is in, over what it has gone since it was last counted. */
// @ts-ignore: decorator
@inline export function absorb(at: usize, t: f32): void {
  const medium = w(P_MEDIUM, at);
  if (medium < 0 || (medium & BENEATH) !== 0) return;
  const glass = finishAt(medium);
  const way: f32 = f(P_TRAVELLED, at) - t;
  scale(P_TR, at, exp1(load<f32>(glass, F_ABSORPTION_R) * way));
  scale(P_TG, at, exp1(load<f32>(glass, F_ABSORPTION_G) * way));
  scale(P_TB, at, exp1(load<f32>(glass, F_ABSORPTION_B) * way));
  store<f32>(at + P_TRAVELLED, t);
}

/** Whether a path has had all the bounces it may; one of ONE_IN goes on, to know what the others lose. */
function isSpent(at: usize, index: i32): bool {
  const kinds = w(P_KINDS, at);
  if (
    w(P_DEPTH, at) < mostBounces && (kinds & (REFLECTED - 1)) <= mostScattered &&
    ((kinds >> 10) & (REFLECTED - 1)) <= mostReflected && kinds >> 20 <= mostTransmitted
  ) return false;
  if (w(P_BEYOND, at) !== 0) return false;
  draw1(w(P_PIXEL, at), index, BEYOND_PAIR);
  if (f32x4.extract_lane(drawX, 0) * <f32>ONE_IN >= 1) return true;
  store<i32>(at + P_BEYOND, 1);
  return false;
}

/** The side a path is on: 0 outside, 1 in its glass, 2 beneath its surface; only what light enters has an inside. */
// @ts-ignore: decorator
@inline function sideOf(at: usize, behind: bool): i32 {
  if (!behind) return 0;
  const medium = w(P_MEDIUM, at);
  if (medium >= 0 && (medium & BENEATH) !== 0) return 2;
  return load<f32>(finishAt(w(P_FINISH, at)), F_GLASS) > 0 ? 1 : 0;
}

/** Keeps photon `number` where it meets a receiver. @returns whether it is on a caster, and goes on */
export function meetSent(at: usize, number: i32): bool {
  const behind = w(P_BEHIND, at) !== 0;
  store<i32>(at + P_INSIDE, sideOf(at, behind));
  if (w(P_CASTER, at) !== 0) return w(P_DEPTH, at) < mostBounces;
  if (w(P_DEPTH, at) > 0) land(at, number);
  return false;
}

/** What a path's surface gives by itself, and what the film keeps of the first. @returns whether it is to be shaded */
export function meet(at: usize, index: i32): bool {
  const finish = finishAt(w(P_FINISH, at));
  const part = partAt(w(P_PART, at));
  const behind = w(P_BEHIND, at) !== 0;
  const depth = w(P_DEPTH, at);
  const emitter = load<i32>(part, PART_EMITTER);
  // a face glows from its outside; from both only where its file says so
  if (emitter >= 0 && (!behind || (load<i32>(part, PART_FLAGS) & PART_TWO_SIDED) !== 0)) {
    const cosine: f32 = behind ? <f32>0
      : -(f(P_DX, at) * f(P_GX, at) + f(P_DY, at) * f(P_GY, at) + f(P_DZ, at) * f(P_GZ, at));
    // what the camera sees by itself or through glass is apart from what is cast
    const cast: f32 = (w(P_KINDS, at) & (TRANSMITTED - 1)) === 0 ? <f32>1 : load<f32>(finish, F_CAST);
    gives(
      at, balance(at, emitter, f(P_T, at), cosine) * cast,
      load<f32>(finish, F_EMISSION_R), load<f32>(finish, F_EMISSION_R + 4), load<f32>(finish, F_EMISSION_R + 8),
      load<i32>(part, PART_GROUP),
    );
  }
  if (depth === 0) {
    store<f32>(at + P_ALPHA, 1);
    store<f32>(at + P_ALBEDO_R, load<f32>(finish, F_ALBEDO_R));
    store<f32>(at + P_ALBEDO_G, load<f32>(finish, F_ALBEDO_R + 4));
    store<f32>(at + P_ALBEDO_B, load<f32>(finish, F_ALBEDO_R + 8));
    store<f32>(at + P_NORMAL_X, f(P_NX, at));
    store<f32>(at + P_NORMAL_Y, f(P_NY, at));
    store<f32>(at + P_NORMAL_Z, f(P_NZ, at));
    store<f32>(at + P_DISTANCE, depthOf(f(P_X, at), f(P_Y, at), f(P_Z, at)));
    store<f32>(at + P_COUNT, 1);
    if ((load<i32>(part, PART_FLAGS) & PART_CATCHES) !== 0) store<f32>(at + P_CAUGHT, 1);
  }
  store<i32>(at + P_INSIDE, sideOf(at, behind));
  return !isSpent(at, index);
}
