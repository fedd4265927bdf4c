// Shadow rays: what is sought of lights, as far as it gets through.
import {
  P_SBLUE, P_SDIFFUSE_B, P_SDIFFUSE_G, P_SDIFFUSE_R, P_SDX, P_SDY, P_SDZ, P_SFROM, P_SGREEN, P_SGROUP, P_SNEAR,
  P_SREACH, P_SRED, P_SX, P_SY, P_SZ,
} from './layout';
import { gain } from './film';
import { cardAcross } from './lights';
import { paneB, paneG, paneR, paneRays, throughPanes } from './panes';
import { entry, f, w } from './paths';
import { cards, sheets } from './scene';
import { occluded } from './traverse';

/**
 * Traces queued shadow rays and adds what gets along them.
 * @param queue offsets of the `n` paths in the wave
 * @returns rays traced
 */
export function traceShadows(wave: usize, queue: usize, n: i32, index: i32): i32 {
  let rays = 0;
  for (let i = 0; i < n; i++) {
    const at = wave + entry(queue, i);
    const reach = f(P_SREACH, at);
    let r: f32 = 1;
    let g: f32 = 1;
    let b: f32 = 1;
    if (reach >= 0) {
      rays++;
      if (
        occluded(
          f(P_SX, at), f(P_SY, at), f(P_SZ, at), 0, f(P_SDX, at), f(P_SDY, at), f(P_SDZ, at), reach,
          w(P_SFROM, at), f(P_SNEAR, at),
        ) !== 0
      ) {
        if (!sheets) continue;
        const open = throughPanes(at, reach, index);
        rays += paneRays;
        if (!open) continue;
        r = paneR;
        g = paneG;
        b = paneB;
      }
    }
    if (
      cards > 0 && reach >= 0 &&
      cardAcross(f(P_SX, at), f(P_SY, at), f(P_SZ, at), f(P_SDX, at), f(P_SDY, at), f(P_SDZ, at), reach)
    ) {
      r *= f(P_SDIFFUSE_R, at);
      g *= f(P_SDIFFUSE_G, at);
      b *= f(P_SDIFFUSE_B, at);
    }
    gain(at, f(P_SRED, at) * r, f(P_SGREEN, at) * g, f(P_SBLUE, at) * b, w(P_SGROUP, at));
  }
  return rays;
}
