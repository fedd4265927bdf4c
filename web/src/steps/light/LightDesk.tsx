/** Light: what the faces see. */
import { Copy, Crosshair, FlipHorizontal2, Lightbulb, LightbulbOff, Plus, Trash2 } from 'lucide-react';
import { useEffect } from 'react';
import { LIGHT_KINDS, LIGHT_NAMES, LIGHT_TABLES, type Light } from '@wemlox/core/document';
import { renameLight, setTogether } from '@wemlox/core/edits';
import { addLight, addSuitedRig, addThreePoint, copyLight, removeLight } from '../../actions/lights.ts';
import { partSun } from '../../actions/surround.ts';
import { GradeRows } from '../../desk/GradeRows.tsx';
import { PlayedRows } from '../../desk/PlayedRows.tsx';
import { ParameterRows } from '../../desk/ParameterRow.tsx';
import { NameField, Section } from '../../desk/rows.tsx';
import { set } from '../../actions/document.ts';
import { useCatch } from '../../state/catching.ts';
import { useChoice } from '../../state/choice.ts';
import { useLook } from '../../state/chosen.ts';
import { perform } from '../../state/studio.ts';
import { part, useTogether } from '../../state/together.ts';
import { Beam } from './Beam.tsx';
import { BeforeLetter } from './BeforeLetter.tsx';
import { DomeMap } from './DomeMap.tsx';
import { FallCurve } from './FallCurve.tsx';
import { FallsOn } from './FallsOn.tsx';
import { Follows } from './Follows.tsx';
import { Gels } from './Gels.tsx';
import { Letters } from './Letters.tsx';
import { OutlineEditor } from './OutlineEditor.tsx';
import { PanelRows } from './PanelRows.tsx';
import { RigLibrary } from './RigLibrary.tsx';
import { StrengthUnits, useStrengthUnit } from './StrengthUnits.tsx';

/** Takes light in hand: pointing at the type, what is chosen goes where it is caught there. */
function CatchButton() {
  const catching = useCatch((c) => c.catching);
  useEffect(() => () => useCatch.setState({ catching: false, why: '' }), []);
  return (
    <button
      type="button"
      className={`btn btn-xs ${catching ? 'btn-primary' : ''}`}
      aria-pressed={catching}
      title="Point at the type and drag: the chosen light or panel, or the surround, goes where its light is caught there. A shadow of the type is dragged where it should fall"
      onClick={() => useCatch.setState({ catching: !catching, why: '' })}
    >
      <Crosshair size={12} /> Catch
    </button>
  );
}

/** Which lights are worked on with the chosen one. */
function Together({ rig }: { rig: readonly Light[] }) {
  const others = useTogether((t) => t.others);
  if (others.length === 0) return null;
  const names = rig.filter((l) => others.includes(l.id)).map((l) => l.name);
  return (
    <p className="flex items-center justify-between gap-2 pb-1 text-xs text-primary" role="status">
      <span className="truncate">Together with {names.join(', ')}</span>
      <button type="button" className="btn btn-xs" onClick={part}>
        Apart
      </button>
    </p>
  );
}

function LightRows({ light }: { light: Light }) {
  const look = useLook();
  const unit = useStrengthUnit(light);
  const others = useTogether((t) => t.others);
  const rig = `looks/${look.id}/rig`;
  const together = (key: string) => ({
    onChange: (value: unknown) =>
      perform((p) =>
        setTogether(
          p,
          `${rig}/${light.id}/${key}`,
          others.map((id) => `${rig}/${id}`),
          value,
        ),
      ),
  });
  const settings =
    others.length > 0
      ? Object.fromEntries(Object.keys(LIGHT_TABLES[light.kind]).map((key) => [key, together(key)]))
      : {};
  return (
    <ParameterRows
      of={`${rig}/${light.id}`}
      settings={{ ...settings, strength: { ...settings.strength, unit } }}
      after={{
        strength: <StrengthUnits light={light} rig={look.rig} />,
        gel: <Gels light={light} />,
        shape:
          light.kind !== 'area' ? null : light.shape === 'outline' ? (
            <OutlineEditor light={light} />
          ) : light.shape === 'letters' ? (
            <Letters light={light} />
          ) : null,
        turn: light.kind === 'spot' || light.kind === 'point' ? <Beam light={light} /> : null,
        fall: light.kind === 'spot' || light.kind === 'point' ? <FallCurve light={light} /> : null,
      }}
    />
  );
}

