/** The registry's part on finishes: surfaces, coats, and what feeds them. */
import type { FeedSource, Metal } from './kinds.ts';
import { amount, choice, colour, onOff, share, UNITS } from './parameter.ts';

const WHITE = [1, 1, 1] as const;

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
    ],
    'none',
    { list: true, fold: 'Base', hint: 'Its measured reflectance replaces that of the colour' },
  ),
  specular_weight: share('Specular weight', 1, { fed: true, fold: 'Specular' }),
  specular_color: colour('Specular colour', WHITE, { fed: true, fold: 'Specular' }),
  specular_roughness: share('Roughness', 0.3, { fed: true, fold: 'Specular' }),
  specular_ior: amount('Index', UNITS.none, [1, 3], 1.5, 0.01, { fed: true, fold: 'Specular' }),
  specular_roughness_anisotropy: share('Along the stroke', 0, { fed: true, fold: 'Specular' }),
  specular_rotation: amount('Turn', UNITS.degrees, [-Math.PI, Math.PI], 0, 1, {
    fed: true,
    fold: 'Specular',
    hint: 'Turns the brushing away from the outline’s direction',
    fader: [-180, 180],
  }),
  transmission_weight: share('Transmission', 0, { fed: true, fold: 'Transmission' }),
  transmission_color: colour('Glass colour', WHITE, { fed: true, fold: 'Transmission' }),
  transmission_depth: amount('Depth of colour', UNITS.mm, [0, 10], 0, 1, {
    fold: 'Transmission',
    hint: 'Depth at which white light has taken the glass’s colour; 0 tints at the surface',
    fader: [0, 300],
  }),
  geometry_thin_walled: onOff('Thin wall', false, {
    fold: 'Transmission',
    keyed: false,
    hint: 'A sheet without thickness: light goes through without bending',
    turns: ['Thin wall', 'Solid'],
  }),
  coat_weight: share('Clear coat', 0, { fed: true, fold: 'Clear coat' }),
  coat_color: colour('Clear colour', WHITE, { fed: true, fold: 'Clear coat' }),
  coat_roughness: share('Clear roughness', 0, { fed: true, fold: 'Clear coat' }),
  coat_ior: amount('Clear index', UNITS.none, [1, 3], 1.6, 0.01, { fed: true, fold: 'Clear coat' }),
  emission_color: colour('Light colour', WHITE, { fed: true, fold: 'Emission' }),
  emission_luminance: amount('Luminance', UNITS.nits, [0, 100_000], 0, 0.1, {
    fed: true,
    fold: 'Emission',
    fader: [0, 10_000],
    log: true,
  }),
  thin_film_weight: share('Film', 0, {
    since: 7,
    fed: true,
    fold: 'Thin film',
    hint: 'A film on metal, so thin that light interferes with itself',
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
  cover: share('Cover', 1, { fed: true, hint: 'Share of what lies under it that this coat hides' }),
};

/** Along which a feed's stops stand: 0 at the first end, 1 at the other. */
const ALONG_AXIS: [string, ...string[]] = ['source', 'along', 'up', 'through'];
const IN_SPACE: [string, ...string[]] = ['source', 'noise', 'turbulence', 'cells', 'cracks', 'grain'];
const ON_FACE: [string, ...string[]] = ['source', 'weave', 'bricks', 'tiles'];
const SIZED: [string, ...string[]] = [...IN_SPACE, ...ON_FACE.slice(1), 'outline', 'rim'];

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
    ],
    'angle',
    { list: true },
  ),
  of: choice<'letter' | 'block'>(
    'Over',
    [
      ['letter', 'Letter'],
      ['block', 'Block'],
    ],
    'letter',
    { when: ALONG_AXIS },
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
    hint: 'Of one lump, cell or thread; how far one round of the stops reaches',
  }),
  stretch: amount('Stretch', UNITS.times, [0.01, 100], 1, 0.01, {
    fader: [0.1, 50],
    log: true,
    when: [...IN_SPACE, 'bricks', 'tiles'],
    hint: 'Longer along the reading direction by so much',
  }),
  turn: amount('Turn', UNITS.degrees, [-Math.PI, Math.PI], 0, 1, {
    fader: [-180, 180],
    when: [...IN_SPACE, ...ON_FACE.slice(1)],
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
