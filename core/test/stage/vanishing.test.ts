import * as fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { newCamera, type Camera } from '../../src/document/index.ts';
import { cameraFrame, inFrame } from '../../src/stage/camera.ts';
import { cameraOfEdges, type FrameLine, type LinePair } from '../../src/stage/vanishing.ts';

const ASPECT = 16 / 9;
const number = (min: number, max: number) => fc.double({ min, max, noNaN: true });
type Place = readonly [number, number, number];

/** Edges on the floor as a camera sees them: a pair along x, and one along z. */
function edges(camera: Camera): [LinePair, LinePair] {
  const frame = cameraFrame(camera, ASPECT);
  const line = (a: Place, b: Place): FrameLine => [inFrame(frame, a), inFrame(frame, b)];
  return [
    [line([-0.3, 0, 0.2], [0.3, 0, 0.2]), line([-0.3, 0, -0.4], [0.3, 0, -0.4])],
    [line([-0.2, 0, 0.3], [-0.2, 0, -0.3]), line([0.3, 0, 0.3], [0.3, 0, -0.3])],
  ];
}

const start = (camera: Camera) =>
  newCamera({ target: camera.target, distance: camera.distance, focal: 85, azimuth: 1 });

describe('a camera matched to edges', () => {
  it('is the one that saw them, within 0.1 %', () => {
    fc.assert(
      fc.property(
        fc.record({
          azimuth: number(0.15, 0.65),
          mirrored: fc.boolean(),
          elevation: number(0.15, 0.9),
          roll: number(-0.3, 0.3),
          focal: number(18, 135),
        }),
        ({ azimuth, mirrored, ...own }) => {
          const seen = newCamera({
            ...own,
            azimuth: mirrored ? -azimuth : azimuth,
            target: [0, 0, 0],
            distance: 3,
          });
          const found = cameraOfEdges(edges(seen), ASPECT, start(seen));
          if (typeof found === 'string') throw new Error(found);
          expect(Math.abs(found.focal / seen.focal - 1)).toBeLessThan(1e-3);
          for (const key of ['elevation', 'roll'] as const)
            expect(Math.abs(found[key] - seen[key])).toBeLessThan(1e-3);
          // seen from a corner, either direction may be the word's
          const quarters = (found.azimuth - seen.azimuth) / (Math.PI / 2);
          expect(Math.abs(quarters - Math.round(quarters))).toBeLessThan(1e-3);
          expect(found.distance).toBe(seen.distance);
        },
      ),
      { numRuns: 300 },
    );
  });

  it('keeps its focal length where one pair is parallel in the picture', () => {
    const seen = newCamera({ target: [0, 0, 0], distance: 3, elevation: 0.4, azimuth: 0, focal: 35 });
    const found = cameraOfEdges(edges(seen), ASPECT, { ...start(seen), focal: 35 });
    expect(found).toMatchObject({ focal: 35 });
    expect((found as Camera).elevation).toBeCloseTo(0.4, 4);
    expect((found as Camera).azimuth).toBeCloseTo(0, 4);
  });

  it('says why there is none', () => {
    const at = (across: number, up: number) => ({ across, up });
    const here: FrameLine = [at(0, 0), at(0, 0)];
    const pair: LinePair = [
      [at(-0.5, -0.5), at(-0.2, 0)],
      [at(0.5, -0.5), at(0.2, 0)],
    ];
    const camera = newCamera();
    expect(cameraOfEdges([[here, here], pair], ASPECT, camera)).toBe('no-line');
    expect(cameraOfEdges([pair, pair], ASPECT, camera)).toBe('no-right-angle');
    const level: LinePair = [
      [at(-0.5, -0.5), at(0.5, -0.5)],
      [at(-0.5, 0.5), at(0.5, 0.5)],
    ];
    expect(cameraOfEdges([level, level], ASPECT, camera)).toBe('one-direction');
  });
});
