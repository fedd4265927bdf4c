import { describe, expect, it } from 'vitest';
import { differenceOf, resized } from '../../src/picture/compare.ts';
import { encodeExr, PictureError, readLinearPicture } from '../../src/picture/files.ts';

const picture = (width: number, height: number, at: (x: number, y: number, c: number) => number) => {
  const data = new Float32Array(width * height * 4);
  data.forEach((_, i) => {
    const p = i >> 2;
    data[i] = at(p % width, Math.floor(p / width), i & 3);
  });
  return { width, height, data };
};

describe('linear pictures', () => {
  it('differ by nothing from themselves, and by what was added from others', () => {
    const a = picture(6, 4, (x, y, c) => (c === 3 ? 1 : 0.1 * x + 0.2 * y + c));
    expect(differenceOf(a, a)).toMatchObject({ mean: 0, most: 0 });
    const b = picture(6, 4, (x, y, c) => (c === 3 ? 1 : 0.1 * x + 0.2 * y + c + 0.5));
    const { most, picture: d } = differenceOf(a, b);
    expect(most).toBeCloseTo(0.5, 5);
    for (let i = 0; i < d.data.length; i++) expect(d.data[i]).toBeCloseTo((i & 3) === 3 ? 1 : 0.5, 5);
  });

  it('are brought to another size: a ramp stays a ramp, a flat one stays flat', () => {
    const ramp = resized(
      picture(8, 2, (x, _y, c) => (c === 0 ? x : 3)),
      16,
      4,
    );
    for (let x = 1; x < 15; x++) expect(ramp.data[x * 4]).toBeCloseTo((x + 0.5) / 2 - 0.5, 5);
    expect(ramp.data.filter((_, i) => (i & 3) === 1).every((v) => v === 3)).toBe(true);
    const { mean } = differenceOf(
      picture(8, 8, () => 2),
      picture(4, 4, () => 2),
    );
    expect(mean).toBe(0);
  });

  it('come back from the file a proof keeps, in half precision, layers beside them or not', () => {
    const a = picture(5, 3, (x, y, c) => (c === 3 ? 1 : x * 7.3 + y + c * 1e-3));
    const layers = {
      albedo: new Float32Array(45).fill(0.5),
      normal: new Float32Array(45).fill(1),
      depth: new Float32Array(15).fill(Infinity),
    };
    for (const more of [undefined, layers]) {
      const back = readLinearPicture(encodeExr(a, 'half', more));
      expect([back.width, back.height]).toEqual([5, 3]);
      // binary16 keeps eleven bits
      back.data.forEach((v, i) =>
        expect(Math.abs(v - a.data[i])).toBeLessThanOrEqual(a.data[i] * 2 ** -11 + 1e-7),
      );
    }
    expect(() => readLinearPicture(new Uint8Array(40))).toThrow(PictureError);
    expect(() => readLinearPicture(encodeExr(a, 'half').slice(0, 300))).toThrow(PictureError);
  });
});
