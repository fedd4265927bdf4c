/** Finish: what the chosen faces are made of. */
import { BookmarkPlus, Brush, Download, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { FAMILIES, type Finish } from '@wemlox/core/document';
import { looksWearing, renameFinish, setFamily, setTags, setWithin, targetName } from '@wemlox/core/edits';
import { askRemoveFinish, dressFaces, ownFinish } from '../../actions/finishes.ts';
import { paintBlank } from '../../actions/painting.ts';
import { saveMaterial } from '../../actions/materials.ts';
import { coatAddress, renameCoat } from '../../actions/coats.ts';
import { set } from '../../actions/document.ts';
import { ParameterRow, ParameterRows } from '../../desk/ParameterRow.tsx';
import { PickMenu } from '../../desk/PickMenu.tsx';
import { ChoiceRow, NameField } from '../../desk/rows.tsx';
import { useChoice } from '../../state/choice.ts';
import { useChosenBlock, useChosenFinish, useLook } from '../../state/chosen.ts';
import { keepInLibrary } from '../../state/library.ts';
import { perform, useStudio } from '../../state/studio.ts';
import { CoatStack } from './CoatStack.tsx';
import { Curve } from './Curve.tsx';
import { leading } from './leading.ts';

const FAMILY_OPTIONS = FAMILIES.map((f) => [f, f[0].toUpperCase() + f.slice(1)] as const);

/** The words a finish is found by, in the library too. */
function TagsRow({ finish }: { finish: Finish }) {
  const [typed, setTyped] = useState<string | null>(null);
  const commit = () => {
    if (typed !== null) perform((p) => setTags(p, finish.id, typed.split(',')));
    setTyped(null);
  };
  return (
    <label className="mb-1 grid min-h-7 grid-cols-[104px_1fr] items-center gap-2.5">
      <span title="Words it is found by, here and in the library, with commas between them">Tags</span>
      <input
        type="text"
        className="input input-xs w-full"
        placeholder="hull, wet, for signs"
        value={typed ?? finish.tags.join(', ')}
        onChange={(e) => setTyped(e.target.value)}
        onBlur={commit}
        onKeyDown={(e) => {
          if (e.key === 'Enter') e.currentTarget.blur();
          if (e.key === 'Escape') setTyped(null);
        }}
      />
    </label>
  );
}

export function FinishDesk() {
  const finish = useChosenFinish();
  const face = useChoice((c) => c.face);
  const inHand = useChoice((c) => c.finish);
  const project = useStudio((s) => s.seen);
  const look = useLook();
  const block = useChosenBlock();
  const [coatId, setCoatId] = useState<string | null>(null);
  const where = face ? targetName(project, face) : null;
  if (!finish) {
    return (
      <div className="quiet py-4">
        {where ? (
          <p>{where} has no finish. Drag one from the rack onto its cell.</p>
        ) : (
          <p>Choose a face in the chart or in the picture, or a finish in the rack.</p>
        )}
      </div>
    );
  }
  const shared = looksWearing(project, finish.id);
  const coat = finish.coats.find((c) => c.id === coatId) ?? null;
  const worn = { finish: finish.id, coat: coat?.id ?? null };
  const of = `${coatAddress(worn)}/surface`;
  const { surface, feeds } = coat ?? finish;
  const others = project.finishes.filter((f) => f.id !== finish.id);
  return (
    <>
      <div className="flex items-center justify-between gap-2 border-b border-(--line) py-2.5">
        <NameField
          label="Name of the finish"
          value={finish.name}
          onChange={(name) => perform((p) => renameFinish(p, finish.id, name))}
        />
        <span className="quiet shrink-0 text-xs">{inHand ? 'in the rack' : where}</span>
      </div>
      {inHand && face && (
        <button type="button" className="btn btn-xs mt-2" onClick={() => dressFaces(face, finish.id)}>
          Lay on {where}
        </button>
      )}
      {shared.length > 1 && (
        <p className="quiet flex items-center gap-2 border-b border-(--line) py-1.5 text-xs" role="status">
          <span className="grow">Changes show in {shared.map((l) => l.name).join(', ')}</span>
          {shared.some((l) => l.id === look.id) && (
            <button type="button" className="btn btn-xs" onClick={() => ownFinish(finish.id)}>
              Copy for {look.name}
            </button>
          )}
        </p>
      )}
      <CoatStack finish={finish} chosen={worn.coat} onChoose={setCoatId} others={others} />
      {coat && (
        <div className="border-b border-(--line) py-2.5">
          <NameField
            label="Name of the coat"
            value={coat.name}
            onChange={(name) => renameCoat(finish.id, coat.id, name)}
          />
          <ParameterRow address={`${coatAddress(worn)}/cover`} />
          {block && !coat.feeds.some((f) => f.parameter === 'cover') && (
            <button
              type="button"
              className="btn btn-xs my-1"
              title="The coat lies only where it is painted, by hand, on the letters"
              onClick={() => void paintBlank(worn, 'cover', block.id)}
            >
              <Brush size={12} /> Paint where it lies
            </button>
          )}
          <ParameterRow address={`${coatAddress(worn)}/lies`} />
        </div>
      )}
      {!coat && (
        <div className="border-b border-(--line) py-3">
          <Curve finish={finish} />
        </div>
      )}
      <div className="border-b border-(--line) py-2.5">
        {leading(finish.family).map((key) => (
          <ParameterRow key={key} address={`${of}/${key}`} />
        ))}
        {surface.transmission_weight > 0 && <ParameterRow address={`${of}/geometry_thin_walled`} />}
      </div>
      {surface.base_metal !== 'none' &&
        surface.base_metalness === 1 &&
        feeds.some((f) => f.parameter === 'base_color') && (
          <p className="flex items-center gap-2 border-b border-(--line) py-1.5 text-xs" role="status">
            <span className="grow">The measured metal has a colour of its own: what is fed is not seen</span>
            <button type="button" className="btn btn-xs" onClick={() => set(`${of}/base_metal`, 'none')}>
              Metal by colour
            </button>
          </p>
        )}
      <ParameterRows of={of} />
      <div className="py-3">
        <div>
          <div className="mb-1 grid min-h-7 grid-cols-[104px_1fr] items-center gap-2.5">
            <span title="What is met from within in its place, as behind glass">From within</span>
            <PickMenu
              label="From within"
              text={others.find((f) => f.id === finish.within)?.name ?? 'The same'}
              items={[{ id: '', name: 'The same' }, ...others]}
              onPick={(id) => perform((p) => setWithin(p, finish.id, id || null))}
            />
          </div>
          <TagsRow key={finish.id} finish={finish} />
          <ChoiceRow
            label="Family"
            value={finish.family}
            options={FAMILY_OPTIONS}
            onChange={(family) => perform((p) => setFamily(p, finish.id, family))}
          />
        </div>
        <div className="mt-2 flex flex-wrap justify-between gap-2">
          <button type="button" className="btn btn-xs" onClick={() => void keepInLibrary(finish)}>
            <BookmarkPlus size={13} /> Keep in the library
          </button>
          <button
            type="button"
            className="btn btn-xs"
            title="As a MaterialX document, with its pictures"
            onClick={() => void saveMaterial(finish)}
          >
            <Download size={13} /> Save as a file
          </button>
          <button
            type="button"
            className="btn btn-xs"
            aria-label={`Remove ${finish.name}`}
            onClick={() => askRemoveFinish(finish.id)}
          >
            <Trash2 size={13} /> Remove
          </button>
        </div>
      </div>
    </>
  );
}
