// One bounce of four paths on one finish: a light is sought, and a direction drawn to go on in.
import {
  BENEATH, F_ABSORPTION_B, F_ABSORPTION_G, F_ABSORPTION_R, F_CHOOSE_ALPHA2, F_CHOOSE_DIFFUSE, F_CHOOSE_SPECULAR, F_DISPERSION,
  F_GLASS, F_SCATTER_B, F_SCATTER_G, F_SCATTER_R, F_SHARP, F_SHEET_ALPHA, F_SUBSURFACE, P_CASTER, P_DEPTH, P_DX, P_DY, P_DZ, P_FROM, P_GX, P_GY, P_GZ, P_HUE, P_INSTANCE, P_KEPT, P_KINDS,
  P_LIFT, P_MEDIUM, P_NEAR, P_NOW, P_OX, P_OY, P_OZ, P_PDF, P_PIXEL, P_SBLUE, P_SDX, P_SDY, P_SDZ, P_SFROM, P_SGREEN,
  P_SGROUP, P_SNEAR, P_SREACH, P_SRED, P_SX, P_SY, P_SZ, P_TB, P_TG, P_TR, P_TRAVELLED, P_VALPHA2, P_VDIFFUSE, P_VNX,
  P_VNY, P_VNZ, P_VRX, P_VRY, P_VRZ, P_VSPECULAR, P_VSUM, P_VTHROUGH, P_VX, P_VY, P_VZ, P_X, P_Y, P_Z,
} from './layout';
import { byPhotonsHere } from './caustics';
import { fedB, fedG, fedGlow, fedR } from './fedGlow';
import {
  base, count, frame, get, nx, ny, nz, offset, put, row, squaredIndex, squaredIndexIn, take, ux, uy, uz, vx, vy, vz,
} from './group';
import { above, add, below, both, div, dot3, flip, mad, most, mul, pick, root, splat, sub } from './lanes';
import { chooseLight, chosenChance, onlySky, standAt, weighLights } from './choosing';
import {
  byPhotons, castsShadow, fallsOn, feedsOf, giveB, giveDensity, giveG, givePoint, giveR, groupOf, isFed, lightFrom,
  pointOn, toDistance, toX as lightToX, toY as lightToY, toZ as lightToZ,
} from './lights';
import {
  drawnDiffuse, drawnIn, evaluate, goesOn, sample, scatteredB, scatteredG, scatteredPdf, scatteredR, scatteredSharp, toX, toY,
  toZ, view,
} from './lobes/surface';
import { exp1 } from './maths4';
import { beyondGlass, enter, indexOf, leave } from './media';
import { skyKept, takeIn } from './receive';
import { keepRoles, linksAt, partB, partG, partLight, partR } from './roles';
import { draw4, drawX, drawY } from './sampler4';
import { finishAt, mirror, parted, points, sought } from './scene';
import { traceShadows } from './shadows';
import { choose, hueB, hueG, hueR, tinted } from './spectrum';
import { skyB, skyDensity, skyDraw4, skyFeeds, skyG, skyGroup, skyR, skyWeight, skyX, skyY, skyZ } from './surround';

/** Pairs of draws a bounce uses: light and lobe, place on the light, direction, roulette. */
export const PAIRS: i32 = 4;
/** Pairs of draws of the lights that are sought beside the first. */
const OF_SEEKS: i32 = 1 << 23;
/** First of the rows in which the four have the lights they chose, and the chance of each behind it. */
const CHOICES: i32 = 16;
/** Bounces of each kind are counted in ten bits each of a word. */
export const SCATTERED: i32 = 1;
export const REFLECTED: i32 = 1 << 10;
export const TRANSMITTED: i32 = 1 << 20;
/** Rays leave towards other solids from this many lifts behind their start, at a slant more. */
const BEHIND: f32 = 2;
const LEAST_COSINE: f32 = 0.02;
const NOWHERE: f32 = 1e30;
/** Less than this of anything is not worth a shadow ray. */
const FAINT: f32 = 1e-7;
const QUARTER_PI: f32 = 0.7853981633974483;
/** Interpolated normals turn a photon's light by no more than this. */
const MOST_TURNED: f32 = 4;

