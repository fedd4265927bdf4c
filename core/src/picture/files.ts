/** Picture files: environment pictures in (.hdr, .exr), finished pictures out (PNG, EXR, HDR). */
import { encode } from 'fast-png';
import { readExr } from 'hdrify';
import { inWords, SURROUND } from '../ceilings.ts';
import type { Grade } from '../document/index.ts';
import type { SurroundPicture } from '../light/surround.ts';
import { writeExrChannels, type ExrChannel } from './exr.ts';
import { declaredSize, isExr, isHdr, PictureError } from './heads.ts';
import { readRgbe, rgbeSize, writeRgbe } from './rgbe.ts';
import { glowing } from './glow.ts';
import type { LinearPicture } from './linear.ts';
import { toneMapped16, toneMapped8 } from './tone.ts';

export type { LinearPicture };

export { PictureError };

/**
 * Reads an equirectangular environment picture (Radiance HDR or OpenEXR).
 * @throws PictureError naming what is wrong: type, size, damage, or pixels that are not numbers
 */
export function readSurroundPicture(bytes: Uint8Array): SurroundPicture {
  if (bytes.length > SURROUND.bytes)
    throw new PictureError(`the picture is larger than ${inWords(SURROUND.bytes)}`);
  if (!isExr(bytes) && !isHdr(bytes))
    throw new PictureError('the file is neither a Radiance .hdr nor an OpenEXR .exr picture');
  const size = declaredSize(bytes);
  if (!size || !(size[0] > 0 && size[1] > 0))
    throw new PictureError('the picture does not say how large it is');
  const [width, height] = size;
  if (width > SURROUND.width || height > SURROUND.width / 2) {
    throw new PictureError(
      `the picture is ${width} × ${height}; the largest read is ${SURROUND.width} × ${SURROUND.width / 2}`,
    );
  }
  if (width !== height * 2) {
    throw new PictureError(
      `the picture is ${width} × ${height}; an unwrapped environment is twice as wide as high`,
    );
  }
  let data: Float32Array;
  let stride = 3;
  try {
    if (isHdr(bytes)) data = readRgbe(bytes, rgbeSize(bytes)!);
    else {
      data = readExr(bytes, { sanitize: false }).data;
      stride = 4;
    }
  } catch (error) {
    throw new PictureError(
      `the picture is damaged or cut short (${error instanceof Error ? error.message : 'unreadable'})`,
    );
  }
  const out = new Float32Array(width * height * 3);
  for (let i = 0, j = 0; j < out.length; i += stride, j += 3) {
    for (let c = 0; c < 3; c++) {
      const v = data[i + c];
      if (!Number.isFinite(v)) {
        const pixel = i / stride;
        throw new PictureError(`pixel ${pixel % width}, ${Math.floor(pixel / width)} is not a number`);
      }
      out[j + c] = v > 0 ? v : 0;
    }
  }
  return { width, height, data: out };
}

/**
 * Reads the colour and alpha of an OpenEXR picture as they are, such as the film a proof keeps.
 * @throws PictureError when it is not one, or is damaged
 */
export function readLinearPicture(bytes: Uint8Array): LinearPicture {
  if (!isExr(bytes)) throw new PictureError('the file is not an OpenEXR picture');
  try {
    const { width, height, data } = readExr(bytes, { sanitize: false });
    return { width, height, data };
  } catch (error) {
    throw new PictureError(
      `the picture is damaged or cut short (${error instanceof Error ? error.message : 'unreadable'})`,
    );
  }
}

/** The picture as PNG, through exposure and view transform. */
export function encodePng(ungraded: LinearPicture, grade: Grade, depth: 8 | 16 = 8): Uint8Array<ArrayBuffer> {
  const picture = glowing(ungraded, grade);
  const { width, height } = picture;
  const data = depth === 16 ? toneMapped16(picture.data, grade) : toneMapped8(picture.data, grade);
  return new Uint8Array(encode({ width, height, data, depth, channels: 4 }));
}

/** Layers that travel with a picture in one file; rows from the top. */
export interface PictureLayers {
  /** r g b for each pixel. */
  albedo: Float32Array;
  /** World-space x y z for each pixel. */
  normal: Float32Array;
  /** Metres along the camera's axis. */
  depth: Float32Array;
  /** Light of each source by itself, r g b for each pixel; they sum to the picture. */
  shares?: { name: string; data: Float32Array }[];
}

/** Bytes a name of a channel may have, with its layer (OpenEXR file layout: long names are longer). */
const LONGEST_LAYER = 24;

/** A layer's name of plain letters, unlike those before. */
function layerName(name: string, taken: Set<string>): string {
  const plain = `light ${name}`.replace(/[^\p{ASCII}]|[.\p{Cc}]/gu, '_').slice(0, LONGEST_LAYER);
  let own = plain;
  for (let k = 2; taken.has(own); k++) own = `${plain} ${k}`;
  taken.add(own);
  return own;
}

/** The scene-linear picture as OpenEXR, before exposure and view transform, with layers where there are any. */
export function encodeExr(
  picture: LinearPicture,
  depth: 'half' | 'float' = 'float',
  layers?: PictureLayers,
): Uint8Array<ArrayBuffer> {
  const { width, height, data } = picture;
  const spread = (values: Float32Array, names: string[], float = false): ExrChannel[] =>
    names.map((name, offset) => ({ name, values, offset, stride: names.length, float }));
  const channels = spread(data, ['R', 'G', 'B', 'A']);
  if (layers) {
    channels.push(
      ...spread(layers.albedo, ['albedo.R', 'albedo.G', 'albedo.B']),
      ...spread(layers.normal, ['normal.X', 'normal.Y', 'normal.Z']),
      ...spread(layers.depth, ['depth.Z'], true),
    );
    const taken = new Set<string>();
    for (const { name, data } of layers.shares ?? []) {
      const own = layerName(name, taken);
      channels.push(...spread(data, [`${own}.R`, `${own}.G`, `${own}.B`]));
    }
  }
  return writeExrChannels(width, height, channels, depth);
}

/** Kinds of files that surrounds are kept as. */
export const SURROUND_FILES = ['exr', 'hdr'] as const;
export type SurroundFile = (typeof SURROUND_FILES)[number];

/** A surround as OpenEXR with three channels at full precision, or as Radiance HDR. */
export function encodeSurround(
  { width, height, data }: SurroundPicture,
  kind: SurroundFile = 'exr',
): Uint8Array<ArrayBuffer> {
  if (kind === 'hdr') return encodeHdr({ width, height, data });
  const channels = ['R', 'G', 'B'].map((name, offset) => ({
    name,
    values: data,
    offset,
    stride: 3,
    float: true,
  }));
  return writeExrChannels(width, height, channels, 'float');
}

/** The scene-linear picture as Radiance HDR. */
export function encodeHdr({ width, height, data }: LinearPicture): Uint8Array<ArrayBuffer> {
  return writeRgbe(width, height, data);
}
