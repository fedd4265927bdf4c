/** The registry's part of light: lights by kind, what they follow, the surround and the panels on it. */
import type { AreaShape, Arrangement, CardFace, FallOff, PanelBlend, PanelShape, Stands } from './kinds.ts';
import { amount, choice, colour, onOff, point, share, UNITS } from './parameter.ts';

const TURN = 2 * Math.PI;
const WHITE = [1, 1, 1] as const;

const blur = (name: string, more: Parameters<typeof amount>[5]) =>
  amount(name, UNITS.degrees, [0, Math.PI / 4], 0, 0.5, { since: 10, fader: [0, 30], ...more });

const strength = (unit: (typeof UNITS)['nits' | 'candela' | 'lux'], initial: number) =>
  amount('Strength', unit, [0, 10_000_000], initial, 0.1, { fader: [0, 2000], log: true });

/** What every light has before its own parameters, and after them. */
const LIT = {
  on: onOff('On', true, { row: false, turns: ['on', 'off'] }),
  solo: onOff('Solo', false, { row: false, keyed: false, turns: ['solo', 'not solo'] }),
};
const HUE = {
  hue: choice<'temperature' | 'colour'>(
    'Hue by',
    [
      ['temperature', 'Temperature'],
      ['colour', 'Colour'],
    ],
    'temperature',
    { history: 'Hue' },
  ),
  kelvin: amount('Temperature', UNITS.kelvin, [1000, 40_000], 5000, 50, {
    fader: [1000, 12_000],
    when: ['hue', 'temperature'],
  }),
  colour: colour('Colour', WHITE, { when: ['hue', 'colour'] }),
};
/** A filter before a light; what it holds back is lost. */
const GEL = {
  gel: colour('Gel', WHITE, { since: 11, hint: 'A filter before it: white lets all through' }),
};
/** A light stands around what it aims at: azimuth 0 in front of the type and growing to the right. */
const AROUND = {
  azimuth: amount('Azimuth', UNITS.degrees, [-Math.PI, Math.PI], -0.7, 0.5, {
    hint: 'To the right of the type’s front',
  }),
  elevation: amount('Elevation', UNITS.degrees, [-Math.PI / 2, Math.PI / 2], 0.7, 0.5, {
    hint: 'Above the horizon',
  }),
};
/** Where a light with a place of its own stands; what it aims at is the middle of the type and `aim` from there. */
const PLACED = {
  stands: choice<Stands>(
    'Stands',
    [
      ['around', 'Around'],
      ['free', 'Free'],
      ['facing', 'Facing'],
    ],
    'around',
    {
      since: 10,
      history: 'Where it stands',
      hint: 'Around what it aims at; at a place of its own; or at a place, looking straight back at the word',
    },
  ),
  place: point(
    'Place',
    UNITS.m,
    [0, 0, 1],
    [
      ['Across', 'To the right of the type’s centre'],
      ['Up', 'Above the type’s centre'],
      ['Out', 'Out of the type, towards its front'],
    ],
    [-3, 3],
    0.01,
    { since: 10, when: ['stands', 'free', 'facing'] },
  ),
  azimuth: { ...AROUND.azimuth, when: ['stands', 'around'] as const },
  elevation: { ...AROUND.elevation, when: ['stands', 'around'] as const },
};
const AWAY = {
  distance: amount('Distance', UNITS.m, [0.01, 1000], 2.4, 0.01, {
    hint: 'Distance from what it aims at',
    fader: [0.01, 20],
    log: true,
    when: ['stands', 'around'],
  }),
};
/** What of surfaces a light reaches. */
const REACH = {
  diffuse: onOff('On what scatters', true, {
    since: 10,
    fold: 'What it reaches',
    turns: ['lights what scatters', 'leaves what scatters'],
  }),
  mirrored: onOff('In what mirrors', true, {
    since: 10,
    fold: 'What it reaches',
    turns: ['is mirrored', 'is not mirrored'],
  }),
  through: onOff('Through glass', true, {
    since: 10,
    fold: 'What it reaches',
    turns: ['comes through glass', 'does not come through glass'],
  }),
};
const FALL = {
  fall: choice<FallOff>(
    'Fall-off',
    [
      ['square', 'Square'],
      ['linear', 'Linear'],
      ['none', 'None'],
      ['clamped', 'Clamped'],
    ],
    'square',
    {
      since: 10,
      hint: 'Light falls off with the square of the distance; the others are as bright at the middle of the type',
    },
  ),
  near: amount('No brighter than at', UNITS.m, [0.01, 100], 0.5, 0.01, {
    since: 10,
    fader: [0.01, 5],
    when: ['fall', 'clamped'],
  }),
};
const SHAPES = [
  ['rectangle', 'Rectangle'],
  ['round', 'Round'],
] as const;
const SHAPE = { shape: choice<AreaShape>('Shape', SHAPES, 'rectangle', { since: 10 }) };
const OUTLINE = {
  width: amount('Width', UNITS.m, [0.001, 100], 0.9, 0.01, { fader: [0.001, 6] }),
  height: amount('Height', UNITS.m, [0.001, 100], 0.5, 0.01, { fader: [0.001, 6] }),
  turn: amount('Turn', UNITS.degrees, [-TURN, TURN], 0, 0.5, {
    since: 10,
    fader: [-180, 180],
    hint: 'About the way it looks',
  }),
};
const CAST = {
  shadow: onOff('Shadow', true, { turns: ['Shadow', 'No shadow'] }),
  ...REACH,
  aim: point(
    'Aim',
    UNITS.m,
    [0, 0, 0],
    [
      ['Across', 'Moves the aim to the right of the type’s centre'],
      ['Up', 'Moves the aim above the type’s centre'],
      ['Out', 'Moves the aim out of the type, towards its front'],
    ],
    [-3, 3],
    0.01,
    { fold: 'Aim, from the centre of the type' },
  ),
};

