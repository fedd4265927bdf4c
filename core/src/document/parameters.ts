/**
 * The registry: every number, colour, point, switch and choice of the document, with unit, range, step, default and
 * names. Validation, new things, rows of the desk, typed units, history and the palette read it; to add a parameter
 * is to add it here, with `since`, and to use it in the computation. Rows stand in the order of their table.
 */
import type {
  Backdrop,
  BaselineKind,
  BevelWay,
  CameraView,
  Frame,
  Form,
  LetterPivot,
  PieceKind,
  PlateStand,
  Profile,
  Shading,
  TubeCourse,
} from './kinds.ts';
import { TIME } from './motionParameters.ts';
import { amount, choice, colour, onOff, point, share, UNITS, type Condition } from './parameter.ts';

export * from './finishParameters.ts';
export * from './lightParameters.ts';
export * from './motionParameters.ts';

const TURN = 2 * Math.PI;

/** A turn of a block out of the upright. */
const leaned = (label: string, hint: string) =>
  amount(label, UNITS.degrees, [-Math.PI, Math.PI], 0, 0.5, { hint, fader: [-180, 180], since: 16 });

export const PLACE = {
  position: point(
    'Place',
    UNITS.mm,
    [0, 0.16, 0],
    [
      ['Across', 'Moves the block’s centre to the right'],
      ['Up', 'Moves the block’s centre up'],
      ['Out', 'Moves the block’s zero plane out, towards the front'],
    ],
    [-2000, 2000],
    1,
  ),
  turn: amount('Turn', UNITS.degrees, [-Math.PI, Math.PI], 0, 0.5, {
    history: 'Turn of the type',
    hint: 'Turns the block about its upright axis',
    fader: [-180, 180],
  }),
  tilt: leaned('Tilted', 'About its line: the top goes back, until it lies on its back'),
  roll: leaned('Rolled', 'In its own plane: the right side goes up'),
};

/** How a letter is moved, turned and sized from where its line has it, about its own axes. */
export const POSE = {
  shift: point(
    'Moved',
    UNITS.mm,
    [0, 0, 0],
    [
      ['Along', 'Moves along the line'],
      ['Up', 'Moves up, away from the line'],
      ['Out', 'Moves out, towards the front'],
    ],
    [-500, 500],
    1,
  ),
  turn: amount('Turn', UNITS.degrees, [-10 * TURN, 10 * TURN], 0, 1, {
    hint: 'About its upright axis',
    fader: [-180, 180],
  }),
  tilt: amount('Tilt', UNITS.degrees, [-10 * TURN, 10 * TURN], 0, 1, {
    hint: 'Away with its head; towards the front below nought',
    fader: [-180, 180],
  }),
  roll: amount('Roll', UNITS.degrees, [-10 * TURN, 10 * TURN], 0, 1, {
    hint: 'In the plane of the word',
    fader: [-180, 180],
  }),
  size: amount('Size', UNITS.percent, [0, 20], 1, 1, {
    hint: 'Of nought, the letter is not there',
    fader: [0, 200],
  }),
  on: onOff('There', true, { turns: ['there', 'not there'] }),
};

/** What every letter of a block does alike. */
export const EACH = {
  ...POSE,
  about: choice<LetterPivot>(
    'Turns about',
    [
      ['foot', 'Its foot'],
      ['middle', 'Its middle'],
      ['head', 'Its head'],
    ],
    'middle',
    { hint: 'What of a letter stays where it is while it turns and changes its size' },
  ),
};

export const BASELINE = {
  kind: choice<BaselineKind>(
    'Baseline',
    [
      ['straight', 'Straight'],
      ['line', 'Slope'],
      ['arc', 'Arc'],
      ['circle', 'Circle'],
      ['free', 'Drawn'],
    ],
    'straight',
    { row: false },
  ),
  slope: amount('Rise', UNITS.degrees, [-Math.PI / 2, Math.PI / 2], 0, 0.5, { when: ['kind', 'line'] }),
  bend: amount('Bend', UNITS.degrees, [-TURN, TURN], Math.PI / 3, 1, {
    fader: [-180, 180],
    when: ['kind', 'arc'],
    hint: 'How far the line bends over the length of the text; upward is positive',
  }),
  radius: amount('Radius', UNITS.mm, [0.001, 1000], 0.6, 1, {
    fader: [1, 3000],
    log: true,
    when: ['kind', 'circle'],
  }),
  inside: onOff('Inside the circle', false, { when: ['kind', 'circle'], turns: ['inside', 'outside'] }),
  shift: amount('Along', UNITS.mm, [-1000, 1000], 0, 1, {
    hint: 'Moves the text along its line',
    fader: [-1000, 1000],
    when: ['kind', 'line', 'arc', 'circle', 'free'],
  }),
  offset: amount('Off the line', UNITS.mm, [-100, 100], 0, 1, {
    history: 'distance',
    hint: 'Distance of the letters’ feet from the line, positive above it',
    fader: [-500, 500],
    when: ['kind', 'line', 'arc', 'circle', 'free'],
  }),
  upright: onOff('Upright letters', false, {
    hint: 'Letters stay upright instead of turning with the line',
    when: ['kind', 'line', 'arc', 'circle', 'free'],
    turns: ['upright', 'turned'],
  }),
};

