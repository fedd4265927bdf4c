/** Ready-made finishes: starting points, copied into a project when used. */
import type { Finish } from '../document/index.ts';
import { ready } from './ready/ready.ts';
import { READY_LAYERED } from './ready/layered.ts';
import { READY_METALS } from './ready/metals.ts';
import { READY_PAINTS } from './ready/paints.ts';
import { READY_PICTURED } from './ready/pictured.ts';
import { READY_SOFT } from './ready/soft.ts';
import { READY_STUFFS } from './ready/stuffs.ts';

export const READY_FINISHES: readonly Finish[] = [
  ready('hull-chrome', 'Hull chrome', 'chrome', {
    base_metalness: 1,
    base_metal: 'chromium',
    specular_roughness: 0.06,
  }),
  ready('leaf-gold', 'Leaf gold', 'gold', {
    base_metalness: 1,
    base_metal: 'gold',
    specular_roughness: 0.22,
  }),
  ready('bell-copper', 'Bell copper', 'copper', {
    base_metalness: 1,
    base_metal: 'copper',
    specular_roughness: 0.18,
  }),
  ready('worn-steel', 'Worn steel', 'steel', {
    base_metalness: 1,
    base_metal: 'iron',
    specular_roughness: 0.34,
  }),
  ready('cabin-steel', 'Cabin steel', 'brushed', {
    base_metalness: 1,
    base_metal: 'iron',
    specular_roughness: 0.36,
    specular_roughness_anisotropy: 0.75,
  }),
  ready('funnel-red', 'Funnel red', 'lacquer', {
    base_color: [0.52, 0.018, 0.03],
    specular_roughness: 0.35,
    coat_weight: 1,
    coat_roughness: 0.03,
  }),
  ready('night-enamel', 'Night enamel', 'enamel', {
    base_color: [0.012, 0.03, 0.085],
    specular_roughness: 0.12,
    specular_ior: 1.6,
  }),
  ready('deck-glass', 'Deck glass', 'clear glass', {
    specular_roughness: 0,
    specular_ior: 1.5,
    transmission_weight: 1,
  }),
  ready('tube-glass', 'Tube glass', 'clear glass', {
    specular_roughness: 0,
    specular_ior: 1.5,
    transmission_weight: 1,
    geometry_thin_walled: true,
  }),
  ready('starboard-glass', 'Starboard glass', 'coloured glass', {
    specular_roughness: 0,
    specular_ior: 1.52,
    transmission_weight: 1,
    transmission_color: [0.12, 0.72, 0.42],
    transmission_depth: 0.06,
  }),
  ready('sea-frost', 'Sea frost', 'frosted glass', {
    specular_roughness: 0.42,
    specular_ior: 1.48,
    transmission_weight: 1,
    transmission_color: [0.82, 0.93, 0.95],
    transmission_depth: 0.08,
  }),
  ready('tide-neon', 'Tide neon', 'neon', {
    base_color: [0.35, 0.05, 0.04],
    specular_roughness: 0.2,
    emission_color: [1, 0.16, 0.08],
    emission_luminance: 9,
  }),
  ready('lamp-nickel', 'Lamp nickel', 'steel', {
    base_color: [0.66, 0.63, 0.58],
    base_metalness: 1,
    specular_roughness: 0.4,
  }),
  ready('deck-matte', 'Deck matte', 'matte paint', {
    base_color: [0.16, 0.165, 0.17],
    base_diffuse_roughness: 0.6,
    specular_roughness: 0.72,
    specular_weight: 0.6,
  }),
  ...READY_METALS,
  ...READY_PAINTS,
  ...READY_STUFFS,
  ...READY_PICTURED,
  ...READY_LAYERED,
  ...READY_SOFT,
];

/** The ready finish of an id. @throws when there is none */
export function readyFinish(id: string): Finish {
  const found = READY_FINISHES.find((f) => f.id === id);
  if (!found) throw new Error(`no ready finish ${id}`);
  return structuredClone(found);
}
