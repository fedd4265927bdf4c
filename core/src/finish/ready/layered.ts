/** Ready glass, light, and finishes of several coats. */
import type { Finish } from '../../document/index.ts';
import { fed, over, ready } from './ready.ts';

const MM = 0.001;
const GLASS = { transmission_weight: 1, specular_roughness: 0 };

export const READY_LAYERED: readonly Finish[] = [
  ready('port-glass', 'Port glass', 'coloured glass', {
    ...GLASS,
    transmission_color: [0.75, 0.06, 0.05],
    transmission_depth: 0.05,
  }),
  ready('cobalt-glass', 'Cobalt glass', 'coloured glass', {
    ...GLASS,
    transmission_color: [0.05, 0.12, 0.7],
    transmission_depth: 0.05,
  }),
  ready('bottle-glass', 'Bottle glass', 'coloured glass', {
    ...GLASS,
    transmission_color: [0.2, 0.42, 0.1],
    transmission_depth: 0.04,
  }),
  ready('amber-glass', 'Amber glass', 'coloured glass', {
    ...GLASS,
    transmission_color: [0.85, 0.36, 0.04],
    transmission_depth: 0.05,
  }),
  ready('heavy-crystal', 'Heavy crystal', 'clear glass', { ...GLASS, specular_ior: 1.72 }),
  ready('rippled-glass', 'Rippled glass', 'clear glass', { ...GLASS }, [
    fed(
      'relief',
      'noise',
      [
        [0, 0],
        [1, 1.2 * MM],
      ],
      { scale: 9 * MM, octaves: 2 },
    ),
  ]),
  ready('breathed-glass', 'Breathed glass', 'frosted glass', { ...GLASS }, [
    fed(
      'specular_roughness',
      'up',
      [
        [0, 0],
        [0.4, 0.08],
        [1, 0.5],
      ],
      { breakup: 0.25, breakup_scale: 20 * MM },
    ),
  ]),
  ready('etched-pane', 'Etched pane', 'frosted glass', { ...GLASS, geometry_thin_walled: true }, [
    fed(
      'specular_roughness',
      'noise',
      [
        [0.46, 0.02],
        [0.54, 0.45],
      ],
      { scale: 14 * MM, octaves: 2 },
    ),
  ]),
  ready('ice-neon', 'Ice neon', 'neon', {
    base_color: [0.05, 0.2, 0.3],
    specular_roughness: 0.2,
    emission_color: [0.12, 0.62, 1],
    emission_luminance: 9,
  }),
  ready('violet-neon', 'Violet neon', 'neon', {
    base_color: [0.15, 0.05, 0.3],
    specular_roughness: 0.2,
    emission_color: [0.42, 0.12, 1],
    emission_luminance: 8,
  }),
  ready('green-neon', 'Starboard neon', 'neon', {
    base_color: [0.05, 0.25, 0.08],
    specular_roughness: 0.2,
    emission_color: [0.12, 1, 0.26],
    emission_luminance: 9,
  }),
  ready('warm-glow', 'Warm glow', 'neon', {
    base_color: [0.5, 0.42, 0.3],
    specular_roughness: 0.4,
    emission_color: [1, 0.66, 0.34],
    emission_luminance: 6,
  }),
  ready('furnace', 'Furnace', 'neon', { base_color: [0.02, 0.01, 0.01], specular_roughness: 0.6 }, [
    fed(
      'emission_color',
      'turbulence',
      [
        [0, [1, 0.62, 0.18]],
        [0.25, [1, 0.22, 0.03]],
        [0.7, [0.4, 0.02, 0.005]],
      ],
      { scale: 22 * MM, octaves: 5 },
    ),
    fed(
      'emission_luminance',
      'turbulence',
      [
        [0, 26],
        [0.25, 5],
        [0.7, 0],
      ],
      { scale: 22 * MM, octaves: 5 },
    ),
  ]),
  ready('lit-edge', 'Lit edge', 'neon', { base_color: [0.02, 0.03, 0.05], specular_roughness: 0.15 }, [
    fed('emission_color', 'angle', [
      [0, [0.05, 0.25, 0.5]],
      [1, [0.3, 0.85, 1]],
    ]),
    fed('emission_luminance', 'angle', [
      [0, 0],
      [0.4, 0.4],
      [1, 14],
    ]),
  ]),
  ready(
    'salted-chrome',
    'Salted chrome',
    'chrome',
    { base_metalness: 1, base_metal: 'chromium', specular_roughness: 0.05 },
    [],
    [
      over(
        'salt',
        'Salt',
        1,
        { base_color: [0.8, 0.8, 0.78], base_diffuse_roughness: 1, specular_weight: 0.2 },
        [
          fed(
            'cover',
            'upward',
            [
              [0.5, 0],
              [0.9, 0.85],
            ],
            { breakup: 0.5, breakup_scale: 5 * MM },
          ),
        ],
      ),
    ],
  ),
  ready(
    'worn-hull',
    'Worn hull',
    'patina',
    { base_metalness: 1, base_metal: 'iron', specular_roughness: 0.38 },
    [],
    [
      over('paint', 'Hull paint', 1, { base_color: [0.02, 0.07, 0.16], specular_roughness: 0.4 }, [
        fed(
          'cover',
          'noise',
          [
            [0.34, 0],
            [0.38, 1],
          ],
          { scale: 24 * MM, octaves: 6 },
        ),
      ]),
      over(
        'streaks',
        'Rust streaks',
        1,
        { base_color: [0.24, 0.08, 0.02], base_diffuse_roughness: 1, specular_weight: 0.1 },
        [
          fed(
            'cover',
            'noise',
            [
              [0.55, 0],
              [0.8, 0.8],
            ],
            { scale: 5 * MM, stretch: 12, turn: 1.5708, octaves: 4 },
          ),
        ],
      ),
    ],
  ),
];
