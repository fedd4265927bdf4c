/** Files that leave the studio. */
import type { Finish } from '@wemlox/core/document';
import type { ExportKind } from '@wemlox/core/scene/exportKinds';
import { engine } from '../engine/engine.ts';
import { WATCHED, type EncodeKind, type ExportWatch } from '../workers/messages.ts';
import { attempt, notify, ongoing } from '../state/notices.ts';
import { drawnNow, shotOf, useStudio } from '../state/studio.ts';
import { isOfDocument } from './balance.ts';
import { currentLook } from './document.ts';

/** Milliseconds that a file stays in memory once the browser was asked to save it. */
const SAVING = 10_000;
/** Milliseconds between two looks at how far a file is. */
const LOOKS = 250;

export function download(bytes: Uint8Array<ArrayBuffer>, name: string, type: string): void {
  const url = URL.createObjectURL(new Blob([bytes], { type }));
  const link = document.createElement('a');
  link.href = url;
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(url), SAVING);
}

/** The traced picture as files of several kinds; null, and told, when there is none or it cannot be. */
export async function encodedPicture<K extends EncodeKind>(failing: string, ...kinds: K[]) {
  const encoded = await attempt(failing, async () => (await engine()?.encode(...kinds)) ?? 'nothing');
  if (encoded !== 'nothing') return encoded;
  notify('problem', 'Nothing is traced yet: wait for the first sample');
  return null;
}

/** Endings of picture files, and their kinds. */
const PICTURE_FILES = {
  png: ['png', 'image/png'],
  png16: ['png', 'image/png'],
  jpeg: ['jpg', 'image/jpeg'],
  exr: ['exr', 'image/x-exr'],
} as const;

/** Downloads the traced picture as it stands. */
export async function downloadPicture(kind: 'png' | 'png16' | 'jpeg' | 'exr'): Promise<void> {
  if (!isOfDocument('A picture file')) return;
  const { seen: project } = useStudio.getState();
  const encoded = await encodedPicture('The picture file could not be made', kind);
  if (!encoded) return;
  const [ending, type] = PICTURE_FILES[kind];
  download(encoded.files[kind], `${project.name}, ${currentLook(project).name}.${ending}`, type);
}

const TYPES: Record<ExportKind, string> = {
  glb: 'model/gltf-binary',
  obj: 'model/obj',
  svg: 'image/svg+xml',
};

/** Saves the type as a file for other programs. */
export async function exportType(kind: ExportKind): Promise<void> {
  const project = drawnNow();
  const file = `${kind.toUpperCase()} file`;
  const watch: ExportWatch = new Int32Array(new SharedArrayBuffer(12));
  const told = ongoing(`The ${file} is being made`, () => Atomics.store(watch, WATCHED.off, 1));
  const watching = setInterval(() => {
    if (watch[WATCHED.done] > 0)
      told.say(`The ${file} is being made: ${watch[WATCHED.done]} of ${watch[WATCHED.all]} faces`);
  }, LOOKS);
  const asked = engine()!.ask({
    ask: 'export',
    kind,
    project,
    look: currentLook(project).id,
    shot: shotOf(project).id,
    watch,
  });
  const bytes = await attempt(`The ${file} could not be made`, () => asked);
  clearInterval(watching);
  told.end();
  if (!bytes) return;
  download(bytes, `${project.name}.${kind}`, TYPES[kind]);
  const named = (isMeant: (finish: Finish) => boolean) =>
    project.finishes
      .filter(isMeant)
      .map((f) => f.name)
      .join(', ');
  const meant = named((f) => f.coats.length + f.feeds.length > 0);
  if (kind === 'obj' && meant)
    notify('problem', `The file has one plain surface, their mean, for the coats and feeds of ${meant}`);
  const turning = named((f) =>
    [...f.feeds, ...f.coats.flatMap((c) => c.feeds)].some(
      ({ source, parameter }) => source === 'angle' || parameter === 'relief',
    ),
  );
  if (kind === 'glb' && turning)
    notify('problem', `The file has no relief, and means of what changes by viewing angle, in ${turning}`);
}
