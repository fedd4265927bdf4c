/** Small validation vocabulary shared by the document's classes. */
import 'reflect-metadata';
import { applyDecorators } from './applyDecorators.ts';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsNumber,
  IsOptional,
  IsString,
  Length,
  Max,
  MaxLength,
  Min,
  ValidateBy,
  ValidateNested,
} from 'class-validator';
import { holds, type Class } from './shape.ts';
import { LONGEST_NAME } from './text.ts';

const FINITE = { allowNaN: false, allowInfinity: false };

/** A finite number in [min, max]. */
export const Amount = (min: number, max: number) => applyDecorators(IsNumber(FINITE), Min(min), Max(max));

/** Exactly `count` finite numbers, each in [min, max]. */
const Amounts = (count: number, min: number, max: number) =>
  applyDecorators(
    holds({ kind: 'values', least: count, most: count }),
    IsArray(),
    ArrayMinSize(count),
    ArrayMaxSize(count),
    IsNumber(FINITE, { each: true }),
    Min(min, { each: true }),
    Max(max, { each: true }),
  );

/** From `least` to `most` finite numbers. */
export const Numbers = (least: number, most: number) =>
  applyDecorators(
    holds({ kind: 'values', least, most }),
    IsArray(),
    ArrayMinSize(least),
    ArrayMaxSize(most),
    IsNumber(FINITE, { each: true }),
  );

/** A scene-linear Rec.709 reflectance or tint, each channel 0 … 1. */
export const Tint = () => Amounts(3, 0, 1);

/** A point or offset in metres, within a kilometre of the origin. */
export const Point = () => Amounts(3, -1000, 1000);

/** A display name: 1 … 120 characters. */
export const Name = () => applyDecorators(IsString(), Length(1, LONGEST_NAME));

/** An object of a class. */
export const One = (type: () => Class) =>
  applyDecorators(holds({ kind: 'object', type }), ValidateNested(), Type(type));

/** An object of a class, or null. */
export const OneOrNone = (type: () => Class) =>
  applyDecorators(
    holds({ kind: 'object', type, optional: true }),
    IsOptional(),
    ValidateNested(),
    Type(type),
  );

/** A list of objects of a class. */
export const Many = (type: () => Class, most: number, least = 0) =>
  applyDecorators(
    holds({ kind: 'objects', type, most, least }),
    IsArray(),
    ArrayMaxSize(most),
    ArrayMinSize(least),
    ValidateNested({ each: true }),
    Type(type),
  );

/** A list of objects told apart by their `kind`, each of the class of its kind. */
export const Variants = (classes: Readonly<Record<string, Class>>, most: number, least = 0) =>
  applyDecorators(
    holds({ kind: 'variants', classes, most, least }),
    IsArray(),
    ArrayMaxSize(most),
    ArrayMinSize(least),
    ValidateNested({ each: true }),
    Type(() => Object, {
      discriminator: {
        property: 'kind',
        subTypes: Object.entries(classes).map(([name, value]) => ({ name, value })),
      },
      keepDiscriminatorProperty: true,
    }),
  );

/** A list of texts. */
export const Texts = (most: number, longest: number) =>
  applyDecorators(
    holds({ kind: 'values', most }),
    IsArray(),
    ArrayMaxSize(most),
    IsString({ each: true }),
    MaxLength(longest, { each: true }),
  );

const isTint = (value: unknown) =>
  Array.isArray(value) && value.length === 3 && value.every((v) => typeof v === 'number' && v >= 0 && v <= 1);

/** A list of tints. */
export const Tints = (least: number, most: number) =>
  applyDecorators(
    holds({ kind: 'values', least, most }),
    IsArray(),
    ArrayMinSize(least),
    ArrayMaxSize(most),
    ValidateBy(
      {
        name: 'isTint',
        validator: { validate: isTint, defaultMessage: () => 'each must be three numbers from 0 to 1' },
      },
      { each: true },
    ),
  );

/** An identifier made by newId(). */
export const Id = () => applyDecorators(IsString(), Length(1, 64));

/** An identifier of something else, or null. */
export const IdOrNone = () => applyDecorators(IsOptional(), Id());
