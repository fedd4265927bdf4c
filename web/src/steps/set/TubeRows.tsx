/** Glass tubes: their course, size, ends and supports, what they measure, and where they bend too tightly. */
import type { Block, TubeCourse } from '@wemlox/core/document';
import { clearAllPaint, removeLastTube } from '@wemlox/core/edits';
import { addDrawnTube } from '../../actions/blocks.ts';
import { blockAddress, set } from '../../actions/document.ts';
import { ParameterRow, ParameterRows } from '../../desk/ParameterRow.tsx';
import { Section } from '../../desk/rows.tsx';
import { perform } from '../../state/studio.ts';
import type { BandBlock } from '../../workers/messages.ts';

/** What the tubes measure, in all and letter by letter. */
function Measures({ block, shaped }: { block: Block; shaped: BandBlock }) {
  const { scale } = shaped;
  const letters = shaped.letters.flatMap((l) => (l.tube ? [{ ...l, tube: l.tube }] : []));
  const whole = letters.reduce((sum, l) => sum + l.tube.length, 0) * scale;
  const least = block.tube.tightest * block.tube.diameter;
  const bends = letters.flatMap((l) => l.tube.bends.map((b) => ({ text: l.text, radius: b.radius * scale })));
  const tightest = bends.reduce((a, b) => (b.radius < a.radius ? b : a), { text: '', radius: Infinity });
  const crowded = letters.filter((l) => l.tube.crowded.length > 0);
  const lying = crowded.flatMap((l) => l.tube.crowded).reduce((sum, c) => sum + c.length, 0) * scale;
  return (
    <div className="pt-1 text-xs" data-testid="tube-measures">
      <p>
        {whole.toFixed(3)} m of tube{' '}
        <span className="quiet">
          {letters
            .slice(0, 24)
            .map((l) => `${l.text} ${(l.tube.length * scale * 1000).toFixed(0)}`)
            .join(', ')}
          {letters.length > 24 ? ' …' : ''} mm
        </span>
      </p>
      {bends.length > 0 && (
        <p className="mt-1 w-fit rounded-sm bg-warning px-1.5 py-0.5 text-warning-content">
          {bends.length} {bends.length > 1 ? 'bends are' : 'bend is'} tighter than {(least * 1000).toFixed(1)}{' '}
          mm; the tightest, in {tightest.text}, by {((least - tightest.radius) * 1000).toFixed(1)} mm
        </p>
      )}
      {crowded.length > 0 && (
        <p className="mt-1 w-fit rounded-sm bg-warning px-1.5 py-0.5 text-warning-content">
          {(lying * 1000).toFixed(0)} mm lie on other tubes, in{' '}
          {[...new Set(crowded.map((l) => l.text))].slice(0, 12).join(' ')}: no room for two side by side
        </p>
      )}
    </div>
  );
}

export function TubeRows({ block, shaped }: { block: Block; shaped: BandBlock | undefined }) {
  const { tube, id } = block;
  const of = `${blockAddress(id)}/tube`;
  return (
    <Section title="Tube">
      <ParameterRow
        address={`${of}/course`}
        onChange={(course: TubeCourse) =>
          course === 'drawn' && tube.drawn.length === 0 ? addDrawnTube(id) : set(`${of}/course`, course)
        }
      />
      {tube.course === 'drawn' && (
        <>
          <p className="quiet py-1 text-xs">
            Drag the nodes in the picture; double click a line for a new node, Alt-click a node to remove it.
          </p>
          <div className="flex gap-1.5 pb-1">
            <button type="button" className="btn btn-xs" onClick={() => addDrawnTube(id)}>
              Add a tube
            </button>
            {tube.drawn.length > 0 && (
              <button
                type="button"
                className="btn btn-xs"
                onClick={() => perform((p) => removeLastTube(p, id))}
              >
                Remove the last
              </button>
            )}
          </div>
        </>
      )}
      <ParameterRows
        of={of}
        without={['course']}
        after={{ smoothing: shaped && <Measures block={block} shaped={shaped} /> }}
      />
      <p className="quiet pt-1 text-xs">
        Drag along a tube in the band to paint it out; click a painted stretch to clear it.
      </p>
      {tube.paintOuts.length > 0 && (
        <button
          type="button"
          className="btn btn-xs mt-1"
          onClick={() => perform((p) => clearAllPaint(p, id))}
        >
          Clear all paint
        </button>
      )}
    </Section>
  );
}
