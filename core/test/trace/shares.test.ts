import { describe, expect, it } from 'vitest';
import type { Vec } from '../../src/light/placing.ts';
import { Float16Array } from '@petamoriken/float16';
import { readExr } from 'hdrify';
import { encodeExr } from '../../src/picture/files.ts';
import { developed, developedShares, filmLayers } from '../../src/trace/developing.ts';
import { AT, createFilm, groupNames, groupsWithin, isFinished, MOST_GROUPS } from '../../src/trace/film.ts';
import { lossOf, meanSamples, noiseOf } from '../../src/trace/noise.ts';
import type { Eye } from '../../src/trace/eye.ts';
import { createControl, nextRun, rewind, traceShare } from '../../src/trace/tiles.ts';
import { lamp, LAMPS, room, view } from './lampRoom.ts';
import { meanOf, quad, sceneOf, spotView, traced, tracedFilm, tracerFor } from './sceneFixture.ts';

describe('shares of the light', () => {
  it('sum to the picture, and each is what its source gives alone', () => {
    const scene = room(LAMPS);
    const film = tracedFilm(scene, view, 64, 1, { groups: 3 });
    const picture = developed(film, 64);
    const shares = developedShares(film, picture);
    const each = 40 * 24 * 3;
    for (let i = 0; i < each; i++) {
      const whole = picture[Math.floor(i / 3) * 4 + (i % 3)];
      const sum = shares[i] + shares[each + i] + shares[2 * each + i];
      expect(Math.abs(sum - whole)).toBeLessThanOrEqual(1e-4 * whole);
    }
    const share = (g: number, c: number) => {
      let sum = 0;
      for (let i = c; i < each; i += 3) sum += shares[g * each + i];
      return sum / (each / 3);
    };
    for (const [g, own] of [
      [0, room([LAMPS[0]])],
      [1, room([LAMPS[1]])],
    ] as const) {
      const alone = traced({ ...own, surround: { ...own.surround, gain: 0 } }, view, 128);
      for (let c = 0; c < 3; c++) expect(share(g, c) / meanOf(alone, c)).toBeCloseTo(1, 1.5);
    }
    const dark = room([]);
    for (let c = 0; c < 3; c++) expect(share(2, c) / meanOf(traced(dark, view, 128), c)).toBeCloseTo(1, 1.5);
  });

  it('change nothing of the picture', () => {
    const scene = room(LAMPS);
    const plain = developed(tracedFilm(scene, view, 8), 8);
    const apart = developed(tracedFilm(scene, view, 8, 1, { groups: 3 }), 8);
    expect(Buffer.from(apart.buffer).equals(Buffer.from(plain.buffer))).toBe(true);
  });

  it('beyond the groups kept, fall to the last', () => {
    const names = Array.from({ length: 40 }, (_, i) => `Lamp ${i}`);
    expect(groupsWithin(40, 1000, 1e9)).toBe(MOST_GROUPS);
    expect(groupsWithin(6, 1920 * 1080, 2 ** 28)).toBe(6);
    expect(groupsWithin(24, 1920 * 1080, 2 ** 28)).toBe(10);
    expect(groupsWithin(24, 16384 * 9216, 2 ** 28)).toBe(0);
    expect(groupsWithin(1, 1000, 12_000)).toBe(1);
    const kept = groupNames(createFilm(1, 1, { groups: 10 }), names);
    expect(kept).toHaveLength(10);
    expect(kept[8]).toBe('Lamp 8');
    expect(kept[9]).toBe('All others');
    expect(groupNames(createFilm(1, 1, { groups: 10 }), names.slice(0, 5))).toEqual(names.slice(0, 5));
    const scene = room(LAMPS);
    const film = tracedFilm(scene, view, 4, 1, { groups: 2 });
    const picture = developed(film, 4);
    const shares = developedShares(film, picture);
    const each = 40 * 24 * 3;
    for (let i = 0; i < each; i++)
      expect(shares[i] + shares[each + i]).toBeCloseTo(picture[Math.floor(i / 3) * 4 + (i % 3)], 4);
  });

  it('travel in the picture file by their names', () => {
    const scene = room([
      { ...LAMPS[0], name: 'Key.é' },
      { ...LAMPS[1], name: 'Key.é' },
    ]);
    const film = tracedFilm(scene, view, 2, 1, { groups: 3, layers: true });
    const picture = developed(film, 2);
    const bytes = encodeExr(
      { width: 40, height: 24, data: picture },
      'half',
      filmLayers(film, picture, scene.groups),
    );
    const text = new TextDecoder('latin1').decode(bytes);
    for (const name of ['light Key__.R', 'light Key__ 2.B', 'light Surround.G', 'albedo.R', 'depth.Z'])
      expect(text).toContain(`${name}\0`);
    expect(readExr(bytes).data[0]).toBeCloseTo(Float16Array.of(picture[0])[0], 3);
  });
});

