// What the integrator reads of the scene and of the eye; per thread, set by the host.
import { EMITTER_BYTES, FINISH_BYTES, F_WITHIN, PART_BYTES } from './layout';
import { tellDiffuse } from './lobes/surface';

export let instances: usize = 0;
export let finishes: usize = 0;
export let parts: usize = 0;
export let emitters: usize = 0;
export let lightNodes: usize = 0;
/** Directional lights are the first of the emitters. */
export let directionals: i32 = 0;
/** Cards are the next of them. */
export let cards: i32 = 0;
/** Whether lights reach diffuse lobes and mirrors differently, or not all things. */
export let parted: bool = false;
/** Whether a directional light has a size. */
export let discs: bool = false;
/** Nodes of the light tree; nought when nothing local shines. */
export let lightTree: i32 = 0;
/** Whether lights shine that no bounce can find. */
export let points: bool = false;
/** Whether a finish lets light straight through without being a solid. */
export let sheets: bool = false;
/** Widest lobe that finds whatever has a size by itself, so that no light is sought for it. */
export let mirror: f32 = 0;
/** Lights that are sought at once where a path from the camera stands first. */
export let sought: i32 = 1;
export let lane: usize = 0;
/** Where each instance stands in its block and how its faces are laid out; nought where nothing is fed. */
export let sites: usize = 0;

/** Addresses of what all eyes share. */
export function setScene(instancesAt: usize, finishesAt: usize, sitesAt: usize, laneAt: usize): void {
  sites = sitesAt;
  instances = instancesAt;
  finishes = finishesAt;
  lane = laneAt;
}

/** Addresses of what this eye sees: its parts as dressed, and the lights that follow from it. */
export function setLights(
  partsAt: usize, emittersAt: usize, nodesAt: usize, nodeCount: i32, directionalCount: i32,
  anyPoints: i32, anySheets: i32, widestMirror: f32, cardCount: i32, anyParted: i32, anyDiscs: i32, soughtAtOnce: i32,
): void {
  cards = cardCount;
  sought = soughtAtOnce;
  parted = anyParted !== 0;
  discs = anyDiscs !== 0;
  tellDiffuse(parted);
  parts = partsAt;
  emitters = emittersAt;
  lightNodes = nodesAt;
  lightTree = nodeCount;
  directionals = directionalCount;
  points = anyPoints !== 0;
  sheets = anySheets !== 0;
  mirror = widestMirror;
}

// @ts-ignore: decorator
@inline export function finishAt(number: i32): usize { return finishes + <usize>number * FINISH_BYTES; }
/** What a face is made of for those who meet it from within: another finish where it has one. */
// @ts-ignore: decorator
@inline export function seenFrom(number: i32, behind: bool): i32 {
  const within = behind ? load<i32>(finishAt(number), F_WITHIN) : 0;
  return within > 0 ? within : number;
}
// @ts-ignore: decorator
@inline export function emitterAt(i: i32): usize { return emitters + <usize>i * EMITTER_BYTES; }
// @ts-ignore: decorator
@inline export function partAt(number: i32): usize { return parts + <usize>number * PART_BYTES; }
