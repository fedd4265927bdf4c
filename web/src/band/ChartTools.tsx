/** What the chart shows of the faces, and dressing many letters in one move. */
import { Group, Maximize2, Minimize2, Ungroup } from 'lucide-react';
import { ZONE_NAMES } from '@wemlox/core/document';
import { PATTERNS, type Pattern } from '@wemlox/core/edits';
import { copyDress, dressPattern } from '../actions/finishes.ts';
import { choose, useChoice } from '../state/choice.ts';
import { notify } from '../state/notices.ts';
import type { BandLetter } from '../workers/messages.ts';
import { STANDING_OUT, type StandingOut } from './coverage.ts';

/** What is done to the letters: a pattern, or the dress of the chosen one to others. */
const COPIES = { every: 'every letter', alike: 'letters alike' } as const;

function lay(pattern: Pattern, whole: boolean): void {
  const { face, finish, brush, seed } = useChoice.getState();
  const laid = finish ?? brush;
  if (!laid || !face) {
    notify('problem', 'Choose a face of the text and a finish in the rack first');
    return;
  }
  dressPattern(face.block, pattern, whole ? null : face.zone, laid, seed);
}

function copy(to: keyof typeof COPIES, letters: readonly BandLetter[]): void {
  const { face } = useChoice.getState();
  const from = letters.find((l) => l.letter === face?.letter && l.block === face.block);
  if (!from) {
    notify('problem', 'Choose a face of the letter whose dress is copied first');
    return;
  }
  const others = letters.filter((l) => to === 'every' || l.text.toLowerCase() === from.text.toLowerCase());
  copyDress(from, others);
}

const FIELD = 'select select-xs w-full min-w-0';

export function ChartTools({
  shown,
  onShown,
  letters,
}: {
  shown: StandingOut;
  onShown: (shown: StandingOut) => void;
  letters: readonly BandLetter[];
}) {
  const zone = useChoice((c) => c.face?.zone);
  const large = useChoice((c) => c.largeChart);
  const grouped = useChoice((c) => c.groupedChart);
  const seed = useChoice((c) => c.seed);
  return (
    <div className="flex flex-col gap-1">
      <div className="flex gap-1">
        <select
          className={FIELD}
          aria-label="Faces that stand out"
          value={shown}
          onChange={(e) => onShown(e.target.value as StandingOut)}
        >
          {Object.entries(STANDING_OUT).map(([key, name]) => (
            <option key={key} value={key}>
              {name}
            </option>
          ))}
        </select>
        <button
          type="button"
          className="btn btn-xs px-1"
          aria-label="Equal letters in one column"
          aria-pressed={grouped}
          title={
            grouped
              ? 'Each letter in a column of its own'
              : 'Equal letters that are dressed alike in one column, dressed in one move'
          }
          onClick={() => choose({ groupedChart: !grouped })}
        >
          {grouped ? <Ungroup size={12} /> : <Group size={12} />}
        </button>
        <button
          type="button"
          className="btn btn-xs px-1"
          aria-label="Larger chart"
          aria-pressed={large}
          title={large ? 'A small chart under a large picture' : 'Letters large enough to look at closely'}
          onClick={() => choose({ largeChart: !large })}
        >
          {large ? <Minimize2 size={12} /> : <Maximize2 size={12} />}
        </button>
      </div>
      <select
        className={FIELD}
        aria-label="Dress many letters"
        value=""
        onChange={(e) => {
          const [what, which] = e.target.value.split(' ');
          if (what === 'copy') copy(which as keyof typeof COPIES, letters);
          else lay(which as Pattern, what === 'whole');
        }}
      >
        <option value="" disabled>
          Dress many …
        </option>
        {(['whole', 'zone'] as const).map((what) => (
          <optgroup
            key={what}
            label={`The finish in hand on ${what === 'whole' ? 'whole letters' : `their ${zone ? ZONE_NAMES[zone] : 'chosen zone'}`}`}
          >
            {Object.entries(PATTERNS).map(([key, name]) => (
              <option key={key} value={`${what} ${key}`}>
                {name}
              </option>
            ))}
          </optgroup>
        ))}
        <optgroup label="Copy the chosen letter’s dress to">
          {Object.entries(COPIES).map(([key, name]) => (
            <option key={key} value={`copy ${key}`}>
              {name}
            </option>
          ))}
        </optgroup>
      </select>
      <label
        className="quiet flex h-4 items-center justify-between text-xs"
        title="Another number picks other letters at random; the same number the same"
      >
        Seed
        <input
          type="number"
          aria-label="Random seed"
          className="input input-xs h-4 w-14 px-1"
          min={1}
          max={9999}
          value={seed}
          onChange={(e) => {
            const typed = Math.round(e.target.valueAsNumber);
            if (typed >= 1 && typed <= 9999) choose({ seed: typed });
          }}
        />
      </label>
    </div>
  );
}
