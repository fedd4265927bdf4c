/** Pictures that finishes are fed from: how they are shown in the desk, and which is moved by hand. */
import { create } from 'zustand';
import type { TexturePreview } from '@wemlox/core/texture/texture';

interface Previews {
  /** By texture key; null while one is on its way or cannot be shown. */
  known: Readonly<Record<string, TexturePreview | null>>;
}

export const usePreviews = create<Previews>()(() => ({ known: {} }));

/** A picture that is moved by hand on the letters, with the coat it belongs to. */
export interface Placing {
  finish: string;
  coat: string | null;
  feed: string;
}

export const usePlacing = create<{ placing: Placing | null }>()(() => ({ placing: null }));
export const place = (placing: Placing | null) => usePlacing.setState({ placing });
