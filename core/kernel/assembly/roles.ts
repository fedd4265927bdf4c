// Lights that reach diffuse lobes, mirrors and what light comes through differently, or only some things: what of a
// path's throughput each kind of lobe has scattered is kept beside it, and cards stand in the way of mirrors alone.
import {
  FEEDS_ALL, FEEDS_DIFFUSE, FEEDS_MIRROR, FEEDS_THROUGH, PART_LINKS, P_DIFFUSE_B, P_DIFFUSE_G, P_DIFFUSE_R, P_LINKS,
  P_PART, P_PIXEL, P_SDIFFUSE_B, P_SDIFFUSE_G, P_SDIFFUSE_R, P_TB, P_TG, P_TR,
} from './layout';
import { base, count, offset, put } from './group';
import { div, mad, most, mul, pick, splat, sub } from './lanes';
import { fallsOn, feedsOf } from './lights';
import { diffuseB, diffuseG, diffuseR } from './lobes/surface';
import { f, scale, w } from './paths';
import { draw1, drawX } from './sampler4';
import { partAt } from './scene';
import { skyB, skyFeeds, skyG, skyMirrorB, skyMirrorG, skyMirrorR, skyBlurred, skyR } from './surround';

/** Stands for the diffuse share of what came through. */
const CAME_THROUGH: f32 = -1;

/** Links of the thing a path is on. */
// @ts-ignore: decorator
@inline export function linksAt(at: usize): i32 { return load<i32>(partAt(w(P_PART, at)) + PART_LINKS); }

/** Keeps which lobes the four were sent on by. @param beneath whether they come out from beneath a surface */
export function keepRoles(through: v128, beneath: bool): void {
  const one = splat(1);
  const gone = splat(CAME_THROUGH);
  put(P_DIFFUSE_R, beneath ? one : pick(through, gone, diffuseR));
  put(P_DIFFUSE_G, beneath ? one : pick(through, gone, diffuseG));
  put(P_DIFFUSE_B, beneath ? one : pick(through, gone, diffuseB));
  for (let k = 0; k < count; k++) {
    const at = base + offset(k);
    store<i32>(at + P_LINKS, linksAt(at));
  }
}

// @ts-ignore: decorator
@inline function taken(share: f32, feeds: i32): f32 {
  if (share < 0) return (feeds & FEEDS_THROUGH) !== 0 ? <f32>1 : <f32>0;
  return ((feeds & FEEDS_DIFFUSE) !== 0 ? share : <f32>0) + ((feeds & FEEDS_MIRROR) !== 0 ? <f32>1 - share : <f32>0);
}

/** Results of takenOf: what of each channel of a light the last surface of a path took. */
export let takenR: f32 = 1;
export let takenG: f32 = 1;
export let takenB: f32 = 1;

/** @returns false where it took none */
export function takenOf(at: usize, emitter: i32): bool {
  if (!fallsOn(emitter, w(P_LINKS, at))) return false;
  const feeds = feedsOf(emitter);
  takenR = 1;
  takenG = 1;
  takenB = 1;
  if (feeds === FEEDS_ALL) return true;
  takenR = taken(f(P_DIFFUSE_R, at), feeds);
  takenG = taken(f(P_DIFFUSE_G, at), feeds);
  takenB = taken(f(P_DIFFUSE_B, at), feeds);
  return takenR + takenG + takenB > 0;
}

/** Results of skyTaken: light of the surround that the last surface of a path took. */
export let skyTakenR: f32 = 0;
export let skyTakenG: f32 = 0;
export let skyTakenB: f32 = 0;

// @ts-ignore: decorator
@inline function ofSky(share: f32, lit: f32, mirrored: f32): f32 {
  if (share < 0) return (skyFeeds & FEEDS_THROUGH) !== 0 ? mirrored : <f32>0;
  return (
    ((skyFeeds & FEEDS_DIFFUSE) !== 0 ? share * lit : <f32>0) +
    ((skyFeeds & FEEDS_MIRROR) !== 0 ? (<f32>1 - share) * mirrored : <f32>0)
  );
}

export function skyTaken(at: usize, r: f32, g: f32, b: f32, mr: f32, mg: f32, mb: f32): void {
  skyTakenR = ofSky(f(P_DIFFUSE_R, at), r, mr);
  skyTakenG = ofSky(f(P_DIFFUSE_G, at), g, mg);
  skyTakenB = ofSky(f(P_DIFFUSE_B, at), b, mb);
}

