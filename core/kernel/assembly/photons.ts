// Sends photons: light of small lamps and of the surround's sun towards the box about all casters. A box's faces that
// are seen from a place, or along a direction, cover its outline exactly once, so that points drawn evenly over them
// have a known density, and no photon is sent where no caster can be.
import {
  ALONG, AREA, E_AREA, E_BLUE, E_GREEN, E_INSTANCE, E_KIND, E_RED, GLOW, P_BEYOND, P_BLUE, P_CASTER, P_DEPTH,
  P_DX, P_DY, P_DZ, P_FROM, P_GREEN, P_HUE, P_KINDS, P_NEAR, P_OX, P_OY, P_OZ, P_PASSES, P_PDF, P_PIXEL,
  P_RED, P_SGROUP, P_TB, P_TG, P_TR, P_TRAVELLED, P_X, P_Y, P_Z, PH_BLUE, PH_DX, PH_DY, PH_DZ, PH_ENDS, PH_GREEN,
  PH_GROUP, PH_RED, PH_X, PH_Y, PH_Z, SO_CHANCE, SO_EMITTER, SO_UP_TO, SO_WAY, SOURCE_BYTES, SPOT, WAVE,
} from './layout';
import { beamB, beamG, beamR, before } from './beams';
import { inAir } from './media';
import { placeOf, skyClip } from './caustics';
import { clear } from './film';
import {
  distanceFade, groupOf, lightNx, lightNy, lightNz, lightX, lightY, lightZ, pointOn, rangeFade, spotFade,
} from './lights';
import { emitterAt } from './scene';
import { f, w } from './paths';
import { drawEach4, drawX, drawY, pixelSeed } from './sampler4';
import { skyB, skyDensity, skyDraw4, skyG, skyGroup, skyR, skyX, skyY, skyZ } from './surround';

/** Rays leave a glowing part from this share of their coordinates before it. */
const OFF: f32 = 4e-6;

let sources: usize = 0;
let sourceCount: i32 = 0;
/** Whether the surround is one of the sources. */
let ofSky: bool = false;
let lowX: f32 = 0;
let lowY: f32 = 0;
let lowZ: f32 = 0;
let highX: f32 = 0;
let highY: f32 = 0;
let highZ: f32 = 0;
/** From how far away light without a place is sent, metres. */
let away: f32 = 0;

/** @param box six numbers: the casters' least and greatest coordinates; @param reach metres that clear the scene */
export function setSources(at: usize, count: i32, sky: i32, box: usize, reach: f32): void {
  sources = at;
  sourceCount = count;
  ofSky = sky !== 0;
  lowX = load<f32>(box);
  lowY = load<f32>(box, 4);
  lowZ = load<f32>(box, 8);
  highX = load<f32>(box, 12);
  highY = load<f32>(box, 16);
  highZ = load<f32>(box, 20);
  away = reach;
}

// a point of the box's faces, and one over its density: over the area across a direction, or over the solid angle
let faceX: f32 = 0;
let faceY: f32 = 0;
let faceZ: f32 = 0;
let faceAxis: i32 = 0;

/** Draws a point of three faces in proportion to their weights; sides below nought are the low ones. */
function onFaces(wx: f32, wy: f32, wz: f32, sx: f32, sy: f32, sz: f32, lot: f32, u: f32, v: f32): void {
  const pick: f32 = lot * (wx + wy + wz);
  faceX = lowX + (highX - lowX) * u;
  faceY = lowY + (highY - lowY) * u;
  faceZ = lowZ + (highZ - lowZ) * v;
  if (pick < wx) {
    faceAxis = 0;
    faceX = sx < 0 ? lowX : highX;
  } else if (pick < wx + wy) {
    faceAxis = 1;
    faceY = sy < 0 ? lowY : highY;
  } else {
    faceAxis = 2;
    faceZ = sz < 0 ? lowZ : highZ;
    faceY = lowY + (highY - lowY) * v;
  }
}

/** A path that carries light along (dx, dy, dz) through the box. @returns the box's area across it */
function across(dx: f32, dy: f32, dz: f32, lot: f32, u: f32, v: f32): f32 {
  const ex = highX - lowX;
  const ey = highY - lowY;
  const ez = highZ - lowZ;
  const wx = abs(dx) * ey * ez;
  const wy = abs(dy) * ex * ez;
  const wz = abs(dz) * ex * ey;
  onFaces(wx, wy, wz, -dx, -dy, -dz, lot, u, v);
  return wx + wy + wz;
}

