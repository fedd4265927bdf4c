/** What a parameter is: a number, colour, point, switch or choice of the document, said once for everybody. */
import { IsBoolean, IsIn, IsInt } from 'class-validator';
import { applyDecorators } from './applyDecorators.ts';
import { Amount, Point, Tint } from './rules.ts';

/** A unit as it is shown: stored value times `factor`. */
export interface Unit {
  sign: string;
  factor: number;
}

const DEGREES = 180 / Math.PI;
/** Units by what they measure. Lengths are stored in metres and angles in radians. */
export const UNITS = {
  none: { sign: '', factor: 1 },
  mm: { sign: 'mm', factor: 1000 },
  /** A length whose own unit is the millimetre, as a lens's. */
  lensMm: { sign: 'mm', factor: 1 },
  m: { sign: 'm', factor: 1 },
  /** A length whose own unit is the micrometre, as of films. */
  micrometres: { sign: 'µm', factor: 1 },
  degrees: { sign: '°', factor: DEGREES },
  percent: { sign: '%', factor: 100 },
  perMille: { sign: '‰', factor: 1 },
  times: { sign: '×', factor: 1 },
  diameters: { sign: '× ⌀', factor: 1 },
  stops: { sign: 'EV', factor: 1 },
  kelvin: { sign: 'K', factor: 1 },
  nits: { sign: 'nit', factor: 1 },
  milliamperes: { sign: 'mA', factor: 1 },
  candela: { sign: 'cd', factor: 1 },
  lux: { sign: 'lx', factor: 1 },
  seconds: { sign: 's', factor: 1 },
  pixels: { sign: 'px', factor: 1 },
  perSecond: { sign: '/s', factor: 1 },
} as const satisfies Record<string, Unit>;

/** Another parameter beside it, and the values it must have one of. */
export type Condition = readonly [key: string, ...values: (string | boolean)[]];

/** All that must be so for a parameter to be asked for. */
export const conditionsOf = ({ when = [] }: Parameter): readonly Condition[] =>
  (typeof when[0] === 'string' ? [when] : when) as readonly Condition[];

interface Common {
  /** As the desk calls it. */
  name: string;
  /** What history calls it, where that is not the name. */
  history?: string;
  /** What it does, where the name does not say. */
  hint?: string;
  /** Shown only while this is so, or all of these are. */
  when?: Condition | readonly Condition[];
  /** Rows that fold away together, under this title. */
  fold?: string;
  /** False where it has no row of its own: it is set by hand in the picture or the band. */
  row?: boolean;
  /** May change over time. */
  keyed: boolean;
  /** May be fed by a picture, a gradient or noise instead of being one value. */
  fed: boolean;
  /** Document version it came with, when it came after the thing it belongs to: older documents get its default. */
  since?: number;
}

export interface NumberParameter extends Common {
  kind: 'number';
  unit: Unit;
  /** Range, as stored. */
  min: number;
  max: number;
  default: number;
  /** Step of the fader and the arrow keys, in the unit shown. */
  step: number;
  /** Reach of the fader in the unit shown, where typed numbers may go beyond it. */
  fader?: readonly [number, number];
  /** The fader moves by ratio. */
  log?: boolean;
  whole?: boolean;
}

/** Scene-linear Rec.709, each channel 0 … 1. */
export interface ColourParameter extends Common {
  kind: 'colour';
  default: readonly number[];
}

/** Three lengths in metres, each within a kilometre of the origin. */
export interface PointParameter extends Common {
  kind: 'point';
  unit: Unit;
  default: readonly number[];
  step: number;
  fader: readonly [number, number];
  axes: readonly (readonly [name: string, hint: string])[];
}

export interface SwitchParameter extends Common {
  kind: 'switch';
  default: boolean;
  /**
   * What history calls turning it on and off, where that is not "name on" and "name off"; a word that begins small
   * follows the name of what it belongs to.
   */
  turns?: readonly [on: string, off: string];
}