describe('limits on bounces', () => {
  const closed = () => {
    const albedo = {
      base_metalness: 0,
      specular_weight: 0,
      base_weight: 1,
      base_color: [0.9, 0.9, 0.9] as Vec,
    };
    const sides = [
      quad([-1, -1, -1], [2, 0, 0], [0, 2, 0]),
      quad([-1, -1, 1], [0, 2, 0], [2, 0, 0]),
      quad([-1, -1, -1], [0, 2, 0], [0, 0, 2]),
      quad([1, -1, -1], [0, 0, 2], [0, 2, 0]),
      quad([-1, -1, -1], [0, 0, 2], [2, 0, 0]),
      quad([-1, 1, -1], [2, 0, 0], [0, 0, 2]),
    ];
    return sceneOf(sides.map((triangles) => ({ triangles, surface: { ...albedo, emission_luminance: 1 } })));
  };

  it('tell what they lose: 0.9 to the power of the bounces, in a closed box of that albedo', () => {
    const box = closed();
    for (const bounces of [4, 8]) {
      const film = tracedFilm(box, { ...spotView([0, 0, 0.2], [0.1, 0.2, -0.97], 16), bounces }, 512);
      expect(lossOf(film) / 0.9 ** (bounces + 1)).toBeCloseTo(1, 1);
    }
    const open = tracedFilm(box, { ...spotView([0, 0, 0.2], [0.1, 0.2, -0.97], 16), bounces: 1000 }, 16);
    expect(lossOf(open)).toBe(0);
  });

  it('of one kind stop that kind alone', () => {
    const mirror = {
      base_metalness: 1,
      base_weight: 1,
      base_color: [1, 1, 1] as Vec,
      specular_roughness: 0.02,
    };
    const scene = sceneOf(
      [
        {
          triangles: quad([-3, 0, 3], [6, 0, 0], [0, 0, -6]),
          surface: { base_color: [0.5, 0.5, 0.5], specular_weight: 0 },
        },
        { triangles: quad([-3, 0, -1], [6, 0, 0], [0, 3, 0]), surface: mirror },
      ],
      { lights: [lamp('Lamp', 0, [50, 50, 50])], bounces: 8 },
    );
    // straight at the mirror, which shows the floor
    const eye: Eye = { ...spotView([0, 1, 1], [0, -0.4, -0.9165]), bounces: 8 };
    const at = (limits: Eye['limits']) => meanOf(traced(scene, { ...eye, limits }, 64), 1);
    const free = at(null);
    expect(free).toBeGreaterThan(0);
    expect(at({ scattered: 64, mirrored: 0, through: 64 })).toBe(0);
    expect(at({ scattered: 64, mirrored: 1, through: 0 })).toBeGreaterThan(0.8 * free);
    // without scattered bounces lamps still light the floor, but not the floor by the mirror
    const direct = at({ scattered: 0, mirrored: 1, through: 0 });
    expect(direct).toBeGreaterThan(0.5 * free);
    expect(direct).toBeLessThan(free);
  });
});

