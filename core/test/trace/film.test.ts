import * as fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { developed, developedLayers } from '../../src/trace/developing.ts';
import { AT, createFilm, LAYERS_AT, type Film } from '../../src/trace/film.ts';
import { noiseOf } from '../../src/trace/noise.ts';
import type { TileTracer } from '../../src/trace/waveTracer.ts';
import { draw, pixelSeed, point } from '../oracle/sampler.ts';
import { Probe, sceneOf } from './sceneFixture.ts';
import { createControl, nextRun, rewind, runIsOff, traceShare } from '../../src/trace/tiles.ts';

describe('a film', () => {
  it('develops to the mean of what was added, alpha too', () => {
    const film = createFilm(2, 1);
    film.sums.set([4, 8, 12, 4], 0);
    film.sums.set([1, 1, 1, 2], film.channels);
    expect([...developed(film, 4)]).toEqual([1, 2, 3, 1, 0.25, 0.25, 0.25, 0.5]);
    expect([...developed(createFilm(1, 1), 0)]).toEqual([0, 0, 0, 0]);
  });

  it('tells its noise as the standard error of its mean', () => {
    const film = createFilm(40, 40);
    // luminances 1 and 3 in turn: mean 2, variance of the samples 1
    const samples = 16;
    for (let i = 0; i < film.sums.length; i += film.channels)
      film.sums.set([2 * samples, 2 * samples, 2 * samples, samples, 5 * samples], i);
    expect(noiseOf(film, samples)).toBeCloseTo(Math.sqrt(1 / (samples - 1)) / 2.01, 6);
    // pixels without light have none
    film.sums.fill(0, 0, film.sums.length / 2);
    expect(noiseOf(film, samples)).toBeCloseTo(Math.sqrt(1 / (samples - 1)) / 2.01, 6);
    expect(noiseOf(film, 1)).toBe(Infinity);
    expect(noiseOf(createFilm(3, 3), 8)).toBe(0);
  });

  it('keeps layers of what is seen first, and nothing where nothing is', () => {
    const film = createFilm(2, 1, { shared: true, layers: true });
    expect(film.layers).toBe(true);
    expect(createFilm(2, 1).layers).toBe(false);
    expect(film.sums.buffer).toBeInstanceOf(SharedArrayBuffer);
    // of four samples three met a surface
    film.sums.set([1.5, 0.6, 0.3, 0, 0, 6, 12, 3], LAYERS_AT);
    const { albedo, normal, depth } = developedLayers(film);
    expect([...albedo.subarray(0, 3)]).toEqual([0.5, 0.2, 0.1].map((v) => expect.closeTo(v, 6)));
    expect([...normal]).toEqual([0, 0, 1, 0, 0, 0]);
    expect([...depth]).toEqual([4, Infinity]);
  });
});

describe('light that was set aside', () => {
  const [width, height] = [128, 72];
  /** A grey film of so many samples. */
  const grey = (samples: number) => {
    const film = createFilm(width, height);
    for (let i = 0; i < film.sums.length; i += film.channels)
      film.sums.set([samples, samples, samples, samples], i);
    return film;
  };
  const setAside = (film: Film, x: number, y: number, light: number, events: number) => {
    const at = (y * width + x) * film.channels;
    film.sums.set([light, light, light, events], at + AT.aside);
  };
  const sumOf = (picture: Float32Array) => picture.reduce((sum, v, i) => (i % 4 === 1 ? sum + v : sum), 0);

  it('of one path that found a sun is nowhere a dot, however bright, and none of it is lost', () => {
    for (const [events, samples, share] of [
      [1, 384, 0.06],
      [1, 8, 0.5],
      [5, 384, 0.1],
      [1, 384, 0.9],
    ]) {
      const film = grey(samples);
      // of all light, so much
      const all = (width * height) / (1 - share);
      setAside(film, 64, 5, share * all * samples, events);
      const picture = developed(film, samples);
      expect(sumOf(picture)).toBeCloseTo(all, -1);
      const brightest = Math.max(...picture.filter((_, i) => i % 4 === 1));
      expect(brightest / all, `${events} of ${samples}, ${share}`).toBeLessThan(1e-3);
    }
  });

  it('stays where it was where enough of it says that something bright is there', () => {
    for (const [events, samples] of [
      [4, 8],
      [4, 128],
      [12, 384],
    ]) {
      const film = grey(samples);
      setAside(film, 64, 40, 50 * samples, events);
      const picture = developed(film, samples);
      expect(picture[(40 * width + 64) * 4 + 1], `${events} of ${samples}`).toBeCloseTo(51, 3);
      expect(picture[(40 * width + 66) * 4 + 1]).toBe(1);
    }
  });
});

