/** Asking for pictures as the desk shows them: once each, and small. */
import type { Feed } from '@wemlox/core/document';
import { textureKey, type TexturePreview } from '@wemlox/core/texture/texture';
import { engine } from '../engine/engine.ts';
import { usePreviews } from '../state/pictures.ts';

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
