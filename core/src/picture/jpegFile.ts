/** Finished pictures as JPEG, for those who only look at them; encoded by MozJPEG, the same bytes everywhere. */
import encode, { init } from '@jsquash/jpeg/encode';
import type { Grade } from '../document/index.ts';
import { glowing } from './glow.ts';
import { PictureError } from './heads.ts';
import type { LinearPicture } from './linear.ts';
import { toneMapped8 } from './tone.ts';

/** Of 100; hardly to be told from the picture itself. */
const QUALITY = 92;
/** Longest side that the format has room for, pixels. */
const LONGEST = 65_535;

let encoder: Promise<void> | null = null;

/**
 * The picture as JPEG, through exposure and view transform, laid over black: the format has no opacity.
 * @param compiled the encoder, asked for when it is first needed
 * @throws PictureError when the picture is too large for the format or for the encoder's memory
 */
export async function encodeJpeg(
  ungraded: LinearPicture,
  grade: Grade,
  compiled: () => Promise<WebAssembly.Module>,
): Promise<Uint8Array<ArrayBuffer>> {
  const { width, height } = ungraded;
  if (width > LONGEST || height > LONGEST)
    throw new PictureError(`the picture is ${width} × ${height}; the longest side of a JPEG is ${LONGEST}`);
  await (encoder ??= compiled().then((module) => init(module)));
  const { data } = glowing({ ...ungraded, data: Float32Array.from(ungraded.data) }, grade);
  // colour is alpha-associated: full alpha lays it over black
  for (let i = 3; i < data.length; i += 4) data[i] = 1;
  const shown = { data: toneMapped8(data, grade), width, height, colorSpace: 'srgb' } as ImageData;
  try {
    return new Uint8Array(
      await encode(shown, { quality: QUALITY, chroma_subsample: 1, auto_subsample: false }),
    );
  } catch (error) {
    throw new PictureError(
      `the picture of ${width} × ${height} is too large for its JPEG (${error instanceof Error ? error.message : 'no memory'})`,
    );
  }
}
