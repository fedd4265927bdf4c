/** What picture files say of themselves before they are unpacked. */
import { rgbeSize } from './rgbe.ts';

/** A picture that cannot be used; the message says what and why. */
export class PictureError extends Error {}

export const startsWith = (bytes: Uint8Array, ...start: number[]) => start.every((v, i) => bytes[i] === v);
export const isExr = (b: Uint8Array) => startsWith(b, 0x76, 0x2f, 0x31, 0x01);
export const isHdr = (b: Uint8Array) => startsWith(b, 0x23, 0x3f);

/** Width and height an HDR or EXR file declares, read without unpacking it; null when it declares none. */
export function declaredSize(bytes: Uint8Array): [number, number] | null {
  if (isHdr(bytes)) {
    const size = rgbeSize(bytes);
    return size && [size.width, size.height];
  }
  const head = new TextDecoder('latin1').decode(bytes.subarray(0, 65536));
  const at = head.indexOf('dataWindow\0box2i\0');
  if (at < 0) return null;
  const view = new DataView(bytes.buffer, bytes.byteOffset + at + 17);
  if (view.byteLength < 20) return null;
  const [x0, y0, x1, y1] = [4, 8, 12, 16].map((k) => view.getInt32(k, true));
  return [x1 - x0 + 1, y1 - y0 + 1];
}