export interface ChoiceParameter<T extends string = string> extends Common {
  kind: 'choice';
  options: readonly (readonly [value: T, name: string])[];
  default: T;
  /** Many or long options stand in a list. */
  list?: boolean;
}

export type Parameter =
  NumberParameter | ColourParameter | PointParameter | SwitchParameter | ChoiceParameter;
export type Table = Readonly<Record<string, Parameter>>;

export type ValueOf<P> =
  P extends ChoiceParameter<infer T>
    ? T
    : P extends { kind: 'number' }
      ? number
      : P extends { kind: 'colour' | 'point' }
        ? number[]
        : boolean;
export type Values<T extends Table> = { -readonly [K in keyof T]: ValueOf<T[K]> };

type More<P> = Partial<Omit<P, 'kind' | 'name' | 'default'>>;

export const amount = (
  name: string,
  unit: Unit,
  [min, max]: readonly [number, number],
  initial: number,
  step: number,
  more: More<NumberParameter> = {},
): NumberParameter => ({
  kind: 'number',
  name,
  unit,
  min,
  max,
  default: initial,
  step,
  keyed: true,
  fed: false,
  ...more,
});

/** A share, 0 … 1. */
export const share = (name: string, initial: number, more: More<NumberParameter> = {}): NumberParameter =>
  amount(name, UNITS.none, [0, 1], initial, 0.01, more);

export const colour = (
  name: string,
  initial: readonly number[],
  more: More<ColourParameter> = {},
): ColourParameter => ({ kind: 'colour', name, default: initial, keyed: true, fed: false, ...more });

export const point = (
  name: string,
  unit: Unit,
  initial: readonly number[],
  axes: PointParameter['axes'],
  fader: readonly [number, number],
  step: number,
  more: More<PointParameter> = {},
): PointParameter => ({
  kind: 'point',
  name,
  unit,
  default: initial,
  axes,
  fader,
  step,
  keyed: true,
  fed: false,
  ...more,
});

export const onOff = (name: string, initial: boolean, more: More<SwitchParameter> = {}): SwitchParameter => ({
  kind: 'switch',
  name,
  default: initial,
  keyed: true,
  fed: false,
  ...more,
});

export const choice = <T extends string>(
  name: string,
  options: readonly (readonly [T, string])[],
  initial: NoInfer<T>,
  more: More<ChoiceParameter<T>> = {},
): ChoiceParameter<T> => ({
  kind: 'choice',
  name,
  options,
  default: initial,
  keyed: false,
  fed: false,
  ...more,
});

/** What a parameter's value must be, as a rule of class-validator. */
function ruleOf(parameter: Parameter): PropertyDecorator {
  switch (parameter.kind) {
    case 'number':
      return parameter.whole
        ? applyDecorators(IsInt(), Amount(parameter.min, parameter.max))
        : Amount(parameter.min, parameter.max);
    case 'colour':
      return Tint();
    case 'point':
      return Point();
    case 'switch':
      return IsBoolean();
    case 'choice':
      return IsIn(parameter.options.map(([value]) => value));
  }
}

const tables = new WeakMap<object, Table>();

/** A class whose fields are the parameters of a table, with their rules: data classes extend it. */
export function Parameters<T extends Table>(table: T): new () => Values<T> {
  class Holder {}
  for (const [key, parameter] of Object.entries(table)) ruleOf(parameter)(Holder.prototype, key);
  tables.set(Holder.prototype, table);
  return Holder as new () => Values<T>;
}

/** The parameters of a data class, its parents' among them; none for one that has no table. */
export function tableOf(type: new () => object): Table {
  for (
    let prototype = type.prototype as object | null;
    prototype;
    prototype = Object.getPrototypeOf(prototype) as object | null
  ) {
    const table = tables.get(prototype);
    if (table) return table;
  }
  return {};
}

/** A value of one's own for each parameter: its default. */
export const defaultsOf = <T extends Table>(table: T): Values<T> =>
  Object.fromEntries(
    Object.entries(table).map(([key, p]) => [key, Array.isArray(p.default) ? [...p.default] : p.default]),
  ) as Values<T>;
