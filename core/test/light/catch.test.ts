import { describe, expect, it } from 'vitest';
import { newLight } from '../../src/document/index.ts';
import { caught, caughtStance, throwing } from '../../src/light/catch.ts';
import { placeLight, type Vec } from '../../src/light/placing.ts';
import { intoPicture, outOfPicture } from '../../src/light/surround.ts';
import { lot } from '../../src/maths/lot.ts';

const unit = (v: Vec): Vec => v.map((c) => c / Math.hypot(...v)) as Vec;
const less = (a: Vec, b: Vec): Vec => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
const dot = (a: Vec, b: Vec) => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];

describe('catching light', () => {
  it('puts the mirrored peak within half a degree of the place, or the brightest direction on it', () => {
    let caughtAtAll = 0;
    for (let i = 0; i < 10_000; i++) {
      const random = (k: number, low: number, high: number) => low + (high - low) * lot(i, k, 5);
      const point: Vec = [random(0, -1, 1), random(1, 0, 0.6), random(2, -0.1, 0.1)];
      const normal = unit([random(3, -1, 1), random(4, -1, 1), random(5, 0.05, 1)]);
      const eye: Vec = [random(6, -3, 3), random(7, 0, 3), random(8, 3, 8)];
      const centre: Vec = [0, 0.3, 0];
      const mirrors = i % 2 === 0;
      const kind = (['area', 'spot', 'directional'] as const)[i % 3];
      const light = newLight(kind, 'L', {
        aim: [random(9, -0.5, 0.5), random(10, -0.2, 0.2), 0],
        ...(kind === 'directional' ? {} : { distance: random(11, 2.5, 6) }),
      });
      const place = caught(light, centre, { point, normal, eye, mirrors });
      if (!place) {
        // not seen
        expect(dot(less(eye, point), normal)).toBeLessThanOrEqual(0);
        continue;
      }
      caughtAtAll++;
      const { position, forward } = placeLight({ ...light, ...place }, centre);
      const to = kind === 'directional' ? (forward.map((v) => -v) as Vec) : unit(less(position, point));
      const seen = unit(less(eye, point));
      // half way between where light comes from and where it goes
      const half = mirrors ? unit([to[0] + seen[0], to[1] + seen[1], to[2] + seen[2]]) : to;
      expect(Math.acos(Math.min(1, dot(half, normal)))).toBeLessThan((0.5 * Math.PI) / 180 / 2);
    }
    expect(caughtAtAll).toBeGreaterThan(5000);
  });

  it('says that a light nearer to its aim than the place is cannot be caught there', () => {
    const light = newLight('area', 'L', { distance: 0.1 });
    const at = { point: [2, 0, 0] as Vec, normal: [0, 0, 1] as Vec, eye: [2, 0, 5] as Vec, mirrors: true };
    expect(caught(light, [0, 0, 0], at)).toBeNull();
  });
});

describe('a surround', () => {
  it('turned and tilted has the place it is caught by in the direction it is caught from', () => {
    let seed = 7;
    const next = () => (seed = (seed * 48271) % 2147483647) / 2147483647;
    const direction = (): Vec => {
      const [y, a] = [2 * next() - 1, 2 * Math.PI * next()];
      const r = Math.sqrt(1 - y * y);
      return [r * Math.cos(a), y, r * Math.sin(a)];
    };
    let [caughtAll, refused] = [0, 0];
    for (let k = 0; k < 2000; k++) {
      const [picture, world, roll] = [direction(), direction(), k % 2 ? 0 : next() * 2 - 1];
      const stance = caughtStance(roll, picture, world);
      if (!stance) {
        refused++;
        continue;
      }
      caughtAll++;
      outOfPicture(intoPicture({ ...stance, roll }), ...picture).forEach((v, i) =>
        expect(v).toBeCloseTo(world[i], 6),
      );
    }
    expect(caughtAll).toBeGreaterThan(1000);
    expect(refused).toBeGreaterThan(100);
    // what needs no tilt is not tilted
    expect(caughtStance(0, [1, 0, 0], [0, 0, 1])!.tilt).toBeCloseTo(0, 9);
  });
});

describe('a shadow that is dragged', () => {
  it('falls where it is dragged to, from a light at the distance it had', () => {
    for (const light of [
      newLight('spot', 'Spot', { distance: 3, aim: [0.1, 0.05, 0] }),
      newLight('area', 'Area', { distance: 2 }),
      newLight('directional', 'Sun'),
    ]) {
      const centre: Vec = [0.2, 0.3, 0];
      const caster: Vec = [0.1, 0.5, 0.05];
      for (const shadow of [
        [0.4, 0, -0.6],
        [-0.7, 0, 0.3],
        [0.1, 0, -0.01],
      ] as Vec[]) {
        const place = throwing(light, centre, caster, shadow)!;
        const { position, forward } = placeLight({ ...light, ...place }, centre);
        const way =
          light.kind === 'directional' ? forward.map((v) => -v) : position.map((v, i) => v - shadow[i]!);
        const [a, b] = [way, caster.map((v, i) => v - shadow[i]!)].map((v) =>
          v.map((x) => x / Math.hypot(...v)),
        );
        a!.forEach((v, i) => expect(v).toBeCloseTo(b![i]!, 6));
      }
    }
    expect(throwing(newLight('spot', 'Spot', { distance: 0.2 }), [0, 0, 0], [0, 5, 0], [9, 0, 0])).toBeNull();
  });
});
