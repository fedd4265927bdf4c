// Paths in waves of WAVE: all of them take each step together, so that shading works on four of one finish at once.
//   aim → trace ⇄ misses → shade by finish → shadow rays → trace …, and at the end what each path leaves for the film.
// A path's picture depends on pixel, sample and seed alone, so waves may be of any size and threads of any number.
import {
  BUCKETS, F_ABSORPTION_B, F_ABSORPTION_G, F_ABSORPTION_R, F_ALBEDO_R, F_EMISSION_R, F_GLASS, F_IOR, F_SHEET,
  F_SHEET_ALPHA, F_TINT_B, F_TINT_G, F_TINT_R, INSTANCE_BYTES, INSTANCE_EMITTER, INSTANCE_FLAGS, IS_LIGHT, LANE_BUCKETS, LANE_LISTS,
  LANE_RAYS, LANE_WAVE, P_ALBEDO_B, P_ALBEDO_G, P_ALBEDO_R, P_ALPHA,
  P_B1, P_B2, P_BEHIND, P_BLUE, P_COUNT, P_DEPTH, P_DISTANCE, P_DX, P_DY, P_DZ, P_FINISH, P_FROM, P_GREEN, P_GX, P_GY,
  P_GZ, P_INSIDE, P_INSTANCE, P_MEDIUM, P_NEAR, P_NORMAL_X, P_NORMAL_Y, P_NORMAL_Z, P_NX, P_NY, P_NZ, P_OX, P_OY,
  P_OZ, P_PART, P_PASSES, P_PDF, P_PIXEL, P_RED, P_SBLUE, P_SDX, P_SDY, P_SDZ, P_SFROM, P_SGREEN, P_SNEAR, P_SREACH,
  P_SRED, P_SX, P_SY, P_SZ, P_T, P_TB, P_TG, P_TR, P_TRAVELLED, P_TRIANGLE, P_X, P_Y, P_Z, PART_EMITTER,
  PART_FLAGS, PART_HIDDEN, PART_TWO_SIDED, WAVE, WAVE_SIDE,
} from './layout';
import { both, div, gather, mad, mul, most, pick, scatter, splat } from './lanes';
import { aimPaths, depthOf } from './eye';
import { standOnHit } from './geometry';
import { colourOf, densityOf, facing, onlySky, skyChance, standAt } from './lights';
import { glossAt } from './lobes/rows';
import { exp1 } from './maths4';
import { draw1, drawX, pixelSeed } from './sampler4';
import { finishAt, instances, lane, partAt, sheets } from './scene';
import { alive, bounce, PAIRS, queuedRays } from './shade';
import { look4, skyB, skyDensity, skyG, skyR, skySeen } from './surround';
import { closest, closestAfter, foundB1, foundB2, foundInstance, foundT, occluded } from './traverse';

const FAR: f32 = 1e30;
/** Bounces before Russian roulette may end a path, and the greatest chance to go on. */
const ROULETTE_AFTER: i32 = 3;
const ROULETTE_MOST: f32 = 0.96;
/** Area lights, sheets and hidden parts a ray may pass before it is given up. */
const MOST_PASSES: i32 = 64;
/** First pair of draws of those that choose between a sheet's reflection and what lies behind it. */
const SHEET_PAIR: i32 = 4096;

let wave: usize = 0;
/** Lists of paths' byte offsets: under way, missed, queued shadow rays; and the next of each path's bucket. */
let active: usize = 0;
let missed: usize = 0;
let queue: usize = 0;
let next: usize = 0;
/** Rays traced since the thread began. */
let rays: f64 = 0;
/** Camera rays that something hides from. */
let masks: bool = false;

let heads: usize = 0;
let touched: usize = 0;

export function raysTraced(): f64 {
  return rays;
}

