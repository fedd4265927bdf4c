/** The pieces around the type: each with its place, its size and what it wears or shows. */
import { Plus, Trash2 } from 'lucide-react';
import { PIECE_NAMES, type Piece } from '@wemlox/core/document';
import type { AssetLine } from '@wemlox/wire';
import { dressPart, dressPiece, renamePiece, showOnPlate } from '@wemlox/core/edits';
import { stands } from '@wemlox/core/stage/pieces';
import { set } from '../../actions/document.ts';
import { isMovingFile, refOf } from '../../actions/pictures.ts';
import { addModel, glbOf, modelFacts } from '../../actions/models.ts';
import { addPiece, addPlate, BUILT, removePiece } from '../../actions/stage.ts';
import { FileButton } from '../../desk/FileButton.tsx';
import { ParameterRow, ParameterRows } from '../../desk/ParameterRow.tsx';
import { PlayedRows } from '../../desk/PlayedRows.tsx';
import { PicturePicker } from '../../desk/PicturePicker.tsx';
import { Fold, NameField, Section } from '../../desk/rows.tsx';
import { useUploads } from '../../desk/useUploads.ts';
import { choose, useChoice } from '../../state/choice.ts';
import { useShown } from '../../state/shown.ts';
import { perform, useStudio } from '../../state/studio.ts';
import { EdgeTools } from './EdgeTools.tsx';

const MODELS = '.glb,.obj,.mtl,.png,.jpg,.jpeg,.webp';
const PLATES = '.png,.jpg,.jpeg,.webp,.exr,.webm,.mp4,.zip';

/** A choice among the project's finishes. */
function FinishSelect({
  label,
  value,
  none,
  onPick,
}: {
  label: string;
  value: string | null;
  /** What having none is called. */
  none: string;
  onPick: (finish: string | null) => void;
}) {
  const finishes = useStudio((s) => s.seen.finishes);
  return (
    <label className="grid grid-cols-[104px_1fr] items-center gap-2.5 py-0.5">
      <span className="truncate" title={label}>
        {label}
      </span>
      <select
        className="select select-xs"
        value={value ?? ''}
        onChange={(e) => onPick(e.target.value || null)}
      >
        <option value="">{none}</option>
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

/** A model's parts: each wears what the model wears, its own, or a finish of the project. */
function ModelParts({ piece, asset }: { piece: Piece; asset: AssetLine | undefined }) {
  const facts = asset && modelFacts(asset);
  if (!facts) return null;
  const { triangles, parts, leftOut } = facts;
  return (
    <>
      <p className="quiet text-xs">
        {triangles.toLocaleString('en')} triangles
        {leftOut.length > 0 && `; not read: ${leftOut.join(', ')}`}
      </p>
      <Fold title="Parts" count={parts.length}>
        {parts.map((part) => (
          <FinishSelect
            key={part}
            label={part}
            value={piece.dressings.find((d) => d.part === part)?.finish ?? null}
            none={piece.finish ? 'As the model' : 'Its own'}
            onPick={(finish) => perform((p) => dressPart(p, piece.id, part, finish))}
          />
        ))}
      </Fold>
    </>
  );
}

function PieceRow({ piece, asset }: { piece: Piece; asset: AssetLine | undefined }) {
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
          played={
            <PlayedRows plays={piece.picture?.plays}>
              <ParameterRows of={`pieces/${piece.id}/picture/plays`} />
            </PlayedRows>
          }
          coding="colour"
          painted={[]}
          onPick={(picture) => picture && perform((p) => showOnPlate(p, piece.id, picture))}
        />
      ) : (
        <FinishSelect
          label="Finish"
          value={piece.finish}
          none={piece.kind === 'model' ? 'Its own' : 'Bare'}
          onPick={(finish) => perform((p) => dressPiece(p, piece.id, finish))}
        />
      )}
      {piece.kind === 'model' && <ModelParts piece={piece} asset={asset} />}
      <ParameterRows of={`pieces/${piece.id}`} without={['at']} />
      {piece.kind === 'plate' && piece.stands === 'frame' && <EdgeTools />}
    </div>
  );
}

export function PieceRows() {
  const pieces = useStudio((s) => s.seen.pieces);
  // before there is type to fit them to, pieces would be of any size
  const known = useShown((v) => v.scene !== null);
  const plates = useUploads('picture');
  const films = useUploads('footage');
  const models = useUploads('model');
  const model = async (all: File[]) => {
    const file = await glbOf(all);
    const asset = file && (await models.take(file));
    if (asset) await addModel(asset);
  };
  const plate = async (file: File) => {
    const asset = await (isMovingFile(file) ? films : plates).take(file);
    if (asset) await addPlate(refOf(asset));
  };
  return (
    <Section title="Stage">
      {pieces.map((p) => (
        <PieceRow key={p.id} piece={p} asset={models.files.find((f) => f.hash === p.model?.id)} />
      ))}
      {pieces.length === 0 && <p className="quiet pb-1">Nothing stands around the type.</p>}
      <div className="flex flex-wrap gap-1.5">
        {BUILT.map((kind) => (
          <button
            key={kind}
            type="button"
            className="btn btn-xs"
            disabled={!known}
            onClick={() => addPiece(kind)}
          >
            <Plus size={12} /> {PIECE_NAMES[kind]}
          </button>
        ))}
        <span>
          <FileButton
            label="Plate file"
            text={PIECE_NAMES.plate}
            hint="A picture at its place in space: PNG, JPEG, WebP, OpenEXR; or a moving one: WebM, MP4, a zip of numbered pictures"
            accept={PLATES}
            sent={films.sent ?? plates.sent}
            onFile={(file) => void plate(file)}
          />
        </span>
        <span>
          <FileButton
            label="Model file"
            text={PIECE_NAMES.model}
            hint="A model beside the type: .glb, or .obj with its .mtl and pictures, chosen together"
            accept={MODELS}
            multiple
            sent={models.sent}
            onFile={(_first, all) => void model(all)}
          />
        </span>
      </div>
    </Section>
  );
}
