/** Fonts and environments from disk and from .wemlox files. */
import { createHash } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { extname } from 'node:path';
import {
  openDocument,
  DocumentError,
  unpackProject,
  type Project,
  type ProjectFile,
} from '@wemlox/core/document';
import { stillOf } from '@wemlox/core/motion/footage';
import { readProfile } from '@wemlox/core/light/profile';
import { loadModel } from '@wemlox/core/model/textures';
import type { Sources } from '@wemlox/core/scene/sceneMaker';
import { readSurround } from '@wemlox/core/texture/readSurround';
import { readTexture } from '@wemlox/core/texture/readTexture';
import { decoders } from './codecs.ts';
import { frameOf } from './footage.ts';

/** Where npm keeps the packages of the workspace. */
const PACKAGES = new URL('../../node_modules/', import.meta.url);
const sha256 = async (bytes: Uint8Array) => createHash('sha256').update(bytes).digest('hex');

/** The document in a project's JSON: by itself, or as the server answers it. @throws DocumentError */
function documentIn(text: string): Project {
  let parsed: unknown;
  try {
    parsed = JSON.parse(text);
  } catch {
    throw new DocumentError(['the file is not valid JSON']);
  }
  const held = parsed as { document?: unknown; project?: unknown } | null;
  return openDocument(held?.document ?? held?.project ?? parsed);
}

/** Opens a .wemlox file, or a project's JSON without assets. @throws DocumentError, or what reading the file throws */
export async function openProjectFile(path: string): Promise<ProjectFile> {
  const bytes = new Uint8Array(await readFile(path));
  if (extname(path) === '.json') return { project: documentIn(new TextDecoder().decode(bytes)), assets: [] };
  return unpackProject(bytes, sha256);
}

/** Sources over shipped fonts and given assets. */
export function diskSources(asset: (hash: string) => Promise<Uint8Array>): Sources {
  /** A picture's own file, or a frame of a moving one. */
  const pictureFile = (id: string) => {
    const still = stillOf(id);
    return still ? frameOf(still.hash, still.frame, asset) : asset(id);
  };
  return {
    shippedFont: async (file) => new Uint8Array(await readFile(new URL(file, PACKAGES))),
    uploadedFont: asset,
    uploadedDrawing: asset,
    uploadedPicture: async (id, coding) => readTexture(await pictureFile(id), coding, decoders),
    uploadedProfile: async (hash) => readProfile(await asset(hash)),
    uploadedModel: async (hash, room) => loadModel(hash, await asset(hash), decoders, room),
    uploadedSurround: async (id) => readSurround(await pictureFile(id), decoders),
  };
}

export function fileSources(file: ProjectFile): Sources {
  return diskSources(async (hash) => {
    const found = file.assets.find((a) => a.hash === hash);
    if (!found) throw new Error(`asset ${hash} is not in the file`);
    return found.bytes;
  });
}
