import { describe, expect, it } from 'vitest';
import { ARRANGEMENTS, newLight, type Arrangement, type LightOf } from '../../src/document/index.ts';
import { arranged } from '../../src/light/arrangement.ts';
import { frameOf, placeLight, type Vec } from '../../src/light/placing.ts';

const ZERO: Vec = [0, 0, 0];
const array = (form: Arrangement, changes: Partial<LightOf<'array'>> = {}) =>
  newLight('array', 'Lamps', { form, ...changes });
const places = (light: LightOf<'array'>, size = 1) =>
  arranged(light, size).map((l) => ({ light: l, ...placeLight(l, ZERO) }));
/** What the lamps give a small plane at the middle of the type that faces the front, far lamps as points; lux. */
const lux = (light: LightOf<'array'>, size: number) =>
  places(light, size).reduce((sum, { light: lamp, position, forward, colour }) => {
    const d2 = position.reduce((s, v) => s + v * v, 0);
    const cosine = position[2] / Math.sqrt(d2);
    if (cosine <= 0) return sum;
    const area = lamp.kind === 'area' ? lamp.width * lamp.height : 1;
    expect(forward.map((v, i) => v * Math.sqrt(d2) + position[i]).every((v) => Math.abs(v) < 1e-9)).toBe(
      true,
    );
    return sum + (colour[1] * area * cosine) / d2;
  }, 0);

describe('arrangements', () => {
  it('stand where they say: rings in the round, rows along the word, strips above and below', () => {
    const ring = places(array('ring', { count: 12, rings: 2, spread: 1, away: 0.5 }), 2);
    expect(ring).toHaveLength(24);
    ring.forEach(({ position: [x, y, z] }, i) => {
      expect(Math.hypot(x, y)).toBeCloseTo(i < 12 ? 1 : 0.5, 9);
      expect(z).toBeCloseTo(1, 9);
    });
    const row = places(array('row', { count: 5, spread: 2, away: 0.3 }));
    expect(row.map((l) => l.position[0]).map((v) => +v.toFixed(6))).toEqual([-1, -0.5, 0, 0.5, 1]);
    expect(places(array('row', { count: 1 }))).toHaveLength(1);
    const [above, below] = places(array('pair', { spread: 0.8, away: 0.4, size: 0.05 }), 3);
    expect(above.position[1]).toBeCloseTo(1.2, 9);
    expect(below.position[1]).toBeCloseTo(-1.2, 9);
    // their long sides lie along the word
    for (const strip of [above, below]) {
      expect(Math.abs(strip.right[0])).toBeCloseTo(1, 9);
      expect((strip.light as LightOf<'area'>).width).toBeCloseTo(4.2, 9);
    }
  });

  it('turn as one: slanted strips lean together, and all go where their azimuth and elevation say', () => {
    const lean = places(array('pair', { slant: 0.5 }));
    for (const { right } of lean) {
      expect(Math.atan2(right[1], right[0])).toBeCloseTo(0.5, 1);
    }
    const moved = { azimuth: 1.1, elevation: 0.4 };
    const { away } = frameOf(moved);
    for (const form of ARRANGEMENTS) {
      const plain = places(array(form));
      const turned = places(array(form, moved));
      const mean = (of: typeof plain) =>
        [0, 1, 2].map((k) => of.reduce((s, l) => s + l.position[k], 0) / of.length);
      const out = mean(plain)[2];
      // what was out in front goes the way it was turned
      if (form !== 'triad' && form !== 'tent')
        mean(turned).forEach((v, k) => expect(v).toBeCloseTo(away[k] * out, 9));
      turned.forEach(({ position }, i) =>
        expect(Math.hypot(...position)).toBeCloseTo(Math.hypot(...plain[i].position), 9),
      );
    }
  });

  it('light words of any size alike', () => {
    for (const form of ARRANGEMENTS) {
      const light = array(form, { size: 0.02 });
      expect(lux(light, 1)).toBeGreaterThan(0);
      expect(lux(light, 7) / lux(light, 1)).toBeCloseTo(1, 9);
      expect(lux(light, 0.03) / lux(light, 1)).toBeCloseTo(1, 9);
    }
  });

  it('have a second colour where they are asked to', () => {
    const colours = (changes: Partial<LightOf<'array'>>) =>
      arranged(array('sides', { hue: 'colour', colour: [1, 0, 0], other: [0, 0, 1], ...changes }), 1).map(
        (l) => l.colour,
      );
    expect(colours({ second: true })).toEqual([
      [1, 0, 0],
      [0, 0, 1],
    ]);
    expect(colours({ second: false })).toEqual([
      [1, 0, 0],
      [1, 0, 0],
    ]);
  });
});
