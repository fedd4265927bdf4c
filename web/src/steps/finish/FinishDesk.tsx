/** Finish: what the chosen faces are made of. */
import { BookmarkPlus, Trash2 } from 'lucide-react';
import { FAMILIES, METALS, plainSurface, type Finish } from '@wemlox/core/src/document/index.ts';
import { ChoiceRow, ColourRow, Fold, NameField, NumberRow, SwitchRow } from '../../desk/rows.tsx';
import { editFinish, layFinish, askRemoveFinish, setSurface, targetName } from '../../actions/actions.ts';
import { useChoice } from '../../state/choice.ts';
import { useChosenFinish } from '../../state/chosen.ts';
import { keepInLibrary } from '../../state/library.ts';
import { useStudio } from '../../state/studio.ts';
import { Curve } from './Curve.tsx';
import { GROUPS, leading, type Parameter } from './parameters.ts';

const METAL_OPTIONS = METALS.map(
  (m) => [m, m === 'none' ? 'None, by colour' : m[0].toUpperCase() + m.slice(1)] as const,
);
const PLAIN = plainSurface();
const FAMILY_OPTIONS = FAMILIES.map((f) => [f, f[0].toUpperCase() + f.slice(1)] as const);

function ParameterRow({ finish, parameter }: { finish: Finish; parameter: Parameter }) {
  const { surface } = finish;
  const { name } = parameter;
  if (parameter.kind === 'colour') {
    return (
      <ColourRow
        label={name}
        value={surface[parameter.key]}
        onChange={(rgb) => setSurface(finish.id, name, { [parameter.key]: rgb })}
      />
    );
  }
  if (parameter.kind === 'metal') {
    return (
      <ChoiceRow
        label={name}
        value={surface.base_metal}
        options={METAL_OPTIONS}
        onChange={(base_metal) => setSurface(finish.id, name, { base_metal })}
      />
    );
  }
  const { key, ...range } = parameter;
  return (
    <NumberRow
      {...range}
      label={name}
      value={surface[key]}
      initial={PLAIN[key]}
      onChange={(v) => setSurface(finish.id, name, { [key]: v })}
    />
  );
}

export function FinishDesk() {
  const finish = useChosenFinish();
  const face = useChoice((c) => c.face);
  const inHand = useChoice((c) => c.finish);
  const project = useStudio((s) => s.project);
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
  return (
    <>
      <div className="flex items-center justify-between gap-2 border-b border-(--line) py-2.5">
        <NameField
          label="Name of the finish"
          value={finish.name}
          onChange={(name) => editFinish(finish.id, `Name → ${name}`, (f) => void (f.name = name))}
        />
        <span className="quiet shrink-0 text-xs">{inHand ? 'in the rack' : where}</span>
      </div>
      {inHand && face && (
        <button type="button" className="btn btn-xs mt-2" onClick={() => layFinish(face, finish.id)}>
          Lay on {where}
        </button>
      )}
      <div className="border-b border-(--line) py-3">
        <Curve finish={finish} />
      </div>
      <div className="border-b border-(--line) py-2.5">
        {leading(finish.family).map((p) => (
          <ParameterRow key={p.key} finish={finish} parameter={p} />
        ))}
        {finish.surface.transmission_weight > 0 && (
          <SwitchRow
            label="Thin wall"
            value={finish.surface.geometry_thin_walled}
            onChange={(thin) =>
              setSurface(finish.id, thin ? 'Thin wall' : 'Solid', { geometry_thin_walled: thin })
            }
          />
        )}
      </div>
      {GROUPS.map(([title, parameters]) => (
        <Fold key={title} title={title} count={parameters.length}>
          {parameters.map((p) => (
            <ParameterRow key={p.key} finish={finish} parameter={p} />
          ))}
        </Fold>
      ))}
      <div className="py-3">
        <div>
          <ChoiceRow
            label="Family"
            value={finish.family}
            options={FAMILY_OPTIONS}
            onChange={(family) =>
              editFinish(finish.id, `Family of ${finish.name}`, (f) => void (f.family = family))
            }
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
