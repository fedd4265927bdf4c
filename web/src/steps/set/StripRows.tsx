/** A ribbon of light points inside the letters. */
import { Plus, X } from 'lucide-react';
import { newStrip, type Block, type Strip } from '@wemlox/core/src/document/index.ts';
import { ColourRow, Fold, NumberRow, SegmentRow, SwitchRow } from '../../desk/rows.tsx';
import { editBlock } from '../../actions/actions.ts';

/** What rows go back to. */
const PLAIN = newStrip();
const MOST_COLOURS = 16;

export function StripRows({ block }: { block: Block }) {
  const { strip } = block;
  const set = (what: string, change: Partial<Strip>) =>
    editBlock(block.id, `Strip ${what}`, (b) => Object.assign(b.strip, change));
  const row = (
    label: string,
    key: 'inset' | 'width' | 'spacing' | 'size',
    faderMax: number,
    hint: string,
    min = 0,
  ) => (
    <NumberRow
      label={label}
      unit="mm"
      factor={1000}
      min={min}
      max={1000}
      faderMax={faderMax}
      step={0.1}
      value={strip[key]}
      initial={PLAIN[key]}
      hint={hint}
      onChange={(v) => set(label.toLowerCase(), { [key]: v })}
    />
  );
  return (
    <Fold title={`Strip of points: ${strip.on ? 'on' : 'off'}`}>
      <SwitchRow label="Strip of points" value={strip.on} onChange={(on) => set(on ? 'on' : 'off', { on })} />
      {strip.on && (
        <>
          {row('From the edge', 'inset', 60, 'How far the ribbon lies inside the outline')}
          <NumberRow
            label="Back to front"
            unit="%"
            factor={100}
            min={0}
            max={100}
            step={1}
            value={strip.at}
            initial={PLAIN.at}
            onChange={(at) => set('place', { at })}
          />
          {row('Ribbon', 'width', 60, 'Width of the ribbon, along the depth')}
          <SegmentRow
            label="Points by"
            value={strip.by}
            options={[
              ['spacing', 'Distance'],
              ['count', 'Number'],
            ]}
            onChange={(by) => set('points', { by })}
          />
          {strip.by === 'spacing' ? (
            row('Distance', 'spacing', 60, 'Distance from one point of light to the next', 0.5)
          ) : (
            <NumberRow
              label="Each outline"
              min={1}
              max={2000}
              faderMax={200}
              step={1}
              value={strip.count}
              initial={PLAIN.count}
              onChange={(count) => set('number', { count })}
            />
          )}
          {row('Point', 'size', 20, 'Diameter of each point of light', 0.1)}
          <NumberRow
            label="Glow"
            unit="nit"
            min={0}
            max={100_000}
            faderMax={2000}
            step={0.1}
            log
            value={strip.luminance}
            initial={PLAIN.luminance}
            onChange={(luminance) => set('glow', { luminance })}
          />
          {strip.colours.map((colour, i) => (
            <div key={i} className="flex items-center gap-1">
              <div className="min-w-0 flex-1">
                <ColourRow
                  label={`Colour ${i + 1}`}
                  value={colour}
                  onChange={(rgb) =>
                    set('colour', { colours: strip.colours.map((c, k) => (k === i ? rgb : c)) })
                  }
                />
              </div>
              {strip.colours.length > 1 && (
                <button
                  type="button"
                  className="btn btn-xs btn-ghost px-1"
                  aria-label={`Remove colour ${i + 1}`}
                  onClick={() => set('colour removed', { colours: strip.colours.filter((_, k) => k !== i) })}
                >
                  <X size={12} />
                </button>
              )}
            </div>
          ))}
          {strip.colours.length < MOST_COLOURS && (
            <button
              type="button"
              className="btn btn-xs mt-1"
              onClick={() => set('colour added', { colours: [...strip.colours, [1, 1, 1]] })}
            >
              <Plus size={12} /> Colour
            </button>
          )}
        </>
      )}
    </Fold>
  );
}
