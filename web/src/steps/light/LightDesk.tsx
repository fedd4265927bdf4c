/** Light: what the faces see. */
import { Copy, FlipHorizontal2, Plus, Trash2 } from 'lucide-react';
import { LIGHT_KINDS, newLight, type Light, type LightKind } from '@wemlox/core/src/document/index.ts';
import { GradeRows } from '../../desk/GradeRows.tsx';
import { ColourRow, Fold, NameField, NumberRow, Section, SegmentRow, SwitchRow } from '../../desk/rows.tsx';
import {
  addLight,
  addThreePoint,
  copyLight,
  editLight,
  removeLight,
  setSurround,
} from '../../actions/actions.ts';
import { useChoice } from '../../state/choice.ts';
import { useLook } from '../../state/chosen.ts';
import { LIGHT_NAMES, STRENGTH_UNITS } from '../../state/words.ts';
import { DomeMap } from './DomeMap.tsx';

const DEG = 180 / Math.PI;
/** What rows go back to. */
const PLAIN = Object.fromEntries(LIGHT_KINDS.map((k) => [k, newLight(k, '')])) as Record<LightKind, Light>;
const AIM_HINTS = [
  'Moves the aim to the right of the type’s centre',
  'Moves the aim above the type’s centre',
  'Moves the aim out of the type, towards its front',
];

function LightRows({ light }: { light: Light }) {
  const set = (what: string, change: Partial<Light>) =>
    editLight(light.id, `${what} of ${light.name}`, (l) => Object.assign(l, change));
  return (
    <>
      <NumberRow
        label="Strength"
        unit={STRENGTH_UNITS[light.kind]}
        min={0}
        max={10_000_000}
        faderMax={2000}
        step={0.1}
        log
        value={light.strength}
        initial={PLAIN[light.kind].strength}
        onChange={(strength) => set('Strength', { strength })}
      />
      <SegmentRow
        label="Hue by"
        value={light.hue}
        options={[
          ['temperature', 'Temperature'],
          ['colour', 'Colour'],
        ]}
        onChange={(hue) => set('Hue', { hue })}
      />
      {light.hue === 'temperature' ? (
        <NumberRow
          label="Temperature"
          unit="K"
          min={1000}
          max={40_000}
          faderMax={12_000}
          step={50}
          value={light.kelvin}
          initial={PLAIN[light.kind].kelvin}
          onChange={(kelvin) => set('Temperature', { kelvin })}
        />
      ) : (
        <ColourRow label="Colour" value={light.colour} onChange={(colour) => set('Colour', { colour })} />
      )}
      {light.kind === 'area' && (
        <>
          <NumberRow
            label="Width"
            unit="m"
            min={0.001}
            max={100}
            faderMax={6}
            step={0.01}
            value={light.width}
            initial={PLAIN[light.kind].width}
            onChange={(width) => set('Width', { width })}
          />
          <NumberRow
            label="Height"
            unit="m"
            min={0.001}
            max={100}
            faderMax={6}
            step={0.01}
            value={light.height}
            initial={PLAIN[light.kind].height}
            onChange={(height) => set('Height', { height })}
          />
        </>
      )}
      {light.kind === 'spot' && (
        <>
          <NumberRow
            label="Cone"
            unit="°"
            factor={DEG}
            min={1}
            max={90}
            step={0.5}
            value={light.cone}
            initial={PLAIN[light.kind].cone}
            onChange={(cone) => set('Cone', { cone })}
          />
          <NumberRow
            label="Edge"
            min={0}
            max={1}
            value={light.edge}
            initial={PLAIN[light.kind].edge}
            onChange={(edge) => set('Edge', { edge })}
          />
        </>
      )}
      {light.kind !== 'directional' && (
        <NumberRow
          label="Distance"
          unit="m"
          min={0.01}
          max={1000}
          faderMax={20}
          step={0.01}
          log
          value={light.distance}
          initial={PLAIN[light.kind].distance}
          onChange={(distance) => set('Distance', { distance })}
        />
      )}
      <SwitchRow label="Shadow" value={light.shadow} onChange={(shadow) => set('Shadow', { shadow })} />
      <Fold title="Aim, from the centre of the type">
        {(['Across', 'Up', 'Out'] as const).map((name, i) => (
          <NumberRow
            key={name}
            label={name}
            unit="m"
            min={-1000}
            max={1000}
            faderMin={-3}
            faderMax={3}
            step={0.01}
            value={light.aim[i]}
            initial={0}
            hint={AIM_HINTS[i]}
            onChange={(v) => editLight(light.id, `Aim of ${light.name}`, (l) => void (l.aim[i] = v))}
          />
        ))}
      </Fold>
    </>
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
          <button type="button" className="btn btn-xs" onClick={addThreePoint}>
            Key, fill, rim
          </button>
        }
      >
        <DomeMap />
        <div className="flex gap-1.5 pt-1">
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
              onChange={(name) => editLight(light.id, `Name → ${name}`, (l) => void (l.name = name))}
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
          <LightRows light={light} />
        </div>
      )}
      <Section title={surround.name} aside="surround">
        <NumberRow
          label="Exposure"
          unit="EV"
          min={-20}
          max={20}
          faderMin={-6}
          faderMax={6}
          step={0.05}
          value={surround.stops}
          initial={0}
          onChange={(stops) => setSurround('Exposure of the surround', { stops })}
        />
        <NumberRow
          label="Turn"
          unit="°"
          factor={DEG}
          min={-180}
          max={180}
          step={0.5}
          value={surround.turn}
          initial={0}
          hint="Turns the surround about the upright axis"
          onChange={(turn) => setSurround('Turn of the surround', { turn })}
        />
        <SwitchRow
          label="Seen behind the type"
          value={surround.seen}
          onChange={(seen) => setSurround(seen ? 'Show the surround' : 'Hide the surround', { seen })}
        />
      </Section>
      <Section title="Grade">
        <GradeRows />
      </Section>
    </>
  );
}