export const BEVEL = {
  width: amount('Width', UNITS.mm, [0, 1], 0.012, 0.1, { hint: 'Across from the outline' }),
  height: amount('Height', UNITS.mm, [0, 1], 0.012, 0.1, { hint: 'Along the depth' }),
  profile: choice<Profile>(
    'Profile',
    [
      ['straight', 'Straight'],
      ['round', 'Round'],
      ['cove', 'Cove'],
      ['step', 'Step'],
      ['terrace', 'Terrace'],
      ['keel', 'Keel'],
      ['ogee', 'Ogee'],
      ['saddle', 'Saddle'],
      ['scallop', 'Scallop'],
      ['rope', 'Rope'],
      ['gutter', 'Gutter'],
      ['rim', 'Rim'],
      ['free', 'Free'],
    ],
    'round',
  ),
  segments: amount('Segments', UNITS.none, [1, 32], 6, 1, {
    whole: true,
    hint: 'How many flat facets make up the curve of the bevel',
  }),
  way: choice<BevelWay>(
    'Runs',
    [
      ['inward', 'Inward'],
      ['outward', 'Outward'],
    ],
    'inward',
    { hint: 'Whether the bevel eats into the letter or grows out around it' },
  ),
  shading: choice<Shading>(
    'Edges',
    [
      ['drawn', 'As drawn'],
      ['smooth', 'Smooth'],
      ['crisp', 'Crisp'],
    ],
    'drawn',
    { hint: 'Whether the profile’s edges are rounded off in shading' },
  ),
};

export const TUBE = {
  course: choice<TubeCourse>(
    'Runs along',
    [
      ['centre', 'Middle'],
      ['edges', 'Edges'],
      ['drawn', 'Drawn'],
    ],
    'centre',
    { history: 'course', hint: 'Where in the stroke the tube lies' },
  ),
  diameter: amount('Diameter', UNITS.mm, [0.0005, 1], 0.012, 0.1, { fader: [0.5, 40] }),
  wall: amount('Glass wall', UNITS.mm, [0.0001, 0.2], 0.001, 0.1, { fader: [0.1, 4] }),
  inset: amount('From the edge', UNITS.mm, [0, 1], 0.01, 0.1, {
    hint: 'Distance of the tube’s middle from the outline',
    fader: [0, 60],
    when: ['course', 'edges'],
  }),
  tightest: amount('Tightest bend', UNITS.diameters, [0.1, 20], 1.5, 0.05, {
    hint: 'Smallest radius that the glass is bent to, in diameters',
    fader: [0.1, 6],
  }),
  smoothing: amount('Evened out', UNITS.percent, [0, 1], 0.5, 1, {
    hint: 'How far unevenness of the middle line is smoothed away',
  }),
  electrodes: onOff('Electrodes', true, { keyed: false }),
  electrode: amount('Electrode', UNITS.mm, [0, 1], 0.008, 0.1, {
    hint: 'Length of an electrode',
    fader: [0, 80],
    when: ['electrodes', true],
  }),
  standOff: amount('Off the wall', UNITS.mm, [0, 10], 0.03, 0.1, {
    hint: 'Gap between the zero plane and the glass',
    fader: [0, 200],
  }),
  supports: amount('Supports every', UNITS.mm, [0, 10], 0.25, 0.1, {
    hint: 'Supports are at most this far apart; 0 for none',
    fader: [0, 1000],
  }),
};