/** Weighs lights for each of the four, and chooses as many as are sought at once, one from each part of all light. */
function chooseEach(times: i32, lot: v128): void {
  v128.store(row(8), lot);
  for (let k = 0; k < count; k++) {
    const lane4 = <usize>k << 2;
    const at = base + offset(k);
    standAt(at);
    store<f32>(at + P_VSUM, weighLights(<f32>times));
    const from = load<f32>(row(8) + lane4);
    for (let s = 0; s < times; s++) {
      store<i32>(row(CHOICES + 2 * s) + lane4, chooseLight(from + <f32>s));
      store<f32>(row(CHOICES + 2 * s + 1) + lane4, chosenChance);
    }
  }
}

/** Takes a point of the light that each of the four has chosen. */
function seekEach(choice: i32, through: bool, index: i32): void {
  for (let k = 0; k < count; k++) {
    const lane4 = <usize>k << 2;
    const at = base + offset(k);
    const chosen = load<i32>(row(CHOICES + 2 * choice) + lane4);
    const chance = load<f32>(row(CHOICES + 2 * choice + 1) + lane4);
    store<f32>(row(7) + lane4, 0);
    store<i32>(row(11) + lane4, 0);
    store<f32>(row(13) + lane4, 1);
    store<i32>(at + P_SGROUP, skyGroup);
    store<f32>(row(12) + lane4, squaredIndexIn(load<i32>(at + P_MEDIUM)));
    store<f32>(row(14) + lane4, squaredIndexIn(beyondGlass(at)));
    if (chosen === -2) continue;
    if (chosen === -1) {
      store<f32>(row(7) + lane4, -chance);
      anySky = true;
      continue;
    }
    if (parted) {
      if (!fallsOn(chosen, linksAt(at))) continue;
      store<i32>(row(15) + lane4, feedsOf(chosen));
    }
    store<i32>(at + P_SGROUP, groupOf(chosen));
    // what photons bring from this lamp, over casters, to a receiver before
    if (byPhotonsHere() && byPhotons(chosen) && load<i32>(at + P_CASTER) !== 0)
      store<f32>(row(13) + lane4, load<f32>(at + P_KEPT));
    pointOn(chosen, load<f32>(row(9) + lane4), load<f32>(row(10) + lane4));
    const x = load<f32>(at + P_X);
    const y = load<f32>(at + P_Y);
    const z = load<f32>(at + P_Z);
    const gx = load<f32>(at + P_GX);
    const gy = load<f32>(at + P_GY);
    const gz = load<f32>(at + P_GZ);
    if (!lightFrom(chosen, x, y, z, chance)) continue;
    const side = lightToX * gx + lightToY * gy + lightToZ * gz;
    if (side < 0 && !through) continue;
    const density = giveDensity;
    if (isFed(chosen)) {
      fedGlow(at, index);
      store<f32>(row(4) + lane4, fedR);
      store<f32>(row(5) + lane4, fedG);
      store<f32>(row(6) + lane4, fedB);
    } else {
      store<f32>(row(4) + lane4, giveR);
      store<f32>(row(5) + lane4, giveG);
      store<f32>(row(6) + lane4, giveB);
    }
    // aimed again from where the ray starts: a direction from the surface itself would miss at a slant
    const lift = load<f32>(at + P_LIFT) * (side < 0 ? <f32>-1 : <f32>1);
    if (!lightFrom(chosen, x + gx * lift, y + gy * lift, z + gz * lift, chance)) continue;
    store<f32>(row(0) + lane4, lightToX);
    store<f32>(row(1) + lane4, lightToY);
    store<f32>(row(2) + lane4, lightToZ);
    store<f32>(row(3) + lane4, toDistance);
    store<f32>(row(7) + lane4, density);
    store<i32>(row(11) + lane4, (givePoint ? 1 : 0) | (castsShadow(chosen) ? 0 : 2));
  }
  for (let k = count; k < 4; k++) store<f32>(row(7) + (<usize>k << 2), 0);
}

