/** The .wemlox file: a zip of project.json and the assets it names, each under its SHA-256. */
import { strFromU8, strToU8, Unzip, UnzipInflate, zipSync } from 'fflate';
import { DOCUMENT, inWords, PROJECT_FILE } from '../ceilings.ts';
import { openDocument, DocumentError } from './door.ts';
import type { Project } from './project.ts';
import { cutTo } from './text.ts';

/** An asset a project leans on: an uploaded font, drawing or environment picture. */
export interface FileAsset {
  hash: string;
  name: string;
  bytes: Uint8Array;
}

export interface ProjectFile {
  project: Project;
  assets: FileAsset[];
}

/** SHA-256 of every asset the project refers to. */
export function assetsOf(project: Project): string[] {
  const fonts = project.blocks.filter((b) => b.font.source === 'asset').map((b) => b.font.id);
  const pictures = project.looks.filter((l) => l.surround.source === 'picture').map((l) => l.surround.id);
  const drawings = project.blocks.flatMap((b) => b.drawing?.id ?? []);
  return [...new Set([...fonts, ...drawings, ...pictures])];
}

/** Packs a project with its assets. */
export function packProject({ project, assets }: ProjectFile): Uint8Array<ArrayBuffer> {
  const names = Object.fromEntries(assets.map((a) => [a.hash, a.name]));
  return new Uint8Array(
    zipSync({
      'project.json': strToU8(JSON.stringify(project, null, 1)),
      'assets.json': strToU8(JSON.stringify(names, null, 1)),
      ...Object.fromEntries(assets.map((a) => [`assets/${a.hash}`, [a.bytes, { level: 0 }] as const])),
    } as Parameters<typeof zipSync>[0]),
  );
}

/** Unpacks in a stream and stops as soon as the contents outgrow the limit, whatever the zip claims. */
function unzipped(bytes: Uint8Array): Map<string, Uint8Array> {
  const files = new Map<string, Uint8Array>();
  let total = 0;
  let entries = 0;
  const unzip = new Unzip((file) => {
    if (++entries > PROJECT_FILE.entries)
      throw new DocumentError([`the file holds more than ${PROJECT_FILE.entries} entries`]);
    if (
      file.name !== 'project.json' &&
      file.name !== 'assets.json' &&
      !/^assets\/[0-9a-f]{64}$/.test(file.name)
    )
      return;
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

/**
 * Unpacks and checks a .wemlox file.
 * @param sha256 hex digest of bytes, to check each asset against its name
 * @throws DocumentError when it is not one, is damaged, incomplete or too large
 */
export async function unpackProject(
  bytes: Uint8Array,
  sha256: (bytes: Uint8Array) => Promise<string>,
): Promise<ProjectFile> {
  let files: Map<string, Uint8Array>;
  try {
    files = unzipped(bytes);
  } catch (error) {
    if (error instanceof DocumentError) throw error;
    throw new DocumentError(['the file is not a .wemlox file, or is damaged']);
  }
  const document = files.get('project.json');
  if (!document) throw new DocumentError(['the file is not a .wemlox file: it holds no project.json']);
  let parsed: unknown;
  let names: Record<string, string>;
  try {
    parsed = JSON.parse(strFromU8(document));
    const named: unknown = JSON.parse(strFromU8(files.get('assets.json') ?? strToU8('{}')));
    names = (typeof named === 'object' && named !== null ? named : {}) as Record<string, string>;
  } catch {
    throw new DocumentError(['project.json or assets.json is not valid JSON']);
  }
  const project = openDocument(parsed);
  const assets: FileAsset[] = [];
  for (const hash of assetsOf(project)) {
    const found = files.get(`assets/${hash}`);
    if (!found)
      throw new DocumentError([`asset ${hash} (${names[hash] ?? 'unnamed'}) is missing from the file`]);
    if ((await sha256(found)) !== hash) throw new DocumentError([`asset ${names[hash] ?? hash} is damaged`]);
    assets.push({ hash, name: cutTo(String(names[hash] ?? hash), 200), bytes: found });
  }
  return { project, assets };
}
