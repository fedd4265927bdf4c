/** The network's weights as they are stored (.tza version 2): named tensors of half floats. */

export interface Tensor {
  /** Written, read, rows, columns; or one number for a bias. */
  shape: number[];
  values: Float32Array;
}

/** Value of a half float's bits (IEEE 754). */
function half(bits: number): number {
  const exponent = (bits >> 10) & 31;
  const mantissa = bits & 1023;
  const size = exponent === 0 ? mantissa * 2 ** -24 : (1 + mantissa / 1024) * 2 ** (exponent - 15);
  return bits & 0x8000 ? -size : size;
}

/** @throws Error when the bytes are not such a file */
export function readWeights(bytes: Uint8Array): Map<string, Tensor> {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (bytes.length < 12 || view.getUint16(0, true) !== 0x41d7 || bytes[2] !== 2)
    throw new Error('the denoiser’s weights are not a .tza file of version 2');
  const text = (from: number, length: number) => String.fromCharCode(...bytes.subarray(from, from + length));
  const out = new Map<string, Tensor>();
  let at = Number(view.getBigUint64(4, true));
  const count = view.getUint32(at, true);
  at += 4;
  for (let i = 0; i < count; i++) {
    const length = view.getUint16(at, true);
    const name = text(at + 2, length);
    at += 2 + length;
    const dimensions = bytes[at++];
    const shape = Array.from({ length: dimensions }, (_, k) => view.getUint32(at + k * 4, true));
    at += dimensions * 5;
    const type = text(at, 1);
    const from = Number(view.getBigUint64(at + 1, true));
    at += 9;
    if (type !== 'h') throw new Error(`the denoiser’s ${name} is not of half floats`);
    const size = shape.reduce((a, b) => a * b, 1);
    const values = Float32Array.from({ length: size }, (_, k) => half(view.getUint16(from + k * 2, true)));
    out.set(name, { shape, values });
  }
  return out;
}
