import { describe, expect, it } from 'vitest';
import { newPanel, type Panel } from '../../src/document/index.ts';
import { paintPanels, rampAt, solidAngle } from '../../src/light/panels.ts';
import { bearingOf } from '../../src/light/placing.ts';
import { directionAt, positionOf, surroundFacts, type SurroundPicture } from '../../src/light/surround.ts';
import { sunOf } from '../../src/light/sun.ts';

const DEG = Math.PI / 180;
const white = { hue: 'colour' as const, colour: [1, 1, 1] };
const panel = (changes: Partial<Panel>) => newPanel('Panel', { ...white, edge: 0, level: 3, ...changes });
/** Radiance times solid angle of a picture's green. */
function power({ width, height, data }: SurroundPicture): number {
  let sum = 0;
  for (let y = 0; y < height; y++) {
    const area = ((2 * Math.PI) / width) * (Math.PI / height) * Math.sin(((y + 0.5) / height) * Math.PI);
    for (let x = 0; x < width; x++) sum += data[(y * width + x) * 3 + 1] * area;
  }
  return sum;
}
const at = ({ width, height, data }: SurroundPicture, azimuth: number, elevation: number) => {
  const c = Math.cos(elevation);
  const [u, v] = positionOf(c * Math.sin(azimuth), Math.sin(elevation), c * Math.cos(azimuth));
  const i = Math.min(height - 1, Math.floor(v * height)) * width + Math.min(width - 1, Math.floor(u * width));
  return [...data.subarray(i * 3, i * 3 + 3)];
};

describe('panels', () => {
  it('give the light they say: radiance times their closed-form solid angle, soft or hard, anywhere', () => {
    for (const shape of ['box', 'disc', 'ring', 'band'] as const)
      for (const [width, height] of [
        [40, 40],
        [70, 8],
        [0.5, 0.5],
        [90, 20],
      ])
        for (const [elevation, edge] of [
          [0, 0],
          [35, 0],
          [60, 2],
        ]) {
          if (edge > height / 2 || (shape === 'disc' && width !== height)) continue;
          if (shape === 'band' && elevation + height / 2 > 90) continue;
          const of = panel({
            shape,
            width: width * DEG,
            height: height * DEG,
            azimuth: 2.1,
            elevation: elevation * DEG,
            edge: edge * DEG,
          });
          const got = power(paintPanels(null, [of]));
          const share = got / (8 * solidAngle(of));
          expect(Math.abs(share - 1), `${shape} ${width}×${height} at ${elevation}°: ${share}`).toBeLessThan(
            0.02,
          );
        }
  });

  it('stand where they are put, turned as they are turned', () => {
    const strip = panel({ shape: 'box', azimuth: 0.8, elevation: 0.3, width: 60 * DEG, height: 6 * DEG });
    const flat = paintPanels(null, [strip]);
    expect(at(flat, 0.8, 0.3)[1]).toBeCloseTo(8, 4);
    expect(at(flat, 0.8 + 0.4, 0.3)[1]).toBeGreaterThan(0);
    expect(at(flat, 0.8, 0.3 + 0.2)[1]).toBe(0);
    const upright = paintPanels(null, [{ ...strip, turn: Math.PI / 2 }]);
    expect(at(upright, 0.8, 0.3 + 0.2)[1]).toBeGreaterThan(0);
    expect(at(upright, 0.8 + 0.4, 0.3)[1]).toBe(0);
    const facts = surroundFacts(
      paintPanels(null, [panel({ shape: 'disc', azimuth: -1, elevation: 0.5, width: 0.02, height: 0.02 })]),
    );
    const { azimuth, elevation } = bearingOf(facts.peakDirection);
    expect(azimuth).toBeCloseTo(-1, 1);
    expect(elevation).toBeCloseTo(0.5, 1);
  });

  it('cover what they are laid over, or add to it; the last lies on top; those that are off are not there', () => {
    const base: SurroundPicture = { width: 64, height: 32, data: new Float32Array(64 * 32 * 3).fill(2) };
    const over = panel({ elevation: 0, azimuth: 0, width: 1, height: 1 });
    expect(at(paintPanels(base, [over]), 0, 0)[0]).toBeCloseTo(8, 4);
    expect(at(paintPanels(base, [{ ...over, laid: 'added' }]), 0, 0)[0]).toBeCloseTo(10, 4);
    expect(at(paintPanels(base, [over, { ...over, level: 1 }]), 0, 0)[0]).toBeCloseTo(2, 4);
    expect(at(paintPanels(base, [{ ...over, on: false }]), 0, 0)[0]).toBeCloseTo(2, 4);
    expect(at(paintPanels(base, [over]), 2, 0)[0]).toBeCloseTo(2, 4);
    expect(base.data.every((v) => v === 2)).toBe(true);
  });

  it('of a ramp run through their stops as they are told', () => {
    const stops = [
      { at: 0, value: 0, colour: [1, 1, 1] },
      { at: 0.5, value: 2, colour: [1, 0.5, 0] },
      { at: 1, value: 0, colour: [0, 0, 1] },
    ];
    const ramp = { stops, elevation: 0, height: Math.PI };
    expect(rampAt({ ...ramp, blend: 'linear' }, -Math.PI / 4)).toEqual([2.5, 1.5, 0.5]);
    expect(rampAt({ ...ramp, blend: 'held' }, -Math.PI / 4)).toEqual([1, 1, 1]);
    expect(rampAt({ ...ramp, blend: 'held' }, 0.01)).toEqual([4, 2, 0]);
    expect(rampAt({ ...ramp, blend: 'eased' }, -Math.PI / 4)).toEqual([2.5, 1.5, 0.5]);
    expect(rampAt({ ...ramp, blend: 'eased' }, (-3 * Math.PI) / 8)[0]).toBeCloseTo(1 + 3 * 0.15625, 6);
    expect(rampAt({ ...ramp, blend: 'linear', height: 0.2 }, 1)).toEqual([0, 0, 1]);
    const painted = paintPanels(null, [panel({ shape: 'ramp', level: 1, ...ramp, blend: 'held' })]);
    expect(at(painted, 2, 0.3)).toEqual([8, 4, 0]);
    expect(at(painted, -1, -0.3)).toEqual([2, 2, 2]);
  });
});