export const STRIP = {
  on: onOff('Strip of points', false, { turns: ['Strip on', 'Strip off'] }),
  inset: amount('From the edge', UNITS.mm, [0, 10], 0.006, 0.1, {
    hint: 'How far the ribbon lies inside the outline',
    fader: [0, 60],
    when: ['on', true],
  }),
  at: amount('Back to front', UNITS.percent, [0, 1], 0.5, 1, { history: 'place', when: ['on', true] }),
  width: amount('Ribbon', UNITS.mm, [0, 10], 0.01, 0.1, {
    hint: 'Width of the ribbon, along the depth',
    fader: [0, 60],
    when: ['on', true],
  }),
  by: choice<'count' | 'spacing'>(
    'Points by',
    [
      ['spacing', 'Distance'],
      ['count', 'Number'],
    ],
    'spacing',
    { when: ['on', true], history: 'points' },
  ),
  spacing: amount('Distance', UNITS.mm, [0.0005, 10], 0.016, 0.1, {
    hint: 'Distance from one point of light to the next',
    fader: [0.5, 60],
    when: ['by', 'spacing'],
  }),
  count: amount('Each outline', UNITS.none, [1, 2000], 60, 1, {
    whole: true,
    history: 'number',
    hint: 'Points of light round each outline',
    fader: [1, 200],
    when: ['by', 'count'],
  }),
  size: amount('Point', UNITS.mm, [0.0001, 1], 0.005, 0.1, {
    hint: 'Diameter of each point of light',
    fader: [0.1, 20],
    when: ['on', true],
  }),
  luminance: amount('Glow', UNITS.nits, [0, 100_000], 60, 0.1, {
    fader: [0, 2000],
    log: true,
    when: ['on', true],
  }),
};

export const BLOCK = {
  capHeight: amount('Cap height', UNITS.mm, [0.001, 100], 0.3, 1, { fader: [1, 3000], log: true }),
  tracking: amount('Tracking', UNITS.perMille, [-500, 2000], 20, 1, { fader: [-200, 500] }),
  leading: amount('Leading', UNITS.times, [0.2, 5], 1, 0.01, { fader: [0.2, 2] }),
  alignment: choice<'left' | 'centre' | 'right' | 'justified'>(
    'Alignment',
    [
      ['left', 'Left'],
      ['centre', 'Centre'],
      ['right', 'Right'],
      ['justified', 'Justify'],
    ],
    'centre',
  ),
  weld: onOff('Welded', false, { row: false, keyed: false, turns: ['Weld letters', 'Part welded letters'] }),
  form: choice<Form>(
    'Letters are',
    [
      ['bevelled', 'Bevelled'],
      ['rounded', 'Round'],
      ['puffed', 'Puffed'],
      ['tube', 'Tube'],
    ],
    'bevelled',
    { history: 'Form' },
  ),
  depth: amount('Depth', UNITS.mm, [0, 10], 0.08, 0.5, { when: ['form', 'bevelled', 'rounded', 'puffed'] }),
  pressure: amount('Pressure', UNITS.none, [0, 4], 1, 0.01, {
    hint: 'At 1 letters are as thick as round ones where they are fattest',
    fader: [0, 2],
    when: ['form', 'puffed'],
  }),
  growth: choice<'forward' | 'backward' | 'both'>(
    'Grows',
    [
      ['forward', 'Forward'],
      ['backward', 'Backward'],
      ['both', 'Both'],
    ],
    'both',
    { history: 'Direction of depth', when: ['form', 'bevelled', 'rounded', 'puffed'] },
  ),
};

/** Standard deviation of a blur over the sphere. */
export const GRADE = {
  backdrop: choice<Backdrop>(
    'Behind the type',
    [
      ['nothing', 'Nothing'],
      ['black', 'Black'],
      ['colour', 'Colour'],
    ],
    'nothing',
    { since: 10, hint: 'Where no surround is seen; nothing leaves the picture open there (alpha)' },
  ),
  backdrop_colour: colour('Colour behind', [0.2, 0.2, 0.2], { since: 10, when: ['backdrop', 'colour'] }),
  exposure: amount('Exposure', UNITS.stops, [-20, 20], 0, 0.05, {
    hint: 'At 0, one nit is display white before the view transform',
    fader: [-8, 8],
  }),
  view: choice<'soft' | 'plain'>(
    'View',
    [
      ['soft', 'Soft shoulder'],
      ['plain', 'Plain sRGB'],
    ],
    'soft',
    { history: 'View transform' },
  ),
  glow: share('Glow', 0, { since: 5, hint: 'Share of the light that the lens spreads' }),
  glow_size: amount('Glow size', UNITS.none, [0.001, 0.3], 0.03, 0.001, {
    since: 5,
    hint: 'As a share of the picture’s height',
  }),
};

const PLATE: readonly Condition[] = [['kind', 'plate']];
/** A plate that fills the frame goes with the camera; all else is moved and turned. */
const FREE: Condition = ['stands', 'free'];
const PLACED = { since: 13, fold: 'Place and size', when: FREE };

