/** The pieces around the type: each with its place and finish. */
import { Plus, Trash2 } from 'lucide-react';
import { PIECE_KINDS, PIECE_NAMES, type Piece } from '@wemlox/core/document';
import { dressPiece } from '@wemlox/core/edits';
import { set } from '../../actions/document.ts';
import { addPiece, removePiece } from '../../actions/stage.ts';
import { ParameterRow } from '../../desk/ParameterRow.tsx';
import { Section } from '../../desk/rows.tsx';
import { choose, useChoice } from '../../state/choice.ts';
import { perform, useStudio } from '../../state/studio.ts';

function PieceRow({ piece }: { piece: Piece }) {
  const finishes = useStudio((s) => s.seen.finishes);
  const chosen = useChoice((c) => c.piece === piece.id);
  const name = PIECE_NAMES[piece.kind];
  return (
    <div
      className={`flex flex-col gap-1 pb-2 ${piece.on ? '' : 'quiet'}`}
      role="group"
      aria-label={name}
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

export function PieceRows() {
  const pieces = useStudio((s) => s.seen.pieces);
  return (
    <Section title="Stage">
      {pieces.map((p) => (
        <PieceRow key={p.id} piece={p} />
      ))}
      {pieces.length === 0 && <p className="quiet pb-1">Nothing stands around the type.</p>}
      <div className="flex flex-wrap gap-1.5">
        {PIECE_KINDS.map((kind) => (
          <button key={kind} type="button" className="btn btn-xs" onClick={() => addPiece(kind)}>
            <Plus size={12} /> {PIECE_NAMES[kind]}
          </button>
        ))}
      </div>
    </Section>
  );
}
