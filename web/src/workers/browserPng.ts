/** PNG pictures by the browser's own decoder, several times as fast as ours: pictures of films are read as they play. */
import type { Pixels } from '@wemlox/core/texture/texture';

const HEAD = 8;
const DEPTH = HEAD + 16;
const KIND = HEAD + 17;
/** Kinds of colour without palette and opacity (ISO/IEC 15948, 11.2.2). */
const OPAQUE: ReadonlySet<number> = new Set([0, 2]);

/** Whether bytes are a PNG of eight bits without opacity, for which decoders have no choice. */
function isPlain(bytes: Uint8Array): boolean {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (bytes.length <= KIND || bytes[DEPTH] !== 8 || !OPAQUE.has(bytes[KIND])) return false;
  for (let at = HEAD; at + HEAD <= bytes.length; at += view.getUint32(at) + 12) {
    const name = String.fromCharCode(...bytes.subarray(at + 4, at + 8));
    if (name === 'tRNS') return false;
    if (name === 'IDAT') return true;
  }
  return false;
}

/** Reads a PNG; null where the browser cannot, or could read it in another way than we do. */
export async function browserPng(bytes: Uint8Array): Promise<Pixels | null> {
  // browsers have it for addresses they trust
  if (!('ImageDecoder' in globalThis) || !isPlain(bytes)) return null;
  const decoder = new ImageDecoder({
    data: bytes as Uint8Array<ArrayBuffer>,
    type: 'image/png',
    colorSpaceConversion: 'none',
    premultiplyAlpha: 'none',
  });
  try {
    const { image } = await decoder.decode();
    const { codedWidth: width, codedHeight: height } = image;
    const data = new Uint8Array(width * height * 4);
    await image.copyTo(data, { format: 'RGBA', colorSpace: 'srgb' });
    image.close();
    return { width, height, data };
  } catch {
    // what is wrong with it, ours says
    return null;
  } finally {
    decoder.close();
  }
}
