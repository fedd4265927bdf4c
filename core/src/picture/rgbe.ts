/**
 * Radiance .hdr pictures: three mantissas with one exponent a pixel, mantissa / 256 · 2^(exponent − 128), in
 * run-length coded scanlines (Ward, "Real Pixels", Graphics Gems II, 1991; Radiance file formats, picture files).
 * The codec on the registry reads half a step too bright and writes dark pixels with too few bits.
 */

import { floorLog2 } from '../maths/reproducible.ts';

interface RgbeSize {
  width: number;
  height: number;
  /** Where the scanlines begin. */
  start: number;
  /** Scanlines from the bottom, pixels from the right. */
  fromBottom: boolean;
  fromRight: boolean;
}

/** Most bytes of a header. */
const LONGEST_HEADER = 65536;

/** The resolution line of a file; null when it has none that can be read (only scanlines along x are). */
export function rgbeSize(bytes: Uint8Array): RgbeSize | null {
  const head = new TextDecoder('latin1').decode(bytes.subarray(0, LONGEST_HEADER));
  const found = /\n\s*\n([-+])Y (\d{1,9}) ([-+])X (\d{1,9})\n/.exec(head.replaceAll('\r', ' '));
  if (!found) return null;
  return {
    height: Number(found[2]),
    width: Number(found[4]),
    start: found.index + found[0].length,
    fromBottom: found[1] === '+',
    fromRight: found[3] === '-',
  };
}

/** Shortest and longest scanlines that are coded component by component. */
const SHORTEST_RUN_LINE = 8;
const LONGEST_RUN_LINE = 32767;

class Reader {
  private readonly bytes: Uint8Array;
  private at: number;
  constructor(bytes: Uint8Array, at: number) {
    this.bytes = bytes;
    this.at = at;
  }

  private next(): number {
    if (this.at >= this.bytes.length) throw new RangeError('the picture is cut short');
    return this.bytes[this.at++];
  }

  /** One scanline into `line`, four bytes a pixel. */
  scanline(line: Uint8Array, width: number): void {
    const b = this.bytes;
    const coded =
      width >= SHORTEST_RUN_LINE &&
      width <= LONGEST_RUN_LINE &&
      b[this.at] === 2 &&
      b[this.at + 1] === 2 &&
      b[this.at + 2] < 128;
    if (!coded) return this.plain(line, width);
    if (((b[this.at + 2] << 8) | b[this.at + 3]) !== width)
      throw new RangeError('a scanline has another width');
    this.at += 4;
    for (let c = 0; c < 4; c++) {
      for (let x = 0; x < width;) {
        const count = this.next();
        const run = count > 128;
        const length = run ? count - 128 : count;
        if (length === 0 || x + length > width) throw new RangeError('a scanline runs over');
        const value = run ? this.next() : 0;
        for (let i = 0; i < length; i++, x++) line[x * 4 + c] = run ? value : this.next();
      }
    }
  }

  /** Pixels as they are, or repeated: red, green and blue of 1 say so, with the count in the exponent. */
  private plain(line: Uint8Array, width: number): void {
    let shift = 0;
    for (let x = 0; x < width;) {
      const pixel = [this.next(), this.next(), this.next(), this.next()];
      if (pixel[0] === 1 && pixel[1] === 1 && pixel[2] === 1) {
        const count = pixel[3] << shift;
        if (x === 0 || x + count > width || shift > 24) throw new RangeError('a run goes over its scanline');
        for (let i = 0; i < count; i++, x++) line.copyWithin(x * 4, (x - 1) * 4, x * 4);
        shift += 8;
      } else {
        line.set(pixel, x++ * 4);
        shift = 0;
      }
    }
  }
}

/**
 * Reads the pixels of a file whose size is known.
 * @returns r g b for each pixel, rows from the top
 * @throws RangeError when the file is cut short or damaged
 */