/** Lights with a face may be seen by the camera; behind, and where they are not, they are looked through. */
const SEEN = {
  seen: onOff('Seen by the camera', false, {
    since: 11,
    turns: ['is seen by the camera', 'is not seen by the camera'],
  }),
};

export const AREA_LIGHT = {
  ...LIT,
  strength: strength(UNITS.nits, 12),
  ...HUE,
  ...GEL,
  shape: {
    ...SHAPE.shape,
    options: [...SHAPES, ['outline', 'Own outline'], ['letters', 'Letters']],
    list: true,
  } as typeof SHAPE.shape,
  ...OUTLINE,
  ...SEEN,
  ...PLACED,
  ...AWAY,
  ...CAST,
};

/** Where a light stands, for one that only mirrors see: it throws no shadow. */
const AIMED = { aim: CAST.aim };

export const CARD_LIGHT = {
  ...LIT,
  face: choice<CardFace>(
    'Face',
    [
      ['glowing', 'Glowing'],
      ['white', 'White'],
    ],
    'glowing',
    { since: 11, hint: 'A white card is as bright as the other lights make it' },
  ),
  strength: amount('Strength', UNITS.nits, [0, 10_000_000], 6, 0.1, {
    fader: [0, 2000],
    log: true,
    hint: 'At 0 it is a black card: what it hides is not mirrored',
    when: ['face', 'glowing'],
  }),
  ...HUE,
  ...GEL,
  ...SHAPE,
  ...OUTLINE,
  ...PLACED,
  ...AWAY,
  ...AIMED,
};

/** How what a light is shaped by lies before it. */
const SHAPED = 'Pattern and profile';
const TURNED = {
  turn: amount('Turn', UNITS.degrees, [-TURN, TURN], 0, 0.5, {
    since: 11,
    fader: [-180, 180],
    fold: SHAPED,
    hint: 'Of the pattern and the profile, about the way it looks',
  }),
};

export const SPOT_LIGHT = {
  ...LIT,
  strength: strength(UNITS.candela, 10),
  ...HUE,
  ...GEL,
  cone: amount('Cone', UNITS.degrees, [0.01, Math.PI / 2], 0.45, 0.5, {
    hint: 'Half angle of the cone of light',
    fader: [1, 90],
  }),
  edge: share('Edge', 0.3, { hint: 'Share of the cone over which its edge fades' }),
  radius: amount('Radius', UNITS.mm, [0, 10], 0, 1, {
    since: 17,
    fader: [0, 500],
    hint: 'Of the disc it shines from, which softens shadows and a pattern’s edges; mirrors do not see it',
  }),
  ...TURNED,
  pattern_size: amount('Pattern size', UNITS.percent, [0.05, 10], 1, 1, {
    since: 11,
    fader: [5, 300],
    fold: SHAPED,
    hint: 'As a share of the cone’s width',
  }),
  pattern_soft: share('Pattern softness', 0, {
    since: 11,
    fold: SHAPED,
    hint: 'How far out of focus the pattern is',
  }),
  ...FALL,
  ...PLACED,
  ...AWAY,
  ...CAST,
};

