/** Environments from any picture file: those that keep their range, and plain ones, of which it is guessed. */
import { inWords, SURROUND } from '../ceilings.ts';
import { decodeSrgb } from '../maths/colour.ts';
import { readSurroundPicture } from '../picture/files.ts';
import { isExr, isHdr, PictureError } from '../picture/heads.ts';
import { readTexture, type Decoders } from './readTexture.ts';

/** Light up to this share of white stays as it is; the rest rises to so many times white, for a file cannot say. */
export const KNEE = 0.8;
export const BRIGHTEST = 8;

/**
 * What a plain picture's light may have been: the same below the knee, above it rising ever faster, with the slope it
 * had and no steps, to BRIGHTEST at white.
 */
export function unclipped(v: number): number {
  if (v <= KNEE) return v;
  const t = Math.min(1, (v - KNEE) / (1 - KNEE));
  return v + (BRIGHTEST - 1) * t * t * t;
}

/**
 * Reads an equirectangular environment: Radiance HDR and OpenEXR as they are, PNG, JPEG and WebP with their whites
 * brightened.
 * @throws PictureError naming what is wrong
 */
export async function readSurround(
  bytes: Uint8Array,
  decoders: Decoders,
): Promise<ReturnType<typeof readSurroundPicture>> {
  if (isExr(bytes) || isHdr(bytes)) return readSurroundPicture(bytes);
  if (bytes.length > SURROUND.bytes)
    throw new PictureError(`the picture is larger than ${inWords(SURROUND.bytes)}`);
  let read;
  try {
    read = await readTexture(bytes, 'colour', decoders);
  } catch (error) {
    if (error instanceof PictureError && error.message.startsWith('the file is no PNG'))
      throw new PictureError('the file is no Radiance .hdr, OpenEXR, PNG, JPEG or WebP picture');
    throw error;
  }
  const { width, height, data } = read;
  if (width !== height * 2)
    throw new PictureError(
      `the picture is ${width} × ${height}; an unwrapped environment is twice as wide as high`,
    );
  if (width > SURROUND.width)
    throw new PictureError(
      `the picture is ${width} × ${height}; the largest read is ${SURROUND.width} × ${SURROUND.width / 2}`,
    );
  const linear =
    data instanceof Float32Array
      ? null
      : Float32Array.from({ length: 256 }, (_, i) => unclipped(decodeSrgb(i / 255)));
  const out = new Float32Array(width * height * 3);
  for (let i = 0, o = 0; o < out.length; i += 4)
    for (let c = 0; c < 3; c++) out[o++] = linear ? linear[data[i + c]] : unclipped(data[i + c]);
  return { width, height, data: out };
}
