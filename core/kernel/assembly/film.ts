// What paths gather, and what a wave leaves of it for the film: all light together, and each share group by itself.
import {
  FILM_WORDS, LANE_RAYS, P_ALBEDO_R, P_ALPHA, P_BEYOND, P_BLUE, P_CAUGHT, P_COUNT, P_GREEN, P_LOST, P_RED, WAVE,
} from './layout';
import { f, grow, w, waveAt } from './paths';
import { lane } from './scene';

/** One of so many paths is followed past the limits of its bounces, to know what they lose. */
export const ONE_IN: i32 = 16;

/** Where each group's light of the wave is gathered, r g b a path; nought where groups are not kept apart. */
let shares: usize = 0;
let groups: i32 = 0;

export function setShares(at: usize, count: i32): void {
  shares = at;
  groups = count;
}

/** Whether each group's light is kept by itself. */
// @ts-ignore: decorator
@inline export function apart(): bool { return shares !== 0; }

/** Adds light of a group to a path. Past its limits it only counts as lost. */
// @ts-ignore: decorator
@inline export function gain(at: usize, r: f32, g: f32, b: f32, group: i32): void {
  if (w(P_BEYOND, at) !== 0) {
    // luminance after BT.709
    grow(P_LOST, at, <f32>ONE_IN * (<f32>0.2126 * r + <f32>0.7152 * g + <f32>0.0722 * b));
    return;
  }
  grow(P_RED, at, r);
  grow(P_GREEN, at, g);
  grow(P_BLUE, at, b);
  if (shares !== 0) keepApart(at, r, g, b, group);
}

function keepApart(at: usize, r: f32, g: f32, b: f32, group: i32): void {
  // the last has the light of all that have none of their own
  const own = <u32>group < <u32>groups ? group : groups - 1;
  const place = shares + <usize>own * (<usize>WAVE * 12) + ((at - waveAt()) >> 2) * 12;
  store<f32>(place, load<f32>(place) + r);
  store<f32>(place, load<f32>(place, 4) + g, 4);
  store<f32>(place, load<f32>(place, 8) + b, 8);
}

/** Sets a path's gains to nothing. */
export function clear(at: usize): void {
  store<f32>(at + P_RED, 0);
  store<f32>(at + P_GREEN, 0);
  store<f32>(at + P_BLUE, 0);
  store<f32>(at + P_ALPHA, 0);
  store<f32>(at + P_LOST, 0);
  store<f32>(at + P_COUNT, 0);
  store<f32>(at + P_CAUGHT, 0);
}

export function clearShares(): void {
  if (shares !== 0) memory.fill(shares, 0, <usize>groups * (<usize>WAVE * 12));
}

/** Leaves what `n` paths gathered, FILM_WORDS each. */
export function leave(n: i32): void {
  const wave = waveAt();
  for (let i = 0; i < n; i++) {
    const at = wave + (<usize>i << 2);
    const out = lane + LANE_RAYS + <usize>(i * FILM_WORDS) * 4;
    store<f32>(out, f(P_RED, at));
    store<f32>(out, f(P_GREEN, at), 4);
    store<f32>(out, f(P_BLUE, at), 8);
    store<f32>(out, f(P_ALPHA, at), 12);
    // albedo, normal, distance and count, where the path met a surface
    const seen = f(P_COUNT, at) > 0;
    const stride: usize = P_COUNT - P_ALBEDO_R;
    for (let k: usize = 0; k < 8; k++)
      store<f32>(out + 16 + (k << 2), seen ? f(P_ALBEDO_R + (stride / 7) * k, at) : 0);
    store<f32>(out, f(P_LOST, at), 48);
    store<f32>(out, f(P_CAUGHT, at), 52);
  }
}
