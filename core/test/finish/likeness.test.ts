import { describe, expect, it } from 'vitest';
import { fromColour, fromFinish } from '../../src/finish/likeness.ts';
import { READY_FINISHES, readyFinish } from '../../src/finish/readyFinishes.ts';

const nearest = (distance: (f: (typeof READY_FINISHES)[number]) => number, count: number) =>
  [...READY_FINISHES].sort((a, b) => distance(a) - distance(b)).slice(0, count);

describe('finishes that look alike', () => {
  it('are found by another: gold by gold, neon by neon, glass by glass, chrome by chrome', () => {
    for (const [id, family] of [
      ['leaf-gold', /gold|copper|patina/],
      ['ice-neon', /neon/],
      ['deck-glass', /glass/],
      ['hull-chrome', /chrome|steel|silver/],
    ] as const) {
      const of = readyFinish(id);
      const found = nearest((f) => fromFinish(of, f), 4);
      expect(found[0].id).toBe(id);
      for (const f of found) expect(f.family, `${f.name} like ${id}`).toMatch(family);
    }
  });

  it('are as far from each other as the other from them, and nothing from themselves', () => {
    for (let i = 1; i < READY_FINISHES.length; i += 7) {
      const [a, b] = [READY_FINISHES[i], READY_FINISHES[i - 1]];
      expect(fromFinish(a, b)).toBeCloseTo(fromFinish(b, a), 12);
      expect(fromFinish(a, a)).toBe(0);
    }
  });

  it('are found by a colour', () => {
    const [red] = nearest((f) => fromColour(f, [0.5, 0.02, 0.03]), 1);
    expect(red.surface.base_color[0]).toBeGreaterThan(5 * red.surface.base_color[1]);
    const blue = nearest((f) => fromColour(f, [0.01, 0.03, 0.3]), 3);
    for (const f of blue) expect(fromColour(f, [0.01, 0.03, 0.3])).toBeLessThan(0.35);
  });
});