// @ts-ignore: decorator
@inline function f(field: usize, at: usize): f32 { return load<f32>(at + field); }
// @ts-ignore: decorator
@inline function w(field: usize, at: usize): i32 { return load<i32>(at + field); }
// @ts-ignore: decorator
@inline function grow(field: usize, at: usize, by: f32): void { store<f32>(at + field, load<f32>(at + field) + by); }
// @ts-ignore: decorator
@inline function scale(field: usize, at: usize, by: f32): void { store<f32>(at + field, load<f32>(at + field) * by); }
// @ts-ignore: decorator
@inline function entry(list: usize, i: i32): usize { return <usize>load<u32>(list + (<usize>i << 2)); }

/** What the last finishes of a wave's lights are worth when a bounce finds them by chance. */
// @ts-ignore: decorator
@inline function balance(at: usize, emitter: i32, t: f32, cosine: f32): f32 {
  const pdf = f(P_PDF, at);
  if (pdf <= 0) return 1;
  standAt(at);
  return pdf / (pdf + densityOf(emitter, t, cosine));
}

/** Share of a smooth sheet's light that goes straight through, before its tint. @param cosine with its normal */
// @ts-ignore: decorator
@inline function straight(finish: usize, cosine: f32): f32 {
  return load<f32>(finish, F_SHEET) * (<f32>1 - glossAt(finish, cosine));
}
// @ts-ignore: decorator
@inline function isPane(finish: usize): bool {
  return load<f32>(finish, F_SHEET) > 0 && load<f32>(finish, F_SHEET_ALPHA) === 0;
}

/** Traces one path's ray to the surface it is shaded on. @returns false when it meets none */
function trace(at: usize, index: i32): i32 {
  const ox = f(P_OX, at);
  const oy = f(P_OY, at);
  const oz = f(P_OZ, at);
  const dx = f(P_DX, at);
  const dy = f(P_DY, at);
  const dz = f(P_DZ, at);
  let id = closest(ox, oy, oz, 0, dx, dy, dz, FAR, w(P_FROM, at), f(P_NEAR, at));
  let passes = 0;
  while (true) {
    rays += 1;
    if (id < 0) return 0;
    const t = foundT();
    const instance = foundInstance();
    store<f32>(at + P_T, t);
    store<f32>(at + P_B1, foundB1());
    store<f32>(at + P_B2, foundB2());
    store<i32>(at + P_TRIANGLE, id);
    store<i32>(at + P_INSTANCE, instance);
    const record = instances + <usize>instance * INSTANCE_BYTES;
    let passed = false;
    if ((load<i32>(record, INSTANCE_FLAGS) & IS_LIGHT) !== 0) {
      // area lights glow on one side, are not seen directly, and block nothing
      if (w(P_DEPTH, at) > 0) {
        const emitter = load<i32>(record, INSTANCE_EMITTER);
        const cosine = facing(emitter, dx, dy, dz);
        if (cosine > 0) gives(at, balance(at, emitter, t, cosine), colourOf(emitter, 0), colourOf(emitter, 1), colourOf(emitter, 2));
      }
      passed = true;
    } else {
      standOnHit(at);
      const part = partAt(w(P_PART, at));
      const flags = load<i32>(part, PART_FLAGS);
      if (w(P_DEPTH, at) === 0 && (flags & PART_HIDDEN) !== 0) {
        passed = true;
      } else {
        const number = load<i32>(part);
        const finish = finishAt(number);
        store<i32>(at + P_FINISH, number);
        absorb(at, t);
        if (isPane(finish)) passed = passesPane(at, finish, index, passes);
      }
    }
    if (!passed) return 1;
    if (++passes > MOST_PASSES) {
      // given up: it sees nothing, not the surround
      store<i32>(at + P_PASSES, 1);
      return 0;
    }
    id = closestAfter(ox, oy, oz, dx, dy, dz, FAR, t, instance, id);
  }
}

/** Adds light that a path meets. */
// @ts-ignore: decorator
@inline function gives(at: usize, share: f32, r: f32, g: f32, b: f32): void {
  const medium = w(P_MEDIUM, at);
  let s = share;
  if (medium >= 0) {
    // radiance is carried divided by the squared index
    const ior = load<f32>(finishAt(medium), F_IOR);
    s /= ior * ior;
  }
  grow(P_RED, at, f(P_TR, at) * s * r);
  grow(P_GREEN, at, f(P_TG, at) * s * g);
  grow(P_BLUE, at, f(P_TB, at) * s * b);
}