describe('squares of pixels', () => {
  // above the wall the even surround is seen, below it noise
  const scene = room(LAMPS);
  const eye: Eye = { ...view, origin: [0, 3.2, 4], width: 64, height: 32 };

  it('stop where they are good enough, the same whatever the runs', () => {
    const options = { target: 0.025 };
    const film = tracedFilm(scene, eye, 512, 1, options);
    const stops = [...film.stopped];
    expect(stops.some((s) => s > 0 && s < 256)).toBe(true);
    expect(new Set(stops).size).toBeGreaterThan(1);
    expect(stops.every((s) => s === 0 || (s >= 16 && (s & (s - 1)) === 0))).toBe(true);
    expect(meanSamples(film, 512)).toBeLessThan(512);
    if (isFinished(film)) expect(noiseOf(film, 512)).toBeLessThan(0.025);
    const again = createFilm(eye.width, eye.height, options);
    const tracer = tracerFor(scene, eye);
    const control = createControl();
    for (const [first, last] of [
      [0, 1],
      [1, 16],
      [16, 100],
      [100, 512],
    ]) {
      rewind(control);
      traceShare(tracer, again, control, nextRun(control), first, last, 1);
    }
    expect(Buffer.from(again.state.buffer).equals(Buffer.from(film.state.buffer))).toBe(true);
  });

  it('agree with a picture that did not stop', () => {
    const film = tracedFilm(scene, eye, 512, 1, { target: 0.025 });
    const [a, b] = [developed(film, 512), traced(scene, eye, 512, 5)];
    for (let c = 0; c < 3; c++) expect(meanOf(a, c) / meanOf(b, c)).toBeCloseTo(1, 1.9);
  });
});

describe('light set aside', () => {
  const sum = (picture: Float32Array) => picture.reduce((s, v, i) => (i % 4 < 3 ? s + v : s), 0);
  const grey = () => {
    const film = createFilm(64, 64);
    for (let p = 0; p < 64 * 64; p++) film.sums.set([8, 8, 8, 8], p * film.channels);
    return film;
  };

  it('comes back as a faint glow about a chance hit, and none of it is lost', () => {
    const film = grey();
    const at = (31 * 64 + 20) * film.channels;
    film.sums.set([800, 400, 200], at + AT.aside);
    film.sums[at + AT.events] = 1;
    const picture = developed(film, 8);
    expect(sum(picture)).toBeCloseTo(64 * 64 * 3 + 175, 1);
    // no pixel stands out
    expect(Math.max(...picture)).toBeLessThan(2.3);
    expect(picture[(31 * 64 + 20) * 4]).toBeGreaterThan(picture[(31 * 64 + 26) * 4]);
  });

  it('comes back where it was when more of it follows', () => {
    const film = grey();
    for (const [x, n] of [
      [20, 2],
      [21, 2],
    ]) {
      const at = (31 * 64 + x) * film.channels;
      film.sums.set([800, 400, 200], at + AT.aside);
      film.sums[at + AT.events] = n;
    }
    const picture = developed(film, 8);
    expect(picture[(31 * 64 + 20) * 4]).toBeCloseTo(101, 3);
    expect(picture[(31 * 64 + 19) * 4]).toBe(1);
  });

  it('goes nowhere that nothing is seen', () => {
    const film = createFilm(16, 16);
    const at = (8 * 16 + 8) * film.channels;
    film.sums.set([1, 1, 1, 8], at);
    film.sums.set([80, 80, 80], at + AT.aside);
    film.sums[at + AT.events] = 1;
    const picture = developed(film, 8);
    expect(picture[(8 * 16 + 8) * 4]).toBeCloseTo(10.125, 5);
    expect(sum(picture)).toBeCloseTo(3 * 10.125, 4);
  });
});
