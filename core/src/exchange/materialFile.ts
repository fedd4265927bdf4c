/** Materials as files: a .mtlx document by itself, or a zip of one with its pictures. */
import { encode } from 'fast-png';
import { strFromU8, zipSync } from 'fflate';
import { unzipped } from '../document/unzipped.ts';
import { paintTexture } from '../texture/paintedTextures.ts';
import { MaterialXError } from './materialNodes.ts';

export interface MaterialFile {
  /** The document. */
  text: string;
  /** Pictures that lie beside it, by the names it may call them. */
  pictures: Map<string, Uint8Array>;
}

const PICTURE = /\.(png|jpe?g|webp|exr)$/i;
const DOCUMENT = /\.mtlx$/i;
/** How a zip begins. */
const ZIP = [0x50, 0x4b, 3, 4];

/** The name of a file in a zip, without its folders. */
const leafOf = (name: string) => name.slice(name.lastIndexOf('/') + 1);

/** @throws MaterialXError when it is neither; DocumentError when a zip is too large */
export function openMaterialFile(bytes: Uint8Array): MaterialFile {
  if (!ZIP.every((v, i) => bytes[i] === v)) return { text: strFromU8(bytes), pictures: new Map() };
  const files = unzipped(bytes, (name) => PICTURE.test(name) || DOCUMENT.test(name));
  const document = [...files].find(([name]) => DOCUMENT.test(name));
  if (!document) throw new MaterialXError('the zip holds no .mtlx file');
  return {
    text: strFromU8(document[1]),
    pictures: new Map([...files].filter(([name]) => PICTURE.test(name)).map(([n, b]) => [leafOf(n), b])),
  };
}

/** The picture that a document means by a path. */
export const pictureNamed = <T>(pictures: ReadonlyMap<string, T>, path: string): T | null =>
  pictures.get(leafOf(path.replace(/\\/g, '/'))) ?? null;

/** A picture that Wemlox paints, as a PNG file. */
export function paintedPng(id: string): Uint8Array {
  const { width, height, data } = paintTexture(id);
  return encode({ width, height, data: data as Uint8Array, channels: 4 });
}

/** A picture of one channel as a PNG file of 16 bits, square. */
export const greyPng = (side: number, data: Uint16Array): Uint8Array =>
  encode({ width: side, height: side, data, channels: 1, depth: 16 });

/** Packs a document with its pictures. */
export function packMaterial(
  name: string,
  text: string,
  pictures: ReadonlyMap<string, Uint8Array>,
): Uint8Array<ArrayBuffer> {
  return new Uint8Array(
    zipSync({
      [`${name}.mtlx`]: new TextEncoder().encode(text),
      ...Object.fromEntries([...pictures].map(([n, bytes]) => [n, [bytes, { level: 0 }] as const])),
    } as Parameters<typeof zipSync>[0]),
  );
}
