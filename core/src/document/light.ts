/** Lights: a class for each kind. Strength in the unit of its kind; what is not given is no part of a kind. */
import { Equals, IsIn, IsString, Length, Matches, MaxLength } from 'class-validator';
import { FontRef } from './block.ts';
import { PictureRef } from './finish.ts';
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
import { Amount, Id, Many, Name, One, OneOrNone, Texts } from './rules.ts';

/** What a light follows: another light of the rig, or what a finish glows with. */
export class Follow extends Parameters(FOLLOW) {
  @IsIn(['light', 'finish']) source!: 'light' | 'finish';
  @Id() id!: string;
}

/** A corner of an area light's own outline, in shares of its width and height from its middle. */
export class Corner {
  @Amount(-0.5, 0.5) x!: number;
  @Amount(-0.5, 0.5) y!: number;
}

/** Characters of the letters that a light may have the shape of. */
export const LONGEST_LIGHT = 40;

/** How a light's strength differs by direction: a ready profile, or that of an uploaded photometric file. */
export class ProfileRef {
  @IsIn(['ready', 'asset']) source!: 'ready' | 'asset';
  @IsString() @Matches(/^[a-z0-9-]{1,64}$/) id!: string;
  @IsString() @Length(1, 200) name!: string;
  /** Greatest strength that a file states, candela; 0 for ready ones. */
  @Amount(0, 1e9) candela!: number;
  /** Lumens it gives in all for a candela of its greatest strength. */
  @Amount(0, 13) lumens!: number;
}

/** A rectangle, ellipse, outline or letters that glow on the side of their aim, in nits. */
export class AreaLight extends Parameters(AREA_LIGHT) {
  @Id() id!: string;
  @Name() name!: string;
  /** Blocks and pieces it falls on; all when there are none. */
  @Texts(MOST.only, 64) only!: string[];
  @OneOrNone(() => Follow) follows!: Follow | null;
  /** Its own outline; counts while it has that shape. */
  @Many(() => Corner, MOST.corners, 3) outline!: Corner[];
  /** The letters that it has the shape of, and their font. */
  @IsString() @MaxLength(LONGEST_LIGHT) text!: string;
  @One(() => FontRef) font!: FontRef;
  @Equals('area') kind!: 'area';
}

/** A point that shines in a cone, in candela. */
export class SpotLight extends Parameters(SPOT_LIGHT) {
  @Id() id!: string;
  @Name() name!: string;
  /** Blocks and pieces it falls on; all when there are none. */
  @Texts(MOST.only, 64) only!: string[];
  @OneOrNone(() => Follow) follows!: Follow | null;
  /** A picture it is thrown through. */
  @OneOrNone(() => PictureRef) pattern!: PictureRef | null;
  @OneOrNone(() => ProfileRef) profile!: ProfileRef | null;
  @Equals('spot') kind!: 'spot';
}

/** A point or ball that shines alike all around, in candela. */
export class PointLight extends Parameters(POINT_LIGHT) {
  @Id() id!: string;
  @Name() name!: string;
  /** Blocks and pieces it falls on; all when there are none. */
  @Texts(MOST.only, 64) only!: string[];
  @OneOrNone(() => Follow) follows!: Follow | null;
  /** A ball with a profile softens shadows, and is not seen itself. */
  @OneOrNone(() => ProfileRef) profile!: ProfileRef | null;
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
