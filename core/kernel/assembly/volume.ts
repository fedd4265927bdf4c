// Light that wanders: paths in what scatters them, cloudy glass or what lies beneath a surface, go on from scattering
// to scattering until they come to a face. Free ways follow the extinction of one channel, chosen by what the path
// still carries; the others are weighed against it (Wrenninge, Villemin & Hery, "Path Traced Subsurface Scattering
// using Anisotropic Phase Functions and Non-Exponential Free Flights", 2017, §2).
import {
  BENEATH, F_ABSORPTION_B, F_ABSORPTION_G, F_ABSORPTION_R, F_AGAIN_B, F_AGAIN_G, F_AGAIN_R, F_DEPTH_B, F_DEPTH_G,
  F_DEPTH_PHASE, F_DEPTH_R, F_PHASE, F_SCATTER_B, F_SCATTER_G, F_SCATTER_R, P_DEPTH, P_DX, P_DY, P_DZ, P_FROM, P_MEDIUM,
  P_NEAR, P_OX, P_OY, P_OZ, P_PDF, P_PIXEL, P_TB, P_TG, P_TR, P_TRAVELLED,
} from './layout';
import { cosOut, exp1, log1, sinOut, turn4 } from './maths4';
import { f, scale, w } from './paths';
import { draw1, drawX, drawY } from './sampler4';
import { finishAt } from './scene';
import { closest, foundT } from './traverse';

/** Scatterings after which a path is given up, and after which chance may end it. */
const MOST_STEPS: i32 = 1024;
const SURE_STEPS: i32 = 8;
/** First pair of draws of those that scatter, three a step. */
const OF_STEPS: i32 = 1 << 25;
const FAR: f32 = 1e30;

let extinctR: f32 = 0;
let extinctG: f32 = 0;
let extinctB: f32 = 0;
let againR: f32 = 0;
let againG: f32 = 0;
let againB: f32 = 0;
let phase: f32 = 0;

/** Takes up what a path is in. @returns whether it scatters at all */
export function scattersIn(at: usize): bool {
  const medium = w(P_MEDIUM, at);
  if (medium < 0) return false;
  const finish = finishAt(medium & ~BENEATH);
  if ((medium & BENEATH) !== 0) {
    extinctR = load<f32>(finish, F_DEPTH_R);
    extinctG = load<f32>(finish, F_DEPTH_G);
    extinctB = load<f32>(finish, F_DEPTH_B);
    againR = load<f32>(finish, F_AGAIN_R);
    againG = load<f32>(finish, F_AGAIN_G);
    againB = load<f32>(finish, F_AGAIN_B);
    phase = load<f32>(finish, F_DEPTH_PHASE);
    return true;
  }
  const r = load<f32>(finish, F_SCATTER_R);
  const g = load<f32>(finish, F_SCATTER_G);
  const b = load<f32>(finish, F_SCATTER_B);
  if (!(r + g + b > 0)) return false;
  extinctR = load<f32>(finish, F_ABSORPTION_R) + r;
  extinctG = load<f32>(finish, F_ABSORPTION_G) + g;
  extinctB = load<f32>(finish, F_ABSORPTION_B) + b;
  againR = extinctR > 0 ? r / extinctR : 0;
  againG = extinctG > 0 ? g / extinctG : 0;
  againB = extinctB > 0 ? b / extinctB : 0;
  phase = load<f32>(finish, F_PHASE);
  return true;
}

// @ts-ignore: decorator
@inline function lane0(v: v128): f32 { return f32x4.extract_lane(v, 0); }

/**
 * Carries a path on, after scattersIn, to its last free way: the next face along it is met without scattering.
 * @returns rays traced, less than nought when the path has ended
 */
