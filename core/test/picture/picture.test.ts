import { decode } from 'fast-png';
import { newGrade } from '../../src/document/index.ts';
import { describe, expect, it } from 'vitest';
import { encodeSrgb, fromHex, toHex, blackBody, luminance } from '../../src/maths/colour.ts';
import {
  encodeExr,
  encodeHdr,
  encodePng,
  PictureError,
  readSurroundPicture,
} from '../../src/picture/files.ts';
import { displayed, softShoulder, toneMapped16, toneMapped8 } from '../../src/picture/tone.ts';

const plain = newGrade({ exposure: 0, view: 'plain' });
const soft = newGrade({ exposure: 0, view: 'soft' });

describe('display', () => {
  it('is the sRGB curve in the plain view, to half a step of 16 bits near white and 1e-4 below', () => {
    for (let i = 0; i <= 1000; i++) {
      const v = i / 1000;
      expect(Math.abs(displayed([v, v, v], plain)[0] - encodeSrgb(v))).toBeLessThan(1e-4);
    }
    expect(displayed([7, 1, -1], plain)).toEqual([1, 1, 0]);
  });

  it('by the soft shoulder keeps dark and middle colours and never reaches clipping', () => {
    const toned = (r: number, g: number, b: number) => {
      const rgb = [r, g, b];
      softShoulder(rgb);
      return rgb;
    };
    // the specification: below the shoulder only the Fresnel toe of 0.04 is taken off
    expect(toned(0.5, 0.3, 0.2)).toEqual([0.5 - 0.04, expect.closeTo(0.26, 12), expect.closeTo(0.16, 12)]);
    let last = 0;
    for (let v = 0; v < 200; v += 0.5) {
      const [r] = toned(v, v, v);
      expect(r).toBeGreaterThanOrEqual(last);
      expect(r).toBeLessThan(1);
      last = r;
    }
    // saturated brightness goes to white
    const [r, , b] = toned(400, 10, 1);
    expect(r - b).toBeLessThan(0.1);
  });

  it('moves by stops', () => {
    const up = toneMapped8(Float32Array.of(0.1, 0.1, 0.1, 1), { ...plain, exposure: 1 });
    expect(up).toEqual(toneMapped8(Float32Array.of(0.2, 0.2, 0.2, 1), plain));
  });

  it('takes the alpha out of half-covered pixels', () => {
    expect([...toneMapped8(Float32Array.of(0.25, 0.25, 0.25, 0.5), plain)]).toEqual(
      [...toneMapped8(Float32Array.of(0.5, 0.5, 0.5, 1), plain)].map((v, i) => (i === 3 ? 128 : v)),
    );
    expect(toneMapped16(Float32Array.of(1, 1, 1, 1), plain)[0]).toBe(65535);
  });
});

describe('picture files', () => {
  const picture = {
    width: 32,
    height: 16,
    data: Float32Array.from({ length: 32 * 16 * 4 }, (_, i) => (i % 4 === 3 ? 1 : (i * 0.37) % 50)),
  };

  it('EXR keeps floats exactly and HDR within its 8-bit mantissa', () => {
    const exr = readSurroundPicture(encodeExr(picture));
    const hdr = readSurroundPicture(encodeHdr(picture));
    for (let p = 0; p < 32 * 16; p++) {
      const peak = Math.max(...picture.data.slice(p * 4, p * 4 + 3));
      for (let c = 0; c < 3; c++) {
        expect(exr.data[p * 3 + c]).toBe(picture.data[p * 4 + c]);
        expect(Math.abs(hdr.data[p * 3 + c] - picture.data[p * 4 + c])).toBeLessThan(peak / 100 + 1e-6);
      }
    }
  });

  it('PNG holds what the display shows', () => {
    for (const depth of [8, 16] as const) {
      const png = decode(encodePng(picture, soft, depth));
      const shown = depth === 8 ? toneMapped8(picture.data, soft) : toneMapped16(picture.data, soft);
      expect(png.depth).toBe(depth);
      expect([...png.data]).toEqual([...shown]);
    }
  });

  it('refuses what cannot light a scene, and says why', () => {
    expect(() => readSurroundPicture(new Uint8Array(100))).toThrow(/neither/);
    const huge = new TextEncoder().encode('#?RADIANCE\nFORMAT=32-bit_rle_rgbe\n\n-Y 40000 +X 80000\n');
    expect(() => readSurroundPicture(huge)).toThrow(/80000 × 40000/);
    const cut = encodeHdr(picture).slice(0, 400);
    expect(() => readSurroundPicture(cut)).toThrow(PictureError);
  });
});

describe('colour', () => {
  it('goes to hexadecimal and back', () => {
    for (const hex of ['#000000', '#9fd8bd', '#ffffff', '#010203']) expect(toHex(fromHex(hex))).toBe(hex);
  });

  it('of black bodies has luminance one, warm below 6500 K and cool above', () => {
    for (const kelvin of [1800, 3200, 5600, 9000, 20_000])
      expect(luminance(...blackBody(kelvin))).toBeCloseTo(1, 9);
    const [r, , b] = blackBody(6504);
    expect(Math.abs(r / b - 1)).toBeLessThan(0.06);
    expect(blackBody(3000)[0]).toBeGreaterThan(blackBody(3000)[2]);
    expect(blackBody(12_000)[0]).toBeLessThan(blackBody(12_000)[2]);
  });
});

describe('what stands behind an open picture', () => {
  const half = Float32Array.of(0.25, 0.25, 0.25, 0.5, 0, 0, 0, 0, 1, 1, 1, 1);
  const grade = { exposure: 0, view: 'plain' as const };
  it('is nothing, black or a colour, laid together as light', () => {
    expect([...toneMapped8(half, grade)].filter((_, i) => i % 4 === 3)).toEqual([128, 0, 255]);
    const black = toneMapped8(half, { ...grade, backdrop: 'black' });
    expect([...black].filter((_, i) => i % 4 === 3)).toEqual([255, 255, 255]);
    expect(black[4]).toBe(0);
    expect(black[0]).toBe(Math.round(encodeSrgb(0.25) * 255));
    const colour = toneMapped8(half, { ...grade, backdrop: 'colour', backdrop_colour: [0.5, 0, 0] });
    expect(colour[0]).toBe(Math.round(encodeSrgb(0.5) * 255));
    expect(colour[1]).toBe(Math.round(encodeSrgb(0.25) * 255));
    expect(colour[4]).toBe(Math.round(encodeSrgb(0.5) * 255));
    // what covers all stays as it is, and exposure is the picture's alone
    expect([...colour.subarray(8, 11)]).toEqual([255, 255, 255]);
    expect(
      toneMapped8(half, { ...grade, exposure: -3, backdrop: 'colour', backdrop_colour: [0.5, 0, 0] })[4],
    ).toBe(colour[4]);
  });
});
