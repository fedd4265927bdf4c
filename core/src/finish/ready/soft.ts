/** Ready films, translucent bodies and fabrics; sheets that are cut out; light upon paint. */
import { newCoat, plainSurface, type Finish } from '../../document/index.ts';
import { fed, over, ready } from './ready.ts';

const MM = 0.001;
const GLASS = { transmission_weight: 1, specular_roughness: 0 };
const BODY = { subsurface_weight: 1, specular_roughness: 0.35 };

export const READY_SOFT: readonly Finish[] = [
  ready(
    'soap-film',
    'Soap film',
    'film',
    {
      ...GLASS,
      geometry_thin_walled: true,
      specular_ior: 1,
      thin_film_weight: 1,
      thin_film_ior: 1.33,
      thin_film_thickness: 0.4,
    },
    [
      fed(
        'thin_film_thickness',
        'up',
        [
          [0, 0.75],
          [1, 0.12],
        ],
        { breakup: 0.3, breakup_scale: 40 * MM },
      ),
    ],
  ),
  ready(
    'slick-black',
    'Slick black',
    'film',
    { base_color: [0.006, 0.007, 0.008], specular_roughness: 0.05, thin_film_weight: 1, thin_film_ior: 1.48 },
    [
      fed(
        'thin_film_thickness',
        'noise',
        [
          [0, 0.08],
          [1, 0.7],
        ],
        { scale: 140 * MM, octaves: 2, contrast: 1.3 },
      ),
    ],
  ),
  ready('pearl-enamel', 'Pearl enamel', 'film', {
    base_color: [0.8, 0.79, 0.76],
    specular_roughness: 0.18,
    thin_film_weight: 1,
    thin_film_ior: 2.4,
    thin_film_thickness: 0.13,
  }),
  ready('candle-wax', 'Candle wax', 'translucent', {
    ...BODY,
    subsurface_color: [0.93, 0.87, 0.74],
    subsurface_radius: 4 * MM,
    subsurface_radius_scale: [1, 0.6, 0.32],
    specular_roughness: 0.42,
  }),
  ready('red-wax', 'Sealing wax', 'translucent', {
    ...BODY,
    subsurface_color: [0.62, 0.035, 0.03],
    subsurface_radius: 3 * MM,
    subsurface_radius_scale: [1, 0.25, 0.2],
    specular_roughness: 0.3,
  }),
  ready('alabaster', 'Alabaster', 'translucent', {
    ...BODY,
    subsurface_color: [0.92, 0.89, 0.83],
    subsurface_radius: 6 * MM,
    subsurface_radius_scale: [1, 0.8, 0.55],
    specular_roughness: 0.24,
  }),
  ready(
    'jade',
    'Jade',
    'translucent',
    {
      ...BODY,
      subsurface_color: [0.2, 0.55, 0.27],
      subsurface_radius: 4 * MM,
      subsurface_radius_scale: [0.5, 1, 0.45],
      specular_roughness: 0.12,
    },
    [
      fed(
        'subsurface_color',
        'turbulence',
        [
          [0, [0.04, 0.2, 0.09]],
          [0.6, [0.12, 0.38, 0.2]],
          [1, [0.42, 0.6, 0.42]],
        ],
        { scale: 45 * MM, octaves: 4 },
      ),
    ],
  ),
  ready('milk-glass', 'Milk glass', 'translucent', {
    ...GLASS,
    specular_roughness: 0.35,
    transmission_depth: 6 * MM,
    transmission_color: [0.97, 0.97, 0.98],
    transmission_scatter: [0.9, 0.93, 1],
  }),
  ready('opal-glass', 'Opal glass', 'translucent', {
    ...GLASS,
    transmission_depth: 60 * MM,
    transmission_color: [0.98, 0.94, 0.88],
    transmission_scatter: [0.16, 0.34, 0.75],
  }),
  ready('cabin-velvet', 'Cabin velvet', 'velvet', {
    base_color: [0.1, 0.006, 0.02],
    specular_weight: 0,
    fuzz_weight: 1,
    fuzz_color: [0.75, 0.12, 0.2],
    fuzz_roughness: 0.45,
  }),
  ready('night-velvet', 'Night velvet', 'velvet', {
    base_color: [0.006, 0.01, 0.035],
    specular_weight: 0,
    fuzz_weight: 1,
    fuzz_color: [0.3, 0.42, 0.9],
    fuzz_roughness: 0.35,
  }),
  ready(
    'purser-felt',
    'Purser felt',
    'velvet',
    {
      base_color: [0.05, 0.16, 0.09],
      base_diffuse_roughness: 1,
      specular_weight: 0,
      fuzz_weight: 0.8,
      fuzz_color: [0.35, 0.55, 0.4],
      fuzz_roughness: 0.8,
    },
    [
      fed(
        'relief',
        'turbulence',
        [
          [0, 0],
          [1, 0.35 * MM],
        ],
        { scale: 1.4 * MM, octaves: 3 },
      ),
    ],
  ),
  ready('dusty-chrome', 'Dusty chrome', 'chrome', {
    base_metalness: 1,
    base_metal: 'chromium',
    specular_roughness: 0.1,
    fuzz_weight: 0.5,
    fuzz_color: [0.75, 0.7, 0.62],
    fuzz_roughness: 0.7,
  }),
  ready(
    'vent-mesh',
    'Vent mesh',
    'cut out',
    { base_metalness: 1, base_metal: 'aluminium', specular_roughness: 0.3 },
    [
      fed(
        'geometry_opacity',
        'cells',
        [
          [0, 0],
          [0.42, 0],
          [0.42, 1],
          [1, 1],
        ],
        { scale: 16 * MM },
      ),
    ],
  ),
  ready('torn-paint', 'Torn paint', 'cut out', { base_color: [0.7, 0.68, 0.6], specular_roughness: 0.55 }, [
    fed(
      'geometry_opacity',
      'noise',
      [
        [0, 0],
        [0.42, 0],
        [0.42, 1],
        [1, 1],
      ],
      { scale: 55 * MM, octaves: 5 },
    ),
  ]),
  ready(
    'ember-veins',
    'Ember veins',
    'neon',
    { base_color: [0.02, 0.018, 0.017], specular_roughness: 0.5 },
    [],
    [
      newCoat({
        id: 'embers',
        name: 'Embers',
        lies: 'light',
        cover: 1,
        surface: plainSurface({ emission_color: [1, 0.22, 0.03], emission_luminance: 12 }),
        feeds: [
          fed(
            'cover',
            'cracks',
            [
              [0, 1],
              [0.12, 0.5],
              [0.3, 0],
              [1, 0],
            ],
            { scale: 60 * MM },
          ),
        ],
      }),
    ],
  ),
  ready('tide-rings', 'Tide rings', 'satin paint', { specular_roughness: 0.4 }, [
    fed(
      'base_color',
      'near',
      Array.from({ length: 12 }, (_, i) =>
        // hard rings, each a little paler than the one before
        [i / 12, (i + 1) / 12].map((at): [number, number[]] => [
          at,
          i % 2 ? [0.02, 0.05, 0.12] : [0.06 + i * 0.04, 0.3 + i * 0.03, 0.45],
        ]),
      ).flat(),
      { scale: 240 * MM, breakup: 0.12, breakup_scale: 60 * MM, blend: 'linear' },
    ),
  ]),
  ready('platinum-plate', 'Platinum plate', 'silver', {
    base_metalness: 1,
    base_metal: 'platinum',
    specular_roughness: 0.12,
  }),
  ready('rhodium-plate', 'Rhodium plate', 'silver', {
    base_metalness: 1,
    base_metal: 'rhodium',
    specular_roughness: 0.05,
  }),
  ready('mess-tin', 'Mess tin', 'steel', {
    base_metalness: 1,
    base_metal: 'tin',
    specular_roughness: 0.38,
  }),
  ready(
    'frosted-cobalt',
    'Salted cobalt',
    'steel',
    { base_metalness: 1, base_metal: 'cobalt', specular_roughness: 0.25 },
    [],
    [over('salt', 'Salt', 0.35, { base_color: [0.9, 0.9, 0.88], specular_roughness: 0.8, fuzz_weight: 0.4 })],
  ),
];
