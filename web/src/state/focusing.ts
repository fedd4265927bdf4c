/** Whether the next click in the picture says what is to be sharp. */
import { create } from 'zustand';

interface Focusing {
  picking: boolean;
  /** Two clicks say the ends of what is to be sharp, not one what is sharpest. */
  ends: boolean;
  /** The end that was clicked first. */
  first: readonly number[] | null;
}

export const useFocusing = create<Focusing>()(() => ({ picking: false, ends: false, first: null }));
