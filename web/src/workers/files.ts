/** Files a worker fetches: shipped fonts and the kernel from the build, uploads from the server. */
import denoiseUrl from '@wemlox/core/kernel/denoise-shared.wasm?url';
import kernelUrl from '@wemlox/core/kernel/kernel-shared.wasm?url';
import jpegEncoderUrl from '@jsquash/jpeg/codec/enc/mozjpeg_enc.wasm?url';
import jpegUrl from '@jsquash/jpeg/codec/dec/mozjpeg_dec.wasm?url';
import webpUrl from '@jsquash/webp/codec/dec/webp_dec.wasm?url';
import weightsUrl from '@wemlox/core/weights/rt_hdr.tza?url';
import { stillOf } from '@wemlox/core/motion/footage';
import { readProfile } from '@wemlox/core/light/profile';
import { loadModel } from '@wemlox/core/model/textures';
import { readSurround } from '@wemlox/core/texture/readSurround';
import { readTexture, type Decoders } from '@wemlox/core/texture/readTexture';
import { browserPng } from './browserPng.ts';
import { fontUrl } from './fontFiles.ts';
import type { Sources } from '@wemlox/core/scene/sceneMaker';

async function fetched(url: string, what: string): Promise<Uint8Array> {
  const response = await fetch(url);
  if (!response.ok) throw new Error(`${what} cannot be loaded (${response.status})`);
  return new Uint8Array(await response.arrayBuffer());
}

export const compileKernel = () => WebAssembly.compileStreaming(fetch(kernelUrl));
export const compileDenoiser = () => WebAssembly.compileStreaming(fetch(denoiseUrl));
const decoders: Decoders = {
  png: browserPng,
  jpeg: () => WebAssembly.compileStreaming(fetch(jpegUrl)),
  webp: () => WebAssembly.compileStreaming(fetch(webpUrl)),
};
export const compileJpegEncoder = () => WebAssembly.compileStreaming(fetch(jpegEncoderUrl));
export const denoiserWeights = () => fetched(weightsUrl, 'the denoiser');

/** A picture's own file, or a frame of a moving one. */
export function uploadedFile(id: string): Promise<Uint8Array> {
  const still = stillOf(id);
  const path = still ? `${still.hash}/pictures/${still.frame}` : id;
  return fetched(`/api/assets/${path}`, 'the picture');
}

export const webSources: Sources = {
  shippedFont: (file) => {
    const url = fontUrl(file);
    if (!url) return Promise.reject(new Error(`${file} is not in the build`));
    return fetched(url, file);
  },
  uploadedFont: (hash) => fetched(`/api/assets/${hash}`, 'the font'),
  uploadedDrawing: (hash) => fetched(`/api/assets/${hash}`, 'the drawing'),
  uploadedPicture: async (hash, coding) => readTexture(await uploadedFile(hash), coding, decoders),
  uploadedProfile: async (hash) => readProfile(await fetched(`/api/assets/${hash}`, 'the profile')),
  uploadedModel: async (hash, room) =>
    loadModel(hash, await fetched(`/api/assets/${hash}`, 'the model'), decoders, room),
  uploadedSurround: async (hash) => readSurround(await uploadedFile(hash), decoders),
};
