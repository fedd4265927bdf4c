/** Ready metals: polished, worn, beaten, brushed, and tinted. */
import type { Family, Finish, Surface } from '../../document/index.ts';
import { fed, over, ready } from './ready.ts';

const MM = 0.001;
/** Oxide of titanium, whose thickness alone is its colour. */
const OXIDE: Partial<Surface> = { thin_film_weight: 1, thin_film_ior: 2.4 };
const metal = (base_metal: Surface['base_metal'], more: Partial<Surface> = {}): Partial<Surface> => ({
  base_metalness: 1,
  base_metal,
  ...more,
});
/** Relief of beaten metal: dents of a size and a depth, millimetres. */
const dents = (size: number, deep: number) =>
  fed(
    'relief',
    'cells',
    [
      [0, -deep * MM],
      [0.5, -deep * 0.35 * MM],
      [1, 0],
    ],
    { scale: size * MM },
  );
/** Roughness that wanders between two values in blotches. */
const smeared = (low: number, high: number, size = 18) =>
  fed(
    'specular_roughness',
    'noise',
    [
      [0.3, low],
      [0.7, high],
    ],
    { scale: size * MM, octaves: 4 },
  );
/** Fine lines along the reading direction. */
const lines = (deep: number) =>
  fed(
    'relief',
    'noise',
    [
      [0, 0],
      [1, deep * MM],
    ],
    { scale: 0.25 * MM, stretch: 40, octaves: 2 },
  );
const beaten = (
  id: string,
  name: string,
  family: Family,
  base: Surface['base_metal'],
  size: number,
): Finish => ready(id, name, family, metal(base, { specular_roughness: 0.14 }), [dents(size, size * 0.06)]);

