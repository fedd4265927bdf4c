/**
 * A finish: coats of OpenPBR surfaces under a name. The surface itself is the lowest; coats lie over it, the last on
 * top. Parameter names and ranges follow the OpenPBR 1.1 standard.
 */
import { IsIn, IsString, Length, Matches } from 'class-validator';
import { FAMILIES, type Family } from './kinds.ts';
import { MOST } from './most.ts';
import { Parameters } from './parameter.ts';
import { COAT, FEED, STOP, SURFACE } from './parameters.ts';
import { Playback } from './playback.ts';
import { Id, IdOrNone, Many, Name, One, OneOrNone, Texts } from './rules.ts';

/** Characters of a tag. */
export const LONGEST_TAG = 40;

export class Surface extends Parameters(SURFACE) {}

/** A value at a place of a feed's axis. */
export class Stop extends Parameters(STOP) {}

/** The key of the parameter of a surface, or of a coat, that may be fed. */
export const FED_KEYS: readonly string[] = Object.entries({ ...SURFACE, ...COAT })
  .filter(([, parameter]) => parameter.fed)
  .map(([key]) => key);

/** A picture laid over faces: one that Wemlox paints, or an uploaded one by its SHA-256. */
export class PictureRef {
  @IsIn(['painted', 'asset']) source!: 'painted' | 'asset';
  @IsString() @Matches(/^[a-z0-9-]{1,64}$/) id!: string;
  @IsString() @Length(1, 200) name!: string;
  /** How it plays, where it is a moving picture. */
  @OneOrNone(() => Playback) plays?: Playback | null;
}

/** Gives one parameter values that differ over the face. */
export class Feed extends Parameters(FEED) {
  @Id() id!: string;
  @IsString() @IsIn(FED_KEYS) parameter!: string;
  /** Counts while the feed takes its values from a picture. */
  @One(() => PictureRef) picture!: PictureRef;
  /** In the order of their places. */
  @Many(() => Stop, MOST.stops, 1) stops!: Stop[];
}

export class Coat extends Parameters(COAT) {
  @Id() id!: string;
  @Name() name!: string;
  @One(() => Surface) surface!: Surface;
  @Many(() => Feed, MOST.feeds) feeds!: Feed[];
}

/** The coat of a finish by its identifier; the finish itself, the lowest, for null. */
export const wornOf = (finish: Finish | undefined, coat: string | null): Finish | Coat | undefined =>
  coat === null ? finish : finish?.coats.find((c) => c.id === coat);

export class Finish {
  @Id() id!: string;
  @Name() name!: string;
  @IsString() @IsIn(FAMILIES) family!: Family;
  /** Words the artist finds it by. */
  @Texts(MOST.tags, LONGEST_TAG) tags!: string[];
  @One(() => Surface) surface!: Surface;
  /** The finish that is met from within in its place, as behind glass; null for the same. */
  @IdOrNone() within!: string | null;
  @Many(() => Feed, MOST.feeds) feeds!: Feed[];
  /** From the lowest to the one on top. */
  @Many(() => Coat, MOST.coats) coats!: Coat[];
}
