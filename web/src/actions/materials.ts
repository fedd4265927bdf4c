/** Finishes as files: out to other programs, and in from them. */
import type { Finish, PictureRef } from '@wemlox/core/document';
import { engine } from '../engine/engine.ts';
import { api } from '../state/api.ts';
import { attempt, notify } from '../state/notices.ts';
import { download } from './files.ts';
import { addFinish } from './finishes.ts';

/** Saves a finish as a MaterialX document, with its pictures where it has any. */
export async function saveMaterial(finish: Finish): Promise<void> {
  const file = await attempt(`${finish.name} could not be written`, () =>
    engine()!.ask({ ask: 'material', finish }),
  );
  if (!file) return;
  download(
    file.bytes,
    `${finish.name}.${file.zipped ? 'zip' : 'mtlx'}`,
    file.zipped ? 'application/zip' : 'application/xml',
  );
  if (file.approximated.length > 0)
    notify('problem', `In the file of ${finish.name}: ${file.approximated.join('; ')}`);
}

/** Takes the materials of a file in as finishes of the project. */
export const takeMaterials = (file: File) =>
  attempt(`${file.name} was not taken`, async () => {
    const opened = await engine()!.ask({
      ask: 'openMaterial',
      bytes: new Uint8Array(await file.arrayBuffer()),
    });
    const pictures = new Map<string, PictureRef>();
    for (const [name, bytes] of opened.pictures) {
      const asset = await api.upload('picture', name, new Uint8Array(bytes));
      pictures.set(name, { source: 'asset', id: asset.hash, name: asset.name });
    }
    const { finishes, unread } = await engine()!.ask({ ask: 'readMaterial', text: opened.text, pictures });
    for (const finish of finishes) addFinish(finish);
    const names = finishes.map((f) => f.name).join(', ');
    if (unread.length > 0) notify('problem', `Took ${names}; not read: ${unread.join('; ')}`);
    else notify('done', `Took ${names} from ${file.name}`);
  });