export const READY_METALS: readonly Finish[] = [
  ready('bridge-mirror', 'Bridge mirror', 'chrome', metal('silver', { specular_roughness: 0 })),
  ready('satin-rail', 'Satin rail', 'chrome', metal('chromium', { specular_roughness: 0.28 })),
  ready('fingered-chrome', 'Fingered chrome', 'chrome', metal('chromium'), [smeared(0.03, 0.24, 12)]),
  ready('black-chrome', 'Black chrome', 'chrome', {
    base_color: [0.06, 0.065, 0.075],
    base_metalness: 1,
    specular_roughness: 0.05,
  }),
  ready('purser-gold', 'Purser gold', 'gold', metal('gold', { specular_roughness: 0.06 })),
  beaten('beaten-gold', 'Beaten gold', 'gold', 'gold', 5),
  ready(
    'gilt-wood',
    'Gilt over bole',
    'gold',
    { base_color: [0.28, 0.045, 0.025], specular_roughness: 0.5 },
    [],
    [
      over('leaf', 'Leaf', 1, metal('gold', { specular_roughness: 0.2 }), [
        fed(
          'cover',
          'turbulence',
          [
            [0.1, 0.1],
            [0.2, 1],
          ],
          { scale: 9 * MM, octaves: 5 },
        ),
      ]),
    ],
  ),
  ready('pale-gilt', 'Pale gilt', 'gold', metal('silver', { specular_roughness: 0.16, tint_warmth: 0.7 })),
  ready('saloon-silver', 'Saloon silver', 'silver', metal('silver', { specular_roughness: 0.12 })),
  ready(
    'tarnished-silver',
    'Tarnished silver',
    'silver',
    metal('silver', { specular_roughness: 0.16 }),
    [smeared(0.1, 0.3)],
    [
      over('tarnish', 'Tarnish', 0.8, { base_color: [0.025, 0.02, 0.016], specular_roughness: 0.45 }, [
        fed(
          'cover',
          'noise',
          [
            [0.42, 0],
            [0.72, 0.85],
          ],
          { scale: 30 * MM, octaves: 6 },
        ),
      ]),
    ],
  ),
  beaten('beaten-silver', 'Beaten silver', 'silver', 'silver', 6),
  beaten('beaten-copper', 'Beaten copper', 'copper', 'copper', 7),
  ready(
    'rose-copper',
    'Rose copper',
    'copper',
    metal('copper', { specular_roughness: 0.05, tint_strength: 0.7 }),
  ),
  ready(
    'verdigris',
    'Verdigris',
    'patina',
    metal('copper', { specular_roughness: 0.28, tint_strength: 0.8 }),
    [smeared(0.2, 0.42)],
    [
      over(
        'verdigris',
        'Verdigris',
        1,
        { base_color: [0.13, 0.36, 0.29], base_diffuse_roughness: 0.9, specular_weight: 0.3 },
        [
          fed(
            'cover',
            'noise',
            [
              [0.38, 0],
              [0.58, 1],
            ],
            { scale: 26 * MM, octaves: 6 },
          ),
          fed(
            'base_color',
            'noise',
            [
              [0.25, [0.05, 0.2, 0.16]],
              [0.6, [0.2, 0.48, 0.38]],
              [0.85, [0.42, 0.62, 0.5]],
            ],
            { scale: 11 * MM, octaves: 5, seed: 8 },
          ),
        ],
      ),
    ],
  ),
  ready(
    'keel-rust',
    'Keel rust',
    'patina',
    metal('iron', { specular_roughness: 0.42 }),
    [],
    [
      over(
        'rust',
        'Rust',
        1,
        { base_color: [0.2, 0.055, 0.018], base_diffuse_roughness: 1, specular_weight: 0.2 },
        [
          fed(
            'cover',
            'turbulence',
            [
              [0.12, 1],
              [0.5, 0.6],
              [0.66, 0],
            ],
            { scale: 34 * MM, octaves: 6 },
          ),
          fed(
            'base_color',
            'noise',
            [
              [0.2, [0.06, 0.018, 0.009]],
              [0.5, [0.22, 0.06, 0.018]],
              [0.8, [0.42, 0.16, 0.04]],
            ],
            { scale: 8 * MM, octaves: 5 },
          ),
          fed(
            'relief',
            'noise',
            [
              [0, 0],
              [1, 0.5 * MM],
            ],
            { scale: 2 * MM, octaves: 4 },
          ),
        ],
      ),
    ],
  ),
  ready(
    'brushed-brass',
    'Brushed brass',
    'brushed',
    {
      base_color: [0.72, 0.5, 0.2],
      base_metalness: 1,
      specular_roughness: 0.3,
      specular_roughness_anisotropy: 0.8,
    },
    [lines(0.004)],
  ),
  ready(
    'brushed-rail',
    'Brushed rail',
    'brushed',
    metal('aluminium', { specular_roughness: 0.26, specular_roughness_anisotropy: 0.7 }),
    [lines(0.003)],
  ),
  ready(
    'gun-steel',
    'Blued steel',
    'steel',
    {
      base_color: [0.09, 0.11, 0.16],
      base_metalness: 1,
      specular_roughness: 0.22,
    },
    [
      fed('base_color', 'angle', [
        [0, [0.07, 0.085, 0.13]],
        [0.5, [0.1, 0.08, 0.16]],
        [1, [0.36, 0.33, 0.35]],
      ]),
    ],
  ),
  ready('cast-iron', 'Cast iron', 'steel', metal('iron', { specular_roughness: 0.55 }), [
    fed(
      'relief',
      'noise',
      [
        [0, 0],
        [1, 0.35 * MM],
      ],
      { scale: 1.6 * MM, octaves: 3 },
    ),
  ]),
  ready(
    'violet-anodised',
    'Violet anodised',
    'anodised',
    metal('titanium', { specular_roughness: 0.24, ...OXIDE, thin_film_thickness: 0.0405 }),
  ),
  ready(
    'sea-anodised',
    'Sea anodised',
    'anodised',
    metal('titanium', { specular_roughness: 0.2, ...OXIDE, thin_film_thickness: 0.178 }),
  ),
  ready(
    'straw-anodised',
    'Straw anodised',
    'anodised',
    metal('titanium', { specular_roughness: 0.22, ...OXIDE, thin_film_thickness: 0.028 }),
  ),
  ready(
    'rainbow-anodised',
    'Rainbow anodised',
    'anodised',
    metal('titanium', { specular_roughness: 0.2, ...OXIDE }),
    [
      fed(
        'thin_film_thickness',
        'up',
        [
          [0, 0.02],
          [1, 0.17],
        ],
        { of: 'block', breakup: 0.08, breakup_scale: 40 * MM },
      ),
    ],
  ),
  ready(
    'heat-blue',
    'Heat-blued steel',
    'anodised',
    metal('iron', { specular_roughness: 0.18, thin_film_weight: 1, thin_film_ior: 2.3 }),
    [
      fed(
        'thin_film_thickness',
        'noise',
        [
          [0.25, 0.02],
          [0.75, 0.085],
        ],
        { scale: 70 * MM, octaves: 3 },
      ),
    ],
  ),
  ready(
    'bilge-oil',
    'Oil on water',
    'anodised',
    {
      base_color: [0.05, 0.05, 0.055],
      base_metalness: 1,
      specular_roughness: 0.03,
      thin_film_weight: 1,
      thin_film_ior: 1.47,
    },
    [
      fed(
        'thin_film_thickness',
        'turbulence',
        [
          [0, 0.15],
          [0.7, 0.95],
        ],
        { scale: 60 * MM, octaves: 4 },
      ),
    ],
  ),
];
