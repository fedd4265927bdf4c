import { encode } from 'fast-png';
import { describe, expect, it } from 'vitest';
import { decodeSrgb } from '../../src/maths/colour.ts';
import { encodeHdr } from '../../src/picture/files.ts';
import { BRIGHTEST, KNEE, readSurround, unclipped } from '../../src/texture/readSurround.ts';

const none = { jpeg: () => Promise.reject(new Error()), webp: () => Promise.reject(new Error()) };
const png = (width: number, height: number, value: number) =>
  new Uint8Array(
    encode({ width, height, channels: 3, depth: 8, data: new Uint8Array(width * height * 3).fill(value) }),
  );

describe('surrounds from plain pictures', () => {
  it('stay as they are up to the knee, rise without a step or a bend, and end at the brightest', () => {
    for (const v of [0, 0.2, KNEE]) expect(unclipped(v)).toBe(v);
    expect(unclipped(1)).toBe(BRIGHTEST);
    expect((unclipped(KNEE + 1e-5) - KNEE) / 1e-5).toBeCloseTo(1, 4);
    for (let v = 0; v < 1; v += 0.01) expect(unclipped(v + 0.01)).toBeGreaterThan(unclipped(v));
  });

  it('are read as light', async () => {
    const grey = await readSurround(png(8, 4, 128), none);
    expect([grey.width, grey.height, grey.data.length]).toEqual([8, 4, 96]);
    for (const v of grey.data) expect(v).toBeCloseTo(decodeSrgb(128 / 255), 6);
    expect((await readSurround(png(8, 4, 255), none)).data[0]).toBe(BRIGHTEST);
  });

  it('keep what files with a range of their own say, and refuse what is none', async () => {
    const data = new Float32Array(8 * 4 * 4).fill(100);
    const hdr = await readSurround(encodeHdr({ width: 8, height: 4, data }), none);
    expect(hdr.data[0] / 100).toBeCloseTo(1, 1);
    await expect(readSurround(png(8, 8, 1), none)).rejects.toThrow(
      '8 × 8; an unwrapped environment is twice',
    );
    await expect(readSurround(new Uint8Array([1, 2, 3, 4]), none)).rejects.toThrow(
      'no Radiance .hdr, OpenEXR, PNG',
    );
    await expect(readSurround(png(8, 4, 9).slice(0, 40), none)).rejects.toThrow('damaged');
  });
});