/** Absorption of the glass a path is in, over what it has gone since it was last counted. */
// @ts-ignore: decorator
@inline function absorb(at: usize, t: f32): void {
  const medium = w(P_MEDIUM, at);
  if (medium < 0) return;
  const glass = finishAt(medium);
  const way: f32 = f(P_TRAVELLED, at) - t;
  scale(P_TR, at, exp1(load<f32>(glass, F_ABSORPTION_R) * way));
  scale(P_TG, at, exp1(load<f32>(glass, F_ABSORPTION_G) * way));
  scale(P_TB, at, exp1(load<f32>(glass, F_ABSORPTION_B) * way));
  store<f32>(at + P_TRAVELLED, t);
}

/** Whether a path goes straight on through a smooth sheet; its throughput is what is left of that choice. */
function passesPane(at: usize, finish: usize, index: i32, passes: i32): bool {
  const cosine = -(f(P_DX, at) * f(P_NX, at) + f(P_DY, at) * f(P_NY, at) + f(P_DZ, at) * f(P_NZ, at));
  const share = straight(finish, cosine);
  draw1(w(P_PIXEL, at), index, SHEET_PAIR + w(P_DEPTH, at) * MOST_PASSES + passes);
  if (f32x4.extract_lane(drawX, 0) < share) {
    scale(P_TR, at, load<f32>(finish, F_TINT_R));
    scale(P_TG, at, load<f32>(finish, F_TINT_G));
    scale(P_TB, at, load<f32>(finish, F_TINT_B));
    return true;
  }
  const rest: f32 = <f32>1 / (<f32>1 - share);
  scale(P_TR, at, rest);
  scale(P_TG, at, rest);
  scale(P_TB, at, rest);
  return false;
}

