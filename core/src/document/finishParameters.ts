/** The registry's part on finishes: surfaces, coats, and what feeds them. */
import { GASES, type Brushing, type FeedSource, type Gas, type Metal } from './kinds.ts';
import { amount, choice, colour, onOff, share, UNITS } from './parameter.ts';

const WHITE = [1, 1, 1] as const;

const GAS_NAMES: readonly (readonly [Gas, string])[] = [
  ['none', 'None, by colour'],
  ['neon', 'Neon'],
  ['mercury', 'Argon with mercury'],
  ['helium', 'Helium'],
  ['argon', 'Argon'],
  ['krypton', 'Krypton'],
  ['xenon', 'Xenon'],
];

/** While a gas glows. */
const OF_GAS: [string, ...string[]] = ['emission_gas', ...GASES.slice(1)];

/** OpenPBR 1.1: its names, ranges and defaults, save that measured metals start as 'none'. */
export const SURFACE = {
  base_weight: share('Base weight', 1, { fed: true, fold: 'Base' }),
  base_color: colour('Base colour', [0.8, 0.8, 0.8], { fed: true, fold: 'Base' }),
  base_diffuse_roughness: share('Diffuse roughness', 0, { fed: true, fold: 'Base' }),
  base_metalness: share('Metalness', 0, { fed: true, fold: 'Base' }),
  base_metal: choice<Metal>(
    'Measured metal',
    [
      ['none', 'None, by colour'],
      ['gold', 'Gold'],
      ['silver', 'Silver'],
      ['copper', 'Copper'],
      ['brass', 'Brass'],
      ['aluminium', 'Aluminium'],
      ['chromium', 'Chromium'],
      ['iron', 'Iron'],
      ['titanium', 'Titanium'],
      ['nickel', 'Nickel'],
      ['cobalt', 'Cobalt'],
      ['palladium', 'Palladium'],
      ['platinum', 'Platinum'],
      ['rhodium', 'Rhodium'],
      ['tungsten', 'Tungsten'],
      ['molybdenum', 'Molybdenum'],
      ['tin', 'Tin'],
    ],
    'none',
    { list: true, fold: 'Base', hint: 'Its measured reflectance replaces that of the colour' },
  ),
  specular_weight: share('Specular weight', 1, { fed: true, fold: 'Specular' }),
  specular_color: colour('Specular colour', WHITE, { fed: true, fold: 'Specular' }),
  specular_roughness: share('Roughness', 0.3, { fed: true, fold: 'Specular' }),
  specular_ior: amount('Index', UNITS.none, [1, 3], 1.5, 0.01, { fed: true, fold: 'Specular' }),
  specular_roughness_anisotropy: share('Along the stroke', 0, { fed: true, fold: 'Specular' }),
  specular_brushing: choice<Brushing>(
    'Brushed',
    [
      ['outline', 'Along the outline'],
      ['line', 'Along the line'],
      ['around', 'Around its middle'],
    ],
    'outline',
    {
      since: 16,
      list: true,
      fold: 'Specular',
      hint: 'Which way the strokes of brushed metal and lacquer run, before they are turned; radial is around, turned by 90°',
    },
  ),
  specular_rotation: amount('Turn', UNITS.degrees, [-Math.PI, Math.PI], 0, 1, {
    fed: true,
    fold: 'Specular',
    hint: 'Turns the brushing away from its way over the face',
    fader: [-180, 180],
  }),
  transmission_weight: share('Transmission', 0, { fed: true, fold: 'Transmission' }),
  transmission_color: colour('Glass colour', WHITE, { fed: true, fold: 'Transmission' }),
  transmission_depth: amount('Depth of colour', UNITS.mm, [0, 10], 0, 1, {
    fold: 'Transmission',
    hint: 'Depth at which white light has taken the glass’s colour; 0 tints at the surface',
    fader: [0, 300],
  }),
  transmission_scatter: colour('Cloudiness', [0, 0, 0], {
    since: 9,
    fold: 'Transmission',
    hint: 'Share of light that is scattered on its way through the depth of colour; milk and mist are white',
  }),
  transmission_scatter_anisotropy: amount('Cloud ahead', UNITS.none, [-0.95, 0.95], 0, 0.01, {
    since: 9,
    fold: 'Transmission',
    hint: 'Whether scattered light goes on ahead or turns back',
  }),
  transmission_dispersion_scale: share('Dispersion', 0, {
    since: 8,
    fed: true,
    fold: 'Transmission',
    hint: 'How far a solid parts light into its colours; 1 is what its Abbe number says',
  }),
  transmission_dispersion_abbe_number: amount('Abbe number', UNITS.none, [9, 91], 20, 1, {
    since: 8,
    fold: 'Transmission',
    hint: 'Window glass 59, flint glass 36, diamond 55; the lower, the more colour',
  }),
  transmission_priority: amount('Priority', UNITS.none, [0, 9], 0, 1, {
    since: 9,
    fold: 'Transmission',
    whole: true,
    hint: 'Where two solids of glass overlap, the one of higher priority is there and the other is not',
  }),
  geometry_thin_walled: onOff('Thin wall', false, {
    fold: 'Transmission',
    keyed: false,
    hint: 'A sheet without thickness: light goes through without bending',
    turns: ['Thin wall', 'Solid'],
  }),
  subsurface_weight: share('Translucency', 0, {
    since: 9,
    fed: true,
    fold: 'Translucency',
    hint: 'Share of the body that lets light seep in, wander and come out elsewhere: wax, marble, jade, milk',
  }),
  subsurface_color: colour('Colour within', [0.8, 0.8, 0.8], {
    since: 9,
    fed: true,
    fold: 'Translucency',
    hint: 'What comes back out of it where it is thick',
  }),
  subsurface_radius: amount('Way of light', UNITS.mm, [0.00001, 1], 0.005, 0.1, {
    since: 9,
    fed: true,
    fold: 'Translucency',
    fader: [0.1, 100],
    log: true,
    hint: 'How far light goes between two scatterings, on the whole',
  }),
  subsurface_radius_scale: colour('Way by colour', [1, 0.5, 0.25], {
    since: 9,
    fold: 'Translucency',
    hint: 'How far red, green and blue go, as shares of it',
  }),
  subsurface_scatter_anisotropy: amount('Ahead', UNITS.none, [-0.95, 0.95], 0, 0.01, {
    since: 9,
    fold: 'Translucency',
    hint: 'Whether scattered light goes on ahead or turns back',
  }),
  coat_weight: share('Clear coat', 0, { fed: true, fold: 'Clear coat' }),
  coat_color: colour('Clear colour', WHITE, { fed: true, fold: 'Clear coat' }),
  coat_roughness: share('Clear roughness', 0, { fed: true, fold: 'Clear coat' }),
  coat_roughness_anisotropy: share('Clear along the stroke', 0, {
    since: 15,
    fed: true,
    fold: 'Clear coat',
    hint: 'As lacquer that was brushed or polished: highlights are drawn out across its strokes',
  }),
  coat_ior: amount('Clear index', UNITS.none, [1, 3], 1.6, 0.01, { fed: true, fold: 'Clear coat' }),
  coat_darkening: share('Clear darkening', 1, {
    since: 9,
    fed: true,
    fold: 'Clear coat',
    hint: 'How far what lies under the clear coat looks darker and richer, for light that turns back within it',
  }),
  fuzz_weight: share('Fuzz', 0, {
    since: 9,
    fed: true,
    fold: 'Fuzz',
    hint: 'Fine fibres or dust that shine towards the edges: velvet, felt, flock',
  }),
  fuzz_color: colour('Fuzz colour', WHITE, { since: 9, fed: true, fold: 'Fuzz' }),
  fuzz_roughness: share('Fuzz roughness', 0.5, { since: 9, fed: true, fold: 'Fuzz' }),
  emission_color: colour('Light colour', WHITE, { fed: true, fold: 'Emission' }),
  emission_luminance: amount('Luminance', UNITS.nits, [0, 100_000], 0, 0.1, {
    fed: true,
    fold: 'Emission',
    fader: [0, 10_000],
    log: true,
  }),
  emission_cast: amount('Light cast', UNITS.times, [0, 100], 1, 0.01, {
    since: 8,
    fold: 'Emission',
    fader: [0.1, 10],
    log: true,
    hint: 'What falls on others and is mirrored is so many times what the camera sees of it by itself; 1 is true',
  }),
  emission_gas: choice<Gas>('Gas', GAS_NAMES, 'none', {
    since: 8,
    list: true,
    fold: 'Emission',
    hint: 'Glows in the colour of its lines; the light colour is then that of the glass',
  }),
  emission_gas_second: choice<Gas>('Mixed with', GAS_NAMES, 'none', {
    since: 8,
    list: true,
    fold: 'Emission',
    when: OF_GAS,
  }),
  emission_gas_share: share('Share of it', 0.5, {
    since: 8,
    fed: true,
    fold: 'Emission',
    when: [OF_GAS, ['emission_gas_second', ...GASES.slice(1)]],
    hint: 'Of the light, not of the filling',
  }),
  emission_current: amount('Current', UNITS.milliamperes, [1, 200], 30, 1, {
    since: 8,
    fed: true,
    fold: 'Emission',
    fader: [5, 100],
    when: OF_GAS,
    hint: 'The luminance is that at 30 mA; it grows in proportion',
  }),
  emission_powder: share('Powder', 0, {
    since: 8,
    fed: true,
    fold: 'Emission',
    when: OF_GAS,
    hint: 'Share of the light that a powder on the glass gives in the gas’s place',
  }),
  emission_powder_color: colour('Powder glow', [1, 0.9, 0.8], {
    since: 8,
    fed: true,
    fold: 'Emission',
    when: OF_GAS,
  }),
  thin_film_weight: share('Film', 0, {
    since: 7,
    fed: true,
    fold: 'Thin film',
    hint: 'A film so thin that light interferes with itself: on metal, glass, paint or as a soap film',
  }),
  thin_film_thickness: amount('Film thickness', UNITS.micrometres, [0, 3], 0.5, 0.005, {
    since: 7,
    fed: true,
    fold: 'Thin film',
    fader: [0, 1],
  }),
  thin_film_ior: amount('Film index', UNITS.none, [1, 3], 1.4, 0.01, {
    since: 7,
    fed: true,
    fold: 'Thin film',
  }),
  tint_hue: amount('Hue', UNITS.degrees, [-Math.PI, Math.PI], 0, 1, {
    since: 7,
    fed: true,
    history: 'Tint hue',
    fold: 'Tint',
    fader: [-180, 180],
    hint: 'Turns the colours of all that is reflected',
  }),
  tint_warmth: amount('Warmth', UNITS.none, [-1, 1], 0, 0.01, {
    since: 7,
    fed: true,
    history: 'Tint warmth',
    fold: 'Tint',
    hint: 'Silver towards gold, or towards steel',
  }),
  tint_strength: amount('Strength', UNITS.times, [0, 4], 1, 0.01, {
    since: 7,
    fed: true,
    history: 'Tint strength',
    fold: 'Tint',
    hint: 'How strong the colours of what is reflected are; 0 is grey',
  }),
  geometry_opacity: share('Opacity', 1, {
    since: 9,
    fed: true,
    fold: 'Opacity',
    hint: 'Less than all of it is there: fed with a picture or pattern it is cut out. A coat’s own is part of its cover',
  }),
  relief: amount('Relief', UNITS.mm, [-0.1, 0.1], 0, 0.01, {
    since: 7,
    fed: true,
    fold: 'Relief',
    fader: [-2, 2],
    hint: 'Height of the surface; fed with noise or a pattern it is rough, hammered or woven',
  }),
};

