/** Light caught by keys: arrows lead a ring over the picture, and what it stands on catches while Space is held. */
import { useEffect, useRef, useState } from 'react';
import { catchAt } from '../actions/catch.ts';
import type { Draft } from '../engine/draft.ts';
import { useCatch } from '../state/catching.ts';
import { keyBrush } from './keyBrush.ts';
import { placeInWords } from './placeInWords.ts';

const RING = 6;

export function CatchKeys({ draft }: { draft: Draft }) {
  const catching = useCatch((c) => c.catching);
  const layer = useRef<HTMLDivElement>(null);
  const [led, setLed] = useState<readonly [number, number] | null>(null);
  const [stands, setStands] = useState('');
  useEffect(() => {
    const element = layer.current;
    if (!catching || !element) return;
    return keyBrush(element, {
      moved: (x, y) => {
        setLed([x, y]);
        setStands(placeInWords(draft.pick(x, y)));
      },
      paints: (x, y) => {
        const hit = draft.pick(x, y);
        if (hit?.letter) catchAt(hit, draft);
      },
      ended: () => undefined,
    });
  }, [catching, draft]);
  if (!catching) return null;
  return (
    <div
      ref={layer}
      role="application"
      aria-roledescription="Catching"
      aria-label="Catch light on the letters. Arrows move over the picture, Space catches where it is while it is held"
      tabIndex={0}
      onBlur={() => setLed(null)}
      data-testid="catch-keys"
      className="pointer-events-none absolute inset-0 focus-visible:outline-2 focus-visible:-outline-offset-2 focus-visible:outline-primary"
    >
      {led && (
        <div
          className="absolute rounded-full border border-white shadow-[0_0_0_1px_black]"
          style={{ left: led[0] - RING, top: led[1] - RING, width: 2 * RING, height: 2 * RING }}
        />
      )}
      <p role="status" className="sr-only">
        {stands}
      </p>
    </div>
  );
}
