/** The pieces around the type: each with its place, its size and what it wears or shows. */
import { Plus, Trash2 } from 'lucide-react';
import { PIECE_NAMES, type Piece } from '@wemlox/core/document';
import { dressPiece, renamePiece, showOnPlate } from '@wemlox/core/edits';
import { stands } from '@wemlox/core/stage/pieces';
import { set } from '../../actions/document.ts';
import { addPiece, addPlate, BUILT, removePiece } from '../../actions/stage.ts';
import { FileButton } from '../../desk/FileButton.tsx';
import { ParameterRow, ParameterRows } from '../../desk/ParameterRow.tsx';
import { PicturePicker } from '../../desk/PicturePicker.tsx';
import { NameField, Section } from '../../desk/rows.tsx';
import { useUploads } from '../../desk/useUploads.ts';
import { choose, useChoice } from '../../state/choice.ts';
import { perform, useStudio } from '../../state/studio.ts';

const PICTURES = '.png,.jpg,.jpeg,.webp,.exr';

function Worn({ piece }: { piece: Piece }) {
  const finishes = useStudio((s) => s.seen.finishes);
  return (
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
  );
}

const Place = ({ piece: { id, kind } }: { piece: Piece }) => (
  <ParameterRow
    address={`pieces/${id}/at`}
    label={stands(kind) ? 'Height' : 'Behind'}
    mirrored={!stands(kind)}
    hint={stands(kind) ? 'Raises it' : 'Moves it back, away from the type'}
  />
);

function PieceRow({ piece }: { piece: Piece }) {
  const chosen = useChoice((c) => c.piece === piece.id);
  const { name } = piece;
  return (
    <div
      className={`flex flex-col gap-1 pb-2 ${piece.on ? '' : 'quiet'}`}
      role="group"
      aria-label={name}
      onPointerDown={() => choose({ piece: piece.id })}
    >
      <div className="flex items-center justify-between gap-2">
        <span className={`min-w-0 grow font-semibold ${chosen ? 'text-primary' : ''}`}>
          <NameField
            key={name}
            label={`Name of ${name}`}
            value={name}
            onChange={(to) => perform((p) => renamePiece(p, piece.id, to))}
          />
        </span>
        <span className="flex items-center gap-2">
          <button
            type="button"
            className={`btn btn-xs ${piece.solo ? 'btn-primary' : 'btn-ghost'}`}
            aria-pressed={piece.solo}
            aria-label={`${name} solo`}
            onClick={() => set(`pieces/${piece.id}/solo`, !piece.solo)}
          >
            Solo
          </button>
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
            aria-label={`Remove ${name}`}
            onClick={() => removePiece(piece.id)}
          >
            <Trash2 size={13} />
          </button>
        </span>
      </div>
      <Place piece={piece} />
      {piece.kind === 'plate' ? (
        <PicturePicker
          label="Picture of the plate"
          picture={piece.picture}
          coding="colour"
          painted={[]}
          onPick={(picture) => picture && perform((p) => showOnPlate(p, piece.id, picture))}
        />
      ) : (
        <Worn piece={piece} />
      )}
      <ParameterRows of={`pieces/${piece.id}`} without={['at']} />
    </div>
  );
}

export function PieceRows() {
  const pieces = useStudio((s) => s.seen.pieces);
  const plates = useUploads('picture');
  const plate = async (file: File) => {
    const asset = await plates.take(file);
    if (asset) addPlate({ source: 'asset', id: asset.hash, name: asset.name });
  };
  return (
    <Section title="Stage">
      {pieces.map((p) => (
        <PieceRow key={p.id} piece={p} />
      ))}
      {pieces.length === 0 && <p className="quiet pb-1">Nothing stands around the type.</p>}
      <div className="flex flex-wrap gap-1.5">
        {BUILT.map((kind) => (
          <button key={kind} type="button" className="btn btn-xs" onClick={() => addPiece(kind)}>
            <Plus size={12} /> {PIECE_NAMES[kind]}
          </button>
        ))}
        <span>
          <FileButton
            label="Plate file"
            text={PIECE_NAMES.plate}
            hint="A picture at its place in space: PNG, JPEG, WebP, OpenEXR"
            accept={PICTURES}
            sent={plates.sent}
            onFile={(file) => void plate(file)}
          />
        </span>
      </div>
    </Section>
  );
}
