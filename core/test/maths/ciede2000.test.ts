import { describe, expect, it } from 'vitest';
import { ciede2000, labOf } from '../../src/maths/ciede2000.ts';

describe('CIEDE2000', () => {
  it('is what Sharma, Wu and Dalal tabulate', () => {
    const pairs = [
      [50, 2.6772, -79.7751, 50, 0, -82.7485, 2.0425],
      [50, 3.1571, -77.2803, 50, 0, -82.7485, 2.8615],
      [50, -1.3802, -84.2814, 50, 0, -82.7485, 1],
      [50, 2.5, 0, 50, 0, -2.5, 4.3065],
      [50, 2.5, 0, 73, 25, -18, 27.1492],
      [60.2574, -34.0099, 36.2677, 60.4626, -34.1751, 39.4387, 1.2644],
      [90.8027, -2.0831, 1.441, 91.1528, -1.6435, 0.0447, 1.4441],
    ] as const;
    for (const [l1, a1, b1, l2, a2, b2, want] of pairs) {
      expect(ciede2000([l1, a1, b1], [l2, a2, b2])).toBeCloseTo(want, 4);
      expect(ciede2000([l2, a2, b2], [l1, a1, b1])).toBeCloseTo(want, 4);
    }
  });

  it('counts from white to black a hundred', () => {
    const [white, black] = [labOf([255, 255, 255]), labOf([0, 0, 0])];
    expect(white[0]).toBeCloseTo(100, 3);
    expect(Math.hypot(white[1], white[2])).toBeLessThan(0.02);
    expect(ciede2000(white, black)).toBeCloseTo(100, 0);
    expect(ciede2000(black, black)).toBe(0);
  });
});
