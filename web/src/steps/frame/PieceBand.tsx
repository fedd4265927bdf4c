/** The pieces around the type: each with its place and finish. */
import { Plus, Trash2 } from 'lucide-react';
import { PIECE_KINDS, type Piece } from '@wemlox/core/src/document/index.ts';
import { NumberRow } from '../../desk/rows.tsx';
import { addPiece, editPiece, removePiece } from '../../actions/actions.ts';
import { choose, useChoice } from '../../state/choice.ts';
import { useStudio } from '../../state/studio.ts';
import { PIECE_NAMES } from '../../state/words.ts';

function PieceColumn({ piece }: { piece: Piece }) {
  const finishes = useStudio((s) => s.project.finishes);
  const chosen = useChoice((c) => c.piece === piece.id);
  const name = PIECE_NAMES[piece.kind];
  return (
    <div
      className={`flex w-76 shrink-0 flex-col gap-1.5 border-r border-(--line) px-4 py-2 ${piece.on ? '' : 'quiet'}`}
      onPointerDown={() => choose({ piece: piece.id })}
    >
      <div className="flex items-center justify-between">
        <span className={`font-semibold ${chosen ? 'text-primary' : ''}`}>{name}</span>
        <span className="flex items-center gap-2">
          <input
            type="checkbox"
            className="toggle toggle-xs"
            aria-label={`${name} on`}
            checked={piece.on}
            onChange={(e) =>
              editPiece(
                piece.id,
                `${name} ${e.target.checked ? 'on' : 'off'}`,
                (p) => void (p.on = e.target.checked),
              )
            }
          />
          <button
            type="button"
            className="btn btn-ghost btn-xs"
            aria-label={`Remove ${name.toLowerCase()}`}
            onClick={() => removePiece(piece.id)}
          >
            <Trash2 size={13} />
          </button>
        </span>
      </div>
      <NumberRow
        label={piece.kind === 'floor' ? 'Height' : 'Behind'}
        unit="m"
        factor={piece.kind === 'floor' ? 1 : -1}
        min={-1000}
        max={1000}
        faderMin={-1}
        faderMax={4}
        step={0.01}
        value={piece.at}
        initial={0}
        hint={
          piece.kind === 'floor'
            ? 'Raises the floor'
            : `Moves the ${name.toLowerCase()} back, away from the type`
        }
        onChange={(at) => editPiece(piece.id, `Place of the ${name.toLowerCase()}`, (p) => void (p.at = at))}
      />
      <label className="grid grid-cols-[104px_1fr] items-center gap-2.5">
        Finish
        <select
          className="select select-xs"
          value={piece.finish ?? ''}
          onChange={(e) =>
            editPiece(
              piece.id,
              `Finish of the ${name.toLowerCase()}`,
              (p) => void (p.finish = e.target.value || null),
            )
          }
        >
          <option value="">Bare</option>
          {finishes.map((f) => (
            <option key={f.id} value={f.id}>
              {f.name}
            </option>
          ))}
        </select>
      </label>
    </div>
  );
}

export function PieceBand() {
  const pieces = useStudio((s) => s.project.pieces);
  return (
    <div className="flex h-full overflow-x-auto">
      {pieces.map((p) => (
        <PieceColumn key={p.id} piece={p} />
      ))}
      <div className="flex shrink-0 flex-col items-start gap-1.5 px-4 py-3">
        {pieces.length === 0 && <p className="quiet">Nothing stands around the type.</p>}
        {PIECE_KINDS.map((kind) => (
          <button key={kind} type="button" className="btn btn-xs" onClick={() => addPiece(kind)}>
            <Plus size={12} /> {PIECE_NAMES[kind]}
          </button>
        ))}
      </div>
    </div>
  );
}
