/** A process that reads foreign files, one job after the other, and may be ended at any time. */
import 'reflect-metadata';
import { createHash } from 'node:crypto';
import { readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { DocumentError, footageOf, picturesOf, unpackProject, type Project } from '@wemlox/core/document';
import { ProfileError, readProfile } from '@wemlox/core/light/profile';
import { reduced, surroundFacts, type SurroundPicture } from '@wemlox/core/light/surround';
import { encodeSrgb } from '@wemlox/core/maths/colour';
import { PictureError, readLinearPicture } from '@wemlox/core/picture/files';
import { openDrawing } from '@wemlox/core/drawing/drawing';
import { OpenFont } from '@wemlox/core/type/font';
import { DrawingError, drawingKindOf } from '@wemlox/core/drawing/painted';
import { loadRegions } from '@wemlox/core/plane/region';
import { readSurround } from '@wemlox/core/texture/readSurround';
import { readTexture } from '@wemlox/core/texture/readTexture';
import { decoders } from '@wemlox/render/codecs';
import { FootageError, footageFacts } from '@wemlox/render/footage';
import { ModelError } from '@wemlox/core/model/model';
import { loadModel } from '@wemlox/core/model/textures';
import type { ModelLine, SurroundLine, UploadKind } from '@wemlox/wire';
import { FontError } from '@wemlox/core/type/unwrap';
import type { ReadAsset, ReadingAnswer, ReadingJob, ReadProject, Unreadable } from './jobs.ts';

const PNG = [0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a];
const sha256 = async (bytes: Uint8Array) => createHash('sha256').update(bytes).digest('hex');

async function readAsset(kind: UploadKind, bytes: Uint8Array): Promise<ReadAsset> {
  if (kind === 'font') return { ownName: (await OpenFont.open(bytes)).name, facts: null };
  if (kind === 'surround') return { ownName: null, facts: factsOf(await readSurround(bytes, decoders)) };
  if (kind === 'footage') return { ownName: null, facts: await footageFacts(bytes) };
  if (kind === 'model') return { ownName: null, facts: await modelFacts(bytes) };
  if (kind === 'profile') readProfile(bytes);
  else if (kind === 'film') readLinearPicture(bytes);
  else if (kind === 'picture' || kind === 'painting') await readTexture(bytes, 'colour', decoders);
  else if (kind === 'drawing') {
    await loadRegions();
    openDrawing(bytes, drawingKindOf(bytes));
  } else if (!PNG.every((v, i) => bytes[i] === v)) throw new PictureError('the proof is not a PNG picture');
  return { ownName: null, facts: null };
}

/** Parts of a model that are told. */
const MOST_PARTS = 500;

/** What a model is like, once it and its pictures could be read. */
async function modelFacts(bytes: Uint8Array): Promise<ModelLine> {
  const { model } = await loadModel('', bytes, decoders);
  const { box, triangles, parts, leftOut } = model;
  return {
    triangles,
    sides: box.max.map((v, i) => v - box.min[i]!),
    parts: parts.slice(0, MOST_PARTS).map((p) => p.name),
    leftOut,
  };
}

/** A small picture of a surround is at most so wide, pixels, unless its sides are odd. */
const SMALL = 80;
/** How bright the mean of a surround stands in its small picture. */
const MIDDLE = 0.18;

/** What a surround is like; its small picture is as bright as an eye would get used to it. */
function factsOf(picture: SurroundPicture): SurroundLine {
  const { mean, peak, stops, peakDirection } = surroundFacts(picture);
  const { width, height, data } = reduced(picture, SMALL);
  const gain = MIDDLE / Math.max(mean, 1e-9);
  const rgb = Uint8Array.from(data, (v) => Math.round(encodeSrgb(Math.min(1, v * gain)) * 255));
  return {
    mean,
    peak,
    stops,
    peakDirection,
    small: { width, height, rgb: Buffer.from(rgb).toString('base64') },
  };
}

/** What each file of a project is to it. */
function kindsIn(project: Project): (hash: string) => UploadKind {
  const { blocks, finishes, looks, pieces } = project;
  const lights = looks.flatMap((l) => l.rig);
  const panels = looks.flatMap((l) => l.surround.panels);
  const kinds = new Map<string, UploadKind>();
  const are = (kind: UploadKind, hashes: readonly (string | undefined)[]) =>
    hashes.forEach((hash) => hash !== undefined && kinds.set(hash, kind));
  are(
    'profile',
    lights.map((l) => ('profile' in l ? l.profile?.id : undefined)),
  );
  are('picture', [
    ...lights.map((l) => ('pattern' in l ? l.pattern?.id : undefined)),
    ...panels.map((p) => p.picture?.id),
    ...pieces.map((p) => p.picture?.id),
    ...finishes.flatMap(picturesOf),
  ]);
  are(
    'model',
    pieces.map((p) => p.model?.id),
  );
  are(
    'drawing',
    blocks.map((b) => b.drawing?.id),
  );
  are('font', [...lights.map((l) => ('font' in l ? l.font.id : undefined)), ...blocks.map((b) => b.font.id)]);
  are('footage', footageOf(project));
  return (hash) => kinds.get(hash) ?? 'surround';
}

async function readProject(bytes: Uint8Array, folder: string): Promise<ReadProject> {
  const { project, assets } = await unpackProject(bytes, sha256);
  const kindOf = kindsIn(project);
  const read: ReadProject['assets'] = [];
  for (const { hash, name, bytes: file } of assets) {
    const kind = kindOf(hash);
    const { facts } = await readAsset(kind, file);
    await writeFile(join(folder, hash), file);
    read.push({ kind, hash, name, facts });
  }
  return { project, assets: read };
}

function unreadableOf(error: unknown): Unreadable {
  const message = error instanceof Error ? error.message : 'the reader failed';
  if (error instanceof DocumentError)
    return { title: 'Not a valid document', message, problems: error.problems };
  if (error instanceof FontError) return { title: 'Not a usable font', message };
  if (error instanceof DrawingError) return { title: 'Not a usable drawing', message };
  if (error instanceof ProfileError) return { title: 'Not a usable photometric file', message };
  if (error instanceof FootageError) return { title: 'Not a usable moving picture', message };
  if (error instanceof ModelError) return { title: 'Not a usable model', message };
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
