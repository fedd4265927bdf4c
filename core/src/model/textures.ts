/** The pictures of a model, read as its materials take them. */
import { readTexture, type Decoders } from '../texture/readTexture.ts';
import { textureOf, type Texture } from '../texture/texture.ts';
import { modelPictures, takenPixels } from './finishes.ts';
import type { Model } from './model.ts';
import { readModel } from './readModel.ts';

/** A model with its pictures, ready for scenes. */
export interface LoadedModel {
  /** SHA-256 of its file. */
  hash: string;
  model: Model;
  textures: Texture[];
}

/** Reads a model with its pictures. @throws ModelError when the file is no usable model */
export async function loadModel(
  hash: string,
  bytes: Uint8Array,
  decoders: Decoders,
  room?: (bytes: number) => ArrayBufferLike,
): Promise<LoadedModel> {
  const model = await readModel(bytes);
  const leftOut = [...model.leftOut];
  const textures = await modelTextures(hash, model, decoders, leftOut, room);
  return { hash, model: { ...model, leftOut }, textures };
}

/**
 * @param hash of the model's file
 * @param leftOut is told of pictures that cannot be read; what they feed keeps its plain value
 * @param room where their pixels go
 */
export async function modelTextures(
  hash: string,
  model: Model,
  decoders: Decoders,
  leftOut: string[],
  room?: (bytes: number) => ArrayBufferLike,
): Promise<Texture[]> {
  const out: Texture[] = [];
  for (const of of modelPictures(hash, model)) {
    try {
      const pixels = await readTexture(model.pictures[of.picture], of.coding, decoders);
      out.push(textureOf(of.key, takenPixels(pixels, of), of.coding, room));
    } catch (error) {
      const reason = error instanceof Error ? error.message : String(error);
      const what = `picture ${of.picture + 1} (${reason})`;
      if (!leftOut.includes(what)) leftOut.push(what);
    }
  }
  return out;
}
