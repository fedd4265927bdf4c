/** Stands a light straight before a letter's face, so far from it. */
import { useState } from 'react';
import type { Light } from '@wemlox/core/document';
import { standBeforeLetter } from '../../actions/lights.ts';
import { Fold, NumberRow } from '../../desk/rows.tsx';
import { useShown } from '../../state/shown.ts';

/** A hand's breadth, metres. */
const HAND = 0.09;

export function BeforeLetter({ light }: { light: Light }) {
  const blocks = useShown((v) => v.blocks);
  const [distance, setDistance] = useState(HAND);
  const letters = blocks.flatMap(({ block, letters: all }) =>
    all.map(({ letter, text }) => ({ block, letter, text })),
  );
  return (
    <Fold title="Stand it before a letter">
      <NumberRow
        label="How far"
        hint="From the letter’s front"
        unit="mm"
        factor={1000}
        min={1}
        max={10_000}
        faderMax={600}
        step={1}
        value={distance}
        initial={HAND}
        onChange={setDistance}
      />
      <div className="flex max-h-24 flex-wrap gap-1 overflow-y-auto pt-1" role="group" aria-label="Letters">
        {letters.map(({ block, letter, text }) => (
          <button
            key={`${block}/${letter}`}
            type="button"
            className="btn btn-xs min-w-6 px-1.5"
            aria-label={`Before ${text}`}
            onClick={() => standBeforeLetter(light.id, block, letter, distance)}
          >
            {text}
          </button>
        ))}
      </div>
    </Fold>
  );
}
