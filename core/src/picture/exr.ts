/**
 * OpenEXR files of any channels in half or float, ZIP-compressed scanlines (OpenEXR file layout, version 2,
 * single part). The codecs on the registry write colour and alpha only.
 */
import { Float16Array } from '@petamoriken/float16';
import { zlibSync } from 'fflate';

export interface ExrChannel {
  /** "R", or with its layer "albedo.R". */
  name: string;
  /** One value a pixel, rows from the top. */
  values: Float32Array;
  /** Values of one channel may lie apart: first index and step in `values`. */
  offset?: number;
  stride?: number;
  /** Kept in 32 bits whatever the rest is. */
  float?: boolean;
}

const HALF = 1;
const FLOAT = 2;
const ZIP = 3;
/** Largest half float: brighter is written as this, never as infinity (IEEE 754-2019, binary16). */
const LARGEST_HALF = 65504;
/** Scanlines of a ZIP block. */
const BLOCK = 16;

class Bytes {
  private readonly parts: Uint8Array[] = [];
  length = 0;
  add(bytes: Uint8Array): void {
    this.parts.push(bytes);
    this.length += bytes.length;
  }
  int(...values: number[]): void {
    this.add(new Uint8Array(Int32Array.from(values).buffer));
  }
  float(...values: number[]): void {
    this.add(new Uint8Array(Float32Array.from(values).buffer));
  }
  text(...values: string[]): void {
    for (const v of values) this.add(new TextEncoder().encode(`${v}\0`));
  }
  attribute(name: string, type: string, fill: (value: Bytes) => void): void {
    const value = new Bytes();
    fill(value);
    this.text(name, type);
    this.int(value.length);
    this.add(value.joined());
  }
  joined(): Uint8Array<ArrayBuffer> {
    const out = new Uint8Array(this.length);
    let at = 0;
    for (const part of this.parts) {
      out.set(part, at);
      at += part.length;
    }
    return out;
  }
}

const halves = (line: Float32Array) =>
  new Float16Array(line.map((v) => Math.min(LARGEST_HALF, Math.max(-LARGEST_HALF, v))));

/** The ZIP predictor: even and odd bytes apart, then differences. */
function predicted(raw: Uint8Array): Uint8Array {
  const out = new Uint8Array(raw.length);
  const half = Math.ceil(raw.length / 2);
  for (let i = 0; i < raw.length; i++) out[(i & 1 ? half : 0) + (i >> 1)] = raw[i];
  for (let i = out.length - 1; i > 0; i--) out[i] = (out[i] - out[i - 1] + 128) & 255;
  return out;
}

/** Writes channels of one size as an OpenEXR file. @param depth of channels that do not ask for float */
export function writeExrChannels(
  width: number,
  height: number,
  channels: ExrChannel[],
  depth: 'half' | 'float',
): Uint8Array<ArrayBuffer> {
  const sorted = [...channels].sort((a, b) => (a.name < b.name ? -1 : 1));
  const isFloat = (c: ExrChannel) => depth === 'float' || c.float === true;
  const header = new Bytes();
  header.int(20000630, 2);
  header.attribute('channels', 'chlist', (v) => {
    for (const c of sorted) {
      v.text(c.name);
      v.int(isFloat(c) ? FLOAT : HALF, 0, 1, 1);
    }
    v.add(new Uint8Array(1));
  });
  header.attribute('compression', 'compression', (v) => v.add(Uint8Array.of(ZIP)));
  header.attribute('dataWindow', 'box2i', (v) => v.int(0, 0, width - 1, height - 1));
  header.attribute('displayWindow', 'box2i', (v) => v.int(0, 0, width - 1, height - 1));
  header.attribute('lineOrder', 'lineOrder', (v) => v.add(new Uint8Array(1)));
  header.attribute('pixelAspectRatio', 'float', (v) => v.float(1));
  header.attribute('screenWindowCenter', 'v2f', (v) => v.float(0, 0));
  header.attribute('screenWindowWidth', 'float', (v) => v.float(1));
  header.add(new Uint8Array(1));

  const blocks: Uint8Array[] = [];
  for (let y0 = 0; y0 < height; y0 += BLOCK) {
    const rows = Math.min(BLOCK, height - y0);
    const raw = new Bytes();
    for (let y = y0; y < y0 + rows; y++) {
      for (const c of sorted) {
        const line = new Float32Array(width);
        const { offset = 0, stride = 1 } = c;
        for (let x = 0; x < width; x++) line[x] = c.values[offset + (y * width + x) * stride];
        raw.add(new Uint8Array((isFloat(c) ? line : halves(line)).buffer as ArrayBuffer));
      }
    }
    const plain = raw.joined();
    const packed = zlibSync(predicted(plain));
    const data = packed.length < plain.length ? packed : plain;
    const block = new Bytes();
    block.int(y0, data.length);
    block.add(data);
    blocks.push(block.joined());
  }
  const out = new Bytes();
  out.add(header.joined());
  let at = header.length + blocks.length * 8;
  for (const block of blocks) {
    out.add(new Uint8Array(BigUint64Array.of(BigInt(at)).buffer));
    at += block.length;
  }
  for (const block of blocks) out.add(block);
  return out.joined();
}
