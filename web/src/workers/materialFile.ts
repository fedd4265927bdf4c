/** A finish as a file for other programs, with the pictures it is fed from. */
import type { Finish } from '@wemlox/core/document';
import { still } from '@wemlox/core/motion/footage';
import { greyPng, packMaterial, paintedPng } from '@wemlox/core/exchange/materialFile';
import { writeMaterialX } from '@wemlox/core/exchange/writeMaterialX';
import { PATTERN_PIXELS, patternPicture } from '@wemlox/core/trace/patternBake';
import { uploadedFile } from './files.ts';
import type { Answers } from './messages.ts';

/** @param kernel the compiled kernel over shared memory */
export async function materialFile(
  finish: Finish,
  kernel: Promise<WebAssembly.Module>,
): Promise<Answers['material']> {
  const { xml, pictures, patterns, approximated } = writeMaterialX(finish);
  if (pictures.length + patterns.length === 0)
    return { bytes: new TextEncoder().encode(xml), zipped: false, approximated };
  const contents = new Map<string, Uint8Array>();
  for (const { name, picture } of pictures)
    contents.set(
      name,
      picture.source === 'asset' ? await uploadedFile(still(picture, 0).id) : paintedPng(picture.id),
    );
  for (const { name, axis, side } of patterns)
    contents.set(name, greyPng(PATTERN_PIXELS, patternPicture(await kernel, true, axis, side)));
  return { bytes: packMaterial(finish.name, xml, contents), zipped: true, approximated };
}
