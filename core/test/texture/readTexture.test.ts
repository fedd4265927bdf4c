/** Pictures from files of each kind, and what is said of those that cannot be read. */
import { readFile } from 'node:fs/promises';
import encodeWebp, { init } from '@jsquash/webp/encode';
import { encode as encodePng, type ImageData as Png } from 'fast-png';
import { encode as encodeJpeg } from 'jpeg-js';
import { beforeAll, describe, expect, it } from 'vitest';
import { TEXTURE } from '../../src/ceilings.ts';
import { decodeSrgb } from '../../src/maths/colour.ts';
import { writeExrChannels } from '../../src/picture/exr.ts';
import { readTexture } from '../../src/texture/readTexture.ts';

const CODECS = new URL('../../../node_modules/@jsquash/', import.meta.url);
const compiled = async (file: string) => WebAssembly.compile(await readFile(new URL(file, CODECS)));
const read = (bytes: Uint8Array, coding: 'colour' | 'numbers' = 'colour') =>
  readTexture(bytes, coding, {
    jpeg: () => compiled('jpeg/codec/dec/mozjpeg_dec.wasm'),
    webp: () => compiled('webp/codec/dec/webp_dec.wasm'),
  });

const W = 6;
const H = 4;
const rgba = Uint8ClampedArray.from({ length: W * H * 4 }, (_, i) =>
  i % 4 === 3 ? 255 - i : (i * 37) % 256,
);
const png = (channels: number, data: Uint8Array | Uint16Array, depth: 8 | 16 = 8) =>
  encodePng({ width: W, height: H, channels, depth, data } as Png);

describe('a picture file', () => {
  beforeAll(async () => init(await compiled('webp/codec/enc/webp_enc_simd.wasm')));

  it('of eight bits comes as its bytes: PNG with and without opacity, grey, and WebP', async () => {
    expect([...(await read(png(4, Uint8Array.from(rgba)))).data]).toEqual([...rgba]);
    const grey = Uint8Array.from({ length: W * H }, (_, i) => i * 9);
    expect([...(await read(png(1, grey))).data.subarray(4, 12)]).toEqual([9, 9, 9, 255, 18, 18, 18, 255]);
    const webp = await encodeWebp({ width: W, height: H, data: rgba } as ImageData, {
      lossless: 1,
      exact: 1,
    });
    const made = await read(new Uint8Array(webp));
    expect([made.width, made.height]).toEqual([W, H]);
    expect([...made.data]).toEqual([...rgba]);
  });

  it('of JPEG comes near to what it was made from', async () => {
    const flat = Uint8Array.from({ length: 64 * 4 }, (_, i) => [200, 90, 30, 255][i % 4]!);
    const made = await read(new Uint8Array(encodeJpeg({ width: 8, height: 8, data: flat }, 95).data));
    expect([made.width, made.height]).toEqual([8, 8]);
    flat.forEach((v, i) => expect(Math.abs(made.data[i]! - v)).toBeLessThan(6));
  });

  it('of sixteen bits and of OpenEXR comes in light, numbers as they stand', async () => {
    const deep = Uint16Array.from({ length: W * H }, (_, i) => i * 2000);
    const colour = await read(png(1, deep, 16));
    const numbers = await read(png(1, deep, 16), 'numbers');
    deep.forEach((v, i) => {
      expect(colour.data[i * 4]).toBeCloseTo(decodeSrgb(v / 65535), 5);
      expect(numbers.data[i * 4 + 2]).toBeCloseTo(v / 65535, 6);
    });
    const light = Float32Array.from({ length: W * H }, (_, i) => i * 0.5);
    const exr = writeExrChannels(
      W,
      H,
      ['R', 'G', 'B'].map((name) => ({ name, values: light })),
      'half',
    );
    const made = await read(exr);
    light.forEach((v, i) => expect(made.data[i * 4 + 1]).toBeCloseTo(v, 2));
  });

  it('that cannot be used says what is wrong', async () => {
    const whole = png(4, Uint8Array.from(rgba));
    await expect(read(new TextEncoder().encode('GIF89a'))).rejects.toThrow('no PNG, JPEG, WebP or OpenEXR');
    await expect(read(whole.slice(0, 60))).rejects.toThrow('damaged or cut short');
    const wide = whole.slice();
    new DataView(wide.buffer).setUint32(16, TEXTURE.side + 1);
    await expect(read(wide)).rejects.toThrow(`the largest side read is ${TEXTURE.side}`);
    await expect(read(Uint8Array.of(0xff, 0xd8, 0xff, 0xe0, 0, 4, 1, 1))).rejects.toThrow('how large it is');
  });
});
