/** Whether hands in the picture catch light, and what there is to say about the last place. */
import { create } from 'zustand';

export const useCatch = create<{ catching: boolean; why: string }>()(() => ({ catching: false, why: '' }));