/** Aims from a point at a face of the box that it sees. @returns their area; nought from within */
function seenFrom(x: f32, y: f32, z: f32, lot: f32, u: f32, v: f32): f32 {
  const ex = highX - lowX;
  const ey = highY - lowY;
  const ez = highZ - lowZ;
  const sx: f32 = x < lowX ? -1 : x > highX ? <f32>1 : <f32>0;
  const sy: f32 = y < lowY ? -1 : y > highY ? <f32>1 : <f32>0;
  const sz: f32 = z < lowZ ? -1 : z > highZ ? <f32>1 : <f32>0;
  const wx: f32 = sx === 0 ? <f32>0 : ey * ez;
  const wy: f32 = sy === 0 ? <f32>0 : ex * ez;
  const wz: f32 = sz === 0 ? <f32>0 : ex * ey;
  if (!(wx + wy + wz > 0)) return 0;
  onFaces(wx, wy, wz, sx, sy, sz, lot, u, v);
  return wx + wy + wz;
}

let startX: f32 = 0;
let startY: f32 = 0;
let startZ: f32 = 0;
let goX: f32 = 0;
let goY: f32 = 0;
let goZ: f32 = 0;
let red: f32 = 0;
let green: f32 = 0;
let blue: f32 = 0;
let from: i32 = -1;

/** Sends from a lamp's point towards the box. @returns whether anything is sent */
function sendToBox(i: i32, lot: f32, u: f32, v: f32): bool {
  const e = emitterAt(i);
  const kind = load<i32>(e, E_KIND);
  const faces = seenFrom(lightX, lightY, lightZ, lot, u, v);
  if (!(faces > 0)) return false;
  const dx = faceX - lightX;
  const dy = faceY - lightY;
  const dz = faceZ - lightZ;
  const d2 = dx * dx + dy * dy + dz * dz;
  const d = sqrt<f32>(d2);
  goX = dx / d;
  goY = dy / d;
  goZ = dz / d;
  const tilt: f32 = abs(faceAxis === 0 ? goX : faceAxis === 1 ? goY : goZ);
  // intensity over the density of directions
  let flux: f32 = (faces * tilt) / d2;
  if (kind === AREA || kind === GLOW) {
    flux *= load<f32>(e, E_AREA) * max<f32>(0, goX * lightNx + goY * lightNy + goZ * lightNz);
  } else {
    flux *= rangeFade(e, d2) * distanceFade(e, d2) * d2;
    if (kind === SPOT) flux *= spotFade(e, goX * lightNx + goY * lightNy + goZ * lightNz);
  }
  before(e, goX, goY, goZ);
  red = flux * load<f32>(e, E_RED) * beamR;
  green = flux * load<f32>(e, E_GREEN) * beamG;
  blue = flux * load<f32>(e, E_BLUE) * beamB;
  startX = lightX;
  startY = lightY;
  startZ = lightZ;
  from = -1;
  if (kind === GLOW) {
    from = load<i32>(e, E_INSTANCE);
    const off: f32 = (abs(lightX) + abs(lightY) + abs(lightZ)) * OFF;
    startX += lightNx * off;
    startY += lightNy * off;
    startZ += lightNz * off;
  }
  return flux > 0;
}

/** Sends along a direction that light comes from everywhere. @param power r g b are what falls on a plane across it */
function sendAlong(x: f32, y: f32, z: f32, lot: f32, u: f32, v: f32): void {
  const area = across(x, y, z, lot, u, v);
  goX = x;
  goY = y;
  goZ = z;
  red *= area;
  green *= area;
  blue *= area;
  startX = faceX - x * away;
  startY = faceY - y * away;
  startZ = faceZ - z * away;
  from = -1;
}

/** Sets WAVE photons out: numbers `first` and on of the `all` of a sample. Their places are empty until they land. */
export function sendWave(wave: usize, first: i32, all: i32, sample: i32, seed: u32): void {
  const common = i32x4.splat(pixelSeed(seed, 0x9e3779b9, 0x7f4a7c15));
  for (let i = 0; i < WAVE; i += 4) {
    const number = sample * all + first + i;
    const index = i32x4(number, number + 1, number + 2, number + 3);
    drawEach4(common, index, i32x4.splat(0));
    const which = drawX;
    const lots = drawY;
    drawEach4(common, index, i32x4.splat(1));
    const u1 = drawX;
    const v1 = drawY;
    drawEach4(common, index, i32x4.splat(2));
    const u2 = drawX;
    const v2 = drawY;
    if (ofSky) skyDraw4(u1, v1);
    for (let k = 0; k < 4; k++)
      one(wave, first, all, seed, i + k, k, of4(which, k), of4(lots, k), of4(u1, k), of4(v1, k), of4(u2, k), of4(v2, k));
  }
}

