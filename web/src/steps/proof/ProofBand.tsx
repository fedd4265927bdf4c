/** The kept proofs, oldest first. */
import { assetUrl } from '../../state/api.ts';
import { choose, useChoice } from '../../state/choice.ts';
import { useProofs } from '../../state/proofs.ts';

export function ProofBand() {
  const list = useProofs((p) => p.list);
  const chosen = useChoice((c) => c.proof);
  if (list.length === 0) {
    return (
      <p className="quiet p-4">
        No proofs yet. Press <kbd className="kbd kbd-xs">K</kbd> to keep the traced picture with the state
        that made it.
      </p>
    );
  }
  return (
    <ul className="flex h-full gap-3 overflow-x-auto p-3" aria-label="Kept proofs">
      {list.map((proof) => (
        <li key={proof.id} className="shrink-0">
          <button
            type="button"
            aria-pressed={proof.id === chosen}
            className={`flex h-full cursor-pointer flex-col gap-1 rounded-xs p-1 text-left outline-offset-0 ${proof.id === chosen ? 'outline-2 outline-primary' : ''}`}
            onClick={() =>
              choose(
                proof.id === chosen
                  ? { proof: null, comparing: 'off' }
                  : { proof: proof.id, comparing: 'wipe' },
              )
            }
          >
            <img
              src={assetUrl(proof.picture)}
              alt=""
              className="h-30 max-w-60 bg-base-200 object-contain"
              draggable={false}
            />
            <span className={proof.id === chosen ? 'text-primary' : ''}>{proof.name}</span>
            <span className="quiet text-xs">{proof.samples} samples</span>
          </button>
        </li>
      ))}
    </ul>
  );
}
