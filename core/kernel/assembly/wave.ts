// Paths in waves of WAVE: all of them take each step together, so that shading works on four of one finish at once.
//   aim → trace ⇄ misses → shade by finish → shadow rays → trace …, and at the end what each path leaves for the film.
// A path's picture depends on pixel, sample and seed alone, so waves may be of any size and threads of any number.
import {
  BUCKETS, GLOW, INSTANCE_BYTES, INSTANCE_EMITTER, INSTANCE_FLAGS, IS_LIGHT, LANE_BUCKETS, LANE_LISTS, PART_CASTER,
  PART_CATCHES, PART_FLAGS, PART_HIDDEN, PAST, ALONE, P_ALPHA, P_B1, P_B2, P_BEHIND, P_BEYOND, P_CASTER, P_DEPTH, P_DX,
  P_DY, P_DZ, P_FINISH, P_FROM, P_GX, P_GY, P_GZ, P_HUE, P_INSIDE, P_INSTANCE, P_KEPT, P_KINDS, P_NEAR, P_NOW, P_OX, P_OY,
  P_OZ, P_PART, P_PASSES, P_PDF, P_PIXEL, P_T, P_TB, P_TG, P_TR, P_TRAVELLED, P_TRIANGLE, WAVE, WAVE_SIDE,
} from './layout';
import { byPhotonsHere } from './caustics';
import { aimPaths, pixelAt } from './eye';
import { clear, clearShares, gain, leave } from './film';
import { standOnHit } from './geometry';
import { div, gather, least, mad, most, mul, pick, splat } from './lanes';
import { chanceOf, onlySky, skyChance, standAt } from './choosing';
import {
  byPhotons, colourOf, cosineOfEdge, facing, groupOf, isCard, isOnFace, isSeen, isWhite, kindOf, solidAngleOf,
} from './lights';
import { inAir, isOverruled } from './media';
import { absorb, balance, gives, meet, meetSent, setBounces } from './meet';
import { isPane, MOST_PASSES, passesPane } from './panes';
import { entry, f, scale, w, waveAt } from './paths';
import { sendWave, wasSent } from './photons';
import { skyKept } from './receive';
import { hasRecipe, OF_PATHS, resolved } from './recipe';
import { cardHides, meetsWhite, skyTaken, skyTakenB, skyTakenG, skyTakenR, takenB, takenG, takenOf, takenR } from './roles';
import { draw1, drawX, pixelSeed } from './sampler4';
import { directionals, discs, finishAt, instances, lane, partAt, parted, seenFrom } from './scene';
import { alive, bounce, PAIRS, queuedRays, tracedRays } from './shade';
import { traceShadows } from './shadows';
import {
  behindApart, look4, lookBehind, skyB, skyBehindB, skyBehindG, skyBehindR, skyBlurred, skyDensity, skyG, skyGroup,
  skyMirrorB, skyMirrorG, skyMirrorR, skyR, skySeen,
} from './surround';
import { closest, closestAfter, foundB1, foundB2, foundInstance, foundT, setAlone } from './traverse';
import { scattersIn, wander } from './volume';

const FAR: f32 = 1e30;
/** Bounces before Russian roulette may end a path, and the greatest chance to go on. */
const ROULETTE_AFTER: i32 = 3;
const ROULETTE_MOST: f32 = 0.96;
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
/** Flags of parts that camera rays pass. */
let unseen: i32 = PART_HIDDEN;
/** Whether the wave carries photons from lamps. */
let sending: bool = false;
let heads: usize = 0;
let touched: usize = 0;

export function raysTraced(): f64 {
  return rays;
}

/** Adds light of an emitter that a path meets, as far as its last surface takes it. */
function meetsLight(at: usize, emitter: i32, share: f32): void {
  if (!parted)
    gives(at, share, colourOf(emitter, 0), colourOf(emitter, 1), colourOf(emitter, 2), groupOf(emitter));
  else if (takenOf(at, emitter))
    gives(
      at, share, colourOf(emitter, 0) * takenR, colourOf(emitter, 1) * takenG, colourOf(emitter, 2) * takenB,
      groupOf(emitter),
    );
}

/** Light of directional lights that have a size, where a path's ray runs into them. */
function meetsDiscs(at: usize): void {
  const dx = f(P_DX, at);
  const dy = f(P_DY, at);
  const dz = f(P_DZ, at);
  for (let i = 0; i < directionals; i++) {
    const edge = cosineOfEdge(i);
    if (!(edge < 1) || facing(i, dx, dy, dz) < edge) continue;
    const own: f32 = byPhotonsHere() && byPhotons(i) ? f(P_NOW, at) : 1;
    const pdf = f(P_PDF, at);
    let share = own;
    if (pdf > 0) {
      standAt(at);
      share = (own * pdf) / (pdf + chanceOf(i) / solidAngleOf(i));
    }
    meetsLight(at, i, share);
  }
}

