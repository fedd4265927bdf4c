/** Numbers as people type them: plain, as sums such as 3/4, or with a unit of length such as 2cm. */
import { Parser } from 'expr-eval-fork';

/** Millimetres a unit of length has. */
const LENGTHS: Record<string, number> = { mm: 1, cm: 10, m: 1000, in: 25.4, ft: 304.8 };
const parser = new Parser();

/**
 * What a text says in the unit of its field.
 * @returns NaN when it is not a number, or in a unit the field does not take
 */
export function typedNumber(text: string, unit = ''): number {
  const [, sum, suffix] = /^(.*?)\s*([a-z°‰%]*)$/i.exec(text.trim().replaceAll(',', '.'))!;
  const given = suffix.toLowerCase();
  const factor =
    given === '' || given === unit.toLowerCase() ? 1 : (LENGTHS[given] ?? NaN) / (LENGTHS[unit] ?? NaN);
  if (sum === '') return NaN;
  try {
    return Number(parser.evaluate(sum)) * factor;
  } catch {
    return NaN;
  }
}
