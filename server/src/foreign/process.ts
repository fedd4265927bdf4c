/** A process that reads foreign files, one job after the other, and may be ended at any time. */
import 'reflect-metadata';
import { createHash } from 'node:crypto';
import { readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { DocumentError, picturesOf, unpackProject } from '@wemlox/core/document';
import { PictureError, readLinearPicture } from '@wemlox/core/picture/files';
import { openDrawing } from '@wemlox/core/drawing/drawing';
import { OpenFont } from '@wemlox/core/type/font';
import { DrawingError, drawingKindOf } from '@wemlox/core/drawing/painted';
import { loadRegions } from '@wemlox/core/plane/region';
import { readSurround } from '@wemlox/core/texture/readSurround';
import { readTexture } from '@wemlox/core/texture/readTexture';
import { decoders } from '@wemlox/render/codecs';
import type { UploadKind } from '@wemlox/wire';
import { FontError } from '@wemlox/core/type/unwrap';
import type { ReadAsset, ReadingAnswer, ReadingJob, ReadProject, Unreadable } from './jobs.ts';

const PNG = [0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a];
const sha256 = async (bytes: Uint8Array) => createHash('sha256').update(bytes).digest('hex');

async function readAsset(kind: UploadKind, bytes: Uint8Array): Promise<ReadAsset> {
  if (kind === 'font') return { ownName: (await OpenFont.open(bytes)).name };
  if (kind === 'surround') await readSurround(bytes, decoders);
  else if (kind === 'film') readLinearPicture(bytes);
  else if (kind === 'picture') await readTexture(bytes, 'colour', decoders);
  else if (kind === 'drawing') {
    await loadRegions();
    openDrawing(bytes, drawingKindOf(bytes));
  } else if (!PNG.every((v, i) => bytes[i] === v)) throw new PictureError('the proof is not a PNG picture');
  return { ownName: null };
}

async function readProject(bytes: Uint8Array, folder: string): Promise<ReadProject> {
  const { project, assets } = await unpackProject(bytes, sha256);
  const fonts = new Set(project.blocks.map((b) => b.font.id));
  const pictures = new Set(project.finishes.flatMap(picturesOf));
  const drawings = new Set(project.blocks.map((b) => b.drawing?.id));
  const read: ReadProject['assets'] = [];
  for (const { hash, name, bytes: file } of assets) {
    const kind = fonts.has(hash)
      ? 'font'
      : drawings.has(hash)
        ? 'drawing'
        : pictures.has(hash)
          ? 'picture'
          : 'surround';
    await readAsset(kind, file);
    await writeFile(join(folder, hash), file);
    read.push({ kind, hash, name });
  }
  return { project, assets: read };
}

function unreadableOf(error: unknown): Unreadable {
  const message = error instanceof Error ? error.message : 'the reader failed';
  if (error instanceof DocumentError)
    return { title: 'Not a valid document', message, problems: error.problems };
  if (error instanceof FontError) return { title: 'Not a usable font', message };
  if (error instanceof DrawingError) return { title: 'Not a usable drawing', message };
  if (error instanceof PictureError) return { title: 'Not a usable picture', message };
  // what a reader trips over is in the file
  return { title: 'Not a usable file', message: `the file is damaged (${message.slice(0, 200)})` };
}

async function answer(job: ReadingJob): Promise<ReadingAnswer> {
  try {
    const bytes = new Uint8Array(await readFile(job.path));
    return {
      done: job.kind === 'project' ? await readProject(bytes, job.folder) : await readAsset(job.kind, bytes),
    };
  } catch (error) {
    return { unreadable: unreadableOf(error) };
  }
}

process.on('message', (job: ReadingJob) => void answer(job).then((a) => process.send!(a)));
process.on('disconnect', () => process.exit(0));
