/** Asking for pictures as the desk shows them: once each, and small. */
import { newPlayback, type Feed, type PictureRef, type Playback } from '@wemlox/core/document';
import type { AssetLine } from '@wemlox/wire';
import { textureKey, type TexturePreview } from '@wemlox/core/texture/texture';
import { engine } from '../engine/engine.ts';
import { usePreviews } from '../state/pictures.ts';

/** Whether a file is a moving picture, by its ending. */
export const isMovingFile = ({ name }: File) => /\.(webm|mp4|zip)$/i.test(name);

/** How a moving picture plays at first; null for one that stands still. */
export function playbackOf({ facts }: Pick<AssetLine, 'facts'>): Playback | null {
  if (!facts || !('frames' in facts)) return null;
  return newPlayback(facts.frames, facts.rate);
}

/** A file as finishes, panels, lights and plates show it. */
export function refOf(asset: Pick<AssetLine, 'hash' | 'name' | 'facts'>): PictureRef {
  const plays = playbackOf(asset);
  return { source: 'asset', id: asset.hash, name: asset.name, ...(plays ? { plays } : {}) };
}

const keep = (key: string, preview: TexturePreview | null) =>
  usePreviews.setState(({ known }) => ({ known: { ...known, [key]: preview } }));

/** Asks for a feed's picture, unless it is known or asked for. A picture that cannot be shown is told of by the scene. */
export function seekPreview({ picture, coding }: Pick<Feed, 'picture' | 'coding'>): void {
  const key = textureKey(picture, coding);
  const asked = engine();
  if (!asked || key in usePreviews.getState().known) return;
  keep(key, null);
  asked.ask({ ask: 'picture', picture, coding }).then(
    (preview) => keep(key, preview),
    () => undefined,
  );
}
