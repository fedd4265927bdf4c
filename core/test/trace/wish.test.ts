import { describe, expect, it } from 'vitest';
import { luminance } from '../../src/maths/colour.ts';
import { granted, nearestGains, type Stroke } from '../../src/trace/wish.ts';
import { lot } from '../../src/maths/lot.ts';
import { lamp, LAMPS, room, view } from './lampRoom.ts';
import { tracedFilm } from './sceneFixture.ts';

const SAMPLES = 64;
/** Two lamps and the surround. */
const GROUPS = 3;
/** Of the surround where its light is to be of the lamps' order. */
const FAINT = 0.05;
const film = tracedFilm(room(LAMPS), view, SAMPLES, 1, { groups: GROUPS });
const stroke = (kind: Stroke['kind'], x: number, y: number, radius = 0.12): Stroke => ({
  kind,
  places: [
    [x - 0.05, y],
    [x + 0.05, y],
  ],
  radius,
});
/** Mean luminance about a place of the picture with gains. */
function seen(gains: readonly number[], x: number, y: number): number[] {
  const out = [0, 0, 0];
  for (let py = Math.floor((y - 0.08) * film.height); py < (y + 0.08) * film.height; py++)
    for (let px = Math.floor((x - 0.04) * film.width); px < (x + 0.04) * film.width; px++)
      for (let g = 0; g < GROUPS; g++)
        for (let c = 0; c < 3; c++)
          out[c] +=
            film.shares[(g * film.width * film.height + py * film.width + px) * 3 + c] * gains[g * 3 + c];
  return out;
}
const lum = (v: number[]) => luminance(v[0], v[1], v[2]);
const even = new Array<number>(GROUPS * 3).fill(1);

describe('nearest gains', () => {
  it('recover known strengths from a picture rendered with them within 2 %, each channel by itself', () => {
    const known = [
      [0.5, 1.7, 2.5],
      [3, 0.6, 1],
      [0.9, 0.6, 1.4],
    ];
    const lamps = [0, 1].map((i) =>
      lamp(
        i === 0 ? 'Left' : 'Right',
        i === 0 ? -1 : 1,
        LAMPS[i].placed.colour.map((v, c) => v * known[i][c]) as never,
      ),
    );
    // no source is so weak beside the others that their noise hides it
    const [dark, lit] = [room(LAMPS), room(lamps)];
    dark.surround = { ...dark.surround, gain: FAINT };
    lit.surround = { ...lit.surround, tint: known[2].map((v) => v / 2), gain: 2 * FAINT };
    // another seed: the target has noise of its own; squares of pixels are looked at together
    const [many, side] = [1024, 4];
    const sources = tracedFilm(dark, view, many, 1, { groups: GROUPS });
    const target = tracedFilm(lit, view, many, 7);
    const across = film.width / side;
    const squares = (at: (pixel: number) => number) => {
      const out = new Float64Array(across * (film.height / side));
      for (let p = 0; p < film.width * film.height; p++)
        out[Math.floor(Math.floor(p / film.width) / side) * across + Math.floor((p % film.width) / side)] +=
          at(p);
      return out;
    };
    const pixels = film.width * film.height;
    for (let c = 0; c < 3; c++) {
      const columns = [0, 1, 2].map((g) => squares((p) => sources.shares[(g * pixels + p) * 3 + c]));
      const wanted = squares((p) => target.sums[p * target.channels + c]);
      const gains = nearestGains(
        columns,
        wanted,
        wanted.map((v) => 1 / (v * v)),
        [1, 1, 1],
        0,
      );
      gains.forEach((g, i) => expect(Math.abs(g / known[i][c] - 1)).toBeLessThan(0.02));
    }
  });

  it('are never negative, and the least that can be where light would have to be taken away', () => {
    let drawn = 0;
    const random = () => lot(drawn++, 0, 3);
    for (let run = 0; run < 50; run++) {
      const columns = [0, 1, 2, 3].map(() => Float64Array.from({ length: 20 }, () => random()));
      const truth = [0, 1, 2, 3].map(() => (random() < 0.4 ? 0 : random() * 3));
      const target = Float64Array.from({ length: 20 }, (_, i) =>
        columns.reduce((s, column, j) => s + column[i] * truth[j], 0),
      );
      const weights = new Float64Array(20).fill(1);
      nearestGains(columns, target, weights, [1, 1, 1, 1], 0).forEach((g, j) =>
        expect(g).toBeCloseTo(truth[j], 3),
      );
      const dark = nearestGains(
        columns,
        target.map(() => -1),
        weights,
        [1, 1, 1, 1],
        0,
      );
      expect(dark.every((g) => g === 0)).toBe(true);
    }
  });
});

describe('wishes', () => {
  it('make brighter where that is asked, by the source that reaches there, and leave the rest about as it is', () => {
    const { gains, granted: got } = granted(
      film,
      SAMPLES,
      [stroke('brighter', 0.2, 0.85)],
      [true, true, true],
    );
    const [left, right] = [gains[0], gains[3]];
    expect(left).toBeGreaterThan(1.2);
    expect(left).toBeGreaterThan(right);
    const there = Math.log2(lum(seen(gains, 0.2, 0.85)) / lum(seen(even, 0.2, 0.85)));
    expect(there).toBeGreaterThan(0.55);
    expect(Math.abs(Math.log2(lum(seen(gains, 0.85, 0.85)) / lum(seen(even, 0.85, 0.85))))).toBeLessThan(
      there,
    );
    expect(got[0].asked).toBe(1);
    expect(got[0].got).toBeGreaterThan(0.5);
    // strengths alone: nobody asked for another colour
    for (let g = 0; g < GROUPS; g++) expect(gains[g * 3]).toBe(gains[g * 3 + 2]);
  });

  it('make darker, warmer and cooler', () => {
    const { granted: dark } = granted(film, SAMPLES, [stroke('darker', 0.8, 0.85)], [true, true, true]);
    expect(dark[0].got).toBeLessThan(-0.5);
    const warm = granted(film, SAMPLES, [stroke('warmer', 0.8, 0.8, 0.3)], [true, true, true]);
    expect(warm.granted[0].got).toBeGreaterThan(0.3);
    const cool = granted(film, SAMPLES, [stroke('cooler', 0.2, 0.8, 0.3)], [true, true, true]);
    expect(cool.granted[0].got).toBeLessThan(-0.3);
    // colours that may not change do not
    const fixed = granted(film, SAMPLES, [stroke('warmer', 0.8, 0.8, 0.3)], [false, false, true]);
    for (const g of [0, 1]) expect(fixed.gains[g * 3]).toBe(fixed.gains[g * 3 + 2]);
  });

  it('say what they could not do: no source reaches what is black', () => {
    const dark = tracedFilm(room([LAMPS[0]]), view, 8, 1, { groups: 2 });
    dark.shares.fill(0);
    const { gains, granted: got } = granted(dark, 8, [stroke('brighter', 0.5, 0.5)], [true, true]);
    expect(got[0].got).toBeLessThan(0.1);
    expect(gains.every((g) => g >= 0 && g < 100)).toBe(true);
  });
});
