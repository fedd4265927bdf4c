/** Font files to plain SFNT bytes: the shaper reads nothing else, and fails silently on wrapped fonts. */
import { unzlibSync } from 'fflate';
import decompressWoff2 from 'woff2-encoder/decompress';
import { FONT, inWords } from '../ceilings.ts';

/** A font that cannot be used; the message says what and why. */
export class FontError extends Error {}

const TAGS = { ttf: 0x00010000, otf: 0x4f54544f, true: 0x74727565, woff: 0x774f4646, woff2: 0x774f4632 };

/**
 * Unwraps TTF, OTF, WOFF or WOFF2 into SFNT bytes, with its table directory checked against the length.
 * @throws FontError when the file is not a font, is cut short or too large
 */
export async function unwrapFont(bytes: Uint8Array): Promise<Uint8Array> {
  if (bytes.length > FONT.bytes) throw new FontError(`the font is larger than ${inWords(FONT.bytes)}`);
  if (bytes.length < 12) throw new FontError('the file is too short to be a font');
  const tag = view(bytes).getUint32(0);
  let sfnt: Uint8Array;
  if (tag === TAGS.woff2) sfnt = await unwrapWoff2(bytes);
  else if (tag === TAGS.woff) sfnt = unwrapWoff(bytes);
  else if (tag === TAGS.ttf || tag === TAGS.otf || tag === TAGS.true) sfnt = bytes;
  else throw new FontError('the file is not a TTF, OTF, WOFF or WOFF2 font');
  checkDirectory(sfnt);
  return sfnt;
}

const view = (b: Uint8Array) => new DataView(b.buffer, b.byteOffset, b.byteLength);

async function unwrapWoff2(bytes: Uint8Array): Promise<Uint8Array> {
  // header (W3C WOFF2): signature, flavor, length at 8, totalSfntSize at 16
  if (bytes.length < 48 || view(bytes).getUint32(8) !== bytes.length) {
    throw new FontError('the WOFF2 font is cut short');
  }
  if (view(bytes).getUint32(16) > FONT.bytes)
    throw new FontError(`the WOFF2 font unpacks to over ${inWords(FONT.bytes)}`);
  try {
    return await decompressWoff2(bytes);
  } catch {
    throw new FontError('the WOFF2 font is damaged');
  }
}

/** WOFF 1.0 (W3C): a header of 44 bytes, then 20 bytes a table: tag, offset, packed length, length, checksum. */
function unwrapWoff(bytes: Uint8Array): Uint8Array {
  const from = view(bytes);
  if (bytes.length < 44 || from.getUint32(8) !== bytes.length)
    throw new FontError('the WOFF font is cut short');
  const count = from.getUint16(12);
  const total = from.getUint32(16);
  if (total > FONT.bytes) throw new FontError(`the WOFF font unpacks to over ${inWords(FONT.bytes)}`);
  const out = new Uint8Array(12 + count * 16 + total);
  const to = view(out);
  to.setUint32(0, from.getUint32(4));
  to.setUint16(4, count);
  let at = 12 + count * 16;
  for (let i = 0; i < count; i++) {
    const entry = 44 + i * 20;
    if (entry + 20 > bytes.length) throw new FontError('the WOFF font is cut short');
    const [offset, packed, length] = [4, 8, 12].map((k) => from.getUint32(entry + k));
    if (offset + packed > bytes.length || at + length > out.length) {
      throw new FontError('the WOFF font is damaged');
    }
    const table = bytes.subarray(offset, offset + packed);
    try {
      out.set(packed < length ? unzlibSync(table, { out: new Uint8Array(length) }) : table, at);
    } catch {
      throw new FontError('the WOFF font is damaged');
    }
    to.setUint32(12 + i * 16, from.getUint32(entry));
    to.setUint32(16 + i * 16, from.getUint32(entry + 16));
    to.setUint32(20 + i * 16, at);
    to.setUint32(24 + i * 16, length);
    at += Math.ceil(length / 4) * 4;
  }
  return out.subarray(0, at);
}

function checkDirectory(sfnt: Uint8Array): void {
  const from = view(sfnt);
  const count = from.getUint16(4);
  const tables = new Set<string>();
  for (let i = 0; i < count; i++) {
    const entry = 12 + i * 16;
    if (entry + 16 > sfnt.length) throw new FontError('the font is cut short');
    if (from.getUint32(entry + 8) + from.getUint32(entry + 12) > sfnt.length) {
      throw new FontError('the font is cut short');
    }
    tables.add(String.fromCharCode(...sfnt.subarray(entry, entry + 4)));
  }
  if (!tables.has('cmap')) throw new FontError('the font has no character map');
  if (!tables.has('glyf') && !tables.has('CFF ') && !tables.has('CFF2')) {
    throw new FontError('the font has no outlines');
  }
}
