import { describe, expect, it } from 'vitest';
import { newFeed, plainSurface, type Feed } from '../../src/document/index.ts';
import { laying } from '../../src/texture/laying.ts';
import { textureOf } from '../../src/texture/texture.ts';
import { meanOf, quad, sceneOf, spotView, traced } from '../trace/sceneFixture.ts';

/** A picture whose red is how far across a place lies, and its green how far up. */
const RAMP = {
  width: 64,
  height: 32,
  data: Float32Array.from({ length: 64 * 32 * 4 }, (_, i) => {
    const [x, y] = [(i >> 2) % 64, Math.floor((i >> 2) / 64)];
    return [(x + 0.5) / 64, 1 - (y + 0.5) / 32, 0, 1][i & 3]!;
  }),
};

describe('a picture as it is laid', () => {
  it.each<Partial<Feed>>([
    { lay: 'letter' },
    { lay: 'letter', zoom: 0.6, shift_x: 0.15, shift_y: -0.1 },
    { lay: 'block', turn: 0.7, zoom: 1.4 },
    { lay: 'tiles', tile: 1.7, turn: -0.3, shift_y: 0.2 },
  ])('lies where the tracer finds it: %o', (more) => {
    const feed: Feed = {
      ...newFeed('a', 'emission_color', [1, 1, 1]),
      source: 'picture',
      picture: { source: 'asset', id: 'p', name: 'p' },
      ...more,
    };
    const scene = sceneOf(
      [
        {
          triangles: quad([-0.5, -0.3, 0], [1, 0, 0], [0, 0.6, 0]),
          surface: plainSurface({ base_color: [0, 0, 0], specular_weight: 0, emission_luminance: 1 }),
          feeds: [feed],
        },
      ],
      { textures: [textureOf('asset:p:colour', RAMP, 'colour')] },
    );
    scene.parts.group.fill(scene.groups.push('Glow') - 1);
    const place = laying({ ...feed, shift: [feed.shift_x, feed.shift_y] }, 2, [0, 0, 1, 0.6]);
    const peak = Math.max(...RAMP.data.filter((_, i) => (i & 3) < 3));
    for (const [x, y] of [
      [-0.3, -0.2],
      [0.1, 0.15],
      [0.35, -0.05],
    ]) {
      const [u, v] = place(x, y).map((t) => t - Math.floor(t));
      // at the seam the picture goes on with its other edge
      if (Math.min(u, 1 - u, v, 1 - v) < 0.06) continue;
      const seen = traced(scene, spotView([x, y, 2], [0, 0, -1]), 128);
      expect(Math.abs(meanOf(seen, 0) * peak - u)).toBeLessThan(0.03);
      expect(Math.abs(meanOf(seen, 1) * peak - v)).toBeLessThan(0.03);
    }
  });
});
