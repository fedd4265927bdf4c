/** A ribbon of light points inside the letters. */
import { Plus, X } from 'lucide-react';
import { MOST, type Block } from '@wemlox/core/document';
import { addStripColour, removeStripColour, setStripColour } from '@wemlox/core/edits';
import { blockAddress } from '../../actions/document.ts';
import { ParameterRows } from '../../desk/ParameterRow.tsx';
import { ColourRow, Fold } from '../../desk/rows.tsx';
import { perform } from '../../state/studio.ts';

export function StripRows({ block: { id, strip } }: { block: Block }) {
  return (
    <Fold title={`Strip of points: ${strip.on ? 'on' : 'off'}`}>
      <ParameterRows of={`${blockAddress(id)}/strip`} />
      {strip.on &&
        strip.colours.map((colour, i) => (
          <div key={i} className="flex items-center gap-1">
            <div className="min-w-0 flex-1">
              <ColourRow
                label={`Colour ${i + 1}`}
                value={colour}
                onChange={(rgb) => perform((p) => setStripColour(p, id, i, rgb))}
              />
            </div>
            {strip.colours.length > 1 && (
              <button
                type="button"
                className="btn btn-xs btn-ghost px-1"
                aria-label={`Remove colour ${i + 1}`}
                onClick={() => perform((p) => removeStripColour(p, id, i))}
              >
                <X size={12} />
              </button>
            )}
          </div>
        ))}
      {strip.on && strip.colours.length < MOST.stripColours && (
        <button
          type="button"
          className="btn btn-xs mt-1"
          onClick={() => perform((p) => addStripColour(p, id))}
        >
          <Plus size={12} /> Colour
        </button>
      )}
    </Fold>
  );
}