/** Which of the four are white yet, and meet glass that parts colours. */
let white: v128 = f32x4.splat(0);

/** Whether one of the four has chosen the surround. */
let anySky: bool = false;

/**
 * Seeks the light that each of the four has chosen and queues a shadow ray for what it gives.
 * @returns how many were queued, their offsets at `queue`
 */
function seek(choice: i32, finish: usize, inside: i32, queue: usize, index: i32, pair: v128): i32 {
  draw4(get(P_PIXEL), index, pair);
  const u = drawX;
  const v = drawY;
  v128.store(row(9), u);
  v128.store(row(10), v);
  const through = opens(finish) || inside === 2;
  anySky = false;
  if (parted) v128.store(row(15), i32x4.splat(skyFeeds));
  // direction 0 1 2, distance 3, radiance 4 5 6, density 7 (nought: nothing)
  if (onlySky()) {
    if (!(skyWeight > 0)) return 0;
    v128.store(row(7), splat(-1));
    v128.store(row(11), splat(0));
    v128.store(row(13), splat(1));
    for (let k = 0; k < 4; k++) {
      store<i32>(base + offset(k) + P_SGROUP, skyGroup);
      const at = base + offset(k);
      store<f32>(row(12) + (<usize>k << 2), squaredIndexIn(load<i32>(at + P_MEDIUM)));
      store<f32>(row(14) + (<usize>k << 2), squaredIndexIn(beyondGlass(at)));
    }
    anySky = true;
  } else seekEach(choice, through, index);
  let lx = v128.load(row(0));
  let ly = v128.load(row(1));
  let lz = v128.load(row(2));
  let reach = v128.load(row(3));
  let r = v128.load(row(4));
  let g = v128.load(row(5));
  let b = v128.load(row(6));
  let density = v128.load(row(7));
  let ofSky = splat(0);
  if (anySky) {
    ofSky = below(density, splat(0));
    skyDraw4(u, v);
    lx = pick(ofSky, skyX, lx);
    ly = pick(ofSky, skyY, ly);
    lz = pick(ofSky, skyZ, lz);
    reach = pick(ofSky, splat(NOWHERE), reach);
    r = pick(ofSky, skyR, r);
    g = pick(ofSky, skyG, g);
    b = pick(ofSky, skyB, b);
    density = pick(ofSky, mul(flip(density), skyDensity), density);
    if (byPhotonsHere()) {
      const over = i32x4.ne(get(P_CASTER), i32x4.splat(0));
      v128.store(row(13), pick(both(ofSky, over), skyKept(r, g, b, get(P_KEPT)), v128.load(row(13))));
    }
  }
  const side = dot3(lx, ly, lz, get(P_GX), get(P_GY), get(P_GZ));
  const iz = dot3(lx, ly, lz, nx, ny, nz);
  let lit = both(above(mul(side, iz), splat(0)), above(density, splat(0)));
  if (!v128.any_true(lit)) return 0;
  evaluate(dot3(lx, ly, lz, ux, uy, uz), dot3(lx, ly, lz, vx, vy, vz), iz);
  const kinds = v128.load(row(11));
  const isPoint = i32x4.ne(v128.and(kinds, i32x4.splat(1)), i32x4.splat(0));
  let w = div(splat(1), add(density, pick(isPoint, splat(0), scatteredPdf)));
  // radiance is carried divided by the squared index, and what glows in glass gives it there
  const near2 = v128.load(row(12));
  const far2 = inside !== 0 ? v128.load(row(14)) : load<f32>(finish + F_GLASS) > 0 ? splat(squaredIndex(finish)) : near2;
  w = mul(v128.load(row(13)), div(w, pick(below(side, splat(0)), far2, near2)));
  r = mul(mul(get(P_TR), mul(scatteredR, r)), w);
  g = mul(mul(get(P_TG), mul(scatteredG, g)), w);
  b = mul(mul(get(P_TB), mul(scatteredB, b)), w);
  if (parted) {
    partLight(v128.load(row(15)), ofSky, below(iz, splat(0)), inside === 2);
    r = mul(r, partR);
    g = mul(g, partG);
    b = mul(b, partB);
  }
  if (v128.any_true(white)) {
    const parted = both(white, below(iz, splat(0)));
    r = tinted(r, hueR, parted);
    g = tinted(g, hueG, parted);
    b = tinted(b, hueB, parted);
  }
  lit = both(lit, above(add(add(r, g), b), splat(FAINT)));
  const outward = pick(below(side, splat(0)), splat(-1), splat(1));
  const lift = mul(get(P_LIFT), outward);
  put(P_SX, mad(get(P_GX), lift, get(P_X)));
  put(P_SY, mad(get(P_GY), lift, get(P_Y)));
  put(P_SZ, mad(get(P_GZ), lift, get(P_Z)));
  put(P_SDX, lx);
  put(P_SDY, ly);
  put(P_SDZ, lz);
  put(P_SREACH, most(splat(0), sub(mul(reach, splat(0.99999)), get(P_LIFT))));
  put(P_SNEAR, backOf(side));
  put(P_SFROM, get(P_INSTANCE));
  put(P_SRED, r);
  put(P_SGREEN, g);
  put(P_SBLUE, b);
  const mask = i32x4.bitmask(lit);
  let queued = 0;
  for (let k = 0; k < count; k++) {
    if ((mask & (1 << k)) === 0) continue;
    absorb(finish, inside, base + offset(k));
    // a negative reach: nothing stands in the way of this light
    if (load<i32>(row(11) + (<usize>k << 2)) & 2) store<f32>(base + offset(k) + P_SREACH, -1);
    store<u32>(queue + (<usize>queued << 2), <u32>offset(k));
    queued++;
  }
  return queued;
}

