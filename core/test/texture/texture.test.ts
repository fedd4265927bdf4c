/** Levels of pictures against plain area averages. */
import { describe, expect, it } from 'vitest';
import { decodeSrgb } from '../../src/maths/colour.ts';
import { PAINTED_TEXTURES, paintTexture } from '../../src/texture/paintedTextures.ts';
import { byteTable, textureOf, type Coding, type Texture } from '../../src/texture/texture.ts';

/** Bytes that follow from their place alone. */
const speckled = (width: number, height: number) => ({
  width,
  height,
  data: Uint8Array.from(
    { length: width * height * 4 },
    (_, i) => (Math.imul(i + 1, 2654435761) >>> 16) & 255,
  ),
});

/** A pixel's channel at a level, linear. */
function at(texture: Texture, level: number, x: number, y: number, c: number): number {
  const width = Math.max(1, texture.width >> level);
  const byte = texture.data[texture.levels[level] + (y * width + x) * 4 + c];
  return c === 3 ? byte / 255 : byteTable(texture.coding)[byte];
}

describe('the levels of a picture', () => {
  it.each<[number, number, Coding]>([
    [16, 8, 'colour'],
    [16, 8, 'numbers'],
    [13, 7, 'colour'],
    [1, 9, 'numbers'],
    [5, 1, 'colour'],
  ])('of %i × %i as %s each hold the mean of their area', (width, height, coding) => {
    const pixels = speckled(width, height);
    const texture = textureOf('t', pixels, coding);
    expect(texture.levels).toHaveLength(Math.floor(Math.log2(Math.max(width, height))) + 1);
    // a level rounds its mean to a byte, and each is made of the one before
    const step = coding === 'colour' ? 0.006 : 0.003;
    for (let level = 1; level < texture.levels.length; level++) {
      const [w, h] = [Math.max(1, width >> level), Math.max(1, height >> level)];
      const [pw, ph] = [Math.max(1, width >> (level - 1)), Math.max(1, height >> (level - 1))];
      for (let y = 0; y < h; y++)
        for (let x = 0; x < w; x++)
          for (let c = 0; c < 4; c++) {
            let [sum, weight] = [0, 0];
            for (let j = 0; j < ph; j++)
              for (let i = 0; i < pw; i++) {
                const overlap = (k: number, n: number, from: number, to: number) =>
                  Math.max(0, Math.min(k + 1, ((n + 1) * from) / to) - Math.max(k, (n * from) / to));
                const share = overlap(i, x, pw, w) * overlap(j, y, ph, h);
                sum += share * at(texture, level - 1, i, j, c);
                weight += share;
              }
            expect(Math.abs(at(texture, level, x, y, c) - sum / weight)).toBeLessThan(step);
          }
    }
  });

  it('end in the mean of the whole, in light for colours and in numbers for numbers', () => {
    const half = { width: 2, height: 1, data: Uint8Array.of(0, 0, 0, 255, 255, 255, 255, 0) };
    const colour = textureOf('t', half, 'colour');
    expect(colour.mean[0]).toBeCloseTo(0.5, 2);
    expect(colour.data[8]).toBe(188);
    expect(textureOf('t', half, 'numbers').data[8]).toBe(128);
    expect(colour.mean[3]).toBeCloseTo(0.5, 2);
  });

  it('of deep pictures keep light beyond white, and know the brightest', () => {
    const texture = textureOf(
      't',
      { width: 2, height: 2, data: Float32Array.from({ length: 16 }, (_, i) => (i < 4 ? 40 : 0)) },
      'colour',
    );
    expect(texture.deep).toBe(true);
    expect(texture.peak).toBe(40);
    expect(texture.mean[0]).toBeCloseTo(10, 2);
  });
});

describe('a painted picture', () => {
  it.each(PAINTED_TEXTURES.map((p) => p.id))('%s meets itself at its edges', (id) => {
    const { width, height, data } = paintTexture(id);
    const light = (x: number, y: number) => {
      const i = (((y + height) % height) * width + ((x + width) % width)) * 4;
      return [0, 1, 2].reduce((sum, c) => sum + decodeSrgb(data[i + c] / 255), 0);
    };
    /** Mean change from one row of pixels to the next, and from one column. */
    const changes = (x: number, y: number) => {
      let [across, up] = [0, 0];
      for (let k = 0; k < width; k++) {
        across += Math.abs(light(x, k) - light(x - 1, k));
        up += Math.abs(light(k, y) - light(k, y - 1));
      }
      return [across / width, up / width];
    };
    const seam = changes(0, 0);
    const inner = Array.from({ length: 63 }, (_, i) => changes((i + 1) * 16, (i + 1) * 16));
    // no more than the sharpest of what lies within
    for (const k of [0, 1])
      expect(seam[k]).toBeLessThanOrEqual(Math.max(...inner.map((c) => c[k])) * 1.5 + 0.02);
  });
});