const turned = (name: string, hint: string) =>
  amount(name, UNITS.degrees, [-Math.PI, Math.PI], 0, 1, { ...PLACED, hint });

/** A side of a piece; 0 reaches further than is seen. */
const sized = (
  name: string,
  kinds: readonly [string, ...PieceKind[]],
  hint = 'At 0 it reaches further than is seen',
) => amount(name, UNITS.m, [0, 1000], 0, 0.01, { ...PLACED, fader: [0, 10], hint, when: [kinds, FREE] });

export const PIECE = {
  on: onOff('On', true, { row: false, turns: ['on', 'off'] }),
  at: amount('Place', UNITS.m, [-1000, 1000], 0, 0.01, { fader: [-1, 4] }),
  solo: onOff('Solo', false, { since: 13, row: false, keyed: false, turns: ['solo', 'not solo'] }),
  catches: onOff('Only shadow', false, {
    since: 13,
    hint: 'It is not seen itself: it leaves shadow and what it mirrors of the type in the picture’s opacity, to be laid over something else',
    turns: ['leaves only shadow', 'is seen itself'],
    when: ['kind', 'floor', 'wall', 'backdrop', 'table', 'niche'],
  }),
  stands: choice<PlateStand>(
    'Stands',
    [
      ['frame', 'Filling the frame'],
      ['free', 'Free'],
    ],
    'free',
    { since: 13, when: PLATE },
  ),
  lit: onOff('Takes light', false, {
    since: 13,
    hint: 'Light and shadow fall on it; else it shows what it shows by itself',
    turns: ['takes light', 'shows by itself'],
    when: PLATE,
  }),
  stops: amount('Exposure', UNITS.stops, [-20, 20], 0, 0.05, {
    since: 13,
    hint: 'Of a plate, at 0 its white is display white at exposure 0, or it is the picture’s own colours in light; of a model, what glows of it by itself',
    fader: [-6, 6],
    when: ['kind', 'plate', 'model'],
  }),
  move: point(
    'Moved',
    UNITS.mm,
    [0, 0, 0],
    [
      ['Across', 'Moves it to the right'],
      ['Up', 'Moves it up'],
      ['Out', 'Moves it to the front'],
    ],
    [-2000, 2000],
    1,
    PLACED,
  ),
  turn: turned('Turned', 'About the upright axis'),
  tilt: turned('Tilted', 'About the axis across; its top goes back'),
  roll: turned('Rolled', 'About the axis to the front; its right side goes up'),
  size: amount('Size', UNITS.times, [1e-6, 1e6], 1, 0.01, {
    ...PLACED,
    fader: [0.01, 100],
    log: true,
    when: ['kind', 'model'],
    hint: 'Of what the file says, in metres',
  }),
  width: sized('Width', ['kind', 'floor', 'wall', 'backdrop', 'table', 'niche', 'grid', 'plate']),
  height: sized('Height', ['kind', 'wall', 'backdrop', 'niche', 'grid']),
  depth: sized('Depth', ['kind', 'floor', 'table', 'niche']),
  radius: sized(
    'Radius',
    ['kind', 'backdrop', 'table'],
    'Of the curve, or of a table’s corners; a backdrop’s goes by the type’s height at 0',
  ),
  thickness: amount('Thickness', UNITS.mm, [0.00001, 10], 0.02, 0.5, {
    ...PLACED,
    fader: [1, 200],
    log: true,
    when: ['kind', 'table', 'grid'],
  }),
  spacing: amount('Spacing', UNITS.mm, [0.001, 100], 0.25, 1, {
    ...PLACED,
    fader: [10, 2000],
    log: true,
    when: ['kind', 'grid'],
    hint: 'From line to line',
  }),
};

/** What of the lens counts only where depth blurs. */
const BLURS: readonly Condition[] = [
  ['view', 'perspective'],
  ['blurs', true],
];