// @ts-ignore: decorator
@inline function of4(v: v128, k: i32): f32 {
  return k === 0 ? f32x4.extract_lane(v, 0) : k === 1 ? f32x4.extract_lane(v, 1)
    : k === 2 ? f32x4.extract_lane(v, 2) : f32x4.extract_lane(v, 3);
}

function one(
  wave: usize, first: i32, all: i32, seed: u32, i: i32, k: i32, which: f32, lot: f32, u1: f32, v1: f32, u2: f32, v2: f32,
): void {
  const at = wave + (<usize>i << 2);
  store<i32>(placeOf(first + i) + PH_ENDS, 0);
  let s = 0;
  while (s + 1 < sourceCount && load<f32>(sources + <usize>s * SOURCE_BYTES, SO_UP_TO) <= which) s++;
  const source = sources + <usize>s * SOURCE_BYTES;
  const emitter = load<i32>(source, SO_EMITTER);
  let group = skyGroup;
  let sent = true;
  red = 0;
  green = 0;
  blue = 0;
  if (emitter < 0) {
    const r = of4(skyR, k);
    const g = of4(skyG, k);
    const b = of4(skyB, k);
    const l: f32 = <f32>0.2126 * r + <f32>0.7152 * g + <f32>0.0722 * b;
    sent = l > skyClip;
    if (sent) {
      // what stands out of the rest; the rest is found by paths
      const share: f32 = (<f32>1 - skyClip / l) / max(<f32>1e-30, of4(skyDensity, k));
      red = r * share;
      green = g * share;
      blue = b * share;
      sendAlong(-of4(skyX, k), -of4(skyY, k), -of4(skyZ, k), lot, u2, v2);
    }
  } else {
    group = groupOf(emitter);
    pointOn(emitter, u1, v1);
    if (load<i32>(source, SO_WAY) === ALONG) {
      const e = emitterAt(emitter);
      // radiance times its solid angle, or what falls on a plane across the one direction it has
      const all = load<f32>(e, E_AREA);
      red = load<f32>(e, E_RED) * all;
      green = load<f32>(e, E_GREEN) * all;
      blue = load<f32>(e, E_BLUE) * all;
      sendAlong(lightNx, lightNy, lightNz, lot, u2, v2);
    } else sent = sendToBox(emitter, lot, u2, v2);
  }
  const each: f32 = sent ? <f32>1 / (load<f32>(source, SO_CHANCE) * <f32>all) : <f32>0;
  clear(at);
  store<f32>(at + P_RED, red * each);
  store<f32>(at + P_GREEN, green * each);
  store<f32>(at + P_BLUE, blue * each);
  store<i32>(at + P_SGROUP, group);
  store<u32>(at + P_PIXEL, pixelSeed(seed, first + i, 0x2545f491));
  store<f32>(at + P_OX, startX);
  store<f32>(at + P_OY, startY);
  store<f32>(at + P_OZ, startZ);
  store<f32>(at + P_DX, goX);
  store<f32>(at + P_DY, goY);
  store<f32>(at + P_DZ, goZ);
  store<i32>(at + P_FROM, from);
  store<f32>(at + P_NEAR, 0);
  inAir(at);
  store<f32>(at + P_TR, sent ? <f32>1 : <f32>0);
  store<f32>(at + P_TG, 1);
  store<f32>(at + P_TB, 1);
  store<f32>(at + P_TRAVELLED, 0);
  store<f32>(at + P_PDF, 0);
  store<i32>(at + P_DEPTH, 0);
  store<i32>(at + P_PASSES, 0);
  store<i32>(at + P_KINDS, 0);
  store<i32>(at + P_HUE, 0);
  store<i32>(at + P_BEYOND, 0);
  store<i32>(at + P_CASTER, 0);
}

/** Whether a photon was sent at all. */
// @ts-ignore: decorator
@inline export function wasSent(at: usize): bool { return f(P_TR, at) > 0; }

/** Keeps what a photon brings to where it stands, in its own place. */
export function land(at: usize, number: i32): void {
  const place = placeOf(number);
  store<f32>(place, f(P_X, at), PH_X);
  store<f32>(place, f(P_Y, at), PH_Y);
  store<f32>(place, f(P_Z, at), PH_Z);
  store<i32>(place, w(P_SGROUP, at), PH_GROUP);
  store<f32>(place, f(P_RED, at) * f(P_TR, at), PH_RED);
  store<f32>(place, f(P_GREEN, at) * f(P_TG, at), PH_GREEN);
  store<f32>(place, f(P_BLUE, at) * f(P_TB, at), PH_BLUE);
  store<f32>(place, -f(P_DX, at), PH_DX);
  store<f32>(place, -f(P_DY, at), PH_DY);
  store<f32>(place, -f(P_DZ, at), PH_DZ);
  store<i32>(place, 1, PH_ENDS);
}
