import { readExr } from 'hdrify';
import { describe, expect, it } from 'vitest';
import { encodeExr, encodeHdr, PictureError, readSurroundPicture } from '../../src/picture/files.ts';
import { readRgbe, rgbeSize, toRgbe } from '../../src/picture/rgbe.ts';

const text = (s: string) => new TextEncoder().encode(s);
const file = (size: string, ...bytes: number[]) =>
  Uint8Array.from([...text(`#?RADIANCE\nSOFTWARE=none\nFORMAT=32-bit_rle_rgbe\n\n${size}\n`), ...bytes]);
const read = (bytes: Uint8Array) => [...readRgbe(bytes, rgbeSize(bytes)!)];

describe('.hdr pictures', () => {
  it('are read by the format’s rule: mantissa / 256 · 2^(exponent − 128)', () => {
    expect(read(file('-Y 1 +X 2', 200, 100, 3, 128, 128, 255, 0, 131))).toEqual([
      200 / 256,
      100 / 256,
      3 / 256,
      4,
      (255 / 256) * 8,
      0,
    ]);
    // an exponent of nought is black, whatever the mantissas
    expect(read(file('-Y 1 +X 1', 9, 9, 9, 0))).toEqual([0, 0, 0]);
  });

  it('are read in run-length code of both kinds, and from every corner', () => {
    const coded = file('-Y 1 +X 8', 2, 2, 0, 8, 136, 128, 4, 1, 2, 3, 4, 132, 5, 136, 64, 136, 129);
    expect(read(coded).filter((_, i) => i % 3 === 1)).toEqual(
      [1, 2, 3, 4, 5, 5, 5, 5].map((m) => (m / 256) * 2),
    );
    const old = file('-Y 1 +X 4', 128, 0, 0, 129, 1, 1, 1, 3);
    expect(read(old).filter((_, i) => i % 3 === 0)).toEqual([1, 1, 1, 1]);
    const pixels = [1, 2, 3, 4].flatMap((v) => [v * 32, 0, 0, 136]);
    const red = (size: string) => read(file(size, ...pixels)).filter((_, i) => i % 3 === 0);
    expect(red('-Y 2 +X 2')).toEqual([32, 64, 96, 128]);
    expect(red('+Y 2 +X 2')).toEqual([96, 128, 32, 64]);
    expect(red('-Y 2 -X 2')).toEqual([64, 32, 128, 96]);
  });

  it('come back exactly when eight bits hold them, from the darkest to the brightest', () => {
    const data = new Float32Array(32 * 16 * 4);
    for (let i = 0; i < 32 * 16; i++) {
      const exponent = (i % 200) - 110;
      data.set([...[200, 100, 3].map((m) => m * 2 ** exponent), 1], i * 4);
    }
    const back = readSurroundPicture(encodeHdr({ width: 32, height: 16, data }));
    for (let i = 0; i < 32 * 16; i++)
      for (let c = 0; c < 3; c++) expect(back.data[i * 3 + c]).toBe(data[i * 4 + c]);
  });

  it('round to the nearest mantissa, half a step at most', () => {
    const bytes = new Uint8Array(4);
    for (let k = 0; k < 4000; k++) {
      const peak = 2 ** ((k % 97) - 48) * (1 + ((k * 0.618) % 1));
      toRgbe(peak, peak * 0.37, peak * 0.011, bytes, 0);
      const step = 2 ** (bytes[3] - 136);
      [1, 0.37, 0.011].forEach((share, c) =>
        expect(Math.abs(bytes[c] * step - peak * share)).toBeLessThanOrEqual(step / 2),
      );
      expect(bytes[0]).toBeGreaterThanOrEqual(128);
    }
    toRgbe(Infinity, 0, NaN, bytes, 0);
    expect([...bytes]).toEqual([255, 0, 0, 255]);
  });

  it('that are damaged are refused in words', () => {
    const whole = encodeHdr({ width: 32, height: 16, data: new Float32Array(32 * 16 * 4).fill(1) });
    for (let cut = 60; cut < whole.length; cut += 7)
      expect(() => readSurroundPicture(whole.slice(0, cut))).toThrow(PictureError);
    for (let at = 60; at < whole.length; at++) {
      const bad = whole.slice();
      bad[at] ^= 0x91;
      try {
        readSurroundPicture(bad);
      } catch (error) {
        expect(error).toBeInstanceOf(PictureError);
      }
    }
  });
});

describe('half-float EXR', () => {
  it('holds its largest number for what is brighter, never infinity', () => {
    const data = Float32Array.from([1e6, 70000, 65519, -1e9, 65504, 1, 0.5, 1]);
    const back = readExr(encodeExr({ width: 2, height: 1, data }, 'half'), { sanitize: false }).data;
    expect([...back]).toEqual([65504, 65504, 65504, -65504, 65504, 1, 0.5, 1]);
  });
});
