/** Lights: a class for each kind. Strength in the unit of its kind; what is not given is no part of a kind. */
import { Equals } from 'class-validator';
import type { LightKind } from './kinds.ts';
import { Parameters } from './parameter.ts';
import { AREA_LIGHT, DIRECTIONAL_LIGHT, POINT_LIGHT, SPOT_LIGHT } from './parameters.ts';
import { Id, Name } from './rules.ts';

/** A rectangle that glows on the side of its aim, in nits. */
export class AreaLight extends Parameters(AREA_LIGHT) {
  @Id() id!: string;
  @Name() name!: string;
  @Equals('area') kind!: 'area';
}

/** A point that shines in a cone, in candela. */
export class SpotLight extends Parameters(SPOT_LIGHT) {
  @Id() id!: string;
  @Name() name!: string;
  @Equals('spot') kind!: 'spot';
}

/** A point that shines alike all around, in candela. */
export class PointLight extends Parameters(POINT_LIGHT) {
  @Id() id!: string;
  @Name() name!: string;
  @Equals('point') kind!: 'point';
}

/** Light from one direction, infinitely far away, in lux. */
export class DirectionalLight extends Parameters(DIRECTIONAL_LIGHT) {
  @Id() id!: string;
  @Name() name!: string;
  @Equals('directional') kind!: 'directional';
}

export type Light = AreaLight | SpotLight | PointLight | DirectionalLight;
export type LightOf<K extends LightKind> = Extract<Light, { kind: K }>;

/** The class of each kind. */
export const LIGHT_CLASSES = {
  area: AreaLight,
  spot: SpotLight,
  point: PointLight,
  directional: DirectionalLight,
};

/** The parameters of each kind. */
export const LIGHT_TABLES = {
  area: AREA_LIGHT,
  spot: SPOT_LIGHT,
  point: POINT_LIGHT,
  directional: DIRECTIONAL_LIGHT,
};