describe('sharing a film in tiles', () => {
  /** A tracer that counts how often each pixel is traced. */
  const counting = (width: number, height: number, counts: Uint8Array, onTile = () => {}) =>
    ({
      photons: null,
      traceTile: (_film: unknown, x0: number, y0: number, x1: number, y1: number) => {
        expect(x1 <= width && y1 <= height).toBe(true);
        for (let y = y0; y < y1; y++) for (let x = x0; x < x1; x++) counts[y * width + x]++;
        onTile();
      },
    }) satisfies TileTracer as TileTracer;

  it('traces every pixel once, whoever takes which tile', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 150 }), fc.integer({ min: 1, max: 150 }), (width, height) => {
        const counts = new Uint8Array(width * height);
        const film = createFilm(width, height);
        const control = createControl();
        const run = nextRun(control);
        // the second joins while the first is at its first tile
        let joined = false;
        const second = counting(width, height, counts);
        const first = counting(width, height, counts, () => {
          if (joined) return;
          joined = true;
          expect(traceShare(second, film, control, run, 0, 1, 7)).toBe(true);
        });
        expect(traceShare(first, film, control, run, 0, 1, 7)).toBe(true);
        expect(counts.every((c) => c === 1)).toBe(true);
        rewind(control);
        traceShare(second, film, control, run, 1, 2, 7);
        expect(counts.every((c) => c === 2)).toBe(true);
      }),
      { numRuns: 40 },
    );
  });

  it('stops within a tile once it is called off', () => {
    const counts = new Uint8Array(256 * 256);
    const control = createControl();
    const run = nextRun(control);
    let tiles = 0;
    const tracer = counting(256, 256, counts, () => {
      if (++tiles === 3) nextRun(control);
    });
    expect(traceShare(tracer, createFilm(256, 256), control, run, 0, 1, 7)).toBe(false);
    expect(tiles).toBe(3);
    expect(runIsOff(control, run)).toBe(true);
    expect(traceShare(tracer, createFilm(256, 256), control, run, 0, 1, 7)).toBe(false);
    expect(tiles).toBe(3);
  });
});

describe('sample points', () => {
  const drawn = (pixel: number, pair: number, count: number, from = 0) =>
    Array.from({ length: count }, (_, i) => {
      draw(pixel, from + i, pair);
      return [point.x, point.y] as const;
    });

  it('are the kernel’s own, bit for bit', () => {
    const probe = new Probe(sceneOf([]));
    for (let k = 0; k < 500; k++) {
      const pixel = pixelSeed(k, k * 7, k * 3);
      draw(pixel, k * 5, k % 61);
      expect(probe.draw(pixel, k * 5, k % 61)).toEqual([point.x, point.y]);
    }
  });

  it('are the same ones every time, others for other seeds, pixels and dimensions', () => {
    const pixel = pixelSeed(1, 10, 20);
    expect(drawn(pixel, 3, 64)).toEqual(drawn(pixel, 3, 64));
    for (const other of [
      drawn(pixelSeed(2, 10, 20), 3, 64),
      drawn(pixelSeed(1, 11, 20), 3, 64),
      drawn(pixelSeed(1, 20, 10), 3, 64),
      drawn(pixel, 4, 64),
      drawn(pixel, 3, 64, 4096),
    ])
      expect(other).not.toEqual(drawn(pixel, 3, 64));
  });

  it('fill every elementary interval once: sixteen of any sixteen in a row of a block', () => {
    fc.assert(
      fc.property(
        fc.integer(),
        fc.integer({ min: 0, max: 60 }),
        fc.integer({ min: 0, max: 200 }),
        (seed, pair, block) => {
          const points = drawn(pixelSeed(seed, 3, 5), pair, 16, block * 16);
          for (const [across, up] of [
            [16, 1],
            [8, 2],
            [4, 4],
            [2, 8],
            [1, 16],
          ]) {
            const cells = new Set(points.map(([x, y]) => Math.floor(x * across) * up + Math.floor(y * up)));
            expect(cells.size).toBe(16);
          }
        },
      ),
    );
  });

  it('average what they sample faster than chance does', () => {
    // ∫∫ x² y over the unit square is 1/6
    let worst = 0;
    for (let pixel = 0; pixel < 50; pixel++) {
      const points = drawn(pixelSeed(9, pixel, 1), 2, 256);
      const mean = points.reduce((sum, [x, y]) => sum + x * x * y, 0) / 256;
      worst = Math.max(worst, Math.abs(mean - 1 / 6));
    }
    // the standard deviation of a random mean would be 0.014
    expect(worst).toBeLessThan(0.003);
  });
});
