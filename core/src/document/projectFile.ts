/** The .wemlox file: a zip of project.json and the assets it names, each under its SHA-256. */
import { strFromU8, strToU8, zipSync } from 'fflate';
import { openDocument, DocumentError } from './door.ts';
import type { Finish, PictureRef } from './finish.ts';
import type { Light } from './light.ts';
import type { Project } from './project.ts';
import type { Piece } from './stage.ts';
import { cutTo } from './text.ts';
import { unzipped } from './unzipped.ts';

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

/** SHA-256 of every uploaded picture that feeds a finish. */
export const picturesOf = ({ feeds, coats }: Pick<Finish, 'feeds' | 'coats'>): string[] =>
  [...feeds, ...coats.flatMap((c) => c.feeds)].flatMap(({ picture }) =>
    picture.source === 'asset' ? [picture.id] : [],
  );

/** SHA-256 of what a light leans on: a font, a pattern, a photometric file. */
export const filesOf = (light: Light): string[] =>
  [
    'font' in light ? light.font : null,
    'pattern' in light ? light.pattern : null,
    'profile' in light ? light.profile : null,
  ].flatMap((ref) => (ref?.source === 'asset' ? [ref.id] : []));

/** SHA-256 of what a piece shows: its picture, its model. */
export const filesOfPiece = ({ picture, model }: Piece): string[] => [
  ...(picture?.source === 'asset' ? [picture.id] : []),
  ...(model ? [model.id] : []),
];

/** SHA-256 of the moving pictures of a project. */
export function footageOf({ finishes, looks, pieces }: Project): string[] {
  const refs: (Pick<PictureRef, 'id' | 'plays'> | null)[] = [
    ...finishes
      .flatMap(({ feeds, coats }) => [...feeds, ...coats.flatMap((c) => c.feeds)])
      .map((f) => f.picture),
    ...looks.flatMap(({ surround }) => [surround, ...surround.panels.map((p) => p.picture)]),
    ...looks.flatMap(({ rig }) => rig.map((l) => ('pattern' in l ? l.pattern : null))),
    ...pieces.map((p) => p.picture),
  ];
  return [...new Set(refs.flatMap((ref) => (ref?.plays ? [ref.id] : [])))];
}

/** SHA-256 of every asset the project refers to. */
export function assetsOf(project: Project): string[] {
  const fonts = project.blocks.filter((b) => b.font.source === 'asset').map((b) => b.font.id);
  const pictures = project.looks.filter((l) => l.surround.source === 'picture').map((l) => l.surround.id);
  const drawings = project.blocks.flatMap((b) => b.drawing?.id ?? []);
  const panels = project.looks.flatMap(({ surround }) =>
    surround.panels.flatMap(({ picture }) => (picture?.source === 'asset' ? [picture.id] : [])),
  );
  return [
    ...new Set([
      ...fonts,
      ...drawings,
      ...project.pieces.flatMap(filesOfPiece),
      ...pictures,
      ...panels,
      ...project.looks.flatMap(({ rig }) => rig.flatMap(filesOf)),
      ...project.finishes.flatMap(picturesOf),
    ]),
  ];
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

const isPart = (name: string) =>
  name === 'project.json' || name === 'assets.json' || /^assets\/[0-9a-f]{64}$/.test(name);

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
    files = unzipped(bytes, isPart);
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
