/** Finish: what the chosen faces are made of. */
import { BookmarkPlus, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { FAMILIES } from '@wemlox/core/document';
import { renameFinish, setFamily, setWithin, targetName } from '@wemlox/core/edits';
import { askRemoveFinish, dressFaces } from '../../actions/finishes.ts';
import { coatAddress, renameCoat } from '../../actions/coats.ts';
import { ParameterRow, ParameterRows } from '../../desk/ParameterRow.tsx';
import { PickMenu } from '../../desk/PickMenu.tsx';
import { ChoiceRow, NameField } from '../../desk/rows.tsx';
import { useChoice } from '../../state/choice.ts';
import { useChosenFinish } from '../../state/chosen.ts';
import { keepInLibrary } from '../../state/library.ts';
import { perform, useStudio } from '../../state/studio.ts';
import { CoatStack } from './CoatStack.tsx';
import { Curve } from './Curve.tsx';
import { leading } from './leading.ts';

const FAMILY_OPTIONS = FAMILIES.map((f) => [f, f[0].toUpperCase() + f.slice(1)] as const);

export function FinishDesk() {
  const finish = useChosenFinish();
  const face = useChoice((c) => c.face);
  const inHand = useChoice((c) => c.finish);
  const project = useStudio((s) => s.project);
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
  const coat = finish.coats.find((c) => c.id === coatId) ?? null;
  const worn = { finish: finish.id, coat: coat?.id ?? null };
  const of = `${coatAddress(worn)}/surface`;
  const { surface } = coat ?? finish;
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
      <CoatStack finish={finish} chosen={worn.coat} onChoose={setCoatId} others={others} />
      {coat && (
        <div className="border-b border-(--line) py-2.5">
          <NameField
            label="Name of the coat"
            value={coat.name}
            onChange={(name) => renameCoat(finish.id, coat.id, name)}
          />
          <ParameterRow address={`${coatAddress(worn)}/cover`} />
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
          <ChoiceRow
            label="Family"
            value={finish.family}
            options={FAMILY_OPTIONS}
            onChange={(family) => perform((p) => setFamily(p, finish.id, family))}
          />
        </div>
        <div className="mt-2 flex justify-between gap-3">
          <button type="button" className="btn btn-xs" onClick={() => void keepInLibrary(finish)}>
            <BookmarkPlus size={13} /> Keep in the library
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
