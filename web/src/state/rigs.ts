/** The library of rigs, shared by all projects. */
import { create } from 'zustand';
import type { Rig } from '@wemlox/core/document';
import { api } from './api.ts';
import { attempt, notify } from './notices.ts';

export interface KeptRig {
  id: string;
  rig: Rig;
}

export const useRigs = create<{ rigs: KeptRig[] }>()(() => ({ rigs: [] }));

export const loadRigs = () =>
  attempt('The library of rigs could not be read', async () => useRigs.setState({ rigs: await api.rigs() }));

export const keepRig = (rig: Rig) =>
  attempt(`${rig.name} was not kept`, async () => {
    const { id } = await api.keepRig(rig);
    notify('done', `${rig.name} is in the library of rigs`, {
      label: 'Take it out',
      run: () => void takeRigOut({ id, rig }),
    });
    await loadRigs();
  });

export const takeRigOut = ({ id, rig }: KeptRig) =>
  attempt(`${rig.name} was not taken out`, async () => {
    await api.removeRig(id);
    const restore = () =>
      attempt('Not brought back', async () => {
        await api.restoreRig(id);
        await loadRigs();
      });
    notify('done', `Took ${rig.name} out of the library`, { label: 'Bring back', run: () => void restore() });
    await loadRigs();
  });