export function LightDesk() {
  const look = useLook();
  const chosen = useChoice((c) => c.light);
  const light = look.rig.find((l) => l.id === chosen);
  const { surround } = look;
  return (
    <>
      <Section
        title="Lights"
        aside={
          <>
            <button
              type="button"
              className="btn btn-xs"
              title="Lamps for faces that scatter light, cards and strips for those that mirror"
              onClick={addSuitedRig}
            >
              Rig to suit
            </button>
            <button type="button" className="btn btn-xs" onClick={addThreePoint}>
              Key, fill, rim
            </button>
            <RigLibrary />
          </>
        }
      >
        <DomeMap />
        <div className="flex flex-wrap gap-1.5 pt-1">
          <CatchButton />
          {LIGHT_KINDS.map((kind) => (
            <button key={kind} type="button" className="btn btn-xs" onClick={() => addLight(kind)}>
              <Plus size={12} /> {LIGHT_NAMES[kind]}
            </button>
          ))}
        </div>
      </Section>
      {light && (
        <div className="border-b border-(--line) py-2.5">
          <div className="flex items-center gap-1 pb-1.5">
            <NameField
              label="Name of the light"
              value={light.name}
              onChange={(name) => perform((p) => renameLight(p, look.id, light.id, name))}
            />
            <button
              type="button"
              className="btn btn-xs"
              aria-label={`Copy ${light.name}`}
              title="Copy"
              onClick={() => copyLight(light.id, false)}
            >
              <Copy size={13} />
            </button>
            <button
              type="button"
              className="btn btn-xs"
              aria-label={`Mirror ${light.name}`}
              title="Mirror to the other side"
              onClick={() => copyLight(light.id, true)}
            >
              <FlipHorizontal2 size={13} />
            </button>
            <button
              type="button"
              className="btn btn-xs"
              aria-label={`Remove ${light.name}`}
              title="Remove"
              onClick={() => removeLight(light.id)}
            >
              <Trash2 size={13} />
            </button>
          </div>
          <div className="flex gap-1.5 pb-1.5">
            <button
              type="button"
              className="btn btn-xs"
              aria-pressed={light.on}
              aria-label={`${light.name} ${light.on ? 'on' : 'off'}`}
              onClick={() => set(`looks/${look.id}/rig/${light.id}/on`, !light.on)}
            >
              {light.on ? <Lightbulb size={13} /> : <LightbulbOff size={13} />} {light.on ? 'On' : 'Off'}
            </button>
            <button
              type="button"
              className={`btn btn-xs ${light.solo ? 'btn-primary' : ''}`}
              aria-pressed={light.solo}
              onClick={() => set(`looks/${look.id}/rig/${light.id}/solo`, !light.solo)}
            >
              Solo
            </button>
          </div>
          <Together rig={look.rig} />
          <LightRows light={light} />
          {'stands' in light && <BeforeLetter light={light} />}
          <FallsOn light={light} />
          <Follows light={light} />
        </div>
      )}
      <Section
        title={surround.name}
        aside={
          <button
            type="button"
            className="btn btn-xs"
            title="Makes a light of its own of the surround’s sun, and lays sky over its place"
            onClick={() => void partSun()}
          >
            Part the sun
          </button>
        }
      >
        <PlayedRows plays={look.surround.plays}>
          <ParameterRows of={`looks/${look.id}/surround/plays`} />
        </PlayedRows>
        <ParameterRows of={`looks/${look.id}/surround`} />
        <PanelRows />
      </Section>
      <Section title="Grade">
        <GradeRows />
      </Section>
    </>
  );
}
