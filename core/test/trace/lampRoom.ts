/** A floor before a wall under two lamps, red to the left and blue to the right, in even light from all around. */
import type { Vec } from '../../src/light/placing.ts';
import type { Eye } from '../../src/trace/eye.ts';
import { flatSurround, quad, sceneOf, spotView, type TestLight } from './sceneFixture.ts';

const floor = {
  triangles: quad([-3, 0, 3], [6, 0, 0], [0, 0, -6]),
  surface: { base_color: [0.7, 0.6, 0.5] as Vec },
};
const wall = {
  triangles: quad([-3, 0, -1], [6, 0, 0], [0, 3, 0]),
  surface: { base_color: [0.5, 0.6, 0.7] as Vec },
};
export const lamp = (name: string, x: number, colour: Vec): TestLight =>
  ({
    kind: 'area',
    name,
    shadow: true,
    width: 0.4,
    height: 0.4,
    placed: { position: [x, 2, 0.5], forward: [0, -1, 0], right: [1, 0, 0], up: [0, 0, -1], colour },
  }) as TestLight;
export const view: Eye = {
  ...spotView([0, 1, 4], [0, 0, -1]),
  orthographic: false,
  width: 40,
  height: 24,
  right: [0.5, 0, 0],
  up: [0, 0.3, 0],
  bounces: 6,
};
export const room = (lights: TestLight[], turn = 0.3) =>
  sceneOf([floor, wall], {
    lights,
    surround: { picture: flatSurround(3, 2, 1), gain: 1, turn, seen: true },
    bounces: 6,
  });
export const LAMPS = [lamp('Left', -1, [40, 10, 5]), lamp('Right', 1, [5, 10, 60])];
