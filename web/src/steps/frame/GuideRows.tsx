/** Which guides lie over the picture. */
import { NumberRow, Section } from '../../desk/rows.tsx';
import { choose, GUIDES, useChoice, type Guide } from '../../state/choice.ts';

const NAMES: Record<Guide, string> = {
  thirds: 'Thirds',
  middle: 'Middle',
  safe: 'Safe area',
  margin: 'Own margin',
};

export function GuideRows() {
  const guides = useChoice((c) => c.guides);
  const margin = useChoice((c) => c.margin);
  return (
    <Section title="Guides">
      <div className="flex flex-wrap gap-1.5 pb-1">
        {GUIDES.map((guide) => {
          const on = guides.includes(guide);
          return (
            <button
              key={guide}
              type="button"
              className={`btn btn-xs ${on ? 'btn-primary' : ''}`}
              aria-pressed={on}
              onClick={() => choose({ guides: on ? guides.filter((g) => g !== guide) : [...guides, guide] })}
            >
              {NAMES[guide]}
            </button>
          );
        })}
      </div>
      {guides.includes('margin') && (
        <NumberRow
          label="Margin"
          unit="%"
          factor={100}
          min={0}
          max={45}
          step={0.5}
          value={margin}
          initial={0.08}
          hint="Of the shorter side"
          onChange={(v) => choose({ margin: v })}
        />
      )}
    </Section>
  );
}
