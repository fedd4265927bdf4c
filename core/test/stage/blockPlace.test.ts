import * as fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { axisOf, blockCorners, blockTransform, carried } from '../../src/stage/blockPlace.ts';

const upright = { position: [0.2, 0.5, -0.3], turn: 0, tilt: 0, roll: 0 };
const close = (v: readonly number[]) => v.map((n) => expect.closeTo(n, 9) as number);

describe('where a block stands', () => {
  it('upright its plane is that of x and y', () => {
    expect(carried(blockTransform(upright), [1, 2, 3])).toEqual(close([1.2, 2.5, 2.7]));
  });

  it('turned, its line goes away to the right', () => {
    expect(axisOf({ ...upright, turn: Math.PI / 2 }, 0)).toEqual(close([0, 0, -1]));
    expect(axisOf({ ...upright, turn: Math.PI / 2 }, 2)).toEqual(close([1, 0, 0]));
  });

  it('tilted by a quarter it lies on its back: its top is behind, its front looks up', () => {
    const lying = { ...upright, tilt: Math.PI / 2 };
    expect(axisOf(lying, 1)).toEqual(close([0, 0, -1]));
    expect(axisOf(lying, 2)).toEqual(close([0, 1, 0]));
    const corners = blockCorners(lying, [-1, -0.1, 1, 0.4], [-0.05, 0.02]);
    const along = (k: number) => corners.map((c) => c[k]);
    expect([Math.min(...along(1)), Math.max(...along(1))]).toEqual(close([0.45, 0.52]));
    expect([Math.min(...along(2)), Math.max(...along(2))]).toEqual(close([-0.7, -0.2]));
    // laid down and turned, its line still lies on the ground
    expect(axisOf({ ...lying, turn: 0.7 }, 0)[1]).toBeCloseTo(0, 9);
  });

  it('rolled, its right side goes up', () => {
    expect(axisOf({ ...upright, roll: Math.PI / 2 }, 0)).toEqual(close([0, 1, 0]));
  });

  it('keeps lengths and hands, however it stands', () => {
    const angle = fc.double({ min: -3, max: 3, noNaN: true });
    fc.assert(
      fc.property(angle, angle, angle, (turn, tilt, roll) => {
        const place = { ...upright, turn, tilt, roll };
        const [x, y, z] = [axisOf(place, 0), axisOf(place, 1), axisOf(place, 2)];
        const dot = (a: readonly number[], b: readonly number[]) => a.reduce((s, v, k) => s + v * b[k], 0);
        for (const v of [x, y, z]) expect(dot(v, v)).toBeCloseTo(1, 9);
        expect(dot(x, y)).toBeCloseTo(0, 9);
        expect(dot(x, z)).toBeCloseTo(0, 9);
        const cross = [x[1] * y[2] - x[2] * y[1], x[2] * y[0] - x[0] * y[2], x[0] * y[1] - x[1] * y[0]];
        expect(cross).toEqual(close(z));
      }),
    );
  });
});
