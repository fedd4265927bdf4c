/** How a moving picture plays: what its file holds, and the rows of what is shown of it when. */
import type { ReactNode } from 'react';
import type { Playback } from '@wemlox/core/document';
import { numberText } from '../state/language.ts';

export function PlayedRows({ plays, children }: { plays: Playback | null | undefined; children: ReactNode }) {
  if (!plays) return null;
  const { frames, rate } = plays;
  return (
    <div role="group" aria-label="Playing">
      <p className="quiet text-xs">
        {frames} frames, {numberText(rate, Number.isInteger(rate) ? 0 : 2)} a second,{' '}
        {numberText(frames / rate, 2)} s
      </p>
      {children}
    </div>
  );
}
