/** Which way brushed strokes run over a face, against the same face brushed that way by a turn. */
import { describe, expect, it } from 'vitest';
import type { Surface } from '../../src/document/index.ts';
import type { Vec } from '../../src/light/placing.ts';
import { any, placed } from './lightFixture.ts';
import { meanOf, quad, sceneOf, spotView, traced } from './sceneFixture.ts';

/** A square metre before the eye, facing it, its middle aside; its outline's direction is to the right. */
const [MIDDLE_X, MIDDLE_Y] = [1, 2];
const PAGE = quad([MIDDLE_X - 0.5, MIDDLE_Y - 0.5, 0], [1, 0, 0], [0, 1, 0]);
const STEEL: Partial<Surface> = {
  base_metalness: 1,
  base_color: [1, 1, 1],
  specular_roughness: 0.4,
  specular_roughness_anisotropy: 0.9,
};
/** Light that a highlight drawn out to one side only shows: not in the plane of any stroke. */
const SUN = {
  kind: 'directional' as const,
  ...any,
  placed: placed([0, 0, 1], 1, [-0.35, -0.1, -0.93]),
};

/** What the page sends to the eye at a place of it. */
function seenAt(
  [x, y]: [number, number],
  surface: Partial<Surface>,
  triangles = PAGE,
  way: Vec = [0, 0, -1],
): number {
  const scene = sceneOf([{ triangles, surface: { ...STEEL, ...surface } }], { lights: [SUN] });
  const from: Vec = [x - 2 * way[0], y - 2 * way[1], -2 * way[2]];
  return meanOf(traced(scene, spotView(from, way), 8), 0);
}
const turned = (degrees: number) => ({ specular_rotation: (degrees * Math.PI) / 180 });

describe('brushed strokes', () => {
  it('run around the middle of their letter, and away from it when they are turned', () => {
    const [straight, upright] = [seenAt([MIDDLE_X, MIDDLE_Y], {}), seenAt([MIDDLE_X, MIDDLE_Y], turned(90))];
    // the two are told apart by far
    expect(Math.abs(straight / upright - 1)).toBeGreaterThan(0.5);
    const places: [number, number, number][] = [
      [0.4, 0, 90],
      [0, 0.4, 0],
      [0, -0.4, 0],
      [-0.3, 0.3, 45],
      [0.3, 0.3, 135],
    ];
    for (const [x, y, degrees] of places) {
      const place: [number, number] = [MIDDLE_X + x, MIDDLE_Y + y];
      const around = seenAt(place, { specular_brushing: 'around' });
      expect(around / seenAt(place, turned(degrees))).toBeCloseTo(1, 1);
      const radial = seenAt(place, { specular_brushing: 'around', ...turned(90) });
      expect(radial / seenAt(place, turned(degrees + 90))).toBeCloseTo(1, 1);
    }
  });

  it('run along the line where outlines run otherwise, and along the outline on faces that look along the line', () => {
    // leaning to the side: its outline's direction is upright
    const leaning = quad([-0.5, -0.5, 0.4], [1, 0, -0.8], [0, 1, 0]);
    const along = seenAt([0, 0], { specular_brushing: 'line' }, leaning);
    expect(along / seenAt([0, 0], turned(90), leaning)).toBeCloseTo(1, 2);
    const side = quad([0, -0.5, 0.5], [0, 0, -1], [0, 1, 0]);
    const aside: Vec = [-1, 0, 0];
    expect(seenAt([0, 0], { specular_brushing: 'line' }, side, aside)).toBe(seenAt([0, 0], {}, side, aside));
  });
});