export const POINT_LIGHT = {
  ...LIT,
  strength: strength(UNITS.candela, 10),
  ...HUE,
  ...GEL,
  radius: amount('Radius', UNITS.mm, [0, 10], 0, 1, {
    since: 10,
    fader: [0, 500],
    hint: 'Of a ball that softens shadows and, without a profile, is seen in mirrors; at 0 a point',
  }),
  ...SEEN,
  ...TURNED,
  ...FALL,
  ...PLACED,
  ...AWAY,
  ...CAST,
};

export const DIRECTIONAL_LIGHT = {
  ...LIT,
  strength: strength(UNITS.lux, 3),
  ...HUE,
  ...GEL,
  size: amount('Angular size', UNITS.degrees, [0, Math.PI], 0, 0.1, {
    since: 10,
    fader: [0, 60],
    hint: 'Diameter in the sky: the sun’s is half a degree',
  }),
  ...AROUND,
  ...CAST,
};

/** Lamps set as one; lengths are shares of the size of the type. */
export const ARRAY_LIGHT = {
  ...LIT,
  form: choice<Arrangement>(
    'Arrangement',
    [
      ['ring', 'Ring'],
      ['row', 'Row along the word'],
      ['pair', 'Strips above and below'],
      ['sides', 'Two sides'],
      ['tent', 'Light tent'],
      ['triad', 'Key, fill and rim'],
    ],
    'ring',
    { list: true },
  ),
  strength: amount('Strength', UNITS.nits, [0, 10_000_000], 60, 0.1, {
    fader: [0, 2000],
    log: true,
    hint: 'Of each of its lamps',
  }),
  ...HUE,
  ...GEL,
  second: onOff('Second colour', false, { when: ['form', 'pair', 'sides'] }),
  other: colour('The other', [0.25, 0.5, 1], {
    when: [
      ['form', 'pair', 'sides'],
      ['second', true],
    ],
  }),
  count: amount('Lamps', UNITS.none, [1, 200], 16, 1, {
    whole: true,
    fader: [1, 48],
    hint: 'In each ring, or in the row',
    when: ['form', 'ring', 'row'],
  }),
  rings: amount('Rings', UNITS.none, [1, 6], 1, 1, { whole: true, when: ['form', 'ring'] }),
  spread: amount('Spread', UNITS.percent, [0.01, 20], 0.9, 1, {
    fader: [1, 300],
    hint: 'How far its lamps stand apart, as a share of the size of the type',
    when: ['form', 'ring', 'row', 'pair', 'sides', 'tent'],
  }),
  size: amount('Lamp size', UNITS.percent, [0.001, 10], 0.04, 0.5, {
    fader: [0.5, 100],
    hint: 'As a share of the size of the type',
    when: ['form', 'ring', 'row', 'pair', 'sides', 'triad'],
  }),
  away: amount('Away', UNITS.percent, [0, 20], 0.6, 1, {
    fader: [0, 300],
    hint: 'How far from the type, as a share of its size',
  }),
  slant: amount('Slant', UNITS.degrees, [-TURN, TURN], 0, 0.5, { fader: [-180, 180] }),
  azimuth: { ...AROUND.azimuth, default: 0 },
  elevation: { ...AROUND.elevation, default: 0 },
  ...CAST,
};

/** How a light follows another, or what glows. */
export const FOLLOW = {
  offset: amount('Against it', UNITS.stops, [-30, 30], 0, 0.05, {
    fader: [-8, 8],
    hint: 'Stops it is stronger than what it follows, number for number',
  }),
  delay: amount('Delay', UNITS.seconds, [0, 60], 0, 0.01, {
    fader: [0, 2],
    hint: 'Where light changes over time',
  }),
  coloured: onOff('Its colour too', true, { turns: ['follows the colour too', 'keeps its own colour'] }),
};

