/** Zips of strangers. */
import { Unzip, UnzipInflate } from 'fflate';
import { DOCUMENT, inWords, PROJECT_FILE } from '../ceilings.ts';
import { DocumentError } from './door.ts';

/**
 * Unpacks in a stream and stops as soon as the contents outgrow the limit, whatever the zip claims.
 * @param wanted whether an entry of a name is taken at all
 * @throws DocumentError when there is too much of it; what the library throws when it is damaged
 */
export function unzipped(bytes: Uint8Array, wanted: (name: string) => boolean): Map<string, Uint8Array> {
  const files = new Map<string, Uint8Array>();
  let total = 0;
  let entries = 0;
  const unzip = new Unzip((file) => {
    if (++entries > PROJECT_FILE.entries)
      throw new DocumentError([`the file holds more than ${PROJECT_FILE.entries} entries`]);
    if (!wanted(file.name)) return;
    const chunks: Uint8Array[] = [];
    let size = 0;
    file.ondata = (error, chunk, final) => {
      if (error) throw error;
      total += chunk.length;
      if (total > PROJECT_FILE.unpacked)
        throw new DocumentError([`the file unpacks to more than ${inWords(PROJECT_FILE.unpacked)}`]);
      size += chunk.length;
      if (size > DOCUMENT.bytes && file.name.endsWith('.json'))
        throw new DocumentError([`${file.name} is larger than ${inWords(DOCUMENT.bytes)}`]);
      chunks.push(chunk);
      if (!final) return;
      const whole = new Uint8Array(chunks.reduce((sum, c) => sum + c.length, 0));
      let at = 0;
      for (const c of chunks) {
        whole.set(c, at);
        at += c.length;
      }
      files.set(file.name, whole);
    };
    file.start();
  });
  unzip.register(UnzipInflate);
  const STEP = 1 << 16;
  for (let at = 0; at < bytes.length; at += STEP) {
    unzip.push(bytes.subarray(at, at + STEP), at + STEP >= bytes.length);
  }
  return files;
}
