/** The brush that paints on a picture: its size, how much it paints, how it fades; and all of it at once. */
import { fillSheet } from '../actions/painting.ts';
import { BRUSH, LEAST_RADIUS, MOST_RADIUS, setBrush, usePainting } from '../state/painting.ts';
import { NumberRow } from './rows.tsx';

const MM = 1000;
const PERCENT = { min: 0, max: 100, factor: 100, unit: '%', step: 1 };

export function BrushRows() {
  const { radius, amount, soft } = usePainting();
  return (
    <section aria-label="Brush in hand" className="mb-1">
      <NumberRow
        label="Brush"
        hint="Radius on the letters; the wheel over the picture sizes it too"
        value={radius}
        initial={BRUSH.radius}
        factor={MM}
        unit="mm"
        min={LEAST_RADIUS * MM}
        max={MOST_RADIUS * MM}
        faderMax={100}
        step={0.1}
        log
        onChange={(radius) => setBrush({ radius })}
      />
      <NumberRow
        label="Paints"
        hint="How far along the stops; with Alt it takes away"
        value={amount}
        initial={BRUSH.amount}
        {...PERCENT}
        onChange={(amount) => setBrush({ amount })}
      />
      <NumberRow
        label="Fades over"
        hint="Share of its radius"
        value={soft}
        initial={BRUSH.soft}
        {...PERCENT}
        onChange={(soft) => setBrush({ soft })}
      />
      <div className="flex gap-1 pt-1">
        <button type="button" className="btn btn-xs" onClick={() => fillSheet(amount)}>
          Paint all
        </button>
        <button type="button" className="btn btn-xs" onClick={() => fillSheet(0)}>
          Clear all
        </button>
      </div>
    </section>
  );
}
