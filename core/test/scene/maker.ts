/** A scene maker over shipped fonts, and one drawing or model where it is given. */
import { readFile } from 'node:fs/promises';
import type { LoadedModel } from '../../src/model/textures.ts';
import { SceneMaker } from '../../src/scene/sceneMaker.ts';
import type { Pixels } from '../../src/texture/texture.ts';

/**
 * @param drawing the text of every drawing that is asked for; @throws what it throws
 * @param model every model that is asked for
 * @param picture every picture that is asked for
 */
export const testMaker = (
  drawing?: () => string,
  model: (hash: string) => Promise<LoadedModel> = () => Promise.reject(new Error('none')),
  picture: (hash: string) => Promise<Pixels> = () => Promise.reject(new Error('none')),
): SceneMaker =>
  new SceneMaker({
    shippedFont: async (file) =>
      new Uint8Array(await readFile(new URL(`../../../node_modules/${file}`, import.meta.url))),
    uploadedFont: () => Promise.reject(new Error('none')),
    uploadedDrawing: async () => {
      if (!drawing) throw new Error('none');
      return new TextEncoder().encode(drawing());
    },
    uploadedPicture: picture,
    uploadedProfile: () => Promise.reject(new Error('none')),
    uploadedModel: model,
    uploadedSurround: () => Promise.reject(new Error('none')),
  });
