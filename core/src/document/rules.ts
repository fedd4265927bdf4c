/** Small validation vocabulary shared by the document's classes. */
import 'reflect-metadata';
import { applyDecorators } from './applyDecorators.ts';
import { ArrayMaxSize, ArrayMinSize, IsArray, IsNumber, IsString, Length, Max, Min } from 'class-validator';

const FINITE = { allowNaN: false, allowInfinity: false };

/** A finite number in [min, max]. */
export const Amount = (min: number, max: number) => applyDecorators(IsNumber(FINITE), Min(min), Max(max));

/** Exactly `count` finite numbers, each in [min, max]. */
export const Amounts = (count: number, min: number, max: number) =>
  applyDecorators(
    IsArray(),
    ArrayMinSize(count),
    ArrayMaxSize(count),
    IsNumber(FINITE, { each: true }),
    Min(min, { each: true }),
    Max(max, { each: true }),
  );

/** A scene-linear Rec.709 reflectance or tint, each channel 0 … 1. */
export const Tint = () => Amounts(3, 0, 1);

/** A point or offset in metres, within a kilometre of the origin. */
export const Point = () => Amounts(3, -1000, 1000);

/** A display name: 1 … 120 characters. */
export const Name = () => applyDecorators(IsString(), Length(1, 120));

/** An identifier made by newId(). */
export const Id = () => applyDecorators(IsString(), Length(1, 64));