export const AMBIENT_LIGHT = {
  ...LIT,
  strength: strength(UNITS.nits, 0.5),
  ...HUE,
  ...GEL,
  // it comes from all around
  azimuth: { ...AROUND.azimuth, row: false },
  elevation: { ...AROUND.elevation, row: false },
  shadow: onOff('Shadow', true, {
    turns: ['Shadow', 'No shadow'],
    hint: 'Less of it comes where things are near',
  }),
  ...REACH,
  aim: { ...CAST.aim, row: false },
};

/** A panel of light on the surround's sphere; azimuth and elevation are those of the picture before it is turned. */
export const PANEL = {
  on: onOff('On', true, { row: false, turns: ['on', 'off'] }),
  shape: choice<PanelShape>(
    'Shape',
    [
      ['box', 'Box'],
      ['disc', 'Disc'],
      ['ring', 'Ring'],
      ['band', 'Band'],
      ['ramp', 'Ramp'],
      ['picture', 'Picture'],
    ],
    'box',
    { history: 'Shape' },
  ),
  level: amount('Strength', UNITS.stops, [-20, 24], 2, 0.05, { fader: [-6, 10], hint: 'Above one nit' }),
  ...HUE,
  azimuth: AROUND.azimuth,
  elevation: AROUND.elevation,
  turn: amount('Turn', UNITS.degrees, [-TURN, TURN], 0, 0.5, { fader: [-180, 180] }),
  width: amount('Width', UNITS.degrees, [0.001, TURN], 0.6, 0.5, {
    fader: [0.5, 180],
    when: ['shape', 'box', 'disc', 'ring', 'picture'],
  }),
  height: amount('Height', UNITS.degrees, [0.001, TURN], 0.4, 0.5, {
    fader: [0.5, 180],
    hint: 'Of a ring and a band how thick they are, of a ramp how far it runs',
  }),
  edge: amount('Soft edge', UNITS.degrees, [0, TURN / 4], 0.03, 0.1, {
    fader: [0, 30],
    when: ['shape', 'box', 'disc', 'ring', 'band', 'picture'],
  }),
  laid: choice<'over' | 'added'>(
    'Laid',
    [
      ['over', 'Over'],
      ['added', 'Added'],
    ],
    'over',
    { hint: 'Over what is there, or added to it' },
  ),
  blend: choice<PanelBlend>(
    'Between stops',
    [
      ['linear', 'Linear'],
      ['eased', 'Eased'],
      ['held', 'Held'],
    ],
    'linear',
    { when: ['shape', 'ramp'] },
  ),
};

export const SURROUND = {
  stops: amount('Exposure', UNITS.stops, [-20, 20], 0, 0.05, { fader: [-6, 6] }),
  turn: amount('Turn', UNITS.degrees, [-TURN, TURN], 0, 0.5, {
    hint: 'Turns the surround about the upright axis',
    fader: [-180, 180],
  }),
  tilt: amount('Tilt', UNITS.degrees, [-TURN, TURN], 0, 0.5, {
    since: 10,
    hint: 'Tips the surround towards the front',
    fader: [-180, 180],
  }),
  roll: amount('Roll', UNITS.degrees, [-TURN, TURN], 0, 0.5, {
    since: 10,
    hint: 'Rolls the surround to the left',
    fader: [-180, 180],
  }),
  tint: colour('Tint', WHITE, { since: 10 }),
  seen: onOff('Seen behind the type', false, { turns: ['Show the surround', 'Hide the surround'] }),
  blur_behind: blur('Blur behind', { when: ['seen', true] }),
  ground: onOff('Ground', false, {
    since: 11,
    when: ['seen', true],
    hint: 'Lays its lower half on the floor’s height, so that the type stands in it',
    turns: ['Lay the surround on the ground', 'Surround infinitely far'],
  }),
  eye_height: amount('Taken from', UNITS.m, [0.05, 100], 1.6, 0.05, {
    since: 11,
    fader: [0.05, 10],
    log: true,
    hint: 'Height of the camera that took it over its ground',
    when: [
      ['seen', true],
      ['ground', true],
    ],
  }),
  mirrored: onOff('Seen in reflections', true, {
    since: 10,
    turns: ['Mirror the surround', 'Keep the surround out of mirrors'],
  }),
  blur_mirrored: blur('Blur in reflections', { when: ['mirrored', true] }),
  lights: onOff('Gives light', true, {
    since: 10,
    turns: ['Light by the surround', 'No light by the surround'],
  }),
};