/** Traces one path's ray to the surface it is shaded on. @returns false when it meets none */
function trace(at: usize, index: i32): i32 {
  if (scattersIn(at)) {
    const wandered = wander(at, index);
    if (wandered < 0) {
      // it ends where it is, and sees nothing
      store<i32>(at + P_PASSES, 1);
      return 0;
    }
    rays += <f64>wandered;
  }
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
    let body = true;
    if ((load<i32>(record, INSTANCE_FLAGS) & IS_LIGHT) !== 0) {
      // lights glow on one side, are seen directly only where they say so, and block nothing
      const emitter = load<i32>(record, INSTANCE_EMITTER);
      body = false;
      if (!sending && (w(P_DEPTH, at) > 0 || (isSeen(emitter) && !masks))) {
        const ball = kindOf(emitter) === GLOW;
        if (ball) standOnHit(at);
        const here = ball || isOnFace(emitter, ox + dx * t, oy + dy * t, oz + dz * t);
        const cosine: f32 = ball
          ? (w(P_BEHIND, at) !== 0 ? <f32>0 : -(dx * f(P_GX, at) + dy * f(P_GY, at) + dz * f(P_GZ, at)))
          : here ? facing(emitter, dx, dy, dz) : <f32>0;
        if (w(P_DEPTH, at) === 0) {
          if (cosine > 0) {
            gives(at, 1, colourOf(emitter, 0), colourOf(emitter, 1), colourOf(emitter, 2), groupOf(emitter));
            store<f32>(at + P_ALPHA, 1);
            store<i32>(at + P_PASSES, 1);
            return 0;
          }
        } else {
          if (cosine > 0) meetsLight(at, emitter, balance(at, emitter, t, cosine));
          if (here && isCard(emitter)) {
            if (isWhite(emitter)) body = meetsWhite(at, index, w(P_DEPTH, at) * (MOST_PASSES + 1) + passes);
            else if (!cardHides(at)) {
              store<i32>(at + P_PASSES, 1);
              return 0;
            }
          }
        }
      }
      passed = !body;
    }
    if (body) {
      standOnHit(at);
      const part = partAt(w(P_PART, at));
      const flags = load<i32>(part, PART_FLAGS);
      store<i32>(at + P_CASTER, flags & PART_CASTER);
      if (w(P_DEPTH, at) === 0 && (flags & unseen) !== 0 && !sending) {
        passed = true;
      } else {
        let number = seenFrom(load<i32>(part), w(P_BEHIND, at) !== 0);
        if (hasRecipe(finishAt(number)))
          number = resolved(
            at, number, index, OF_PATHS + w(P_DEPTH, at) * (MOST_PASSES + 1) + passes, sending ? 0 : pixelAt(t),
          );
        const finish = finishAt(number);
        store<i32>(at + P_FINISH, number);
        absorb(at, t);
        if (isPane(finish)) passed = passesPane(at, finish, index, passes);
        else if (isOverruled(at)) passed = true;
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
    // light that photons bring over casters is theirs
    if (byPhotonsHere()) share = mul(share, skyKept(skyR, skyG, skyB, gather(wave + P_NOW, a, b, c, d)));
    if (parted || behindApart()) {
      if (behindApart())
        lookBehind(
          gather(wave + P_OX, a, b, c, d), gather(wave + P_OY, a, b, c, d), gather(wave + P_OZ, a, b, c, d),
          gather(wave + P_DX, a, b, c, d), gather(wave + P_DY, a, b, c, d), gather(wave + P_DZ, a, b, c, d),
        );
      seesApart(wave + a, 0, laneOf(share, 0));
      if (i + 1 < n) seesApart(wave + b, 1, laneOf(share, 1));
      if (i + 2 < n) seesApart(wave + c, 2, laneOf(share, 2));
      if (i + 3 < n) seesApart(wave + d, 3, laneOf(share, 3));
      continue;
    }
    const r = mul(mul(gather(wave + P_TR, a, b, c, d), share), skyR);
    const g = mul(mul(gather(wave + P_TG, a, b, c, d), share), skyG);
    const l = mul(mul(gather(wave + P_TB, a, b, c, d), share), skyB);
    sees(wave + a, f32x4.extract_lane(r, 0), f32x4.extract_lane(g, 0), f32x4.extract_lane(l, 0));
    if (i + 1 < n) sees(wave + b, f32x4.extract_lane(r, 1), f32x4.extract_lane(g, 1), f32x4.extract_lane(l, 1));
    if (i + 2 < n) sees(wave + c, f32x4.extract_lane(r, 2), f32x4.extract_lane(g, 2), f32x4.extract_lane(l, 2));
    if (i + 3 < n) sees(wave + d, f32x4.extract_lane(r, 3), f32x4.extract_lane(g, 3), f32x4.extract_lane(l, 3));
  }
}

// @ts-ignore: decorator
@inline function sees(at: usize, r: f32, g: f32, b: f32): void { gain(at, r, g, b, skyGroup); }

/** What a path gets of the surround where it reaches lobes differently, or is blurred. */
function seesApart(at: usize, lane: i32, share: f32): void {
  const r = laneOf(skyR, lane);
  const g = laneOf(skyG, lane);
  const b = laneOf(skyB, lane);
  if (w(P_DEPTH, at) === 0) {
    if (behindApart())
      sees(
        at, f(P_TR, at) * laneOf(skyBehindR, lane), f(P_TG, at) * laneOf(skyBehindG, lane),
        f(P_TB, at) * laneOf(skyBehindB, lane),
      );
    else sees(at, f(P_TR, at) * r, f(P_TG, at) * g, f(P_TB, at) * b);
    return;
  }
  if (!parted) {
    sees(at, f(P_TR, at) * share * r, f(P_TG, at) * share * g, f(P_TB, at) * share * b);
    return;
  }
  if (skyBlurred) skyTaken(at, r, g, b, laneOf(skyMirrorR, lane), laneOf(skyMirrorG, lane), laneOf(skyMirrorB, lane));
  else skyTaken(at, r, g, b, r, g, b);
  sees(at, f(P_TR, at) * share * skyTakenR, f(P_TG, at) * share * skyTakenG, f(P_TB, at) * share * skyTakenB);
}

// @ts-ignore: decorator
@inline function laneOf(v: v128, k: i32): f32 {
  return k === 0 ? f32x4.extract_lane(v, 0) : k === 1 ? f32x4.extract_lane(v, 1)
    : k === 2 ? f32x4.extract_lane(v, 2) : f32x4.extract_lane(v, 3);
}

/** Sorts the paths to be shaded by finish and side, and shades them four at a time. @returns paths that go on */
function shade(n: i32, index: i32): i32 {
  let kinds = 0;
  for (let i = 0; i < n; i++) {
    const path = entry(active, i);
    const at = wave + path;
    const bucket = <usize>(((w(P_FINISH, at) << 2) | w(P_INSIDE, at)) & (BUCKETS - 1)) << 2;
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
      bounce(wave, a, b, c, d, count, finish, inside, queue + (<usize>queued << 2), index, sending);
      rays += <f64>tracedRays;
      queued += queuedRays;
      for (let j = 0; j < count; j++) {
        if ((alive & (1 << j)) === 0) continue;
        const p = j === 0 ? a : j === 1 ? b : j === 2 ? c : d;
        store<u32>(active + (<usize>on << 2), <u32>p);
        on++;
      }
    }
  }
  rays += <f64>traceShadows(wave, queue, queued, index);
  return on;
}