/** What a path's surface gives by itself, and what the film keeps of the first. @returns whether it is to be shaded */
function meet(at: usize, bounces: i32): bool {
  const finish = finishAt(w(P_FINISH, at));
  const part = partAt(w(P_PART, at));
  const behind = w(P_BEHIND, at) !== 0;
  const depth = w(P_DEPTH, at);
  const emitter = load<i32>(part, PART_EMITTER);
  // a face glows from its outside; from both only where its file says so
  if (emitter >= 0 && (!behind || (load<i32>(part, PART_FLAGS) & PART_TWO_SIDED) !== 0)) {
    const cosine: f32 = behind ? <f32>0
      : -(f(P_DX, at) * f(P_GX, at) + f(P_DY, at) * f(P_GY, at) + f(P_DZ, at) * f(P_GZ, at));
    gives(
      at, balance(at, emitter, f(P_T, at), cosine),
      load<f32>(finish, F_EMISSION_R), load<f32>(finish, F_EMISSION_R + 4), load<f32>(finish, F_EMISSION_R + 8),
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
  }
  // the side the viewer is on; only glass has an inside
  store<i32>(at + P_INSIDE, behind && load<f32>(finish, F_GLASS) > 0 ? 1 : 0);
  return depth < bounces;
}

/** Light of the surround for the paths that met nothing, four at a time. */
function look(n: i32): void {
  for (let i = 0; i < n; i += 4) {
    const a = entry(missed, i);
    const b = i + 1 < n ? entry(missed, i + 1) : a;
    const c = i + 2 < n ? entry(missed, i + 2) : a;
    const d = i + 3 < n ? entry(missed, i + 3) : a;
    look4(
      gather(wave + P_DX, a, b, c, d), gather(wave + P_DY, a, b, c, d), gather(wave + P_DZ, a, b, c, d),
    );
    const pdf = gather(wave + P_PDF, a, b, c, d);
    let share = splat(1);
    if (v128.any_true(f32x4.gt(pdf, splat(0)))) {
      let chance = splat(1);
      if (!onlySky()) {
        standAt(wave + a);
        chance = splat(skyChance());
        standAt(wave + b);
        chance = f32x4.replace_lane(chance, 1, skyChance());
        standAt(wave + c);
        chance = f32x4.replace_lane(chance, 2, skyChance());
        standAt(wave + d);
        chance = f32x4.replace_lane(chance, 3, skyChance());
      }
      share = pick(f32x4.gt(pdf, splat(0)), div(pdf, most(mad(skyDensity, chance, pdf), splat(1e-30))), share);
    }
    scatter(wave + P_RED, a, b, c, d, mad(mul(gather(wave + P_TR, a, b, c, d), share), skyR, gather(wave + P_RED, a, b, c, d)));
    scatter(wave + P_GREEN, a, b, c, d, mad(mul(gather(wave + P_TG, a, b, c, d), share), skyG, gather(wave + P_GREEN, a, b, c, d)));
    scatter(wave + P_BLUE, a, b, c, d, mad(mul(gather(wave + P_TB, a, b, c, d), share), skyB, gather(wave + P_BLUE, a, b, c, d)));
  }
}

/** Traces the queued shadow rays and adds what gets along them. */
function shadows(n: i32): void {
  for (let i = 0; i < n; i++) {
    const at = wave + entry(queue, i);
    const reach = f(P_SREACH, at);
    let r: f32 = 1;
    let g: f32 = 1;
    let b: f32 = 1;
    if (reach >= 0) {
      rays += 1;
      if (
        occluded(
          f(P_SX, at), f(P_SY, at), f(P_SZ, at), 0, f(P_SDX, at), f(P_SDY, at), f(P_SDZ, at), reach,
          w(P_SFROM, at), f(P_SNEAR, at),
        ) !== 0
      ) {
        if (!sheets || !throughPanes(at, reach)) continue;
        r = paneR;
        g = paneG;
        b = paneB;
      }
    }
    grow(P_RED, at, f(P_SRED, at) * r);
    grow(P_GREEN, at, f(P_SGREEN, at) * g);
    grow(P_BLUE, at, f(P_SBLUE, at) * b);
  }
}

let paneR: f32 = 1;
let paneG: f32 = 1;
let paneB: f32 = 1;

/** What gets through smooth sheets along a blocked shadow ray; false when something else stands there. */
function throughPanes(at: usize, reach: f32): bool {
  paneR = 1;
  paneG = 1;
  paneB = 1;
  const ox = f(P_SX, at);
  const oy = f(P_SY, at);
  const oz = f(P_SZ, at);
  const dx = f(P_SDX, at);
  const dy = f(P_SDY, at);
  const dz = f(P_SDZ, at);
  let id = closest(ox, oy, oz, 0, dx, dy, dz, reach, w(P_SFROM, at), f(P_SNEAR, at));
  for (let k = 0; k < MOST_PASSES; k++) {
    rays += 1;
    if (id < 0) return true;
    const t = foundT();
    const instance = foundInstance();
    const record = instances + <usize>instance * INSTANCE_BYTES;
    if ((load<i32>(record, INSTANCE_FLAGS) & IS_LIGHT) === 0) {
      // stood on in the place to spare
      const spare = wave + (<usize>WAVE << 2);
      store<i32>(spare + P_INSTANCE, instance);
      store<i32>(spare + P_TRIANGLE, id);
      store<f32>(spare + P_B1, foundB1());
      store<f32>(spare + P_B2, foundB2());
      store<f32>(spare + P_DX, dx);
      store<f32>(spare + P_DY, dy);
      store<f32>(spare + P_DZ, dz);
      standOnHit(spare);
      const finish = finishAt(load<i32>(partAt(w(P_PART, spare))));
      if (!isPane(finish)) return false;
      const share = straight(
        finish, -(dx * f(P_NX, spare) + dy * f(P_NY, spare) + dz * f(P_NZ, spare)),
      );
      paneR *= share * load<f32>(finish, F_TINT_R);
      paneG *= share * load<f32>(finish, F_TINT_G);
      paneB *= share * load<f32>(finish, F_TINT_B);
    }
    id = closestAfter(ox, oy, oz, dx, dy, dz, reach, t, instance, id);
  }
  return false;
}

/** Sorts the paths to be shaded by finish and side, and shades them four at a time. @returns paths that go on */
function shade(n: i32, index: i32): i32 {
  let kinds = 0;
  for (let i = 0; i < n; i++) {
    const path = entry(active, i);
    const at = wave + path;
    const bucket = <usize>(((w(P_FINISH, at) << 1) | w(P_INSIDE, at)) & (BUCKETS - 1)) << 2;
    const head = load<i32>(heads + bucket);
    if (head === 0) {
      store<u32>(touched + (<usize>kinds << 2), <u32>bucket);
      kinds++;
    }
    store<i32>(next + path, head);
    store<i32>(heads + bucket, <i32>path + 1);
  }
  let on = 0;
  let queued = 0;
  for (let k = 0; k < kinds; k++) {
    const bucket = <usize>load<u32>(touched + (<usize>k << 2));
    let path = load<i32>(heads + bucket);
    store<i32>(heads + bucket, 0);
    while (path !== 0) {
      const a = <usize>(path - 1);
      const finish = w(P_FINISH, wave + a);
      const inside = w(P_INSIDE, wave + a);
      let b = a;
      let c = a;
      let d = a;
      let count = 1;
      path = load<i32>(next + a);
      while (count < 4 && path !== 0) {
        const p = <usize>(path - 1);
        if (w(P_FINISH, wave + p) !== finish || w(P_INSIDE, wave + p) !== inside) break;
        if (count === 1) b = p;
        else if (count === 2) c = p;
        else d = p;
        count++;
        path = load<i32>(next + p);
      }
      bounce(wave, a, b, c, d, count, finish, inside !== 0, queue + (<usize>queued << 2), index);
      queued += queuedRays;
      for (let j = 0; j < count; j++) {
        if ((alive & (1 << j)) === 0) continue;
        const p = j === 0 ? a : j === 1 ? b : j === 2 ? c : d;
        store<u32>(active + (<usize>on << 2), <u32>p);
        on++;
      }
    }
  }
  shadows(queued);
  return on;
}

/** Russian roulette. @returns whether the path goes on */
function survives(at: usize, index: i32): bool {
  const depth = w(P_DEPTH, at);
  if (depth <= ROULETTE_AFTER) return true;
  const go = min(ROULETTE_MOST, max(max(f(P_TR, at), f(P_TG, at)), f(P_TB, at)));
  draw1(w(P_PIXEL, at), index, depth * PAIRS);
  if (!(f32x4.extract_lane(drawX, 0) < go)) return false;
  const by: f32 = <f32>1 / go;
  scale(P_TR, at, by);
  scale(P_TG, at, by);
  scale(P_TB, at, by);
  return true;
}

/**
 * Traces sample `index` of a square of pixels, WAVE_SIDE each way from (x0, y0), cut at (x1, y1). Leaves for each path,
 * row by row, FILM_WORDS at LANE_RAYS: r g b alpha, and of what it saw first albedo, normal, distance and count.
 */
export function traceWave(x0: i32, y0: i32, x1: i32, y1: i32, index: i32, seed: u32, bounces: i32): void {
  wave = lane + LANE_WAVE;
  active = lane + LANE_LISTS;
  missed = active + (<usize>WAVE << 2);
  queue = missed + (<usize>WAVE << 2);
  next = queue + (<usize>WAVE << 2);
  heads = lane + LANE_BUCKETS;
  touched = heads + (<usize>BUCKETS << 2);
  const across = min(WAVE_SIDE, x1 - x0);
  const n = across * min(WAVE_SIDE, y1 - y0);
  begin(n, x0, y0, across, seed, index);
  let on = n;
  while (on > 0) {
    let shaded = 0;
    let lost = 0;
    for (let i = 0; i < on; i++) {
      const path = entry(active, i);
      const at = wave + path;
      if (trace(at, index) !== 0) {
        if (meet(at, bounces)) {
          store<u32>(active + (<usize>shaded << 2), <u32>path);
          shaded++;
        }
      } else if (w(P_PASSES, at) === 0 && (w(P_DEPTH, at) > 0 || (skySeen && !masks))) {
        if (w(P_DEPTH, at) === 0) store<f32>(at + P_ALPHA, 1);
        store<u32>(missed + (<usize>lost << 2), <u32>path);
        lost++;
      }
    }
    look(lost);
    const going = shade(shaded, index);
    on = 0;
    for (let i = 0; i < going; i++) {
      const path = entry(active, i);
      if (!survives(wave + path, index)) continue;
      store<u32>(active + (<usize>on << 2), <u32>path);
      on++;
    }
  }
  leave(n);
}

/** @param hidden whether the eye looks past parts */
export function setMasks(hidden: i32): void {
  masks = hidden !== 0;
}

/** Sets all paths out from the eye. */
function begin(n: i32, x0: i32, y0: i32, across: i32, seed: u32, index: i32): void {
  for (let i = 0; i < n; i++) {
    const at = wave + (<usize>i << 2);
    store<u32>(active + (<usize>i << 2), <u32>i << 2);
    store<u32>(at + P_PIXEL, pixelSeed(seed, x0 + (i % across), y0 + i / across));
    store<i32>(at + P_FROM, -1);
    store<f32>(at + P_NEAR, 0);
    store<i32>(at + P_MEDIUM, -1);
    store<f32>(at + P_TR, 1);
    store<f32>(at + P_TG, 1);
    store<f32>(at + P_TB, 1);
    store<i32>(at + P_DEPTH, 0);
    store<i32>(at + P_PASSES, 0);
    store<f32>(at + P_TRAVELLED, 0);
    store<f32>(at + P_PDF, 0);
    store<f32>(at + P_RED, 0);
    store<f32>(at + P_GREEN, 0);
    store<f32>(at + P_BLUE, 0);
    store<f32>(at + P_ALPHA, 0);
    store<f32>(at + P_ALBEDO_R, 0);
    store<f32>(at + P_ALBEDO_G, 0);
    store<f32>(at + P_ALBEDO_B, 0);
    store<f32>(at + P_NORMAL_X, 0);
    store<f32>(at + P_NORMAL_Y, 0);
    store<f32>(at + P_NORMAL_Z, 0);
    store<f32>(at + P_DISTANCE, 0);
    store<f32>(at + P_COUNT, 0);
  }
  for (let i = 0; i < n; i += 4) {
    const x = f32x4(
      middle(x0 + (i % across)), middle(x0 + ((i + 1) % across)), middle(x0 + ((i + 2) % across)),
      middle(x0 + ((i + 3) % across)),
    );
    const y = f32x4(
      middle(y0 + i / across), middle(y0 + (i + 1) / across), middle(y0 + (i + 2) / across),
      middle(y0 + (i + 3) / across),
    );
    aimPaths(wave, <usize>i << 2, x, y, index);
  }
}

// @ts-ignore: decorator
@inline function middle(pixel: i32): f32 { return <f32>pixel + <f32>0.5; }

/** Leaves what the paths gathered for the film. */
function leave(n: i32): void {
  for (let i = 0; i < n; i++) {
    const at = wave + (<usize>i << 2);
    const out = lane + LANE_RAYS + <usize>(i * 12) * 4;
    store<f32>(out, f(P_RED, at));
    store<f32>(out, f(P_GREEN, at), 4);
    store<f32>(out, f(P_BLUE, at), 8);
    store<f32>(out, f(P_ALPHA, at), 12);
    store<f32>(out, f(P_ALBEDO_R, at), 16);
    store<f32>(out, f(P_ALBEDO_G, at), 20);
    store<f32>(out, f(P_ALBEDO_B, at), 24);
    store<f32>(out, f(P_NORMAL_X, at), 28);
    store<f32>(out, f(P_NORMAL_Y, at), 32);
    store<f32>(out, f(P_NORMAL_Z, at), 36);
    store<f32>(out, f(P_DISTANCE, at), 40);
    store<f32>(out, f(P_COUNT, at), 44);
  }
}
