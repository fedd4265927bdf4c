import { readExr } from 'hdrify';
import { describe, expect, it } from 'vitest';
import { writeExrChannels } from '../../src/picture/exr.ts';
import { encodeExr } from '../../src/picture/files.ts';

const [width, height] = [37, 41];
const data = Float32Array.from(
  { length: width * height * 4 },
  (_, i) => ((i * 0.61803) % 7) - (i % 4 === 3 ? 0 : 0.5),
);
const read = (bytes: Uint8Array) => readExr(bytes, { sanitize: false });

describe('EXR files', () => {
  it('keep floats to the bit and halves to eleven bits, over uneven blocks', () => {
    const float = read(encodeExr({ width, height, data }, 'float'));
    expect([float.width, float.height]).toEqual([width, height]);
    expect(float.data).toEqual(data);
    const half = read(encodeExr({ width, height, data }, 'half'));
    half.data.forEach((v, i) =>
      expect(Math.abs(v - data[i])).toBeLessThanOrEqual(Math.abs(data[i]) * 2 ** -11 + 1e-7),
    );
  });

  it('carry layers beside the picture, and depth always in float', () => {
    const pixels = width * height;
    const layers = {
      albedo: new Float32Array(pixels * 3).fill(0.25),
      normal: new Float32Array(pixels * 3).fill(-0.5),
      depth: new Float32Array(pixels).fill(12345.678),
    };
    const bytes = encodeExr({ width, height, data }, 'half', layers);
    expect(read(bytes).data.length).toBe(data.length);
    const header = new TextDecoder('latin1').decode(bytes.slice(0, 600));
    const names = [
      'A',
      'B',
      'G',
      'R',
      'albedo.B',
      'albedo.G',
      'albedo.R',
      'depth.Z',
      'normal.X',
      'normal.Y',
      'normal.Z',
    ];
    const found = names.map((n) => header.indexOf(`\0${n}\0`));
    expect(found.every((at) => at > 0)).toBe(true);
    // alphabetical, as the standard asks
    expect(found).toEqual([...found].sort((a, b) => a - b));
    expect(header.charCodeAt(header.indexOf('depth.Z\0') + 8)).toBe(2);
    expect(header.charCodeAt(header.indexOf('albedo.R\0') + 9)).toBe(1);
  });

  it('pack what repeats', () => {
    const flat = writeExrChannels(
      512,
      512,
      [{ name: 'Y', values: new Float32Array(512 * 512).fill(0.7) }],
      'float',
    );
    expect(flat.length).toBeLessThan(512 * 512 * 0.1);
  });
});