/** Results of partLight: what lobes on this side and through take of a light, by channel. */
export let partR: v128 = f32x4.splat(1);
export let partG: v128 = f32x4.splat(1);
export let partB: v128 = f32x4.splat(1);

// @ts-ignore: decorator
@inline function part(share: v128, lit: v128, mirrored: v128, through: v128, feeds: v128, beneath: v128): v128 {
  const d = pick(hasBit(feeds, FEEDS_DIFFUSE), lit, splat(0));
  const m = pick(hasBit(feeds, FEEDS_MIRROR), mirrored, splat(0));
  const t = pick(hasBit(feeds, FEEDS_THROUGH), mirrored, splat(0));
  left = pick(v128.or(through, beneath), splat(1), div(mul(share, d), most(mad(share, sub(d, m), m), splat(1e-30))));
  return pick(beneath, d, pick(through, t, mad(share, sub(d, m), m)));
}

/** Share of what a light gives that diffuse lobes take; what cards leave of it. */
let left: v128 = f32x4.splat(1);

// @ts-ignore: decorator
@inline function hasBit(feeds: v128, bit: i32): v128 {
  return i32x4.ne(v128.and(feeds, i32x4.splat(bit)), i32x4.splat(0));
}

/**
 * Weighs what the four take of the lights they chose, by `feeds`; `sky` tells those that chose the surround, of which
 * mirrors may see another picture. Keeps for cards what of it they cannot hide.
 */
export function partLight(feeds: v128, sky: v128, through: v128, beneath: bool): void {
  const under = beneath ? i32x4.splat(-1) : splat(0);
  const one = splat(1);
  const blurred = skyBlurred ? sky : splat(0);
  partR = part(diffuseR, one, pick(blurred, over(skyMirrorR, skyR), one), through, feeds, under);
  put(P_SDIFFUSE_R, left);
  partG = part(diffuseG, one, pick(blurred, over(skyMirrorG, skyG), one), through, feeds, under);
  put(P_SDIFFUSE_G, left);
  partB = part(diffuseB, one, pick(blurred, over(skyMirrorB, skyB), one), through, feeds, under);
  put(P_SDIFFUSE_B, left);
}

// @ts-ignore: decorator
@inline function over(a: v128, b: v128): v128 { return div(a, most(b, splat(1e-30))); }

/** Pair of draws that tells whether a path sees a white card. */
const CARD_PAIR: i32 = 1 << 25;

/**
 * Chance decides, by what of a path's last surface mirrors, whether it runs into a white card or past it.
 * @param number tells the path's steps apart @returns whether it runs into it
 */
export function meetsWhite(at: usize, index: i32, number: i32): bool {
  const r = f(P_DIFFUSE_R, at);
  if (r < 0) return false;
  const g = f(P_DIFFUSE_G, at);
  const b = f(P_DIFFUSE_B, at);
  const chance: f32 = <f32>1 - (r + g + b) * <f32>0.3333333333;
  draw1(w(P_PIXEL, at), index, CARD_PAIR + number);
  const hit = f32x4.extract_lane(drawX, 0) < chance;
  if (hit) {
    scale(P_TR, at, (<f32>1 - r) / chance);
    scale(P_TG, at, (<f32>1 - g) / chance);
    scale(P_TB, at, (<f32>1 - b) / chance);
    return true;
  }
  const past: f32 = <f32>1 / max(<f32>1e-6, <f32>1 - chance);
  scale(P_TR, at, r * past);
  scale(P_TG, at, g * past);
  scale(P_TB, at, b * past);
  store<f32>(at + P_DIFFUSE_R, 1);
  store<f32>(at + P_DIFFUSE_G, 1);
  store<f32>(at + P_DIFFUSE_B, 1);
  return false;
}

/** A card hides from a path what mirrors see behind it. @returns whether anything is left */
export function cardHides(at: usize): bool {
  const share = f(P_DIFFUSE_R, at);
  if (share < 0) return true;
  scale(P_TR, at, share);
  scale(P_TG, at, f(P_DIFFUSE_G, at));
  scale(P_TB, at, f(P_DIFFUSE_B, at));
  store<f32>(at + P_DIFFUSE_R, 1);
  store<f32>(at + P_DIFFUSE_G, 1);
  store<f32>(at + P_DIFFUSE_B, 1);
  return f(P_TR, at) + f(P_TG, at) + f(P_TB, at) > 0;
}
