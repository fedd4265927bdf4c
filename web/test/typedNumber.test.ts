import { describe, expect, it } from 'vitest';
import { typedNumber } from '../src/desk/typedNumber.ts';

describe('a typed number', () => {
  it('may be a sum, and have a decimal comma', () => {
    expect(typedNumber('3/4')).toBe(0.75);
    expect(typedNumber('2*(1+0.5)')).toBe(3);
    expect(typedNumber('-1,5')).toBe(-1.5);
  });
  it('may name a length, which becomes the unit of the field', () => {
    expect(typedNumber('20mm', 'mm')).toBe(20);
    expect(typedNumber('2 cm', 'mm')).toBe(20);
    expect(typedNumber('1in', 'mm')).toBeCloseTo(25.4, 12);
    expect(typedNumber('250mm', 'm')).toBeCloseTo(0.25, 12);
    expect(typedNumber('45°', '°')).toBe(45);
  });
  it('is none when it is words, empty, or in a unit the field does not take', () => {
    for (const [text, unit] of [
      ['', 'mm'],
      ['wide', 'mm'],
      ['3 mm', '°'],
      ['1/', ''],
    ])
      expect(typedNumber(text, unit)).toBeNaN();
  });
});
