/** Picture files that finishes are fed from: PNG, JPEG, WebP and OpenEXR. */
import decodeJpeg, { init as initJpeg } from '@jsquash/jpeg/decode';
import decodeWebp, { init as initWebp } from '@jsquash/webp/decode';
import { readExr } from 'hdrify';
import { inWords, TEXTURE } from '../ceilings.ts';
import { decodeSrgb } from '../maths/colour.ts';
import { declaredSize, isExr, PictureError, startsWith } from '../picture/heads.ts';
import { readPng } from '../picture/png.ts';
import type { Coding, Pixels } from './texture.ts';

const isPng = (b: Uint8Array) => startsWith(b, 0x89, 0x50, 0x4e, 0x47);
const isJpeg = (b: Uint8Array) => startsWith(b, 0xff, 0xd8, 0xff);
const isWebp = (b: Uint8Array) =>
  startsWith(b, 0x52, 0x49, 0x46, 0x46) && startsWith(b.subarray(8), 0x57, 0x45, 0x42, 0x50);

/** Width and height a JPEG declares in its frame header (ITU-T T.81, B.2.2); null when there is none. */
function jpegSize(b: Uint8Array): [number, number] | null {
  const view = new DataView(b.buffer, b.byteOffset, b.byteLength);
  for (let at = 2; at + 9 < b.length;) {
    if (b[at] !== 0xff) return null;
    const marker = b[at + 1];
    if (marker >= 0xc0 && marker <= 0xcf && ![0xc4, 0xc8, 0xcc].includes(marker))
      return [view.getUint16(at + 7), view.getUint16(at + 5)];
    at += marker === 0xff ? 1 : 2 + view.getUint16(at + 2);
  }
  return null;
}

/** Width and height a WebP declares (RFC 9649, 2.5 to 2.7); null when there are none. */
function webpSize(b: Uint8Array): [number, number] | null {
  if (b.length < 30) return null;
  const view = new DataView(b.buffer, b.byteOffset, b.byteLength);
  const kind = String.fromCharCode(...b.subarray(12, 16));
  if (kind === 'VP8 ') return [view.getUint16(26, true) & 0x3fff, view.getUint16(28, true) & 0x3fff];
  if (kind === 'VP8L') {
    const bits = view.getUint32(21, true);
    return [(bits & 0x3fff) + 1, ((bits >> 14) & 0x3fff) + 1];
  }
  if (kind !== 'VP8X') return null;
  const three = (at: number) => view.getUint16(at, true) + (b[at + 2] << 16) + 1;
  return [three(24), three(27)];
}

function sizeOf(b: Uint8Array): [number, number] | null {
  if (isPng(b)) {
    const view = new DataView(b.buffer, b.byteOffset, b.byteLength);
    return b.length > 24 ? [view.getUint32(16), view.getUint32(20)] : null;
  }
  return isJpeg(b) ? jpegSize(b) : isWebp(b) ? webpSize(b) : declaredSize(b);
}

function pngPixels(bytes: Uint8Array, coding: Coding): Pixels {
  const { width, height, channels, colours, data, full } = readPng(bytes);
  const count = width * height;
  const alpha = channels > colours;
  const from = (i: number, c: number) => data[i * channels + (colours === 1 ? 0 : c)];
  if (full === 255) {
    const out = new Uint8Array(count * 4).fill(255);
    // pictures of films are read as they play: no function is called for a pixel
    const [green, blue] = colours === 1 ? [0, 0] : [1, 2];
    for (let i = 0, at = 0, to = 0; i < count; i++, at += channels, to += 4) {
      out[to] = data[at];
      out[to + 1] = data[at + green];
      out[to + 2] = data[at + blue];
      if (alpha) out[to + 3] = data[at + colours];
    }
    return { width, height, data: out };
  }
  // sixteen bits are kept as light: heights in bytes would be steps
  const out = new Float32Array(count * 4);
  for (let i = 0; i < count; i++) {
    for (let c = 0; c < 3; c++) {
      const v = from(i, c) / full;
      out[i * 4 + c] = coding === 'colour' ? decodeSrgb(v) : v;
    }
    out[i * 4 + 3] = alpha ? data[i * channels + colours] / full : 1;
  }
  return { width, height, data: out };
}

/** Largest half float; what is brighter is this bright. */
const BRIGHTEST = 65504;

function exrPixels(bytes: Uint8Array): Pixels {
  const { width, height, data } = readExr(bytes, { sanitize: false });
  for (let i = 0; i < data.length; i++) {
    if (Number.isNaN(data[i])) {
      const pixel = i >> 2;
      throw new PictureError(`pixel ${pixel % width}, ${Math.floor(pixel / width)} is not a number`);
    }
    data[i] = Math.min(BRIGHTEST, Math.max(0, data[i]));
  }
  return { width, height, data };
}

/** Compiled decoders, asked for when they are needed. */
export interface Decoders {
  /** A faster way for PNGs, of the same bytes; null for those it does not take. */
  png?: (bytes: Uint8Array) => Promise<Pixels | null>;
  jpeg: () => Promise<WebAssembly.Module>;
  webp: () => Promise<WebAssembly.Module>;
}

let jpeg: Promise<void> | null = null;
let webp: Promise<void> | null = null;

/**
 * Reads a picture.
 * @throws PictureError naming what is wrong: type, size, or damage
 */
export async function readTexture(bytes: Uint8Array, coding: Coding, decoders: Decoders): Promise<Pixels> {
  if (bytes.length > TEXTURE.bytes)
    throw new PictureError(`the picture is larger than ${inWords(TEXTURE.bytes)}`);
  if (![isPng, isJpeg, isWebp, isExr].some((is) => is(bytes)))
    throw new PictureError('the file is no PNG, JPEG, WebP or OpenEXR picture');
  const size = sizeOf(bytes);
  if (!size || !(size[0] > 0 && size[1] > 0))
    throw new PictureError('the picture does not say how large it is');
  const [width, height] = size;
  if (width > TEXTURE.side || height > TEXTURE.side)
    throw new PictureError(`the picture is ${width} × ${height}; the largest side read is ${TEXTURE.side}`);
  if (isExr(bytes) && width * height > TEXTURE.deepPixels)
    throw new PictureError(
      `the picture is ${width} × ${height}; of OpenEXR, ${TEXTURE.deepPixels / 1e6} million pixels are read at most`,
    );
  try {
    if (isPng(bytes)) return (await decoders.png?.(bytes)) ?? pngPixels(bytes, coding);
    if (isExr(bytes)) return exrPixels(bytes);
    const { buffer } = new Uint8Array(bytes);
    if (isJpeg(bytes)) await (jpeg ??= decoders.jpeg().then((module) => initJpeg(module)));
    else await (webp ??= decoders.webp().then((module) => initWebp(module)));
    const read = await (isJpeg(bytes) ? decodeJpeg(buffer) : decodeWebp(buffer));
    return { width: read.width, height: read.height, data: read.data };
  } catch (error) {
    if (error instanceof PictureError) throw error;
    throw new PictureError(
      `the picture is damaged or cut short (${error instanceof Error ? error.message : 'unreadable'})`,
    );
  }
}
