/** The line the letters stand on. */
import { BASELINES, STRAIGHT_BASELINE, type Baseline, type Block } from '@wemlox/core/src/document/index.ts';
import { Fold, NumberRow, SegmentRow, SwitchRow } from '../../desk/rows.tsx';
import { editBlock } from '../../actions/actions.ts';
import { setBaseline } from '../../actions/typeActions.ts';
import { BASELINE_NAMES } from '../../state/words.ts';

const DEG = 180 / Math.PI;

export function BaselineRows({ block }: { block: Block }) {
  const { baseline } = block;
  const set = (what: string, change: Partial<Baseline>) =>
    editBlock(block.id, `Baseline, ${what}`, (b) => Object.assign(b.baseline, change));
  return (
    <Fold title={`Baseline: ${BASELINE_NAMES[baseline.kind].toLowerCase()}`}>
      <div className="join w-full pb-1" role="radiogroup" aria-label="Baseline">
        {BASELINES.map((kind) => (
          <button
            key={kind}
            type="button"
            role="radio"
            aria-checked={kind === baseline.kind}
            className={`btn join-item btn-xs flex-1 px-1 font-normal ${kind === baseline.kind ? 'btn-primary' : ''}`}
            onClick={() => setBaseline(block.id, kind)}
          >
            {BASELINE_NAMES[kind]}
          </button>
        ))}
      </div>
      {baseline.kind === 'line' && (
        <NumberRow
          label="Rise"
          unit="°"
          factor={DEG}
          min={-90}
          max={90}
          step={0.5}
          value={baseline.slope}
          initial={0}
          onChange={(slope) => set('rise', { slope })}
        />
      )}
      {baseline.kind === 'arc' && (
        <NumberRow
          label="Bend"
          unit="°"
          factor={DEG}
          min={-360}
          max={360}
          faderMin={-180}
          faderMax={180}
          step={1}
          value={baseline.bend}
          initial={STRAIGHT_BASELINE.bend}
          onChange={(bend) => set('bend', { bend })}
        />
      )}
      {baseline.kind === 'circle' && (
        <>
          <NumberRow
            label="Radius"
            unit="mm"
            factor={1000}
            min={1}
            max={1_000_000}
            faderMax={3000}
            step={1}
            log
            value={baseline.radius}
            initial={STRAIGHT_BASELINE.radius}
            onChange={(radius) => set('radius', { radius })}
          />
          <SwitchRow
            label="Inside the circle"
            value={baseline.inside}
            onChange={(inside) => set(inside ? 'inside' : 'outside', { inside })}
          />
        </>
      )}
      {baseline.kind === 'free' && (
        <p className="quiet py-1 text-xs">
          Drag the nodes in the picture; double click the line for a new node, Alt-click a node to remove it.
        </p>
      )}
      {baseline.kind !== 'straight' && (
        <>
          <NumberRow
            label="Along"
            hint="Moves the text along its line"
            unit="mm"
            factor={1000}
            min={-1_000_000}
            max={1_000_000}
            faderMin={-1000}
            faderMax={1000}
            step={1}
            value={baseline.shift}
            initial={0}
            onChange={(shift) => set('along', { shift })}
          />
          <NumberRow
            label="Off the line"
            unit="mm"
            factor={1000}
            min={-100_000}
            max={100_000}
            faderMin={-500}
            faderMax={500}
            step={1}
            value={baseline.offset}
            initial={0}
            onChange={(offset) => set('distance', { offset })}
          />
          <SegmentRow
            label="Letters"
            value={baseline.upright ? 'upright' : 'turned'}
            options={[
              ['turned', 'Turned'],
              ['upright', 'Upright'],
            ]}
            onChange={(v) => set(v, { upright: v === 'upright' })}
          />
        </>
      )}
    </Fold>
  );
}
