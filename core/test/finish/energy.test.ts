import { describe, expect, it } from 'vitest';
import { cosineOf, dielectricRow, meanOfRow, mirrorRow, rowValue, widths } from '../../src/finish/energy.ts';
import { seeded } from '../trace/kernelFixture.ts';
import { returned } from './energyIntegral.ts';

describe('energy tables', () => {
  it('hold what the integrals give, between their entries too', () => {
    const random = seeded(2);
    for (let k = 0; k < 60; k++) {
      const roughness = random();
      const index = 1 + 2 * random();
      const mu = 0.05 + 0.95 * random();
      const [alpha] = widths(roughness, 0);
      for (const what of ['reflected', 'outside', 'inside'] as const) {
        const got = rowValue(dielectricRow(what, roughness, index), mu);
        // more points than the tables were made with
        const want = returned(what, alpha, alpha, index, mu, 30_000);
        expect(Math.abs(got - want), `${what} ${roughness} ${index} ${mu}`).toBeLessThan(0.004);
      }
      const anisotropy = random();
      const [x, y] = widths(roughness, anisotropy);
      const got = rowValue(mirrorRow(roughness, anisotropy), mu);
      expect(Math.abs(got - returned('mirror', x, y, 1.5, mu, 2000))).toBeLessThan(0.006);
    }
  });

  it('have means that are those of the rows as they are read', () => {
    const random = seeded(3);
    for (let k = 0; k < 20; k++) {
      const row = mirrorRow(random(), random());
      let sum = 0;
      const n = 4000;
      for (let i = 0; i < n; i++) sum += (2 * rowValue(row, (i + 0.5) / n) * (i + 0.5)) / n / n;
      expect(meanOfRow(row)).toBeCloseTo(sum, 4);
    }
    // 2 ∫ μ dμ of ones, and of the cosine itself
    expect(meanOfRow(new Float32Array(32).fill(1))).toBeCloseTo(1, 9);
    expect(meanOfRow(Float32Array.from({ length: 32 }, (_, i) => cosineOf(i)))).toBeCloseTo(2 / 3, 2);
  });
});
