import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  lumensPerCandela,
  profileSquare,
  ProfileError,
  readProfile,
  READY_PROFILES,
  readyProfile,
  shareAt,
  type Profile,
} from '../../src/light/profile.ts';

const DEG = Math.PI / 180;

/** A file of type C, as they are written: header, then numbers on any lines. */
const file = (
  vertical: readonly number[],
  horizontal: readonly number[],
  values: readonly (readonly number[])[],
  {
    head = 'IESNA:LM-63-2002\n[TEST] made up\n[LUMCAT] Ostrel deck lamp\nTILT=NONE',
    factor = 1,
    type = 1,
  } = {},
) =>
  new TextEncoder().encode(
    [
      head,
      `1 1000 ${factor} ${vertical.length} ${horizontal.length} ${type} 2 0.1 0.1 0`,
      '1.0 1.0 20',
      vertical.join(' '),
      horizontal.join(' '),
      ...values.map((row) => row.join('\n')),
    ].join('\r\n'),
  );

describe('photometric files', () => {
  it('are read: factor, greatest strength, and one plane for all around', () => {
    const profile = readProfile(file([0, 45, 90], [0], [[100, 50, 0]], { factor: 2 }));
    expect(profile.candela).toBe(200);
    for (const phi of [0, 1, 3, 6]) {
      expect(shareAt(profile, 0, phi)).toBe(1);
      expect(shareAt(profile, 45 * DEG, phi)).toBeCloseTo(0.5, 9);
      // half way between the angles stated
      expect(shareAt(profile, 22.5 * DEG, phi)).toBeCloseTo(0.75, 9);
      expect(shareAt(profile, 91 * DEG, phi)).toBe(0);
    }
  });

  it('fill a quarter and a half of the way around by their symmetry', () => {
    const quarter = readProfile(
      file(
        [0, 90],
        [0, 45, 90],
        [
          [100, 10],
          [100, 40],
          [100, 80],
        ],
      ),
    );
    const half = readProfile(
      file(
        [0, 90],
        [0, 90, 180],
        [
          [100, 10],
          [100, 40],
          [100, 80],
        ],
      ),
    );
    const at = (p: Profile, degrees: number) => shareAt(p, Math.PI / 2, degrees * DEG) * 100;
    for (const [degrees, value] of [
      [0, 10],
      [45, 40],
      [90, 80],
      [135, 40],
      [180, 10],
      [225, 40],
      [270, 80],
      [337.5, 25],
    ])
      expect(at(quarter, degrees)).toBeCloseTo(value, 6);
    for (const [degrees, value] of [
      [0, 10],
      [90, 40],
      [180, 80],
      [270, 40],
      [225, 60],
      [-45, 25],
    ])
      expect(at(half, degrees)).toBeCloseTo(value, 6);
  });

  it('take the side stated from 90 to 270 for both, and planes all around as they are', () => {
    const side = readProfile(
      file(
        [0, 90],
        [90, 180, 270],
        [
          [100, 10],
          [100, 50],
          [100, 20],
        ],
      ),
    );
    expect(shareAt(side, Math.PI / 2, 0)).toBeCloseTo(0.5, 9);
    expect(shareAt(side, Math.PI / 2, Math.PI)).toBeCloseTo(0.5, 9);
    const all = readProfile(
      file(
        [0, 90],
        [0, 120, 240],
        [
          [60, 0],
          [60, 60],
          [60, 30],
        ],
      ),
    );
    // between the last plane and the first
    expect(shareAt(all, Math.PI / 2, 300 * DEG)).toBeCloseTo(0.25, 9);
  });

  it('of types A and B are turned to the way ahead: the same angles are other directions in each', () => {
    const steps = [-90, -60, -30, 0, 30, 60, 90];
    // one direction alone: 30 up, 60 to the right
    const only = steps.map((h) => steps.map((v) => (h === 60 && v === 30 ? 100 : 0)));
    const at = (p: Profile, [x, y, z]: readonly number[]) => shareAt(p, Math.acos(z), Math.atan2(y, x));
    const [c30, s30, c60, s60] = [30, 30, 60, 60].map((d, i) =>
      i % 2 ? Math.sin(d * DEG) : Math.cos(d * DEG),
    );
    const upright = readProfile(file(steps, steps, only, { type: 3 }));
    const across = readProfile(file(steps, steps, only, { type: 2 }));
    // about an upright axis: latitude 30, longitude 60; about one that lies across: latitude 60, turned up by 30
    const [a, b] = [
      [c30 * s60, s30, c30 * c60],
      [s60, c60 * s30, c60 * c30],
    ];
    expect(at(upright, a)).toBeGreaterThan(0.94);
    expect(at(across, b)).toBeGreaterThan(0.94);
    expect(at(upright, b)).toBeLessThan(0.75);
    expect(at(upright, [-a[0], a[1], a[2]])).toBe(0);
    expect(at(upright, [a[0], a[1], -a[2]])).toBe(0);
    // stated for one side alone, it is alike on the other
    const half = steps.slice(3);
    const mirrored = readProfile(file(steps, half, only.slice(3), { type: 3 }));
    expect(at(mirrored, [-a[0], a[1], a[2]])).toBeCloseTo(at(mirrored, a), 9);
    expect(at(mirrored, a)).toBeGreaterThan(0.94);
    // what is even over the half sphere gives all of its lumens
    const even = readProfile(
      file(
        steps,
        steps,
        steps.map(() => steps.map(() => 7)),
        { type: 2 },
      ),
    );
    expect(lumensPerCandela(even) / (2 * Math.PI)).toBeCloseTo(1, 2);
  });

  it('say what is wrong with them, and where', () => {
    const good = [[100, 50, 0]];
    const cases: [Uint8Array, RegExp][] = [
      [new TextEncoder().encode('\x89PNG'), /no TILT line/],
      [file([0, 45, 90], [0], [[100, 50]]), /ends before the candela values/],
      [file([0, 90, 45], [0], good), /line 7: vertical angles rise from 0 to 180, and 45 does not/],
      [file([0, 45, 90], [0], [[100, -1, 0]]), /light of -1 cd/],
      [file([0, 45, 90], [0], [[0, 0, 0]]), /gives nothing in any direction/],
      [file([0, 45, 90], [0], good, { type: 4 }), /line 5: 4 is no photometric type/],
      [file([-95, 45, 90], [0], good, { type: 2 }), /vertical angles rise from -90 to 90, and -95 does not/],
      [file([0, 45, 90], [0], good, { head: 'TILT=LAMP.TLT' }), /tilts in another file/],
      [new TextEncoder().encode('TILT=NONE\n1 1000 x 3'), /line 2: “x” is no number/],
      [new TextEncoder().encode('TILT=NONE\n1 1000 1 99999 1 1 2 0 0 0'), /99999 is no number of vertical/],
    ];
    for (const [bytes, message] of cases) {
      expect(() => readProfile(bytes)).toThrow(ProfileError);
      expect(() => readProfile(bytes)).toThrow(message);
    }
  });

  it('with lamps that tilt are read past them', () => {
    const profile = readProfile(
      file([0, 90], [0], [[70, 0]], { head: 'TILT=INCLUDE\n1\n3\n0 45 90\n1 0.9 0.8' }),
    );
    expect(profile.candela).toBe(70);
  });
});

