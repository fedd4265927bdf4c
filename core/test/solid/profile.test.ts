import { describe, expect, it } from 'vitest';
import { FREE_PROFILE, newBevel, PROFILES, type Profile } from '../../src/document/index.ts';
import { isCurved, profilePieces, profilePoints } from '../../src/solid/profile.ts';

const bevel = (profile: Profile, segments: number, width: number, height: number) =>
  newBevel({ profile, segments, width, height, points: FREE_PROFILE });

describe.each(PROFILES)('the profile %s', (profile) => {
  const [width, height] = [20, 12];
  const shape = bevel(profile, 8, width, height);
  const pieces = profilePieces(shape);

  it('runs from the outline to the face without gaps, never back outward', () => {
    expect(pieces[0].across0).toBeCloseTo(0, 12);
    expect(pieces[0].up0).toBeCloseTo(0, 12);
    expect(pieces.at(-1)!.across1).toBeCloseTo(1, 12);
    pieces.slice(1).forEach((p, i) => {
      expect(p.across0).toBeCloseTo(pieces[i].across1, 12);
      expect(p.up0).toBeCloseTo(pieces[i].up1, 12);
    });
    for (const p of pieces) expect(p.up1).toBeLessThanOrEqual(1 + 1e-12);
    for (const p of pieces) expect(p.across1).toBeGreaterThanOrEqual(p.across0);
  });

  it('has unit normals, square to straight pieces', () => {
    for (const p of pieces) {
      for (const n of [p.normal0, p.normal1]) expect(Math.hypot(...n)).toBeCloseTo(1, 9);
      const [dx, dy] = [(p.across1 - p.across0) * width, (p.up1 - p.up0) * height];
      // outward is against across: the mean normal is square to the piece
      const [out, up] = [p.normal0[0] + p.normal1[0], p.normal0[1] + p.normal1[1]];
      expect(Math.abs(-out * dx + up * dy) / Math.hypot(dx, dy)).toBeLessThan(isCurved(shape) ? 0.12 : 1e-9);
    }
  });

  it('is drawn as it is built', () => {
    const points = profilePoints(shape, 8);
    for (const p of pieces) {
      const off = Math.min(...points.map(([a, u]) => Math.hypot(a - p.across1, u - p.up1)));
      expect(off).toBeLessThan(1e-9);
    }
  });
});

describe('a bevel without width or height', () => {
  it('is one upright or level face, whatever the profile', () => {
    expect(profilePieces(bevel('rope', 8, 0, 5))).toHaveLength(1);
    expect(profilePieces(bevel('rope', 8, 5, 0))).toHaveLength(1);
    expect(profilePieces(bevel('rope', 8, 0, 0))).toEqual([]);
  });
});
