// For tests: single stages on four lanes, numbers in and out through memory.
import { evaluate, goesOn, sample, scatteredB, scatteredG, scatteredPdf, scatteredR, toX, toY, toZ, view } from './lobes/surface';
import {
  LANE_WAVE, P_VALPHA2, P_VDIFFUSE, P_VNX, P_VNY, P_VNZ, P_VRX, P_VRY, P_VRZ, P_VSPECULAR, P_VTHROUGH, P_VX, P_VY, P_VZ,
} from './layout';
import { chanceOf, chooseLight, chosenChance, skyChance, standAt, weighLights } from './choosing';
import { draw4, drawX, drawY } from './sampler4';
import { lane } from './scene';
import { look4, skyB, skyDensity, skyDraw4, skyG, skyR, skyX, skyY, skyZ } from './surround';

const EVALUATE: i32 = 0;
const SAMPLE: i32 = 1;
const DRAW: i32 = 2;
const LOOK: i32 = 3;

// @ts-ignore: decorator
@inline function take(at: usize, i: usize): v128 { return v128.load(at + (i << 4)); }
// @ts-ignore: decorator
@inline function give(at: usize, i: usize, v: v128): void { v128.store(at + (i << 4), v); }

/**
 * Runs a stage on `groups` of four. Their vectors stand one after the other at `input` and `output`, `taken` and `given`
 * of them a group.
 * @param finish address of the finish, or for DRAW the sample's number; @param inside 0 or 1, or for DRAW the pair
 */
export function probe(
  stage: i32, finish: usize, inside: i32, input: usize, taken: usize, output: usize, given: usize, groups: i32,
): void {
  for (let i = 0; i < groups; i++) {
    one(stage, finish, inside, input + ((<usize>i * taken) << 4), output + ((<usize>i * given) << 4));
  }
}

function one(stage: i32, finish: usize, inside: i32, input: usize, output: usize): void {
  if (stage === EVALUATE || stage === SAMPLE) {
    view(finish, inside, take(input, 0), take(input, 1), take(input, 2), f32x4.splat(1));
    if (stage === EVALUATE) evaluate(take(input, 3), take(input, 4), take(input, 5));
    else sample(take(input, 3), take(input, 4), take(input, 5));
    give(output, 0, scatteredR);
    give(output, 1, scatteredG);
    give(output, 2, scatteredB);
    give(output, 3, scatteredPdf);
    if (stage === EVALUATE) return;
    give(output, 4, toX);
    give(output, 5, toY);
    give(output, 6, toZ);
    give(output, 7, goesOn);
  } else if (stage === DRAW) {
    draw4(take(input, 0), <i32>finish, i32x4.splat(inside));
    give(output, 0, drawX);
    give(output, 1, drawY);
  } else {
    if (stage === LOOK) look4(take(input, 0), take(input, 1), take(input, 2));
    else skyDraw4(take(input, 0), take(input, 1));
    give(output, 0, skyR);
    give(output, 1, skyG);
    give(output, 2, skyB);
    give(output, 3, skyDensity);
    give(output, 4, skyX);
    give(output, 5, skyY);
    give(output, 6, skyZ);
  }
}

/**
 * Stands at a place: position, normal, mirrored view, then diffuse and mirror shares, squared width of the lobe, and
 * whether light comes through (thirteen numbers). Leaves the surround's chance and that of each emitter at `out`.
 */
export function probeLights(place: usize, out: usize, emitters: i32): void {
  const at = lane + LANE_WAVE;
  store<f32>(at + P_VX, load<f32>(place));
  store<f32>(at + P_VY, load<f32>(place, 4));
  store<f32>(at + P_VZ, load<f32>(place, 8));
  store<f32>(at + P_VNX, load<f32>(place, 12));
  store<f32>(at + P_VNY, load<f32>(place, 16));
  store<f32>(at + P_VNZ, load<f32>(place, 20));
  store<f32>(at + P_VRX, load<f32>(place, 24));
  store<f32>(at + P_VRY, load<f32>(place, 28));
  store<f32>(at + P_VRZ, load<f32>(place, 32));
  store<f32>(at + P_VDIFFUSE, load<f32>(place, 36));
  store<f32>(at + P_VSPECULAR, load<f32>(place, 40));
  store<f32>(at + P_VALPHA2, load<f32>(place, 44));
  store<i32>(at + P_VTHROUGH, load<f32>(place, 48) > 0 ? 1 : 0);
  standAt(at);
  weighLights(1);
  store<f32>(out, skyChance());
  for (let i = 0; i < emitters; i++) store<f32>(out + (<usize>(i + 1) << 2), chanceOf(i));
}

/** Chooses a light where probeLights stands; its chance at `out`. */
export function probeChoice(u: f32, out: usize): i32 {
  // choices at one place come in order: this one may come before the last
  weighLights(1);
  const chosen = chooseLight(u);
  store<f32>(out, chosenChance);
  return chosen;
}
