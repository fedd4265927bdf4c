/** PNG pictures as plain channels, palettes and fewer than eight bits unpacked. */
import { decode } from 'fast-png';

export interface PlainPng {
  width: number;
  height: number;
  /** One grey or three colours, and opacity where it has one. */
  channels: number;
  colours: 1 | 3;
  data: Uint8Array | Uint8ClampedArray | Uint16Array;
  /** What a channel at its fullest is. */
  full: number;
}

/** @throws what the decoder throws when the file is damaged */
export function readPng(bytes: Uint8Array): PlainPng {
  const { width, height, channels, data, depth, palette } = decode(bytes);
  const plain = (count: number) => ({ width, height, channels: count, colours: count < 3 ? 1 : 3 }) as const;
  if (!palette && depth >= 8) return { ...plain(channels), data, full: 2 ** depth - 1 };
  const count = palette ? 4 : 1;
  const out = new Uint8Array(width * height * count);
  const perByte = 8 / depth;
  const row = Math.ceil(width / perByte);
  const most = 2 ** depth - 1;
  for (let i = 0; i < width * height; i++) {
    const x = i % width;
    const byte = data[((i - x) / width) * row + Math.floor(x / perByte)];
    const value = (byte >> (8 - depth - (x % perByte) * depth)) & most;
    if (palette) for (let c = 0; c < 4; c++) out[i * 4 + c] = palette[value]?.[c] ?? 255;
    else out[i] = Math.round((value / most) * 255);
  }
  return { ...plain(count), data: out, full: 255 };
}