describe('a profile', () => {
  it('gives the lumens of its closed form', () => {
    const from = Array.from({ length: 181 }, (_, i) => i);
    const cosine = readProfile(file(from, [0], [from.map((d) => Math.max(0, Math.cos(d * DEG)))]));
    expect(lumensPerCandela(cosine)).toBeCloseTo(Math.PI, 3);
    const even = readProfile(file(from, [0], [from.map(() => 5)]));
    expect(lumensPerCandela(even)).toBeCloseTo(4 * Math.PI, 6);
  });

  it('lies unfolded as a square, its middle straight ahead and its corners straight back', () => {
    const from = Array.from({ length: 181 }, (_, i) => i);
    const profile = readProfile(
      file(
        from,
        [0, 90, 180, 270],
        [0, 1, 2, 3].map((k) => from.map((d) => 1 + k * Math.sin(d * DEG) ** 2)),
      ),
    );
    const side = 65;
    const square = profileSquare(profile, side);
    const at = (column: number, row: number) => square[row * side + column] * profile.candela;
    expect(at(32, 32)).toBeCloseTo(1, 6);
    for (const [c, r] of [
      [0, 0],
      [64, 0],
      [0, 64],
      [64, 64],
    ])
      expect(at(c, r)).toBeCloseTo(1, 6);
    // right, top, left, bottom
    expect([at(64, 32), at(32, 0), at(0, 32), at(32, 64)].map((v) => Math.round(v * 1e6) / 1e6)).toEqual([
      1, 2, 3, 4,
    ]);
  });

  it.each(READY_PROFILES.map((p) => p.id))(
    '%s shines, most at one, and into no more than the whole sphere',
    (id) => {
      const profile = readyProfile(id);
      expect(profile.shares.reduce((a, b) => Math.max(a, b))).toBe(1);
      expect(profile.shares.every((v) => v >= 0)).toBe(true);
      const lumens = lumensPerCandela(profile);
      expect(lumens).toBeGreaterThan(0.02);
      expect(lumens).toBeLessThan(4 * Math.PI);
    },
  );
});

describe('files of noise', () => {
  it('are refused by name, and nothing else happens', () => {
    const words = [
      'TILT=NONE',
      'TILT=INCLUDE',
      '1',
      '0',
      '-3',
      '1e9',
      '90',
      '181',
      'x',
      '',
      '1e400',
      '3 3',
      '\u0000',
    ];
    fc.assert(
      fc.property(fc.array(fc.constantFrom(...words), { maxLength: 60 }), (all) => {
        try {
          const profile = readProfile(new TextEncoder().encode(all.join('\n')));
          expect(profile.candela).toBeGreaterThan(0);
          expect(shareAt(profile, 0.3, 1)).toBeGreaterThanOrEqual(0);
        } catch (error) {
          expect(error).toBeInstanceOf(ProfileError);
        }
      }),
      { numRuns: 2000, seed: 12 },
    );
  });
});
