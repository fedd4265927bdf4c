/** The rig spread out: one column a light, with its switches. */
import { Lightbulb, LightbulbOff } from 'lucide-react';
import { toHex } from '@wemlox/core/maths/colour';
import { lightColour, shining } from '@wemlox/core/light/placing';
import { LIGHT_NAMES, LIGHT_TABLES, type LightKind } from '@wemlox/core/document';
import { set } from '../actions/document.ts';
import { choose, useChoice } from '../state/choice.ts';
import { useLook } from '../state/chosen.ts';

const unitOf = (kind: LightKind) => LIGHT_TABLES[kind].strength.unit.sign;

export function LightBand() {
  const { id, rig } = useLook();
  const chosen = useChoice((c) => c.light);
  const lit = new Set(shining(rig).map((l) => l.id));
  if (rig.length === 0) return <p className="quiet p-4">No lights: the surround alone lights the type.</p>;
  return (
    <ul className="flex h-full overflow-x-auto" aria-label="Lights">
      {rig.map((light) => {
        const colour = lightColour({ ...light, strength: 1 });
        const of = `looks/${id}/rig/${light.id}`;
        const peak = Math.max(...colour, 1e-6);
        return (
          <li
            key={light.id}
            className={`flex w-36 shrink-0 flex-col gap-1.5 border-r border-(--line) px-3 py-2.5 ${lit.has(light.id) ? '' : 'opacity-55'}`}
          >
            <button
              type="button"
              aria-pressed={light.id === chosen}
              className={`flex cursor-pointer items-center gap-2 text-left ${light.id === chosen ? 'text-primary' : ''}`}
              onClick={() => choose({ light: light.id })}
            >
              <span
                className="inline-block size-2.5 shrink-0 rounded-full"
                style={{ background: toHex(colour.map((v) => v / peak)) }}
              />
              <span className="truncate font-semibold">{light.name}</span>
            </button>
            <span className="quiet text-xs">
              {LIGHT_NAMES[light.kind]}, {Number(light.strength.toPrecision(3))} {unitOf(light.kind)}
            </span>
            {light.kind === 'area' && (
              <span className="quiet text-xs">
                {light.width.toFixed(2)} × {light.height.toFixed(2)} m
              </span>
            )}
            <span className="mt-auto flex gap-1.5">
              <button
                type="button"
                className="btn btn-xs"
                aria-pressed={light.on}
                aria-label={`${light.name} ${light.on ? 'on' : 'off'}`}
                onClick={() => set(`${of}/on`, !light.on)}
              >
                {light.on ? <Lightbulb size={13} /> : <LightbulbOff size={13} />} {light.on ? 'On' : 'Off'}
              </button>
              <button
                type="button"
                className={`btn btn-xs ${light.solo ? 'btn-primary' : ''}`}
                aria-pressed={light.solo}
                onClick={() => set(`${of}/solo`, !light.solo)}
              >
                Solo
              </button>
            </span>
          </li>
        );
      })}
    </ul>
  );
}