/** Russian roulette. @returns whether the path goes on */
function survives(at: usize, index: i32): bool {
  const depth = w(P_DEPTH, at);
  if (depth <= ROULETTE_AFTER) return true;
  const brightest = most(most(v128.load32_zero(at + P_TR), v128.load32_zero(at + P_TG)), v128.load32_zero(at + P_TB));
  const go = f32x4.extract_lane(least(splat(ROULETTE_MOST), brightest), 0);
  draw1(w(P_PIXEL, at), index, depth * PAIRS);
  if (!(f32x4.extract_lane(drawX, 0) < go)) return false;
  const by: f32 = <f32>1 / go;
  scale(P_TR, at, by);
  scale(P_TG, at, by);
  scale(P_TB, at, by);
  return true;
}

function open(): void {
  wave = waveAt();
  active = lane + LANE_LISTS;
  missed = active + (<usize>WAVE << 2);
  queue = missed + (<usize>WAVE << 2);
  next = queue + (<usize>WAVE << 2);
  heads = lane + LANE_BUCKETS;
  touched = heads + (<usize>BUCKETS << 2);
}

/**
 * Traces sample `index` of a square of pixels, WAVE_SIDE each way from (x0, y0), cut at (x1, y1). Leaves for each path,
 * row by row, FILM_WORDS at LANE_RAYS, and its groups' light where they are kept apart.
 */
