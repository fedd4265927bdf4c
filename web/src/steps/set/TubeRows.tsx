/** Glass tubes: their course, size, ends and supports, what they measure, and where they bend too tightly. */
import { newTube, TUBE_COURSES, type Block, type Tube } from '@wemlox/core/src/document/index.ts';
import { NumberRow, Section, SegmentRow, SwitchRow } from '../../desk/rows.tsx';
import { editBlock } from '../../actions/actions.ts';
import { addDrawnTube } from '../../actions/typeActions.ts';
import { COURSE_NAMES } from '../../state/words.ts';
import type { BandBlock } from '../../workers/messages.ts';

/** What rows go back to. */
const PLAIN = newTube();

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
  const { tube } = block;
  const set = (what: string, change: Partial<Tube>) =>
    editBlock(block.id, `Tube ${what}`, (b) => Object.assign(b.tube, change));
  const row = (
    label: string,
    key: 'diameter' | 'wall' | 'inset' | 'electrode' | 'standOff' | 'supports',
    faderMax: number,
    min = 0,
    max = 1000,
  ) => (
    <NumberRow
      label={label}
      unit="mm"
      factor={1000}
      min={min}
      max={max}
      faderMax={faderMax}
      step={0.1}
      value={tube[key]}
      initial={PLAIN[key]}
      onChange={(v) => set(label.toLowerCase(), { [key]: v })}
    />
  );
  return (
    <Section title="Tube">
      <SegmentRow
        label="Runs along"
        hint="Where in the stroke the tube lies"
        value={tube.course}
        options={TUBE_COURSES.map((c) => [c, COURSE_NAMES[c]] as const)}
        onChange={(course) =>
          course === 'drawn' && tube.drawn.length === 0 ? addDrawnTube(block.id) : set('course', { course })
        }
      />
      {tube.course === 'drawn' && (
        <>
          <p className="quiet py-1 text-xs">
            Drag the nodes in the picture; double click a line for a new node, Alt-click a node to remove it.
          </p>
          <div className="flex gap-1.5 pb-1">
            <button type="button" className="btn btn-xs" onClick={() => addDrawnTube(block.id)}>
              Add a tube
            </button>
            {tube.drawn.length > 0 && (
              <button
                type="button"
                className="btn btn-xs"
                onClick={() => set('removed', { drawn: tube.drawn.slice(0, -1) })}
              >
                Remove the last
              </button>
            )}
          </div>
        </>
      )}
      {row('Diameter', 'diameter', 40, 0.5)}
      {row('Glass wall', 'wall', 4, 0.1, 200)}
      {tube.course === 'edges' && row('From the edge', 'inset', 60)}
      <NumberRow
        label="Tightest bend"
        hint="Smallest radius that the glass is bent to, in diameters"
        unit="× ⌀"
        min={0.1}
        max={20}
        faderMax={6}
        step={0.05}
        value={tube.tightest}
        initial={PLAIN.tightest}
        onChange={(tightest) => set('tightest bend', { tightest })}
      />
      <NumberRow
        label="Evened out"
        hint="How far unevenness of the middle line is smoothed away"
        unit="%"
        factor={100}
        min={0}
        max={100}
        step={1}
        value={tube.smoothing}
        initial={PLAIN.smoothing}
        onChange={(smoothing) => set('evened out', { smoothing })}
      />
      {shaped && <Measures block={block} shaped={shaped} />}
      <div className="pt-1">
        <SwitchRow
          label="Electrodes"
          value={tube.electrodes}
          onChange={(electrodes) => set('electrodes', { electrodes })}
        />
        {tube.electrodes && row('Electrode', 'electrode', 80)}
        {row('Off the wall', 'standOff', 200, 0, 10_000)}
        {row('Supports every', 'supports', 1000, 0, 10_000)}
      </div>
      <p className="quiet pt-1 text-xs">
        Drag along a tube in the band to paint it out; click a painted stretch to clear it.
      </p>
      {tube.paintOuts.length > 0 && (
        <button
          type="button"
          className="btn btn-xs mt-1"
          onClick={() => set('paint cleared', { paintOuts: [] })}
        >
          Clear all paint
        </button>
      )}
    </Section>
  );
}
