/** The pieces around the type: each with its place and finish. */
import { Plus, Trash2 } from 'lucide-react';
import { PIECE_KINDS, PIECE_NAMES, type Piece } from '@wemlox/core/document';
import { dressPiece } from '@wemlox/core/edits';
import { set } from '../../actions/document.ts';
import { addPiece, removePiece } from '../../actions/stage.ts';
import { ParameterRow } from '../../desk/ParameterRow.tsx';
import { choose, useChoice } from '../../state/choice.ts';
import { perform, useStudio } from '../../state/studio.ts';

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
            onChange={(e) => set(`pieces/${piece.id}/on`, e.target.checked)}
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
      <ParameterRow
        address={`pieces/${piece.id}/at`}
        label={piece.kind === 'floor' ? undefined : 'Behind'}
        mirrored={piece.kind !== 'floor'}
        hint={
          piece.kind === 'floor'
            ? 'Raises the floor'
            : `Moves the ${name.toLowerCase()} back, away from the type`
        }
      />
      <label className="grid grid-cols-[104px_1fr] items-center gap-2.5">
        Finish
        <select
          className="select select-xs"
          value={piece.finish ?? ''}
          onChange={(e) => perform((p) => dressPiece(p, piece.id, e.target.value || null))}
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