describe('the sun of a surround', () => {
  const sky = paintPanels(null, [
    panel({ shape: 'ramp', level: 0, stops: [{ at: 0, value: -1, colour: [0.6, 0.8, 1] }] }),
    panel({ shape: 'disc', azimuth: 0.7, elevation: 0.6, width: 1.5 * DEG, height: 1.5 * DEG, level: 14 }),
  ]);

  it('is found where it is, as large, as bright and as coloured as it is', () => {
    const sun = sunOf(sky)!;
    const { azimuth, elevation } = bearingOf(sun.direction);
    expect(Math.abs(azimuth - 0.7)).toBeLessThan(0.2 * DEG);
    expect(Math.abs(elevation - 0.6)).toBeLessThan(0.2 * DEG);
    const solid = 2 * Math.PI * (1 - Math.cos(0.75 * DEG));
    expect(sun.lux[1] / (2 ** 14 * solid)).toBeGreaterThan(0.97);
    expect(sun.lux[1] / (2 ** 14 * solid)).toBeLessThan(1.03);
    expect(sun.radius / (0.75 * DEG)).toBeGreaterThan(0.9);
    expect(sun.radius / (0.75 * DEG)).toBeLessThan(1.1);
    sun.around.forEach((v, c) => expect(v).toBeCloseTo([0.3, 0.4, 0.5][c], 3));
  });

  it('parted from it leaves all light there is: what is covered, and the light in its place', () => {
    const sun = sunOf(sky)!;
    const covered = paintPanels(sky, [
      panel({
        shape: 'disc',
        ...bearingOf(sun.direction),
        width: 2 * sun.reach,
        height: 2 * sun.reach,
        colour: sun.around.map((v) => v / Math.max(...sun.around)),
        level: Math.log2(Math.max(...sun.around)),
      }),
    ]);
    expect((power(covered) + sun.lux[1]) / power(sky)).toBeCloseTo(1, 2);
    expect(sunOf(covered)).toBeNull();
  });

  it('is none in an even sky, nor in a bright half of it', () => {
    expect(sunOf(paintPanels(null, [panel({ shape: 'ramp', stops: [] })]))).toBeNull();
    expect(
      sunOf(paintPanels(null, [panel({ shape: 'disc', width: 1.2, height: 1.2, level: 12 })])),
    ).toBeNull();
    expect(sunOf({ width: 8, height: 4, data: new Float32Array(96) })).toBeNull();
  });

  it('finds directions back', () => {
    const { azimuth, elevation } = bearingOf(directionAt(0.5, 0.25));
    expect(azimuth).toBeCloseTo(Math.PI / 2, 9);
    expect(elevation).toBeCloseTo(Math.PI / 4, 9);
  });
});
