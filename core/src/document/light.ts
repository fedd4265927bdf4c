/** Lights: a class for each kind. Strength in the unit of its kind; what is not given is no part of a kind. */
import { Equals, IsIn } from 'class-validator';
import type { LightKind } from './kinds.ts';
import { Parameters } from './parameter.ts';
import { MOST } from './most.ts';
import {
  AMBIENT_LIGHT,
  AREA_LIGHT,
  ARRAY_LIGHT,
  CARD_LIGHT,
  DIRECTIONAL_LIGHT,
  FOLLOW,
  POINT_LIGHT,
  SPOT_LIGHT,
} from './parameters.ts';
import { Id, Name, OneOrNone, Texts } from './rules.ts';

/** What a light follows: another light of the rig, or what a finish glows with. */
export class Follow extends Parameters(FOLLOW) {
  @IsIn(['light', 'finish']) source!: 'light' | 'finish';
  @Id() id!: string;
}

/** A rectangle or ellipse that glows on the side of its aim, in nits. */
export class AreaLight extends Parameters(AREA_LIGHT) {
  @Id() id!: string;
  @Name() name!: string;
  /** Blocks and pieces it falls on; all when there are none. */
  @Texts(MOST.only, 64) only!: string[];
  @OneOrNone(() => Follow) follows!: Follow | null;
  @Equals('area') kind!: 'area';
}

/** A point that shines in a cone, in candela. */
export class SpotLight extends Parameters(SPOT_LIGHT) {
  @Id() id!: string;
  @Name() name!: string;
  /** Blocks and pieces it falls on; all when there are none. */
  @Texts(MOST.only, 64) only!: string[];
  @OneOrNone(() => Follow) follows!: Follow | null;
  @Equals('spot') kind!: 'spot';
}

/** A point or ball that shines alike all around, in candela. */
export class PointLight extends Parameters(POINT_LIGHT) {
  @Id() id!: string;
  @Name() name!: string;
  /** Blocks and pieces it falls on; all when there are none. */
  @Texts(MOST.only, 64) only!: string[];
  @OneOrNone(() => Follow) follows!: Follow | null;
  @Equals('point') kind!: 'point';
}

/** A rectangle or ellipse that only mirrors see, in nits; it hides from them what is behind it. */
export class CardLight extends Parameters(CARD_LIGHT) {
  @Id() id!: string;
  @Name() name!: string;
  /** Blocks and pieces it falls on; all when there are none. */
  @Texts(MOST.only, 64) only!: string[];
  @OneOrNone(() => Follow) follows!: Follow | null;
  @Equals('card') kind!: 'card';
}

/** Light from all around, in nits. */
export class AmbientLight extends Parameters(AMBIENT_LIGHT) {
  @Id() id!: string;
  @Name() name!: string;
  /** Blocks and pieces it falls on; all when there are none. */
  @Texts(MOST.only, 64) only!: string[];
  @OneOrNone(() => Follow) follows!: Follow | null;
  @Equals('ambient') kind!: 'ambient';
}

/** Lamps set as one, in nits; their places are shares of the size of the type. */
export class ArrayLight extends Parameters(ARRAY_LIGHT) {
  @Id() id!: string;
  @Name() name!: string;
  /** Blocks and pieces it falls on; all when there are none. */
  @Texts(MOST.only, 64) only!: string[];
  @OneOrNone(() => Follow) follows!: Follow | null;
  @Equals('array') kind!: 'array';
}

/** Light from one direction, or a disc about it, infinitely far away, in lux. */
export class DirectionalLight extends Parameters(DIRECTIONAL_LIGHT) {
  @Id() id!: string;
  @Name() name!: string;
  /** Blocks and pieces it falls on; all when there are none. */
  @Texts(MOST.only, 64) only!: string[];
  @OneOrNone(() => Follow) follows!: Follow | null;
  @Equals('directional') kind!: 'directional';
}

export type Light =
  AreaLight | CardLight | SpotLight | PointLight | DirectionalLight | AmbientLight | ArrayLight;
export type LightOf<K extends LightKind> = Extract<Light, { kind: K }>;

/** The class of each kind. */
export const LIGHT_CLASSES = {
  area: AreaLight,
  card: CardLight,
  spot: SpotLight,
  point: PointLight,
  directional: DirectionalLight,
  ambient: AmbientLight,
  array: ArrayLight,
};

/** The parameters of each kind. */
export const LIGHT_TABLES = {
  area: AREA_LIGHT,
  card: CARD_LIGHT,
  spot: SPOT_LIGHT,
  point: POINT_LIGHT,
  directional: DIRECTIONAL_LIGHT,
  ambient: AMBIENT_LIGHT,
  array: ARRAY_LIGHT,
};
