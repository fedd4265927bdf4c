/** Ready paints, enamels and lacquers, with flakes and colours that shift. */
import type { Finish } from '../../document/index.ts';
import { fed, over, ready } from './ready.ts';

const MM = 0.001;
/** Flakes of metal under a lacquer, each a little lighter or darker. */
const flakes = (dark: readonly number[], light: readonly number[], size = 0.6) =>
  fed(
    'base_color',
    'grain',
    [
      [0, dark],
      [0.75, light],
      [1, light.map((v) => Math.min(1, v * 1.6))],
    ],
    { scale: size * MM, blend: 'linear' },
  );
/** Each flake lies a little differently. */
const tilted = (deep: number, size = 0.6) =>
  fed(
    'relief',
    'cells',
    [
      [0, 0],
      [1, deep * MM],
    ],
    { scale: size * MM },
  );
const LACQUER = { coat_weight: 1, coat_roughness: 0.02, coat_ior: 1.5 };

export const READY_PAINTS: readonly Finish[] = [
  ready('buoy-red', 'Buoy red', 'satin paint', { base_color: [0.62, 0.03, 0.02], specular_roughness: 0.34 }),
  ready('signal-yellow', 'Signal yellow', 'satin paint', {
    base_color: [0.8, 0.46, 0.015],
    specular_roughness: 0.32,
  }),
  ready('mast-white', 'Mast white', 'satin paint', {
    base_color: [0.82, 0.81, 0.78],
    specular_roughness: 0.38,
  }),
  ready('harbour-blue', 'Harbour blue', 'matte paint', {
    base_color: [0.03, 0.1, 0.24],
    base_diffuse_roughness: 0.5,
    specular_roughness: 0.65,
    specular_weight: 0.5,
  }),
  ready('lamp-black', 'Lamp black', 'matte paint', {
    base_color: [0.008, 0.008, 0.009],
    base_diffuse_roughness: 1,
    specular_weight: 0.15,
    specular_roughness: 0.8,
  }),
  ready('chalk', 'Chalk', 'matte paint', {
    base_color: [0.72, 0.7, 0.66],
    base_diffuse_roughness: 1,
    specular_weight: 0,
  }),
  ready('bell-enamel', 'Bell enamel', 'enamel', {
    base_color: [0.55, 0.012, 0.02],
    specular_roughness: 0.06,
    specular_ior: 1.62,
  }),
  ready('ivory-enamel', 'Ivory enamel', 'enamel', {
    base_color: [0.76, 0.66, 0.48],
    specular_roughness: 0.09,
    specular_ior: 1.6,
  }),
  ready('deck-green', 'Deck green', 'lacquer', {
    base_color: [0.012, 0.11, 0.055],
    specular_roughness: 0.3,
    ...LACQUER,
  }),
  ready('piano-black', 'Saloon black', 'lacquer', {
    base_color: [0.006, 0.006, 0.007],
    specular_roughness: 0.2,
    ...LACQUER,
  }),
  ready(
    'night-flake',
    'Night flake',
    'flake lacquer',
    { base_metalness: 0.85, specular_roughness: 0.3, ...LACQUER },
    [flakes([0.012, 0.03, 0.1], [0.05, 0.12, 0.36]), tilted(0.12)],
  ),
  ready(
    'ember-flake',
    'Ember flake',
    'flake lacquer',
    { base_metalness: 0.85, specular_roughness: 0.28, ...LACQUER },
    [flakes([0.22, 0.012, 0.006], [0.72, 0.13, 0.03]), tilted(0.12)],
  ),
  ready(
    'moon-flake',
    'Moon flake',
    'flake lacquer',
    { base_metalness: 0.9, specular_roughness: 0.24, ...LACQUER },
    [flakes([0.32, 0.34, 0.36], [0.7, 0.72, 0.74], 0.9), tilted(0.2, 0.9)],
  ),
  ready(
    'tide-shift',
    'Tide shift',
    'lacquer',
    { base_metalness: 0.8, specular_roughness: 0.22, ...LACQUER },
    [
      fed('base_color', 'angle', [
        [0, [0.02, 0.42, 0.4]],
        [0.3, [0.06, 0.1, 0.55]],
        [0.6, [0.42, 0.04, 0.42]],
        [1, [0.75, 0.3, 0.05]],
      ]),
    ],
    [
      over('sheen', 'Sheen', 0.4, { base_metalness: 0.9, specular_roughness: 0.18, ...LACQUER }, [
        fed('base_color', 'angle', [
          [0, [0.55, 0.5, 0.12]],
          [1, [0.1, 0.45, 0.6]],
        ]),
        fed('cover', 'angle', [
          [0, 0.1],
          [0.5, 0.5],
          [1, 0.2],
        ]),
      ]),
    ],
  ),
  ready('beetle', 'Beetle', 'lacquer', { base_metalness: 1, specular_roughness: 0.2, ...LACQUER }, [
    fed('base_color', 'angle', [
      [0, [0.04, 0.34, 0.07]],
      [0.45, [0.34, 0.34, 0.03]],
      [1, [0.5, 0.12, 0.05]],
    ]),
  ]),
  ready('two-tone', 'Waterline', 'lacquer', { specular_roughness: 0.3, ...LACQUER }, [
    fed(
      'base_color',
      'up',
      [
        [0, [0.4, 0.02, 0.025]],
        [0.32, [0.4, 0.02, 0.025]],
        [0.32, [0.75, 0.74, 0.7]],
        [0.36, [0.75, 0.74, 0.7]],
        [0.36, [0.015, 0.04, 0.11]],
        [1, [0.015, 0.04, 0.11]],
      ],
      { blend: 'linear' },
    ),
  ]),
  ready('dusk-fade', 'Dusk fade', 'enamel', { specular_roughness: 0.1, specular_ior: 1.6 }, [
    fed('base_color', 'up', [
      [0, [0.52, 0.09, 0.02]],
      [0.5, [0.45, 0.03, 0.14]],
      [1, [0.03, 0.03, 0.2]],
    ]),
  ]),
];