export function readRgbe(
  bytes: Uint8Array,
  { width, height, start, fromBottom, fromRight }: RgbeSize,
): Float32Array {
  const out = new Float32Array(width * height * 3);
  const line = new Uint8Array(width * 4);
  const reader = new Reader(bytes, start);
  for (let row = 0; row < height; row++) {
    reader.scanline(line, width);
    const y = fromBottom ? height - 1 - row : row;
    for (let i = 0; i < width; i++) {
      const to = (y * width + (fromRight ? width - 1 - i : i)) * 3;
      const exponent = line[i * 4 + 3];
      const scale = exponent === 0 ? 0 : 2 ** (exponent - 136);
      for (let c = 0; c < 3; c++) out[to + c] = line[i * 4 + c] * scale;
    }
  }
  return out;
}

/** Largest value that is written: mantissa 255 at the largest exponent, less than which is left to rounding. */
const BRIGHTEST = 255 * 2 ** (255 - 136);

/** Red, green and blue as three rounded mantissas and their exponent, into four bytes at `at`. */
export function toRgbe(r: number, g: number, b: number, to: Uint8Array, at: number): void {
  const [cr, cg, cb] = [r, g, b].map((v) => (v > 0 ? Math.min(BRIGHTEST, v) : 0));
  const peak = Math.max(cr, cg, cb);
  if (!(peak >= 2 ** -128)) {
    to.fill(0, at, at + 4);
    return;
  }
  // the peak's mantissa lies in [128, 256); rounding up to 256 takes the next exponent
  let exponent = floorLog2(peak) + 129;
  if (peak / 2 ** (exponent - 136) >= 255.5) exponent++;
  if (peak / 2 ** (exponent - 136) < 127.75) exponent--;
  exponent = Math.min(255, Math.max(1, exponent));
  const scale = 2 ** (exponent - 136);
  to[at] = Math.round(cr / scale);
  to[at + 1] = Math.round(cg / scale);
  to[at + 2] = Math.round(cb / scale);
  to[at + 3] = exponent;
}

/** Shortest run that is worth its two bytes. */
const RUN = 4;

function addComponent(line: Uint8Array, c: number, width: number, out: number[]): void {
  const value = (x: number) => line[x * 4 + c];
  const runAt = (x: number) => {
    let n = 1;
    while (x + n < width && n < 127 && value(x + n) === value(x)) n++;
    return n;
  };
  for (let x = 0; x < width;) {
    const run = runAt(x);
    if (run >= RUN) {
      out.push(128 + run, value(x));
      x += run;
      continue;
    }
    const from = x;
    while (x < width && x - from < 128 && runAt(x) < RUN) x++;
    out.push(x - from);
    for (let i = from; i < x; i++) out.push(value(i));
  }
}

/**
 * Writes a picture.
 * @param data r, g, b, alpha for each pixel, rows from the top; alpha is left out
 */
export function writeRgbe(width: number, height: number, data: Float32Array): Uint8Array<ArrayBuffer> {
  const head = new TextEncoder().encode(`#?RADIANCE\nFORMAT=32-bit_rle_rgbe\n\n-Y ${height} +X ${width}\n`);
  const parts: Uint8Array[] = [head];
  const coded = width >= SHORTEST_RUN_LINE && width <= LONGEST_RUN_LINE;
  for (let y = 0; y < height; y++) {
    const line = new Uint8Array(width * 4);
    for (let x = 0; x < width; x++) {
      const at = (y * width + x) * 4;
      toRgbe(data[at], data[at + 1], data[at + 2], line, x * 4);
    }
    if (!coded) {
      parts.push(line);
      continue;
    }
    const out = [2, 2, width >> 8, width & 255];
    for (let c = 0; c < 4; c++) addComponent(line, c, width, out);
    parts.push(Uint8Array.from(out));
  }
  const whole = new Uint8Array(parts.reduce((sum, p) => sum + p.length, 0));
  let at = 0;
  for (const part of parts) {
    whole.set(part, at);
    at += part.length;
  }
  return whole;
}
