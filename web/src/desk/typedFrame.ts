/** Times as people type them: pictures of the shot, or seconds with their sign. */
import { numberText } from '../state/language.ts';
import { typedNumber } from './typedNumber.ts';

/** @returns NaN when it is neither */
export const typedFrame = (text: string, rate: number): number =>
  Math.round(/s\s*$/i.test(text) ? typedNumber(text, 's') * rate : typedNumber(text));

/** A time in short, in seconds. */
export const secondsText = (seconds: number) => `${numberText(seconds, 2)} s`;