/** A coat over others: its surface shows where it covers them. */
export const COAT = {
  on: onOff('On', true, { row: false, turns: ['on', 'off'] }),
  lies: choice<'over' | 'light'>(
    'Lies',
    [
      ['over', 'Covering'],
      ['light', 'As light'],
    ],
    'over',
    {
      since: 9,
      hint: 'Over: hides what it covers. As light: only what it gives by itself is added, and nothing is hidden',
    },
  ),
  cover: share('Cover', 1, { fed: true, hint: 'Share of what lies under it that this coat hides' }),
};

/** Along which a feed's stops stand: 0 at the first end, 1 at the other. */
const ALONG_AXIS: [string, ...string[]] = ['source', 'along', 'up', 'through'];
const IN_SPACE: [string, ...string[]] = ['source', 'noise', 'turbulence', 'cells', 'cracks', 'grain'];
const ON_FACE: [string, ...string[]] = ['source', 'weave', 'bricks', 'tiles'];
const PICTURE: [string, ...string[]] = ['source', 'picture'];
const SIZED: [string, ...string[]] = [...IN_SPACE, ...ON_FACE.slice(1), 'outline', 'rim', 'near'];

/** What feeds a parameter: an axis over the face, which its stops give values. */
export const FEED = {
  source: choice<FeedSource>(
    'Fed by',
    [
      ['angle', 'Viewing angle'],
      ['along', 'Along the line'],
      ['up', 'Height'],
      ['through', 'Back to front'],
      ['outline', 'Along the outline'],
      ['rim', 'Across the edge'],
      ['upward', 'Facing up'],
      ['noise', 'Noise'],
      ['turbulence', 'Turbulence'],
      ['cells', 'Cells'],
      ['cracks', 'Cracks'],
      ['grain', 'Flakes'],
      ['weave', 'Weave'],
      ['bricks', 'Bricks'],
      ['tiles', 'Tiles'],
      ['picture', 'Picture'],
      ['near', 'Distance to others'],
    ],
    'angle',
    { list: true },
  ),
  of: choice<'letter' | 'word' | 'block'>(
    'Over',
    [
      ['letter', 'Letter'],
      ['word', 'Word'],
      ['block', 'Block'],
    ],
    'letter',
    { when: ALONG_AXIS },
  ),
  toward: choice<'type' | 'stage'>(
    'Others',
    [
      ['type', 'Type'],
      ['stage', 'Stage'],
    ],
    'type',
    {
      since: 9,
      when: ['source', 'near'],
      hint: 'The nearest of all other blocks, or of floor, walls and backdrops; nought where they touch',
    },
  ),
  take: choice<'colour' | 'light' | 'cover' | 'normals'>(
    'Take',
    [
      ['colour', 'Colours'],
      ['light', 'Brightness'],
      ['cover', 'Opacity'],
      ['normals', 'Normals'],
    ],
    'colour',
    {
      since: 8,
      list: true,
      when: PICTURE,
      hint: 'What of the picture counts; numbers take its brightness or its opacity, relief also normals (a normal map)',
    },
  ),
  lay: choice<'letter' | 'word' | 'block' | 'tiles'>(
    'Laid over',
    [
      ['letter', 'Letter'],
      ['word', 'Word'],
      ['block', 'Block'],
      ['tiles', 'In tiles'],
    ],
    'letter',
    {
      since: 8,
      when: PICTURE,
      hint: 'Over each letter, each word, over the whole block, or again and again in one size; it goes on over bevels and sides',
    },
  ),
  tile: amount('Tile width', UNITS.mm, [0.0001, 100], 0.1, 0.5, {
    since: 8,
    fader: [1, 1000],
    log: true,
    when: [PICTURE, ['lay', 'tiles']],
  }),
  zoom: amount('Picture size', UNITS.times, [0.01, 100], 1, 0.01, {
    since: 8,
    fader: [0.1, 10],
    log: true,
    when: PICTURE,
    hint: '1 just covers the letter or block, or fills its tile',
  }),
  shift_x: amount('Shift across', UNITS.percent, [-10, 10], 0, 1, {
    since: 8,
    fader: [-100, 100],
    when: PICTURE,
    hint: 'By so much of the picture’s width',
  }),
  shift_y: amount('Shift up', UNITS.percent, [-10, 10], 0, 1, {
    since: 8,
    fader: [-100, 100],
    when: PICTURE,
    hint: 'By so much of the picture’s height',
  }),
  edges: choice<'repeat' | 'mirror' | 'once'>(
    'Beyond its edge',
    [
      ['repeat', 'Again'],
      ['mirror', 'Mirrored'],
      ['once', 'Nothing'],
    ],
    'repeat',
    { since: 8, when: PICTURE },
  ),
  coding: choice<'colour' | 'numbers'>(
    'Read as',
    [
      ['colour', 'Colours'],
      ['numbers', 'Numbers'],
    ],
    'colour',
    {
      since: 8,
      when: PICTURE,
      hint: 'Numbers are taken as they stand in the file: roughness, heights, masks',
    },
  ),
  shape: choice<'even' | 'fresnel'>(
    'Axis',
    [
      ['even', 'Even'],
      ['fresnel', 'Late'],
    ],
    'even',
    {
      when: ['source', 'angle'],
      hint: 'Even follows the cosine; late stays near facing and rises at the edge, as reflection does',
    },
  ),
  scale: amount('Size', UNITS.mm, [0.00001, 100], 0.02, 0.1, {
    history: 'size',
    fader: [0.1, 1000],
    log: true,
    when: SIZED,
    hint: 'Of one lump, cell or thread; how far one round of the stops reaches; the farthest distance that is told',
  }),
  stretch: amount('Stretch', UNITS.times, [0.01, 100], 1, 0.01, {
    fader: [0.1, 50],
    log: true,
    when: [...IN_SPACE, 'bricks', 'tiles'],
    hint: 'Longer along the reading direction by so much',
  }),
  turn: amount('Turn', UNITS.degrees, [-Math.PI, Math.PI], 0, 1, {
    fader: [-180, 180],
    when: [...IN_SPACE, ...ON_FACE.slice(1), 'picture'],
  }),
  octaves: amount('Octaves', UNITS.none, [1, 8], 3, 1, {
    whole: true,
    when: ['source', 'noise', 'turbulence'],
    hint: 'How many finer noises lie upon the first',
  }),
  contrast: amount('Contrast', UNITS.times, [0, 20], 1, 0.05, { fader: [0, 4], when: IN_SPACE }),
  seed: amount('Seed', UNITS.none, [0, 9999], 1, 1, {
    whole: true,
    when: [...IN_SPACE, ...ON_FACE.slice(1)],
    hint: 'Another seed, another piece of the same',
  }),
  from: share('From', 0, { hint: 'Where on its axis the first stop stands' }),
  to: share('To', 1, { hint: 'Where on its axis the last stop stands' }),
  breakup: share('Broken up', 0, { hint: 'How far noise moves the stops about' }),
  breakup_scale: amount('Breaks', UNITS.mm, [0.00001, 100], 0.02, 0.1, {
    fader: [0.1, 1000],
    log: true,
    hint: 'Size of the breaks',
  }),
  blend: choice<'linear' | 'even'>(
    'Between stops',
    [
      ['linear', 'As light'],
      ['even', 'As seen'],
    ],
    'even',
    { hint: 'Colours mixed as light mixes, or in steps that look alike (OKLab)' },
  ),
};

/** A stop of a feed; its value counts for numbers, its colour for colours. */
export const STOP = {
  at: share('At', 0, { row: false }),
  value: amount('Value', UNITS.none, [-100_000, 100_000], 0, 0.01, { row: false }),
  colour: colour('Colour', WHITE, { row: false }),
};
