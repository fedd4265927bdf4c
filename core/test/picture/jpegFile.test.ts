import { readFileSync } from 'node:fs';
import { decode } from 'jpeg-js';
import { describe, expect, it } from 'vitest';
import { newGrade } from '../../src/document/index.ts';
import { encodeJpeg } from '../../src/picture/jpegFile.ts';
import { toneMapped8 } from '../../src/picture/tone.ts';

const ENCODER = new URL('../../../node_modules/@jsquash/jpeg/codec/enc/mozjpeg_enc.wasm', import.meta.url);
const compiled = () => WebAssembly.compile(readFileSync(ENCODER));

/** Light that rises from left to right and turns from red to blue from top to bottom, open in its right half. */
function picture(width: number, height: number) {
  const data = new Float32Array(width * height * 4);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const [light, blue] = [x / width, y / height];
      data.set([light * (1 - blue), light * 0.3, light * blue, x < width / 2 ? 1 : 0], (y * width + x) * 4);
    }
  return { width, height, data };
}

describe('JPEG files', () => {
  it('show the picture under its grade, laid over black, and leave it as it was', async () => {
    const ungraded = picture(96, 64);
    const before = Float32Array.from(ungraded.data);
    const grade = newGrade({ exposure: 0.5 });
    const bytes = await encodeJpeg(ungraded, grade, compiled);
    expect(ungraded.data).toEqual(before);
    const read = decode(bytes, { useTArray: true });
    expect([read.width, read.height]).toEqual([96, 64]);
    const opaque = Float32Array.from(before, (v, i) => (i % 4 === 3 ? 1 : v));
    const wanted = toneMapped8(opaque, grade);
    const off = [...read.data].map((v, i) => (i % 4 === 3 ? 0 : Math.abs(v - wanted[i]!)));
    expect(off.reduce((a, b) => a + b, 0) / (96 * 64 * 3)).toBeLessThan(1.5);
    expect(Math.max(...off)).toBeLessThan(16);
  });

  it('are the same bytes each time', async () => {
    const [a, b] = [
      await encodeJpeg(picture(40, 30), newGrade(), compiled),
      await encodeJpeg(picture(40, 30), newGrade(), compiled),
    ];
    expect(a).toEqual(b);
  });

  it('say when a picture is too long for them', async () => {
    const long = { width: 70_000, height: 1, data: new Float32Array(0) };
    await expect(encodeJpeg(long, newGrade(), compiled)).rejects.toThrow(
      'the longest side of a JPEG is 65535',
    );
  });
});
