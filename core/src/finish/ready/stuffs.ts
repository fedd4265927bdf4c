/** Ready stone, brick, wood and woven stuff, computed. */
import type { Finish } from '../../document/index.ts';
import { fed, over, ready } from './ready.ts';

const MM = 0.001;
const rough = (deep: number, size: number, octaves = 4) =>
  fed(
    'relief',
    'noise',
    [
      [0, 0],
      [1, deep * MM],
    ],
    { scale: size * MM, octaves },
  );
/** Threads that stand up: each half of a weave's axis rises and falls once. */
const threads = (size: number, deep: number, turn = 0) =>
  fed(
    'relief',
    'weave',
    [
      [0, 0],
      [0.5, deep * MM],
      [0.5, 0],
      [1, deep * MM],
    ],
    { scale: size * MM, turn },
  );
const woven = (size: number, one: readonly number[], other: readonly number[], turn = 0) =>
  fed(
    'base_color',
    'weave',
    [
      [0, one.map((v) => v * 0.4)],
      [0.5, one],
      [0.5, other.map((v) => v * 0.4)],
      [1, other],
    ],
    { scale: size * MM, turn, blend: 'linear' },
  );
const CLEAR = { coat_weight: 1, coat_roughness: 0.03, coat_ior: 1.5 };

