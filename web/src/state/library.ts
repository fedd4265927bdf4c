/** The library of finishes, shared by all projects. */
import { create } from 'zustand';
import type { Finish } from '@wemlox/core/document';
import { api } from './api.ts';
import { attempt, notify } from './notices.ts';

export interface Library {
  finishes: Finish[];
  /** Whether the store has answered, or failed to: until then nobody knows what the library holds. */
  known: boolean;
}

export const useLibrary = create<Library>()(() => ({ finishes: [], known: false }));

export const loadLibrary = async () => {
  await attempt('The library could not be read', async () =>
    useLibrary.setState({ finishes: await api.finishes() }),
  );
  useLibrary.setState({ known: true });
};

export const keepInLibrary = (finish: Finish) =>
  attempt(`${finish.name} was not kept`, async () => {
    const kept = await api.keepFinish(finish);
    notify('done', `${kept.name} is in the library`, {
      label: 'Take it out',
      run: () => void takeOut(kept),
    });
    await loadLibrary();
  });

export const takeOut = (finish: Finish) =>
  attempt(`${finish.name} was not taken out`, async () => {
    await api.removeFinish(finish.id);
    const restore = () =>
      attempt('Not brought back', async () => {
        await api.restoreFinish(finish.id);
        await loadLibrary();
      });
    notify('done', `Took ${finish.name} out of the library`, {
      label: 'Bring back',
      run: () => void restore(),
    });
    await loadLibrary();
  });
