/** The line the letters stand on. */
import { BASELINES, optionName, type Block } from '@wemlox/core/document';
import { BASELINE } from '@wemlox/core/document/parameters';
import { setBaseline } from '../../actions/blocks.ts';
import { blockAddress } from '../../actions/document.ts';
import { ParameterRows } from '../../desk/ParameterRow.tsx';
import { Fold } from '../../desk/rows.tsx';

export function BaselineRows({ block }: { block: Block }) {
  const { kind: chosen } = block.baseline;
  return (
    <Fold title={`Baseline: ${optionName(BASELINE.kind, chosen).toLowerCase()}`}>
      <div className="join w-full pb-1" role="radiogroup" aria-label="Baseline">
        {BASELINES.map((kind) => (
          <button
            key={kind}
            type="button"
            role="radio"
            aria-checked={kind === chosen}
            className={`btn join-item btn-xs flex-1 px-1 font-normal ${kind === chosen ? 'btn-primary' : ''}`}
            onClick={() => setBaseline(block.id, kind)}
          >
            {optionName(BASELINE.kind, kind)}
          </button>
        ))}
      </div>
      {chosen === 'free' && (
        <p className="quiet py-1 text-xs">
          Drag the nodes in the picture; double click the line for a new node, Alt-click a node to remove it.
        </p>
      )}
      <ParameterRows of={`${blockAddress(block.id)}/baseline`} />
    </Fold>
  );
}