/** Dims what a light gives by the glass it would come through. */
function absorb(finish: usize, inside: i32, at: usize): void {
  const crosses =
    load<f32>(at + P_SDX) * load<f32>(at + P_GX) + load<f32>(at + P_SDY) * load<f32>(at + P_GY) +
      load<f32>(at + P_SDZ) * load<f32>(at + P_GZ) < 0;
  const medium = load<i32>(at + P_MEDIUM);
  if (crosses ? inside !== 0 || load<f32>(finish + F_GLASS) === 0 : medium < 0 || (medium & BENEATH) !== 0) return;
  const glass = crosses ? finish : finishAt(medium);
  const reach = load<f32>(at + P_SREACH);
  store<f32>(at + P_SRED, load<f32>(at + P_SRED) * exp1(-(load<f32>(glass, F_ABSORPTION_R) + load<f32>(glass, F_SCATTER_R)) * reach));
  store<f32>(at + P_SGREEN, load<f32>(at + P_SGREEN) * exp1(-(load<f32>(glass, F_ABSORPTION_G) + load<f32>(glass, F_SCATTER_G)) * reach));
  store<f32>(at + P_SBLUE, load<f32>(at + P_SBLUE) * exp1(-(load<f32>(glass, F_ABSORPTION_B) + load<f32>(glass, F_SCATTER_B)) * reach));
}

/** From where other solids are met: some lifts behind the start, more at a slant. */
// @ts-ignore: decorator
@inline function backOf(side: v128): v128 {
  return div(mul(get(P_LIFT), splat(-BEHIND)), most(f32x4.abs(side), splat(LEAST_COSINE)));
}

// @ts-ignore: decorator
@inline function add4(pair: v128, k: i32): v128 { return i32x4.add(pair, i32x4.splat(k)); }

/** Results of bounce: shadow rays that are queued and that were traced, and a bit for each path that goes on. */
export let queuedRays: i32 = 0;
export let tracedRays: i32 = 0;
export let alive: i32 = 0;

/**
 * Shades `n` of four paths.
 * @param wave where their fields are; a b c d their byte offsets, the first repeated where there are fewer
 * @param sending whether they carry light away from lamps rather than look for it
 */
