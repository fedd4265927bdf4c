/** The film that is made in the page. Not part of the document, and gone with the page. */
import { create } from 'zustand';

export interface Filming {
  /** Of its file, without ending. */
  name: string;
  width: number;
  height: number;
  /** Pictures that are done, and all. */
  done: number;
  all: number;
  /** When it was begun, milliseconds of the page's clock. */
  began: number;
  stop: () => void;
}

export const useFilming = create<{ now: Filming | null }>()(() => ({ now: null }));
