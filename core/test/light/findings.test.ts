import { describe, expect, it } from 'vitest';
import { newLight } from '../../src/document/index.ts';
import { LEVELS, levelOf, lightFindings, type LitRow } from '../../src/light/findings.ts';
import { placeLight, type Vec } from '../../src/light/placing.ts';

const centre: Vec = [0, 0.3, 0];
const type = { min: [-0.4, 0.2, -0.05] as Vec, max: [0.4, 0.4, 0.05] as Vec };
const nowhere = { floor: null, wall: null };
/** A row of a hundred places, so many of each luminance. */
function row(name: string, places: [nits: number, count: number][], more: Partial<LitRow> = {}): LitRow {
  const levels = new Uint32Array(LEVELS);
  for (const [nits, count] of places) levels[levelOf(nits)] += count;
  return { name, type: true, mirrors: false, glows: false, levels, ...more };
}
const good = row('Front', [[0.2, 100]]);
const codes = (rows: LitRow[], exposure = 0) =>
  lightFindings(rows, exposure, [], type, nowhere).map((f) => f.code);

describe('what is wrong with the light', () => {
  it('has levels by half stops', () => {
    expect(levelOf(1) - levelOf(0.5)).toBe(2);
    expect(levelOf(0)).toBe(0);
    expect([levelOf(1e-9), levelOf(1e9)]).toEqual([0, LEVELS - 1]);
  });

  it('is nothing where the type is about grey', () => {
    expect(codes([good])).toEqual([]);
    expect(codes([good, row('Floor', [[0, 100]], { type: false })])).toEqual([]);
  });

  it('is not how bright letters glow, nor that it is dark about them', () => {
    expect(codes([row('Front', [[40, 100]], { glows: true }), row('Side', [[1e-4, 90]])])).toEqual([]);
  });

  it('is darkness that is mirrored, or light that is missing', () => {
    const dark = [
      [1e-4, 95],
      [3, 5],
    ] as [number, number][];
    expect(codes([good, row('Bevel', dark, { mirrors: true })])).toEqual(['mirrors darkness']);
    expect(codes([good, row('Side', dark)])).toEqual(['unlit']);
    // beside an exposure that is off, what is black at the right one is told
    expect(codes([row('Front', [[0.01, 100]]), row('Side', [[1e-5, 80]])])).toEqual(['exposure', 'unlit']);
    // all of it is dark
    expect(codes([row('Front', [[1e-5, 100]])])).toEqual(['unlit']);
    // at eight stops more it is not dark
    expect(codes([row('Side', [[1e-3, 100]])], 8)).toEqual([]);
  });

  it('is an exposure that is off, and by how much, or what is burnt', () => {
    const [off] = lightFindings([row('Front', [[0.18 / 16, 100]])], 0, [], type, nowhere);
    expect(off.code).toBe('exposure');
    expect(off.amount).toBeCloseTo(-4, 0);
    expect(off.mend).toMatchObject({ by: 'exposure', stops: -off.amount });
    const burnt = row('Front', [
      [0.2, 55],
      [3, 45],
    ]);
    expect(codes([burnt])).toEqual(['burnt']);
    expect(codes([burnt], -2)).toEqual([]);
    // what is burnt because all is too bright is told once
    expect(codes([row('Front', [[30, 100]])])).toEqual(['exposure']);
  });

  it('is a light or the camera inside a letter', () => {
    const lights = [newLight('point', 'Bulb', { id: 'bulb' }), newLight('area', 'Key', { id: 'key' })];
    const within = { lights: ['bulb'], camera: true };
    const found = lightFindings([good], 0, lights, type, nowhere, within);
    expect(found.map((f) => [f.code, f.mend])).toEqual([
      ['camera inside', { by: 'step back' }],
      ['inside a letter', { by: 'away', light: 'bulb' }],
    ]);
  });

  it('is light from one side alone, where faces are black for it; the move fills from the other', () => {
    const black = row('Side', [
      [1e-4, 95],
      [3, 5],
    ]);
    const lamp = (azimuth: number, elevation = 0.1) => newLight('area', 'Lamp', { azimuth, elevation });
    const told = (shares: [number, ReturnType<typeof lamp> | null][], rows = [good, black]) =>
      lightFindings(
        rows,
        0,
        [],
        type,
        nowhere,
        undefined,
        shares.map(([share, light]) => ({ share, all: share, light })),
      );
    const [, side] = told([
      [0.7, lamp(1.3)],
      [0.25, lamp(1.6)],
      [0.05, null],
    ]);
    expect(side.code).toBe('one side');
    if (side.mend.by !== 'fill') throw new Error('no fill');
    expect(side.mend.azimuth).toBeLessThan(-1);
    // from both sides, from all around, from the front, or with nothing black there is nothing to tell
    const none: Parameters<typeof told>[] = [
      [
        [
          [0.5, lamp(1.3)],
          [0.5, lamp(-1.3)],
        ],
      ],
      [
        [
          [0.6, lamp(1.3)],
          [0.4, null],
        ],
      ],
      [[[1, lamp(0.1)]]],
      [[[1, lamp(1.3)]], [good]],
    ];
    for (const args of none) expect(told(...args).map((f) => f.code)).not.toContain('one side');
  });

  it('is a light that gives nothing, for it shines past the type, and none that lights what stands about it', () => {
    const past = [
      newLight('spot', 'Wide of it', { cone: 0.2, distance: 2, azimuth: 0, elevation: 0, aim: [1.2, 0, 0] }),
      newLight('area', 'Away', { stands: 'free', place: [0, 0, 1], aim: [0, 0, 3] }),
    ];
    const meets = [
      newLight('spot', 'At its end', { cone: 0.2, distance: 2, azimuth: 0, elevation: 0, aim: [0.7, 0, 0] }),
      newLight('area', 'Before it', { stands: 'free', place: [0, 0, 1], aim: [0, 0, -3] }),
      newLight('point', 'Lamp', {}),
    ];
    const told = (all: number) =>
      lightFindings([good], 0, [], type, nowhere, undefined, [
        { share: 1, all: 1, light: null },
        ...[...past, ...meets].map((light) => ({ share: 0, all, light })),
      ]).map((f) => [f.code, f.where[0], f.mend]);
    expect(told(0)).toEqual(past.map(({ id, name }) => ['past the type', name, { by: 'aim', light: id }]));
    expect(told(0.2)).toEqual([]);
    // with nothing else there is no light at all
    const alone = lightFindings([good], 0, [], type, nowhere, undefined, [
      { share: 0, all: 0, light: past[0] },
    ]);
    expect(alone.map((f) => f.code)).toEqual(['past the type']);
  });

  it('is a light under the floor or behind the wall, and the move brings it out', () => {
    const lights = [
      newLight('area', 'Low', { id: 'low', elevation: -0.6, azimuth: 0.4 }),
      newLight('spot', 'Back', { id: 'back', elevation: 0.5, azimuth: 2.8 }),
      newLight('directional', 'Sun', { elevation: -0.5 }),
    ];
    const stage = { floor: 0, wall: -0.1 };
    const found = lightFindings([good], 0, lights, type, stage);
    expect(found.map((f) => [f.code, f.where])).toEqual([
      ['under the floor', ['Low']],
      ['behind the wall', ['Back']],
    ]);
    for (const { mend } of found) {
      if (mend.by !== 'move') throw new Error('a move was to be named');
      const light = lights.find((l) => l.id === mend.light)!;
      const { position } = placeLight({ ...light, ...mend }, centre);
      expect(position[1]).toBeGreaterThan(0);
      expect(position[2]).toBeGreaterThan(-0.1);
    }
  });
});
