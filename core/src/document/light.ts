/** Lights: a class for each kind. Strength in the unit of its kind; what is not given is no part of a kind. */
import { Equals } from 'class-validator';
import type { LightKind } from './kinds.ts';
import { Parameters } from './parameter.ts';
import { MOST } from './most.ts';
import {
  AMBIENT_LIGHT,
  AREA_LIGHT,
  CARD_LIGHT,
  DIRECTIONAL_LIGHT,
  POINT_LIGHT,
  SPOT_LIGHT,
} from './parameters.ts';
import { Id, Name, Texts } from './rules.ts';

/** A rectangle or ellipse that glows on the side of its aim, in nits. */
export class AreaLight extends Parameters(AREA_LIGHT) {
  @Id() id!: string;
  @Name() name!: string;
  /** Blocks and pieces it falls on; all when there are none. */
  @Texts(MOST.only, 64) only!: string[];
  @Equals('area') kind!: 'area';
}

/** A point that shines in a cone, in candela. */
export class SpotLight extends Parameters(SPOT_LIGHT) {
  @Id() id!: string;
  @Name() name!: string;
  /** Blocks and pieces it falls on; all when there are none. */
  @Texts(MOST.only, 64) only!: string[];
  @Equals('spot') kind!: 'spot';
}

/** A point or ball that shines alike all around, in candela. */
export class PointLight extends Parameters(POINT_LIGHT) {
  @Id() id!: string;
  @Name() name!: string;
  /** Blocks and pieces it falls on; all when there are none. */
  @Texts(MOST.only, 64) only!: string[];
  @Equals('point') kind!: 'point';
}

/** A rectangle or ellipse that only mirrors see, in nits; it hides from them what is behind it. */
export class CardLight extends Parameters(CARD_LIGHT) {
  @Id() id!: string;
  @Name() name!: string;
  /** Blocks and pieces it falls on; all when there are none. */
  @Texts(MOST.only, 64) only!: string[];
  @Equals('card') kind!: 'card';
}

/** Light from all around, in nits. */
export class AmbientLight extends Parameters(AMBIENT_LIGHT) {
  @Id() id!: string;
  @Name() name!: string;
  /** Blocks and pieces it falls on; all when there are none. */
  @Texts(MOST.only, 64) only!: string[];
  @Equals('ambient') kind!: 'ambient';
}

/** Light from one direction, or a disc about it, infinitely far away, in lux. */
export class DirectionalLight extends Parameters(DIRECTIONAL_LIGHT) {
  @Id() id!: string;
  @Name() name!: string;
  /** Blocks and pieces it falls on; all when there are none. */
  @Texts(MOST.only, 64) only!: string[];
  @Equals('directional') kind!: 'directional';
}

export type Light = AreaLight | CardLight | SpotLight | PointLight | DirectionalLight | AmbientLight;
export type LightOf<K extends LightKind> = Extract<Light, { kind: K }>;

/** The class of each kind. */
export const LIGHT_CLASSES = {
  area: AreaLight,
  card: CardLight,
  spot: SpotLight,
  point: PointLight,
  directional: DirectionalLight,
  ambient: AmbientLight,
};

/** The parameters of each kind. */
export const LIGHT_TABLES = {
  area: AREA_LIGHT,
  card: CARD_LIGHT,
  spot: SPOT_LIGHT,
  point: POINT_LIGHT,
  directional: DIRECTIONAL_LIGHT,
  ambient: AMBIENT_LIGHT,
};