export function traceWave(x0: i32, y0: i32, x1: i32, y1: i32, index: i32, seed: u32, bounces: i32): void {
  open();
  sending = false;
  setBounces(bounces);
  const across = min(WAVE_SIDE, x1 - x0);
  const n = across * min(WAVE_SIDE, y1 - y0);
  begin(n, x0, y0, across, seed, index);
  clearShares();
  let on = n;
  while (on > 0) {
    let shaded = 0;
    let lost = 0;
    for (let i = 0; i < on; i++) {
      const path = entry(active, i);
      const at = wave + path;
      if (trace(at, index) !== 0) {
        if (meet(at, index)) {
          store<u32>(active + (<usize>shaded << 2), <u32>path);
          shaded++;
        }
      } else if (w(P_PASSES, at) === 0 && (w(P_DEPTH, at) > 0 || (skySeen && !masks))) {
        if (w(P_DEPTH, at) === 0) store<f32>(at + P_ALPHA, 1);
        else if (discs) meetsDiscs(at);
        store<u32>(missed + (<usize>lost << 2), <u32>path);
        lost++;
      }
    }
    look(lost);
    on = goOn(shade(shaded, index), index);
  }
  leave(n);
}

/** Keeps those of the active paths that roulette lets live. @returns how many */
function goOn(going: i32, index: i32): i32 {
  let on = 0;
  for (let i = 0; i < going; i++) {
    const path = entry(active, i);
    if (!survives(wave + path, index)) continue;
    store<u32>(active + (<usize>on << 2), <u32>path);
    on++;
  }
  return on;
}

/** Sends WAVE photons, numbers `first` and on of the `all` of sample `index`, and keeps those that land. */
export function sendPhotons(first: i32, all: i32, index: i32, seed: u32, bounces: i32): void {
  open();
  sending = true;
  setBounces(bounces);
  sendWave(wave, first, all, index, seed);
  let on = 0;
  for (let i = 0; i < WAVE; i++) {
    if (!wasSent(wave + (<usize>i << 2))) continue;
    store<u32>(active + (<usize>on << 2), <u32>i << 2);
    on++;
  }
  while (on > 0) {
    let shaded = 0;
    for (let i = 0; i < on; i++) {
      const path = entry(active, i);
      if (trace(wave + path, index) === 0 || !meetSent(wave + path, first + <i32>(path >> 2))) continue;
      store<u32>(active + (<usize>shaded << 2), <u32>path);
      shaded++;
    }
    on = goOn(shade(shaded, index), index);
  }
}

/** @param view WHOLE, ALONE or PAST */
export function setView(view: i32): void {
  setAlone(view === ALONE);
  unseen = view === PAST ? PART_HIDDEN | PART_CATCHES : PART_HIDDEN;
}

/** @param hidden whether the eye looks past parts */
export function setMasks(hidden: i32): void {
  masks = hidden !== 0;
}

/** Sets all paths out from the eye. */
function begin(n: i32, x0: i32, y0: i32, across: i32, seed: u32, index: i32): void {
  let x = x0;
  let y = y0;
  for (let i = 0; i < n; i++) {
    const at = wave + (<usize>i << 2);
    store<u32>(active + (<usize>i << 2), <u32>i << 2);
    store<u32>(at + P_PIXEL, pixelSeed(seed, x, y));
    // where the pixel is, until the ray sets out
    store<f32>(at + P_OX, <f32>x + <f32>0.5);
    store<f32>(at + P_OY, <f32>y + <f32>0.5);
    if (++x === x0 + across) {
      x = x0;
      y++;
    }
    store<i32>(at + P_FROM, -1);
    store<f32>(at + P_NEAR, 0);
    inAir(at);
    store<f32>(at + P_TR, 1);
    store<f32>(at + P_TG, 1);
    store<f32>(at + P_TB, 1);
    store<i32>(at + P_DEPTH, 0);
    store<i32>(at + P_PASSES, 0);
    store<f32>(at + P_TRAVELLED, 0);
    store<f32>(at + P_PDF, 0);
    store<i32>(at + P_KINDS, 0);
    store<i32>(at + P_HUE, 0);
    store<i32>(at + P_BEYOND, 0);
    store<f32>(at + P_KEPT, 1);
    store<f32>(at + P_NOW, 1);
    clear(at);
  }
  for (let i = 0; i < n; i += 4) {
    const path = <usize>i << 2;
    aimPaths(wave, path, v128.load(wave + P_OX + path), v128.load(wave + P_OY + path), index);
  }
}