export function bounce(
  wave: usize, a: usize, b: usize, c: usize, d: usize, n: i32, number: i32, inside: i32, queue: usize, index: i32,
  sending: bool,
): void {
  const finish = finishAt(number);
  take(wave, a, b, c, d, n);
  const dx = get(P_DX);
  const dy = get(P_DY);
  const dz = get(P_DZ);
  frame(finish);
  let wx = flip(dot3(dx, dy, dz, ux, uy, uz));
  let wy = flip(dot3(dx, dy, dz, vx, vy, vz));
  let wz = most(flip(dot3(dx, dy, dz, nx, ny, nz)), splat(1e-6));
  const wl = div(splat(1), root(dot3(wx, wy, wz, wx, wy, wz)));
  wx = mul(wx, wl);
  wy = mul(wy, wl);
  wz = mul(wz, wl);
  const parts = load<f32>(finish + F_DISPERSION) > 0;
  if (parts) choose(get(P_PIXEL), index);
  white = parts ? i32x4.eq(get(P_HUE), i32x4.splat(0)) : splat(0);
  const glassy = load<f32>(finish + F_GLASS) > 0;
  view(finish, inside, wx, wy, wz, glassy ? indexBeyond(inside !== 0) : splat(1));
  const pair = i32x4.add(i32x4.mul(get(P_DEPTH), i32x4.splat(PAIRS)), i32x4.splat(1));
  draw4(get(P_PIXEL), index, pair);
  const lotOfLight = drawX;
  const lotOfLobe = drawY;
  // a mirror finds whatever has a size by itself
  const seeks = !sending && (load<f32>(finish + F_SHARP) > mirror || points);
  queuedRays = 0;
  tracedRays = 0;
  if (!sending && byPhotonsHere()) takeIn();
  if (seeks) {
    // from where, and for what of the surface, lights are chosen
    put(P_VX, get(P_X));
    put(P_VY, get(P_Y));
    put(P_VZ, get(P_Z));
    put(P_VNX, nx);
    put(P_VNY, ny);
    put(P_VNZ, nz);
    const twice = add(wz, wz);
    put(P_VRX, mad(twice, nx, dx));
    put(P_VRY, mad(twice, ny, dy));
    put(P_VRZ, mad(twice, nz, dz));
    put(P_VDIFFUSE, v128.load32_splat(finish + F_CHOOSE_DIFFUSE));
    put(
      P_VSPECULAR,
      div(splat(load<f32>(finish + F_CHOOSE_SPECULAR) * QUARTER_PI), most(wz, splat(0.1))),
    );
    put(P_VALPHA2, v128.load32_splat(finish + F_CHOOSE_ALPHA2));
    put(P_VTHROUGH, i32x4.splat(opens(finish) || inside === 2 ? 1 : 0));
    const times = onlySky() || v128.any_true(get(P_DEPTH)) ? 1 : sought;
    if (!onlySky()) chooseEach(times, lotOfLight);
    // a path has room for one shadow ray: all but the first are traced at once
    for (let s = 1; s < times; s++) {
      const also = seek(s, finish, inside, queue, index, i32x4.splat(OF_SEEKS + s));
      tracedRays += traceShadows(base, queue, also, index);
    }
    queuedRays = seek(0, finish, inside, queue, index, add4(pair, 1));
  }
  draw4(get(P_PIXEL), index, add4(pair, 2));
  sample(lotOfLobe, drawX, drawY);
  const lx = mad(ux, toX, mad(vx, toY, mul(nx, toZ)));
  const ly = mad(uy, toX, mad(vy, toY, mul(ny, toZ)));
  const lz = mad(uz, toX, mad(vz, toY, mul(nz, toZ)));
  const side = dot3(lx, ly, lz, get(P_GX), get(P_GY), get(P_GZ));
  const on = both(goesOn, above(mul(side, toZ), splat(0)));
  let scale = div(splat(1), most(scatteredPdf, splat(1e-30)));
  if (sending) scale = mul(scale, turnedBy(side, dx, dy, dz));
  put(P_TR, mul(get(P_TR), mul(scatteredR, scale)));
  put(P_TG, mul(get(P_TG), mul(scatteredG, scale)));
  put(P_TB, mul(get(P_TB), mul(scatteredB, scale)));
  if (parts) {
    const parted = both(white, below(toZ, splat(0)));
    put(P_TR, tinted(get(P_TR), hueR, parted));
    put(P_TG, tinted(get(P_TG), hueG, parted));
    put(P_TB, tinted(get(P_TB), hueB, parted));
    put(P_HUE, pick(parted, i32x4.splat(1), get(P_HUE)));
  }
  // where light comes out that seeps in is not known, so none is sought for it
  const seeps = load<f32>(finish + F_SUBSURFACE) > 0 && inside === 0;
  const goesIn = drawnIn;
  put(P_PDF, seeks ? pick(goesIn, splat(0), scatteredPdf) : splat(0));
  const lift = mul(get(P_LIFT), pick(below(side, splat(0)), splat(-1), splat(1)));
  put(P_OX, mad(get(P_GX), lift, get(P_X)));
  put(P_OY, mad(get(P_GY), lift, get(P_Y)));
  put(P_OZ, mad(get(P_GZ), lift, get(P_Z)));
  put(P_DX, lx);
  put(P_DY, ly);
  put(P_DZ, lz);
  put(P_NEAR, backOf(side));
  put(P_FROM, get(P_INSTANCE));
  put(P_TRAVELLED, splat(0));
  const crossed = both(below(toZ, splat(0)), splatMask(load<f32>(finish + F_GLASS) > 0 || inside === 2));
  const changes = i32x4.bitmask(v128.or(crossed, goesIn));
  if (changes !== 0) {
    const within = i32x4.bitmask(goesIn);
    for (let k = 0; k < count; k++) {
      if ((changes & (1 << k)) === 0) continue;
      const at = base + offset(k);
      if (inside !== 0) leave(at);
      else enter(at, (within & (1 << k)) !== 0 ? number | BENEATH : number, load<i32>(at + P_INSTANCE));
    }
  }
  if (parted) keepRoles(below(toZ, splat(0)), inside === 2);
  put(P_DEPTH, i32x4.add(get(P_DEPTH), i32x4.splat(1)));
  const kind = pick(
    below(toZ, splat(0)), i32x4.splat(TRANSMITTED), pick(drawnDiffuse, i32x4.splat(SCATTERED), i32x4.splat(REFLECTED)),
  );
  put(P_KINDS, i32x4.add(get(P_KINDS), kind));
  if (byPhotonsHere()) {
    const over = i32x4.ne(get(P_CASTER), i32x4.splat(0));
    const kept = pick(over, get(P_KEPT), scatteredSharp);
    put(P_NOW, pick(over, kept, splat(1)));
    put(P_KEPT, kept);
  }
  alive = i32x4.bitmask(on);
}

