import { describe, expect, it } from 'vitest';
import type { Vec } from '../../src/light/placing.ts';
import { positionOf } from '../../src/light/surround.ts';
import { balanced, cleanlyBalanced } from '../../src/trace/balance.ts';
import { developed, developedShares } from '../../src/trace/developing.ts';
import { faceMask, rowsOf } from '../../src/trace/faceMask.ts';
import { SIGHT_ACROSS, SIGHT_DOWN } from '../../src/light/sights.ts';
import { shareChart, sightlines } from '../../src/trace/shareChart.ts';
import { LAMPS, room, view } from './lampRoom.ts';
import { flatSurround, meanOf, tracedFilm, tracerFor, type TestLight } from './sceneFixture.ts';

const { width: WIDE, height: HIGH } = view;

describe('the light chart', () => {
  const scene = room(LAMPS);
  const film = tracedFilm(scene, view, 32, 1, { groups: 3, layers: true });
  const mask = faceMask(tracerFor(scene, view), scene, view);

  it('knows what each place shows: the floor below, the wall above it, nothing beside them', () => {
    expect(rowsOf(scene).rows).toEqual([{ piece: 'p0' }, { piece: 'p1' }]);
    const at = (x: number, y: number) =>
      mask.rows[Math.floor(y / mask.stride) * mask.across + Math.floor(x / mask.stride)];
    // five metres off, the wall's foot lies 0.2 below the axis, 0.67 of the half height
    expect(at(20, 22)).toBe(0);
    expect(at(20, 17)).toBe(1);
    expect(at(20, 0)).toBe(1);
    expect(mask.rows).toHaveLength((WIDE / mask.stride) * (HIGH / mask.stride));
  });

  it('has all the light of each face, parted by source', () => {
    const { places, light, groups, levels } = shareChart(film, mask, 2, 32);
    levels.forEach((of, row) => expect(of.reduce((a, b) => a + b, 0)).toBe(places[row]));
    expect(places[0] + places[1]).toBe([...mask.rows].filter((r) => r < 2).length);
    const picture = developed(film, 32);
    for (const row of [0, 1])
      for (let c = 0; c < 3; c++) {
        let whole = 0;
        mask.rows.forEach((r, i) => {
          const pixel = Math.floor(i / mask.across) * mask.stride * WIDE + (i % mask.across) * mask.stride;
          if (r === row) whole += picture[pixel * 4 + c] / places[row];
        });
        let sum = 0;
        for (let g = 0; g < groups; g++) sum += light[(row * groups + g) * 3 + c];
        expect(sum / whole).toBeCloseTo(1, 2);
      }
    // the left lamp is red, the right one blue
    expect(light[0]).toBeGreaterThan(light[2] * 4);
    expect(light[5]).toBeGreaterThan(light[3] * 4);
  });
});

describe('a balance', () => {
  it('is what tracing anew would give, within noise, and nothing where all stay as they are', () => {
    const film = tracedFilm(room(LAMPS), view, 64, 1, { groups: 3 });
    const picture = developed(film, 64);
    const same = balanced(film, picture, new Array<number>(9).fill(1));
    same.forEach((v, i) => expect(Math.abs(v - picture[i])).toBeLessThanOrEqual(1e-4 * Math.max(1, v)));
    const weighed = balanced(film, picture, [0, 0, 0, 2, 2, 2, 1, 0.5, 1]);
    // the sum of the developed shares, each times its gain
    const shares = developedShares(film, picture);
    const each = WIDE * HIGH * 3;
    for (let i = 0; i < each; i++) {
      const [, right, sky] = [0, 1, 2].map((g) => shares[g * each + i]);
      const sum = 2 * right + sky * (i % 3 === 1 ? 0.5 : 1);
      expect(Math.abs(weighed[Math.floor(i / 3) * 4 + (i % 3)] - sum)).toBeLessThanOrEqual(1e-4 * (1 + sum));
    }
    const bright = { ...LAMPS[1], placed: { ...LAMPS[1].placed, colour: [10, 20, 120] as Vec } };
    const anew = {
      ...room([bright as TestLight]),
      surround: { ...room([bright as TestLight]).surround, picture: flatSurround(3, 1, 1) },
    };
    const traced = developed(tracedFilm(anew, view, 64, 5), 64);
    for (let c = 0; c < 3; c++) expect(meanOf(weighed, c) / meanOf(traced, c)).toBeCloseTo(1, 1.7);
  });

  it('weighs a cleaned picture without bringing its noise back', () => {
    const [w, h] = [32, 32];
    const noisy = Float32Array.from({ length: w * h * 4 }, (_, i) => (i % 4 === 3 ? 1 : ((i * 37) % 11) / 5));
    const half = noisy.map((v, i) => (i % 4 === 3 ? v : v / 2));
    const clean = new Float32Array(w * h * 4).fill(1);
    const weighed = cleanlyBalanced(clean, noisy, half, w, h);
    weighed.forEach((v, i) => expect(v).toBeCloseTo(i % 4 === 3 ? 1 : 0.5, 4));
    expect(
      [...cleanlyBalanced(clean, noisy, new Float32Array(w * h * 4), w, h)].filter((v) => v > 1e-3),
    ).toHaveLength(w * h);
  });
});

describe('sightlines', () => {
  it('go where a mirror sends the camera’s look, however the surround stands', () => {
    for (const turn of [0, 0.7]) {
      const scene = room([], turn);
      const film = tracedFilm(scene, view, 2, 1, { groups: 1, layers: true });
      const mask = faceMask(tracerFor(scene, view), scene, view);
      const [, ofWall] = sightlines(film, mask, view, [0.02, 0.02])!;
      const peak = ofWall.indexOf(1);
      // the wall faces the camera and sends its look back, a little up where it looks down
      const [u, v] = positionOf(0, 0.05, 1);
      const across = Math.abs(((peak % SIGHT_ACROSS) + 0.5) / SIGHT_ACROSS - u) * 360;
      const down = Math.abs((Math.floor(peak / SIGHT_ACROSS) + 0.5) / SIGHT_DOWN - v) * 180;
      // the picture is 53 degrees wide
      expect(across).toBeLessThan(27);
      expect(down).toBeLessThan(17);
      expect(ofWall.filter((d) => d > 0.01).length).toBeLessThan(200);
    }
    expect(
      sightlines(
        tracedFilm(room([]), view, 1),
        faceMask(tracerFor(room([]), view), room([]), view),
        view,
        [0.1, 0.1],
      ),
    ).toBeNull();
  });
});
