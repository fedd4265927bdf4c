/** The registry's part for time: how long a shot lasts, and steady moves. */
import type { FlickerKind, LetterOrder, TrackEnd } from './kinds.ts';
import { amount, choice, onOff, UNITS } from './parameter.ts';

const TURN = 2 * Math.PI;

/** How a moving picture plays. */
export const PLAYBACK = {
  begins: amount('Begins at', UNITS.seconds, [-3600, 3600], 0, 0.1, {
    since: 13,
    keyed: false,
    fader: [0, 10],
    hint: 'Time of the shot at which its first picture is shown',
  }),
  from: amount('From', UNITS.seconds, [0, 36_000], 0, 0.1, {
    since: 13,
    keyed: false,
    fader: [0, 30],
    hint: 'What lies before in the file is not shown',
  }),
  to: amount('To', UNITS.seconds, [0, 36_000], 0, 0.1, {
    since: 13,
    keyed: false,
    fader: [0, 30],
    hint: 'What lies behind in the file is not shown; 0 is its end',
  }),
  speed: amount('Speed', UNITS.times, [-20, 20], 1, 0.05, {
    since: 13,
    keyed: false,
    fader: [-2, 2],
    hint: 'Below nought it runs backward',
  }),
  ends: choice<'again' | 'hold' | 'return'>(
    'At its end',
    [
      ['again', 'Again'],
      ['hold', 'Holds'],
      ['return', 'Returns'],
    ],
    'again',
    { since: 13 },
  ),
};

/** How long shots may last, seconds, and how many pictures a second they may have. */
export const LONGEST_SHOT = 600;
export const RATES = { min: 1, max: 120 } as const;

export const TIME = {
  seconds: amount('Length', UNITS.seconds, [0.01, LONGEST_SHOT], 4, 0.1, {
    since: 12,
    keyed: false,
    fader: [0.5, 20],
    history: 'Length of the shot',
  }),
  rate: amount('Rate', UNITS.perSecond, [RATES.min, RATES.max], 24, 1, {
    since: 12,
    keyed: false,
    fader: [12, 60],
    history: 'Rate of the shot',
    hint: 'Pictures a second',
  }),
  loops: onOff('Loops', true, {
    since: 12,
    keyed: false,
    turns: ['The shot loops', 'The shot ends'],
    hint: 'The picture after the last is the first: moves and flicker close by themselves',
  }),
  motion_blur: onOff('Blur of motion', false, {
    since: 12,
    keyed: false,
    turns: ['Blur of motion', 'No blur of motion'],
    hint: 'What moves while the shutter is open is blurred: where it is traced, in the flip-book and by the press',
  }),
  shutter: amount('Shutter', UNITS.degrees, [0, TURN], Math.PI, 1, {
    since: 12,
    keyed: false,
    fader: [0, 360],
    when: ['motion_blur', true],
    hint: 'How much of the time to the next picture it is open',
  }),
};

/** Whether letters go one after the other. */
const IN_TURN = {
  letters: choice<LetterOrder>(
    'Letters',
    [
      ['together', 'Together'],
      ['reading', 'In turn'],
      ['middle', 'Outward'],
      ['random', 'At random'],
    ],
    'together',
    { list: true, since: 14, hint: 'Whether each letter is some time behind the one before it' },
  ),
  step: amount('Each later by', UNITS.seconds, [0, 60], 0.1, 0.01, {
    since: 14,
    keyed: false,
    fader: [0, 2],
    when: ['letters', 'reading', 'middle', 'random'],
  }),
};

export const TRACK = {
  on: onOff('On', true, { row: false, keyed: false, turns: ['on', 'off'] }),
  ends: choice<TrackEnd>(
    'Afterwards',
    [
      ['hold', 'Stays'],
      ['close', 'Closes'],
      ['again', 'Again'],
      ['return', 'Returns'],
    ],
    'hold',
    {
      hint: 'After its last key: stays, goes back to the first by the end, goes through again, or there and back',
    },
  ),
  ...IN_TURN,
  seed: amount('Seed', UNITS.none, [0, 9999], 1, 1, {
    since: 14,
    whole: true,
    keyed: false,
    hint: 'Another number, another order',
    when: ['letters', 'random'],
  }),
};

export const MOVE = {
  on: onOff('On', true, { row: false, keyed: false, turns: ['on', 'off'] }),
  flicker: choice<FlickerKind>(
    'Flickers like',
    [
      ['tube', 'Tube'],
      ['candle', 'Candle'],
      ['hum', 'Hum'],
      ['relay', 'Relay'],
    ],
    'tube',
    { when: ['kind', 'flicker'] },
  ),
  speed: amount('Speed', UNITS.perSecond, [0, 60], 0.25, 0.01, {
    keyed: false,
    fader: [0, 4],
    hint: 'How often it goes round a second; where the shot loops, brought to whole rounds',
  }),
  amount: amount('Amount', UNITS.none, [-1000, 1000], 1, 0.01, {
    keyed: false,
    row: false,
    hint: 'How far it goes, in the unit of what it moves',
  }),
  phase: amount('Begins', UNITS.percent, [0, 1], 0, 1, {
    keyed: false,
    hint: 'How far round it is at the beginning',
  }),
  fadeIn: amount('Fades in', UNITS.seconds, [0, LONGEST_SHOT], 0, 0.05, { keyed: false, fader: [0, 5] }),
  fadeOut: amount('Fades out', UNITS.seconds, [0, LONGEST_SHOT], 0, 0.05, { keyed: false, fader: [0, 5] }),
  seed: amount('Seed', UNITS.none, [0, 9999], 1, 1, {
    whole: true,
    keyed: false,
    hint: 'Another number, another course',
    when: ['kind', 'wander', 'flicker'],
  }),
  ...IN_TURN,
};