/**
 * What interpolated normals make of light that is sent, where paths would look for it the other way (Veach, "Robust
 * Monte Carlo Methods for Light Transport Simulation", 1997, §5.3).
 */
function turnedBy(side: v128, dx: v128, dy: v128, dz: v128): v128 {
  const came = f32x4.abs(dot3(dx, dy, dz, nx, ny, nz));
  const cameTrue = f32x4.abs(dot3(dx, dy, dz, get(P_GX), get(P_GY), get(P_GZ)));
  const by = div(mul(came, f32x4.abs(side)), most(mul(cameTrue, f32x4.abs(toZ)), splat(1e-6)));
  return f32x4.pmin(splat(MOST_TURNED), by);
}

/** Index of what lies on the other side of a solid's face, outside it. */
function indexBeyond(inside: bool): v128 {
  for (let k = 0; k < 4; k++) {
    const at = base + offset(k);
    store<f32>(row(0) + (<usize>k << 2), indexOf(inside ? beyondGlass(at) : load<i32>(at + P_MEDIUM)));
  }
  return v128.load(row(0));
}

/** Whether light comes through a face from its other side. */
// @ts-ignore: decorator
@inline function opens(finish: usize): bool {
  return load<f32>(finish + F_GLASS) > 0 || load<f32>(finish + F_SHEET_ALPHA) > 0;
}

// @ts-ignore: decorator
@inline function splatMask(yes: bool): v128 { return i32x4.splat(yes ? -1 : 0); }
