/** Decoders of JPEG and WebP pictures, and the encoder of JPEG, compiled once a process. */
import { readFile } from 'node:fs/promises';
import type { Decoders } from '@wemlox/core/texture/readTexture';

const PACKAGES = new URL('../../node_modules/@jsquash/', import.meta.url);

function compiled(file: string): () => Promise<WebAssembly.Module> {
  let module: Promise<WebAssembly.Module> | null = null;
  return () => (module ??= readFile(new URL(file, PACKAGES)).then((bytes) => WebAssembly.compile(bytes)));
}

export const jpegEncoder = compiled('jpeg/codec/enc/mozjpeg_enc.wasm');

export const decoders: Decoders = {
  jpeg: compiled('jpeg/codec/dec/mozjpeg_dec.wasm'),
  webp: compiled('webp/codec/dec/webp_dec.wasm'),
};