/** An orbit camera looks at its target; azimuth 0 is the front, growing to the right. */
export const CAMERA = {
  view: choice<CameraView>(
    'View',
    [
      ['perspective', 'Perspective'],
      ['parallel', 'Parallel'],
    ],
    'perspective',
    { since: 12 },
  ),
  focal: amount('Focal length', UNITS.lensMm, [8, 800], 50, 1, {
    hint: 'Together with the width of the frame it lies on',
    fader: [8, 200],
    log: true,
  }),
  distance: amount('Distance', UNITS.m, [0.01, 2000], 3, 0.01, {
    hint: 'Distance of the camera from what it aims at',
    fader: [0.01, 50],
    log: true,
  }),
  azimuth: amount('Around', UNITS.degrees, [-TURN, TURN], 0, 0.5, {
    hint: 'Turns the camera around the type, to its right',
    fader: [-180, 180],
  }),
  elevation: amount('Above', UNITS.degrees, [-Math.PI / 2, Math.PI / 2], 0.06, 0.5, {
    hint: 'Raises the camera above the type, looking down on it',
    fader: [-88, 88],
  }),
  target: point(
    'Aim of the camera',
    UNITS.m,
    [0, 0.16, 0],
    [
      ['Aim across', 'Moves what the camera aims at to the right'],
      ['Aim up', 'Moves what the camera aims at up'],
      ['Aim out', 'Moves what the camera aims at out of the type, towards its front'],
    ],
    [-5, 5],
    0.01,
  ),
  roll: amount('Roll', UNITS.degrees, [-Math.PI, Math.PI], 0, 0.1, {
    since: 12,
    fader: [-45, 45],
    hint: 'Leans the camera to its right',
  }),
  sensor: amount('Frame width', UNITS.lensMm, [4, 100], 36, 0.1, {
    since: 12,
    fold: 'Lens',
    fader: [4, 70],
    hint: 'Width that the focal length refers to',
  }),
  shift_x: amount('Shift across', UNITS.percent, [-2, 2], 0, 1, {
    since: 12,
    fold: 'Lens',
    fader: [-100, 100],
    hint: 'Shows what lies farther right without turning, as a share of the picture’s width',
  }),
  shift_y: amount('Shift up', UNITS.percent, [-2, 2], 0, 1, {
    since: 12,
    fold: 'Lens',
    fader: [-100, 100],
    hint: 'Shows what lies higher without tilting, as a share of the picture’s height: uprights stay upright',
  }),
  blurs: onOff('Blur of depth', false, {
    since: 12,
    turns: ['Blur of depth', 'No blur of depth'],
    when: ['view', 'perspective'],
  }),
  aperture: amount('Aperture f/', UNITS.none, [0.05, 64], 2.8, 0.1, {
    since: 12,
    fader: [0.7, 22],
    log: true,
    when: BLURS,
    hint: 'Focal length over the width of the opening: small numbers blur more',
  }),
  focus: amount('Focus', UNITS.m, [0.01, 2000], 3, 0.001, {
    since: 12,
    fader: [0.05, 20],
    log: true,
    when: BLURS,
    hint: 'Distance of what is sharp, along the camera’s sight',
  }),
  blades: amount('Blades', UNITS.none, [0, 16], 0, 1, {
    since: 12,
    whole: true,
    when: BLURS,
    hint: 'Sides of the opening; fewer than three make it round',
  }),
  blade_turn: amount('Blades turned', UNITS.degrees, [-Math.PI, Math.PI], 0, 1, {
    since: 12,
    fader: [-60, 60],
    when: BLURS,
  }),
};

/** A limit for bounces of one kind; its greatest value is none. */
const bouncesOf = (name: string, hint: string) =>
  amount(name, UNITS.none, [0, 64], 64, 1, {
    whole: true,
    keyed: false,
    since: 6,
    hint,
  });

export const SHOT = {
  ...TIME,
  frame: choice<Frame>(
    'Shape',
    [
      ['16:9', '16:9'],
      ['1:1', '1:1'],
      ['4:5', '4:5'],
      ['9:16', '9:16'],
      ['own', 'Own'],
    ],
    '16:9',
    { history: 'Frame' },
  ),
  frame_width: amount('Pixels across', UNITS.pixels, [16, 16_384], 1920, 1, {
    since: 12,
    whole: true,
    keyed: false,
    log: true,
    fader: [16, 4096],
    when: ['frame', 'own'],
    hint: 'Width of a picture of the press, and with its height the shape of the frame',
  }),
  frame_height: amount('Pixels down', UNITS.pixels, [16, 16_384], 1080, 1, {
    since: 12,
    whole: true,
    keyed: false,
    log: true,
    fader: [16, 4096],
    when: ['frame', 'own'],
  }),
  bounces: amount('Bounces', UNITS.none, [0, 64], 32, 1, {
    whole: true,
    keyed: false,
    hint: 'How often light may bounce before it is given up',
    fader: [0, 24],
  }),
  scattered: bouncesOf('Scattered', 'Bounces off dull surfaces after which they are still lit'),
  mirrored: bouncesOf('Mirrored', 'Reflections in which surfaces are still lit'),
  through: bouncesOf('Through glass', 'Surfaces seen through glass after so many of its faces are still lit'),
};
