/** A finish as a file for other programs, with the pictures it is fed from. */
import type { Finish } from '@wemlox/core/document';
import { still } from '@wemlox/core/motion/footage';
import { packMaterial, paintedPng } from '@wemlox/core/exchange/materialFile';
import { writeMaterialX } from '@wemlox/core/exchange/writeMaterialX';
import { uploadedFile } from './files.ts';
import type { Answers } from './messages.ts';

export async function materialFile(finish: Finish): Promise<Answers['material']> {
  const { xml, pictures, approximated } = writeMaterialX(finish);
  if (pictures.length === 0) return { bytes: new TextEncoder().encode(xml), zipped: false, approximated };
  const contents = new Map<string, Uint8Array>();
  for (const { name, picture } of pictures)
    contents.set(
      name,
      picture.source === 'asset' ? await uploadedFile(still(picture, 0).id) : paintedPng(picture.id),
    );
  return { bytes: packMaterial(finish.name, xml, contents), zipped: true, approximated };
}
