/** Noises and patterns as pictures, against what is traced of a square that glows by them. */
import { expect, it } from 'vitest';
import { newFeed, plainFinish, plainSurface, type Feed } from '../../src/document/index.ts';
import { recipeOf } from '../../src/finish/recipe.ts';
import { PATTERN_PIXELS, patternPicture } from '../../src/trace/patternBake.ts';
import { kernelModule } from './kernelFixture.ts';
import { meanOf, quad, sceneOf, spotView, traced } from './sceneFixture.ts';

const GLOW = { base_color: [0, 0, 0] as [number, number, number], specular_weight: 0 };
const SIDE = 0.4;
const glowing = (source: Feed['source']): Feed => ({
  ...newFeed('f', 'emission_luminance', 0),
  source,
  scale: 0.1,
  blend: 'linear',
  stops: [
    { at: 0, value: 0, colour: [1, 1, 1] },
    { at: 1, value: 10, colour: [1, 1, 1] },
  ],
});

it.each(['noise', 'turbulence', 'cells', 'weave', 'bricks'] as const)(
  '%s is the same as a picture',
  (source) => {
    const feed = glowing(source);
    const { axes } = recipeOf({ ...plainFinish({ id: 'f', name: 'F' }), feeds: [feed] })!;
    const picture = patternPicture(kernelModule, false, axes[0]!, SIDE);
    expect(
      Math.max(...picture.subarray(0, 20_000)) - Math.min(...picture.subarray(0, 20_000)),
    ).toBeGreaterThan(6000);
    const scene = sceneOf([
      { triangles: quad([0, 0, 0], [SIDE, 0, 0], [0, SIDE, 0]), surface: plainSurface(GLOW), feeds: [feed] },
    ]);
    for (const [x, y] of [
      [0.11, 0.31],
      [0.33, 0.12],
      [0.2, 0.07],
      [0.06, 0.22],
    ] as const) {
      const [column, row] = [x / SIDE, 1 - y / SIDE].map((v) => Math.floor(v * PATTERN_PIXELS));
      const seen = meanOf(traced(scene, { ...spotView([x, y, 1], [0, 0, -1], 2) }, 64), 0) / 10;
      // an edge may lie within a pixel
      const near = [-1, 0, 1].flatMap((dy) =>
        [-1, 0, 1].map((dx) => picture[(row! + dy) * PATTERN_PIXELS + column! + dx]! / 65_535),
      );
      expect(seen).toBeGreaterThan(Math.min(...near) - 0.03);
      expect(seen).toBeLessThan(Math.max(...near) + 0.03);
    }
  },
);