export function wander(at: usize, index: i32): i32 {
  for (let step = 0; step < MOST_STEPS; step++) {
    const r = f(P_TR, at);
    const g = f(P_TG, at);
    const b = f(P_TB, at);
    const pair = OF_STEPS + (w(P_DEPTH, at) * MOST_STEPS + step) * 3;
    const all: f32 = r + g + b;
    if (!(all > 0)) return -1;
    const cr = r / all;
    const cg = g / all;
    const cb: f32 = max<f32>(0, <f32>1 - cr - cg);
    draw1(w(P_PIXEL, at), index, pair);
    const lot = lane0(drawX);
    const along = lot < cr ? extinctR : lot < cr + cg ? extinctG : extinctB;
    const way: f32 = along > 0 ? -log1(max<f32>(<f32>1 - lane0(drawY), 1e-12)) / along : FAR;
    const ox = f(P_OX, at);
    const oy = f(P_OY, at);
    const oz = f(P_OZ, at);
    const dx = f(P_DX, at);
    const dy = f(P_DY, at);
    const dz = f(P_DZ, at);
    const id = closest(ox, oy, oz, 0, dx, dy, dz, way, w(P_FROM, at), f(P_NEAR, at));
    const ends = id >= 0;
    // out in the open, where nothing closes it in
    if (!ends && way >= FAR) return -1;
    const gone: f32 = ends ? foundT() : way;
    const er = exp1(-extinctR * gone);
    const eg = exp1(-extinctG * gone);
    const eb = exp1(-extinctB * gone);
    if (ends) {
      const by: f32 = <f32>1 / max<f32>(cr * er + cg * eg + cb * eb, 1e-30);
      scale(P_TR, at, er * by);
      scale(P_TG, at, eg * by);
      scale(P_TB, at, eb * by);
      // counted: what is met there is not dimmed again
      store<f32>(at + P_TRAVELLED, gone);
      return step + 1;
    }
    const density: f32 = cr * extinctR * er + cg * extinctG * eg + cb * extinctB * eb;
    const by: f32 = <f32>1 / max<f32>(density, 1e-30);
    scale(P_TR, at, againR * extinctR * er * by);
    scale(P_TG, at, againG * extinctG * eg * by);
    scale(P_TB, at, againB * extinctB * eb * by);
    if (step >= SURE_STEPS) {
      const go: f32 = min<f32>(<f32>0.99, max(max(f(P_TR, at), f(P_TG, at)), f(P_TB, at)));
      draw1(w(P_PIXEL, at), index, pair + 2);
      if (!(lane0(drawX) < go)) return -1;
      const more: f32 = <f32>1 / go;
      scale(P_TR, at, more);
      scale(P_TG, at, more);
      scale(P_TB, at, more);
    }
    store<f32>(at + P_OX, ox + dx * gone);
    store<f32>(at + P_OY, oy + dy * gone);
    store<f32>(at + P_OZ, oz + dz * gone);
    store<i32>(at + P_FROM, -1);
    store<f32>(at + P_NEAR, 0);
    store<f32>(at + P_PDF, 0);
    draw1(w(P_PIXEL, at), index, pair + 1);
    turnAway(at, dx, dy, dz, lane0(drawX), drawY);
  }
  return -1;
}

/** Turns a path by Henyey and Greenstein's phase function ("Diffuse radiation in the galaxy", 1941). */
function turnAway(at: usize, dx: f32, dy: f32, dz: f32, u: f32, v: v128): void {
  let c: f32 = <f32>1 - <f32>2 * u;
  if (abs<f32>(phase) > <f32>1e-3) {
    const q: f32 = (<f32>1 - phase * phase) / (<f32>1 - phase + <f32>2 * phase * u);
    c = (<f32>1 + phase * phase - q * q) / (<f32>2 * phase);
  }
  c = min<f32>(1, max<f32>(-1, c));
  const s: f32 = sqrt<f32>(<f32>1 - c * c);
  turn4(v);
  const x: f32 = s * lane0(cosOut);
  const y: f32 = s * lane0(sinOut);
  // a frame about the way it came (Duff et al., JCGT 2017)
  const sign: f32 = dz < 0 ? -1 : 1;
  const p: f32 = <f32>-1 / (sign + dz);
  const q: f32 = dx * dy * p;
  store<f32>(at + P_DX, x * (<f32>1 + sign * dx * dx * p) + y * q + c * dx);
  store<f32>(at + P_DY, x * sign * q + y * (sign + dy * dy * p) + c * dy);
  store<f32>(at + P_DZ, -x * sign * dx - y * dy + c * dz);
}