export const READY_STUFFS: readonly Finish[] = [
  ready('hold-carbon', 'Carbon twill', 'woven', { specular_roughness: 0.3, specular_ior: 1.7, ...CLEAR }, [
    woven(3, [0.02, 0.021, 0.023], [0.008, 0.008, 0.009], 0.785),
    threads(3, 0.4, 0.785),
  ]),
  ready('sail-canvas', 'Sail canvas', 'woven', { specular_weight: 0.2, base_diffuse_roughness: 1 }, [
    woven(1.2, [0.62, 0.55, 0.42], [0.7, 0.64, 0.52]),
    threads(1.2, 0.3),
  ]),
  ready('saloon-cloth', 'Saloon cloth', 'woven', { specular_weight: 0.3, specular_roughness: 0.7 }, [
    woven(1.5, [0.3, 0.012, 0.03], [0.05, 0.02, 0.08]),
    threads(1.5, 0.35),
  ]),
  ready('rope-mat', 'Rope mat', 'woven', { specular_weight: 0.15, base_diffuse_roughness: 1 }, [
    woven(7, [0.42, 0.28, 0.13], [0.36, 0.23, 0.1]),
    threads(7, 2),
  ]),
  ready('pier-brick', 'Pier brick', 'brick', { specular_weight: 0.2, base_diffuse_roughness: 1 }, [
    fed(
      'base_color',
      'bricks',
      [
        [0, [0.36, 0.34, 0.3]],
        [0.3, [0.36, 0.34, 0.3]],
        [0.45, [0.17, 0.035, 0.02]],
        [0.75, [0.34, 0.08, 0.04]],
        [1, [0.46, 0.16, 0.08]],
      ],
      { scale: 60 * MM, breakup: 0.06, breakup_scale: 6 * MM },
    ),
    fed(
      'relief',
      'bricks',
      [
        [0, 0],
        [0.5, 2 * MM],
        [1, 2.2 * MM],
      ],
      { scale: 60 * MM },
    ),
  ]),
  ready('galley-tile', 'Galley tile', 'brick', { specular_roughness: 0.08, specular_ior: 1.6 }, [
    fed(
      'base_color',
      'tiles',
      [
        [0, [0.55, 0.53, 0.48]],
        [0.3, [0.55, 0.53, 0.48]],
        [0.4, [0.02, 0.14, 0.2]],
        [1, [0.05, 0.26, 0.32]],
      ],
      { scale: 30 * MM },
    ),
    fed(
      'relief',
      'tiles',
      [
        [0, 0],
        [0.5, 1 * MM],
        [1, 1 * MM],
      ],
      { scale: 30 * MM },
    ),
  ]),
  ready('quay-granite', 'Quay granite', 'stone', { specular_roughness: 0.35 }, [
    fed(
      'base_color',
      'grain',
      [
        [0, [0.05, 0.05, 0.055]],
        [0.35, [0.24, 0.23, 0.23]],
        [0.7, [0.42, 0.38, 0.36]],
        [1, [0.62, 0.6, 0.58]],
      ],
      { scale: 2.5 * MM },
    ),
  ]),
  ready('saloon-marble', 'Saloon marble', 'stone', { specular_roughness: 0.1 }, [
    fed(
      'base_color',
      'turbulence',
      [
        [0.03, [0.14, 0.15, 0.17]],
        [0.12, [0.46, 0.46, 0.47]],
        [0.3, [0.74, 0.73, 0.71]],
        [1, [0.8, 0.79, 0.77]],
      ],
      { scale: 60 * MM, octaves: 7, stretch: 1.8, turn: 0.6 },
    ),
  ]),
  ready('green-marble', 'Green marble', 'stone', { specular_roughness: 0.08 }, [
    fed(
      'base_color',
      'turbulence',
      [
        [0.02, [0.5, 0.56, 0.48]],
        [0.1, [0.1, 0.22, 0.14]],
        [0.5, [0.02, 0.075, 0.045]],
        [1, [0.01, 0.03, 0.02]],
      ],
      { scale: 45 * MM, octaves: 7, turn: -0.5, stretch: 2.2 },
    ),
  ]),
  ready(
    'slipway-concrete',
    'Slipway concrete',
    'stone',
    { base_diffuse_roughness: 1, specular_weight: 0.2, specular_roughness: 0.7 },
    [
      fed(
        'base_color',
        'noise',
        [
          [0.25, [0.2, 0.195, 0.185]],
          [0.75, [0.4, 0.39, 0.37]],
        ],
        { scale: 35 * MM, octaves: 6 },
      ),
      rough(0.5, 1.5),
    ],
  ),
  ready('sandstone', 'Sandstone', 'stone', { base_diffuse_roughness: 1, specular_weight: 0.1 }, [
    fed(
      'base_color',
      'noise',
      [
        [0.2, [0.36, 0.2, 0.09]],
        [0.8, [0.62, 0.44, 0.25]],
      ],
      { scale: 6 * MM, stretch: 9, octaves: 4 },
    ),
    rough(0.4, 0.8, 3),
  ]),
  ready(
    'cracked-glaze',
    'Cracked glaze',
    'enamel',
    { base_color: [0.66, 0.72, 0.66], specular_roughness: 0.05, specular_ior: 1.6 },
    [],
    [
      over('cracks', 'Cracks', 1, { base_color: [0.09, 0.055, 0.03], specular_roughness: 0.5 }, [
        fed(
          'cover',
          'cracks',
          [
            [0, 0.9],
            [0.03, 0.6],
            [0.05, 0],
          ],
          { scale: 11 * MM },
        ),
      ]),
    ],
  ),
  ready('deck-teak', 'Deck teak', 'wood', { specular_roughness: 0.45, specular_weight: 0.5 }, [
    fed(
      'base_color',
      'noise',
      [
        [0.2, [0.12, 0.05, 0.018]],
        [0.5, [0.3, 0.14, 0.05]],
        [0.8, [0.42, 0.22, 0.09]],
      ],
      { scale: 3 * MM, stretch: 26, octaves: 5 },
    ),
    fed(
      'relief',
      'noise',
      [
        [0, 0],
        [1, 0.15 * MM],
      ],
      { scale: 0.7 * MM, stretch: 40, octaves: 3 },
    ),
  ]),
  ready('cabin-walnut', 'Cabin walnut', 'wood', { specular_roughness: 0.35, ...CLEAR }, [
    fed(
      'base_color',
      'noise',
      [
        [0.2, [0.03, 0.012, 0.006]],
        [0.6, [0.12, 0.05, 0.022]],
        [0.85, [0.22, 0.1, 0.045]],
      ],
      { scale: 5 * MM, stretch: 16, octaves: 6 },
    ),
  ]),
];
