/** Panels of light on the surround: the list, the last on top, and the chosen one's rows. */
import { ChevronDown, ChevronUp, Copy, Eye, EyeOff, Trash2 } from 'lucide-react';
import { useState } from 'react';
import type { Panel, Stop } from '@wemlox/core/document';
import { picturePanel, raisePanel, renamePanel, setPanelStops } from '@wemlox/core/edits';
import { hueOf } from '@wemlox/core/light/placing';
import { rampAt } from '@wemlox/core/light/panels';
import { toHex } from '@wemlox/core/maths/colour';
import { softShoulder } from '@wemlox/core/picture/tone';
import { set } from '../../actions/document.ts';
import { addPanel, copyPanel, READY_PANELS, removePanel } from '../../actions/surround.ts';
import { PAINTED_TEXTURES } from '@wemlox/core/texture/paintedTextures';
import { PlayedRows } from '../../desk/PlayedRows.tsx';
import { PicturePicker } from '../../desk/PicturePicker.tsx';
import { ParameterRows } from '../../desk/ParameterRow.tsx';
import { ColourRow, NameField, NumberRow } from '../../desk/rows.tsx';
import { StopStrip } from '../../desk/StopStrip.tsx';
import { choose, useChoice } from '../../state/choice.ts';
import { useLook } from '../../state/chosen.ts';
import { perform } from '../../state/studio.ts';

/** A stop where there is none: what a ramp without stops gives. */
const PLAIN: Stop = { at: 0.5, value: 0, colour: [1, 1, 1] };
const REACH = { low: -20, high: 24 };

/** What a ramp gives at a place from below, 0 … 1. */
const lightAt = (panel: Panel, at: number) =>
  rampAt(panel, panel.elevation + (at - 0.5) * panel.height * (1 - 1e-9));

function RampStops({ panel }: { panel: Panel }) {
  const { id: look } = useLook();
  const [chosen, setChosen] = useState(0);
  const stops = panel.stops.length > 0 ? panel.stops : [PLAIN];
  const i = Math.min(chosen, stops.length - 1);
  const stop = stops[i];
  const change = (next: readonly Stop[], joins = false) =>
    perform((p) => setPanelStops(p, look, panel.id, next, joins));
  const changed = (part: Partial<Stop>) =>
    change(
      stops.map((s, k) => (k === i ? { ...s, ...part } : s)),
      true,
    );
  return (
    <>
      <StopStrip
        stops={stops}
        name={panel.name}
        id={panel.id}
        stopAt={(at) => {
          const light = lightAt(panel, at);
          const peak = Math.max(...light, 1e-9);
          return { at, value: Math.log2(peak), colour: light.map((v) => v / peak) };
        }}
        colourAt={(at) => {
          const shown = [...lightAt(panel, at)];
          softShoulder(shown);
          return toHex(shown.map((v) => Math.min(1, Math.max(0, v))));
        }}
        chosen={i}
        onChoose={setChosen}
        onChange={change}
      />
      <NumberRow
        label={`Stop ${i + 1}`}
        unit="EV"
        min={REACH.low}
        max={REACH.high}
        faderMin={-8}
        faderMax={8}
        step={0.05}
        value={stop.value}
        initial={0}
        onChange={(value) => changed({ value })}
      />
      <ColourRow
        label={`Colour of stop ${i + 1}`}
        value={stop.colour}
        onChange={(colour) => changed({ colour })}
      />
    </>
  );
}

function ChosenPanel({ panel }: { panel: Panel }) {
  const { id: look } = useLook();
  const address = `looks/${look}/surround/panels/${panel.id}`;
  return (
    <div className="py-1">
      <div className="flex items-center gap-1 pb-1">
        <NameField
          label="Name of the panel"
          value={panel.name}
          onChange={(name) => perform((p) => renamePanel(p, look, panel.id, name))}
        />
        {(
          [
            ['Under its neighbour', ChevronDown, () => perform((p) => raisePanel(p, look, panel.id, -1))],
            ['Over its neighbour', ChevronUp, () => perform((p) => raisePanel(p, look, panel.id, 1))],
            ['Copy', Copy, () => copyPanel(panel.id)],
            ['Remove', Trash2, () => removePanel(panel.id)],
          ] as const
        ).map(([what, Icon, run]) => (
          <button
            key={what}
            type="button"
            className="btn btn-xs px-1.5"
            aria-label={`${what}: ${panel.name}`}
            title={what}
            onClick={run}
          >
            <Icon size={13} />
          </button>
        ))}
      </div>
      <ParameterRows
        of={address}
        after={{
          level: panel.shape === 'ramp' ? <RampStops panel={panel} /> : null,
          shape:
            panel.shape === 'picture' ? (
              <PicturePicker
                label="Picture"
                picture={panel.picture}
                coding="colour"
                painted={PAINTED_TEXTURES}
                none="White"
                played={
                  <PlayedRows plays={panel.picture?.plays}>
                    <ParameterRows of={`${address}/picture/plays`} />
                  </PlayedRows>
                }
                onPick={(picture) => perform((p) => picturePanel(p, look, panel.id, picture))}
              />
            ) : null,
        }}
      />
    </div>
  );
}

export function PanelRows() {
  const look = useLook();
  const chosen = useChoice((c) => c.panel);
  const { panels } = look.surround;
  return (
    <div className="pt-2">
      <h3 className="quiet pb-1 text-xs">Panels painted on it, the uppermost first</h3>
      <ul aria-label="Panels">
        {[...panels].reverse().map((panel) => {
          const hue = hueOf(panel);
          const peak = Math.max(...hue, 1e-6);
          return (
            <li key={panel.id}>
              <div className="flex min-h-6 items-center gap-2">
                <button
                  type="button"
                  className={`flex min-w-0 grow cursor-pointer items-center gap-1.5 text-left ${panel.id === chosen ? 'text-primary' : ''}`}
                  aria-expanded={panel.id === chosen}
                  onClick={() => choose({ panel: panel.id === chosen ? null : panel.id, light: null })}
                >
                  <span
                    className="size-2.5 shrink-0 rounded-full"
                    style={{ background: toHex(hue.map((v) => v / peak)) }}
                  />
                  <span className="truncate">{panel.name}</span>
                </button>
                <button
                  type="button"
                  className="btn btn-ghost btn-xs px-1"
                  aria-label={`${panel.name} shown`}
                  aria-pressed={panel.on}
                  onClick={() => set(`looks/${look.id}/surround/panels/${panel.id}/on`, !panel.on)}
                >
                  {panel.on ? <Eye size={13} /> : <EyeOff size={13} />}
                </button>
              </div>
              {panel.id === chosen && <ChosenPanel panel={panel} />}
            </li>
          );
        })}
      </ul>
      <div className="flex flex-wrap gap-1 pt-1">
        {READY_PANELS.map(({ name, hint, make }) => (
          <button
            key={name}
            type="button"
            className="btn btn-xs"
            title={hint}
            onClick={() => addPanel(make())}
          >
            + {name}
          </button>
        ))}
      </div>
    </div>
  );
}
